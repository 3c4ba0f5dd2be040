package e2e

import (
	"fmt"
	"strings"
	"testing"
	"time"

	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
)

// From Enter on a keyword to a brief that is handed over: eight actions and two minutes are what a person has for it.
func TestFromAKeywordToABriefThatIsSent(t *testing.T) {
	t.Parallel()
	base := program(t)
	b := open(t, base)
	b.visit("/")
	b.do(chromedp.SendKeys(chromedp.CSS("#keyword"), "winter bike commuting"))
	begun, actions := time.Now(), 0
	act := func(do func()) {
		actions++
		do()
	}
	act(func() { b.keys(kb.Enter) })
	b.until(`document.querySelector("#gather-bar") && !document.querySelector("#gather-bar").hasAttribute("data-running")`)
	act(func() { b.do(chromedp.Click(chromedp.CSS(`[data-go="b"]`))) })
	b.until(`!!document.querySelector(".outline > .out") && !document.querySelector(".counting")`)
	heading := js[string](b, `document.querySelector(".outline > .out .out-heading").textContent`)
	act(func() { b.do(chromedp.Click(chromedp.CSS(`.outline > .out .out-line [name="state"]`))) }) // an editor strikes a section
	b.untilText("Dropped: " + heading)
	act(func() { b.do(chromedp.SendKeys(chromedp.CSS(`.out textarea`), "Our own numbers first")) })
	b.until(`document.querySelector('.out [data-state]').textContent === "saved"`)
	act(func() { b.do(chromedp.Click(chromedp.CSS(`.tools-end a.btn`))) })
	b.until(`!!document.querySelector(".share-form input[name=due]")`)
	act(func() { b.do(chromedp.SendKeys(chromedp.CSS(`.share-form input[name=name]`), "Wren")) })
	act(func() { b.do(chromedp.Click(chromedp.CSS(`.share-form .btn-primary`))) })
	b.until(`!!document.querySelector(".made input")`)
	took := time.Since(begun)
	t.Logf("from Enter to handed over: %d actions, %d ms of the program's", actions, took.Milliseconds())
	assert.LessOrEqual(t, actions, 8)
	link := js[string](b, `document.querySelector(".made input").value`)
	assert.Contains(t, js[string](b, `document.querySelector(".made textarea").value`), link)

	w := open(t, base) // the writer's browser
	w.visit(link[strings.Index(link, "/w/"):])
	w.untilText("Our own numbers first")
	assert.NotContains(t, js[string](w, `document.querySelector(".writer").innerText`), heading+"\n")
	assert.NotContains(t, js[string](w, `document.querySelector(".writer").innerText`), "revision")
	ticks := js[int](w, fmt.Sprintf(count, ".tick"))
	assert.Less(t, ticks, 40)
	// What is changed afterwards does not show until it is handed over again.
	b.visit("/studies/1/brief")
	b.do(chromedp.SendKeys(chromedp.CSS(`.out textarea`), ", and a photo"))
	b.until(`document.querySelector('.out [data-state]').textContent === "saved"`)
	w.do(chromedp.Reload())
	w.untilText("Our own numbers first")
	assert.NotContains(t, js[string](w, "document.body.innerText"), "a photo")
	b.visit("/studies/1/share")
	b.untilText("1 line changed since")
	b.do(chromedp.Click(chromedp.CSS(`form[action$="/again"] button`)))
	b.until(`!document.querySelector('form[action$="/again"]')`)
	w.do(chromedp.Reload())
	w.untilText("a photo")
	b.visit("/studies/1/brief")
	nothingMoves(b)
	b.clean()
	w.clean()
}

// Where one acts nothing moves: what was pressed, or what stood below it, is where it was when the document is drawn anew.
func nothingMoves(b *browser) {
	b.Helper()
	section := func(i int) string { return fmt.Sprintf(`document.querySelectorAll(".outline > .out")[%d]`, i) }
	press := func(button string) {
		b.Helper()
		stood := js[string](b, `document.querySelector("#document").dataset.revision`)
		js[any](b, button+`.focus({preventScroll: true}); document.activeElement.click(); 0`)
		b.until(fmt.Sprintf(`document.querySelector("#document").dataset.revision !== %q`, stood))
	}
	sections := js[int](b, fmt.Sprintf(count, ".outline > .out"))
	for _, at := range []int{2, 4} {
		js[any](b, section(at)+`.scrollIntoView({block: "center"}); 0`)
		top := section(at) + `.getBoundingClientRect().top`
		was := js[float64](b, top)
		press(section(at) + `.querySelector(".out-questions form button, .out-points form button")`) // the section stays
		assert.InDelta(b, was, js[float64](b, top), 2, "section %d", at)
		next := js[string](b, section(at+1)+".dataset.section")
		below := fmt.Sprintf(`document.querySelector('.outline [data-section="%s"]').getBoundingClientRect().top`, next)
		was = js[float64](b, below)
		press(section(at) + `.querySelector(".out-line form button")`) // the section goes, the others close up or stay
		assert.InDelta(b, was, js[float64](b, below), 250, "the section behind %d", at)
		b.keys("u")
		b.until(fmt.Sprintf(count+" === %d", ".outline > .out", sections))
	}
}
