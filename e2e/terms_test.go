package e2e

import (
	"fmt"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
)

// The terms by keyboard: many are picked and dropped in one step, a term is read in its
// sentences in another order, and what the house is taught shows at once; all is undone.
func TestTheTermsByKeyboard(t *testing.T) {
	t.Parallel()
	b := open(t, gathered(t))
	b.begin()
	b.visit("/studies/1/evidence?tab=terms")
	b.until(fmt.Sprintf(count+" > 30", "[data-pick]"))
	b.keys("j", "x", "j", "x")
	b.until(`document.querySelector("[data-picked-count]").textContent === "2 picked"`)
	b.keys("d")
	b.untilText("Dropped: 2 findings")
	b.until(fmt.Sprintf(count+" === 2", "tr.dropped"))
	b.keys("u")
	b.until(fmt.Sprintf(count+" === 0", "tr.dropped"))

	b.keys("j", "x", kb.Escape)
	assert.Equal(t, 0, js[int](b, fmt.Sprintf(count, "[data-pick]:checked")), "Escape lets go")
	js[any](b, `[...document.querySelectorAll("[data-open]")].find(a => a.textContent === "tyre pressure").click(); 0`)
	b.until(`!!document.querySelector("#pane .concordance")`)
	lines := js[int](b, fmt.Sprintf(count, "#pane .concordance tr"))
	js[any](b, `[...document.querySelectorAll("#pane .orders a")].find(a => a.textContent.includes("after")).click(); 0`)
	b.until(`[...document.querySelectorAll("#pane .orders b")].some(e => e.textContent.includes("after"))`)
	assert.Equal(t, lines, js[int](b, fmt.Sprintf(count, "#pane .concordance tr")))

	// Enter in the other term writes the term so; it does not throw the term out.
	b.do(chromedp.SendKeys(chromedp.CSS(`#pane .teach [name="other"]`), "tire pressure"), chromedp.SendKeys(chromedp.CSS(`#pane .teach [name="other"]`), kb.Enter))
	typed := js[float64](b, `performance.now()`)
	b.untilText("“tyre pressure” is written “tire pressure”")
	b.until(`[...document.querySelectorAll("#findings [data-open]")].some(a => a.textContent === "tire pressure")`)
	js[any](b, `document.activeElement.blur(); 0`)
	js[any](b, `document.querySelector("[data-undo]").click(); 0`)
	b.until(`[...document.querySelectorAll("#findings [data-open]")].some(a => a.textContent === "tyre pressure")`)
	js[any](b, `document.querySelector('#pane .teach [value="ignore"]').click(); 0`)
	b.untilText("“tyre pressure” is not proposed")
	shown := `[...document.querySelectorAll("#findings [data-open]")].some(a => a.textContent === "tyre pressure")`
	b.until("!" + shown)
	b.keys(kb.Escape)
	b.until(fmt.Sprintf(`performance.now() > %f`, typed+1100)) // for a second after somebody typed no letter acts
	b.keys("u")
	b.until(shown)

	js[any](b, `document.querySelector(".menu:has(.own-term)").open = true; 0`)
	b.do(chromedp.SendKeys(chromedp.CSS(`.own-term [name="text"]`), "ankle bands"), chromedp.SendKeys(chromedp.CSS(`.own-term [name="text"]`), kb.Enter))
	b.untilText("Adopted: ankle bands")
	b.visit("/studies/1/evidence?tab=terms&view=glossary")
	assert.Greater(t, js[int](b, fmt.Sprintf(count, ".glossary section")), 10)
	b.visit("/studies/1/brief")
	b.untilText("ankle bands")
}
