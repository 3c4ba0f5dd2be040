package e2e

import (
	"fmt"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
)

// The Field place by keyboard: themes light up together, sections open beside
// the ribbons, and what is done in Gather shows at once.
func TestTheFieldByKeyboard(t *testing.T) {
	t.Parallel()
	b := open(t, gathered(t))
	b.begin()
	b.goes("f", "/field")
	b.until(`location.pathname.endsWith("/field")`)
	assert.Equal(t, 14, js[int](b, fmt.Sprintf(count, ".ribbons .page")), "every page that could be had")
	assert.Equal(t, 4, js[int](b, fmt.Sprintf(count, ".ribbons .aside")))
	assert.Greater(t, js[int](b, fmt.Sprintf(count, ".ribbons .sec[data-theme]")), 20)
	js[any](b, `document.querySelector(".as-table").open = true; 0`)
	b.until(fmt.Sprintf(count+" > 20", ".as-table tbody tr"))
	assert.Equal(t, js[int](b, fmt.Sprintf(count, ".ribbons .sec")), js[int](b, fmt.Sprintf(count, ".as-table tbody tr:not(.left-out)")), "the table says the same")
	js[any](b, `document.querySelector(".as-table").open = false; 0`)
	assert.LessOrEqual(t, js[int](b, `Math.round(document.querySelector(".tip").getBoundingClientRect().bottom)`), 800, "all of it without scrolling")

	js[any](b, `document.querySelector('.ribbons .sec[tabindex="0"]').focus(); 0`)
	b.keys(kb.ArrowDown, kb.ArrowDown, kb.ArrowDown)
	first := js[string](b, `document.activeElement.dataset.tip`)
	assert.Contains(t, first, "1 northlane.example › ")
	assert.Equal(t, first, js[string](b, `document.querySelector(".tip").textContent`))
	b.keys(kb.ArrowRight)
	assert.Contains(t, js[string](b, `document.activeElement.dataset.tip`), "2 commutecraft.example › ")
	b.keys(kb.ArrowLeft, kb.Enter)
	b.until(`!!document.querySelector("[data-shown] .section-text")`)
	assert.True(t, js[bool](b, `document.querySelector("[data-legend]").hidden`))
	b.keys(kb.Escape)
	b.until(`!document.querySelector("[data-legend]").hidden`)
	assert.Contains(t, js[string](b, `document.activeElement.dataset.tip`), "1 northlane.example › ", "back where it was opened")

	b.do(chromedp.Click(chromedp.CSS(`[data-light="1"]`)))
	assert.Equal(t, js[int](b, fmt.Sprintf(count, `.sec[data-theme="1"]`)), js[int](b, fmt.Sprintf(count, ".sec.lit")), "a theme lights up as one")

	// How a page was read, and what was struck on it.
	js[any](b, `document.querySelector('.ribbons [data-page="1"] .page-head').dispatchEvent(new MouseEvent("click", {bubbles: true, cancelable: true})); 0`)
	b.until(`!!document.querySelector("[data-shown] .struck li")`)
	b.until(`!!document.querySelector("[data-shown]").innerText.includes("Structured data")`)

	// Set aside in Gather, faint here; a page of ours, marked and pointed at.
	b.visit("/studies/1/gather")
	b.keys("j", " ")
	b.untilText("9 kept")
	b.do(chromedp.SendKeys(chromedp.CSS(`.add [name="addresses"]`), "http://spikeandspoke.example/lists/best-studded-tyres"))
	b.do(chromedp.Click(chromedp.CSS(`.add [value="ours"]`)), chromedp.Click(chromedp.CSS(`.add form:first-child button`)))
	b.untilText("compared, not counted")
	b.goes("f", "/field")
	b.until(`!!document.querySelector(".ribbons .own")`)
	assert.Equal(t, 5, js[int](b, fmt.Sprintf(count, ".ribbons .aside")))
	assert.Contains(t, js[string](b, `document.querySelector(".bar-state").innerText`), "9 kept pages")
	assert.Greater(t, js[int](b, fmt.Sprintf(count, ".figures .rangemark .own")), 10)
	b.clean()
}
