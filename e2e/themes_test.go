package e2e

import (
	"fmt"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
)

// The themes by hand: a mark of the grid opens what its page says beside the others, a
// theme is named anew and a heading moved out; questions are joined by a key; a type is
// taught; a title is taken. All of it is undone by a key.
func TestThemesAndQuestionsByHand(t *testing.T) {
	b := open(t, program(t))
	b.begin()
	b.visit("/studies/1/evidence?tab=themes&view=grid")
	b.until(fmt.Sprintf(count+" > 10", ".cover-table tbody tr"))
	js[any](b, `document.querySelector('.cover-table tbody tr svg a[href*="at=3"]').dispatchEvent(new MouseEvent("click", {bubbles: true, cancelable: true})); 0`)
	b.until(fmt.Sprintf(count+" > 3", "#pane .side-by-side article"))
	assert.Equal(t, "3", js[string](b, `document.querySelector("#pane .side-by-side article .rank-of").textContent`), "the page of the mark comes first")
	label := js[string](b, `document.querySelector("#pane .pane-head h2").textContent`)
	b.do(chromedp.SetValue(chromedp.CSS(`#pane .teach [name="other"]`), "Which tyres"))
	js[any](b, `document.querySelector('#pane .teach [value="name"]').click(); 0`)
	named := func(name string) string {
		return fmt.Sprintf(`[...document.querySelectorAll(".cover-table .finding")].some(e => e.textContent === %q)`, name)
	}
	b.until(named("Which tyres"))
	b.keys(kb.Escape, "u")
	b.until(named(label))
	rows := js[int](b, fmt.Sprintf(count, ".cover-table tbody tr"))
	assert.Greater(t, rows, 10)

	b.visit("/studies/1/evidence?tab=questions")
	b.until(fmt.Sprintf(count+" > 5", ".findings-table tbody tr"))
	shown := `document.querySelectorAll(".findings-table tbody tr[data-row]").length`
	before := js[int](b, shown)
	js[any](b, `document.querySelector("form.perhaps").closest("tr").focus(); 0`)
	b.keys("s")
	b.untilText("asks the same as")
	b.until(fmt.Sprintf(`%s === %d`, shown, before-1))
	b.keys("u")
	b.untilText("Taken back: “")
	b.until(fmt.Sprintf(`%s === %d`, shown, before))

	b.visit("/studies/1/evidence?tab=entities")
	js[any](b, `document.querySelector(".findings-table [data-open]").click(); 0`)
	b.until(`!!document.querySelector('#pane .teach select')`)
	b.do(chromedp.SetValue(chromedp.CSS(`#pane .teach select`), "work"))
	js[any](b, `document.querySelector('#pane .teach [value="type"]').click(); 0`)
	b.untilText("is one of the type work")
	b.until(`[...document.querySelectorAll("#findings .told")].some(e => e.textContent === "taught by the house")`)

	b.visit("/studies/1/brief")
	js[any](b, `document.querySelector("details.candidates").open = true; 0`)
	want := js[string](b, `document.querySelectorAll("details.candidates li")[1].querySelector(".candidate").textContent`)
	js[any](b, `document.querySelectorAll("details.candidates li")[1].querySelector("button").click(); 0`)
	b.until(fmt.Sprintf(`document.querySelector('[data-field=title_tag] textarea').value === %q`, want))

	// What stands in a line and was not sent outlives the document drawn anew, and the page.
	js[any](b, `document.querySelector(".rename").open = true; 0`)
	b.do(chromedp.SendKeys(chromedp.CSS(`.rename input[name="value"]`), " and more"))
	b.do(chromedp.SendKeys(chromedp.CSS(`.own-term input[name="text"]`), "half a heading"))
	half := `[...document.querySelectorAll('.rename input[name="value"]')].some(i => i.value.includes(" and more")) && document.querySelector('.own-term input[name="text"]').value === "half a heading"`
	first := js[string](b, `document.querySelector(".out-heading").textContent`)
	js[any](b, `document.querySelector('.out-tools [value="down"]').click(); 0`)
	b.untilText("Moved down: " + first)
	b.until(half)
	b.do(chromedp.Reload())
	b.until(half)
	js[any](b, `document.querySelector(".own-term button").click(); 0`)
	b.untilText("Adopted: half a heading")
	b.until(`document.querySelector('.own-term input[name="text"]').value === ""`)
	b.do(chromedp.Reload())
	b.until(`document.querySelector('.own-term input[name="text"]').value === ""`)
	b.clean()
}
