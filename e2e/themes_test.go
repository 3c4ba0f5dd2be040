package e2e

import (
	"fmt"
	"testing"
	"time"

	"github.com/chromedp/cdproto/input"
	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
)

// The themes by hand: a mark of the grid opens what its page says beside the others, a
// theme is named anew and a heading moved out; questions are joined by a key; a type is
// taught; a title is taken. All of it is undone by a key.
func TestThemesAndQuestionsByHand(t *testing.T) {
	t.Parallel()
	b := open(t, gathered(t))
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
	js[any](b, `document.querySelector(".out-edit").open = true; 0`)
	b.do(chromedp.SendKeys(chromedp.CSS(`.out-edit input[maxlength="120"]`), " and more"))
	b.do(chromedp.SendKeys(chromedp.CSS(`.outline + .own-term input[name="value"]`), "half a heading"))
	half := `[...document.querySelectorAll('.out-edit input[name="value"]')].some(i => i.value.includes(" and more")) && document.querySelector('.outline + .own-term input[name="value"]').value === "half a heading"`
	first := js[string](b, `document.querySelector(".out-heading").textContent`)
	b.until(`!!document.querySelector('.out-edit [value="down"]')`)
	js[any](b, `document.querySelector('.out-edit [value="down"]').click(); 0`)
	b.untilText("Moved down: " + first)
	b.until(half)
	b.do(chromedp.Reload())
	b.until(half)
	js[any](b, `document.querySelector(".outline + .own-term button").click(); 0`)
	b.untilText("Added: half a heading")
	b.until(`document.querySelector('.outline + .own-term input[name="value"]').value === ""`)
	b.do(chromedp.Reload())
	b.until(`document.querySelector('.outline + .own-term input[name="value"]').value === ""`)
	b.clean()
}

// The outline by hand: a section is dragged below another and taken back, and moved by Alt and
// the arrow keys.
func TestOutlineByDragAndByKeys(t *testing.T) {
	t.Parallel()
	b := open(t, gathered(t))
	b.begin()
	b.visit("/studies/1/brief")
	b.until(`document.querySelector("[data-outline]").dataset.ready === "yes"`)
	outline := `[...document.querySelectorAll(".outline [data-section]")].map(s => s.className.match(/lv\d/)[0].slice(2) + s.dataset.section).join("|")`
	before := js[string](b, outline)
	type spot struct{ X, Y float64 }
	at := func(i int) spot {
		return js[spot](b, fmt.Sprintf(`(() => { const s = document.querySelectorAll(".outline > .out > .out-line .grip")[%d]; s.scrollIntoView({block: "center", behavior: "instant"}); const r = s.getBoundingClientRect(); return {X: r.x + r.width / 2, Y: r.y + r.height / 2} })()`, i))
	}
	second := js[string](b, `document.querySelectorAll(".outline > .out")[1].dataset.section`)
	from := at(1)
	mouse := func(kind input.DispatchMouseEventType, p spot) {
		b.do(chromedp.MouseEvent(kind, p.X, p.Y, chromedp.ButtonType(input.MouseButtonLeft)))
	}
	mouse(input.DispatchMouseEventTypeMousePressed, from)
	mouse(input.DispatchMouseEventTypeMouseMoved, spot{from.X + 3, from.Y - 3})
	b.until(`!!document.querySelector(".outline.dragging")`)
	// It makes room as one drags; a hand does not stand still until it has.
	to := from
	made := fmt.Sprintf(`document.querySelector(".outline > .out:not(.sortable-fallback)").dataset.section === %q`, second)
	for i := 0; i < 300 && !js[bool](b, made); i++ {
		first := js[spot](b, `(() => { const r = document.querySelector(".outline > .out > .out-line").getBoundingClientRect(); return {X: r.x + 40, Y: r.y + 2} })()`)
		part := min(float64(i+1)/10, 1)
		to = spot{from.X + (first.X-from.X)*part + float64(i%2), from.Y + (first.Y-from.Y)*part}
		mouse(input.DispatchMouseEventTypeMouseMoved, to)
		b.do(chromedp.Sleep(20 * time.Millisecond))
	}
	b.until(made)
	mouse(input.DispatchMouseEventTypeMouseReleased, to)
	b.untilText("Moved: ")
	b.until(outline + fmt.Sprintf(` !== %q`, before))
	b.keys("u")
	b.until(outline + fmt.Sprintf(` === %q`, before))

	js[any](b, `document.querySelectorAll(".outline > .out")[1].focus(); 0`)
	alt := func(key string) {
		b.do(chromedp.KeyEvent(key, chromedp.KeyModifiers(chromedp.ModifierAlt)))
	}
	alt(kb.ArrowRight)
	b.untilText("Moved in: ")
	b.until(`!!document.querySelector(".outline > .out:first-child .out.lv3:last-child")`)
	alt(kb.ArrowLeft)
	b.untilText("Moved out: ")
	b.until(outline + fmt.Sprintf(` === %q`, before))
	alt(kb.ArrowUp)
	b.untilText("Moved up: ")
	b.until(outline + fmt.Sprintf(` !== %q`, before))
	b.clean()
}
