package e2e

import (
	"fmt"
	"strings"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// link makes a link to the brief of study 1 and gives its path.
func (b *browser) link() string {
	b.Helper()
	page := js[string](b, `fetch("/studies/1/share", {method: "POST", body: new URLSearchParams({name: "Wren", days: "30", remarks: "yes", drafts: "yes"})}).then(r => r.text())`)
	_, after, found := strings.Cut(page, `<input readonly value="`)
	require.True(b, found)
	address, _, _ := strings.Cut(after, `"`)
	return address[strings.Index(address, "/w/"):]
}

// From the evidence beside the brief to the writer: a sentence is found and cut, a link made
// and opened in a browser that knows nothing; what is ticked and remarked there is answered in
// the brief.
func TestHandingOver(t *testing.T) {
	t.Parallel()
	base := gathered(t)
	b := open(t, base)
	b.begin()
	b.visit("/studies/1/brief")
	b.do(chromedp.Click(chromedp.CSS(`.tools-end a[hx-get]`)))
	b.until(`!!document.querySelector("#pane .drawer-search input")`)
	b.do(chromedp.SendKeys(chromedp.CSS(`.drawer-search input`), "bar mitts\n"))
	b.until(fmt.Sprintf(count+" > 2", "#pane [data-cut-row]"))
	words := js[string](b, `[...document.querySelectorAll("#pane [data-cut-row]")[1].querySelectorAll("[data-cut-text]")].map(t => t.textContent).join("").replaceAll("…", "").trim()`)
	js[any](b, `document.querySelectorAll("#pane [data-cut-row]")[1].querySelector("[data-cut]").click(); 0`)
	b.untilText("Cut: ")
	b.until(fmt.Sprintf(`[...document.querySelectorAll(".cuttings blockquote")].some(q => q.textContent.includes(%q))`, words))
	// Adopting in the drawer changes the document beside it.
	js[any](b, `(() => { const i = document.querySelector(".drawer-search input"); i.value = "battery"; i.form.requestSubmit() })()`)
	battery := `[...document.querySelectorAll("#pane .drawer-groups li")].find(l => l.querySelector("a").textContent === "battery")`
	b.until("!!" + battery + `?.querySelector('[value="adopted"]')`)
	b.until(`(() => { const x = ` + battery + `?.querySelector('[value="adopted"]'); x?.click(); return !!x })()`)
	b.untilText("Adopted: battery")
	b.until(`[...document.querySelectorAll("#document [data-row] .what")].some(x => x.textContent === "battery")`)
	b.until("!!" + battery + `?.querySelector('[value="dropped"]')`)
	// Selected words of a captured text.
	b.visit("/studies/1/pages/1/sections/2")
	js[any](b, `getSelection().setBaseAndExtent(document.querySelector("[data-cuttable] p").firstChild, 0, document.querySelector("[data-cuttable] p").firstChild, 30); 0`)
	b.until(`!document.querySelector("[data-cut-selection]").disabled`)
	js[any](b, `document.querySelector("[data-cut-selection]").click(); 0`)
	b.untilText("Cut: ")

	path := b.link()
	w := open(t, base) // a browser of its own
	w.visit(path)
	w.untilText("Content brief for Quillfen Cycles")
	w.untilText(words)
	assert.Equal(t, 0, js[int](w, `document.querySelectorAll('a[href^="/studies"], a[href="/"]').length`))
	js[any](w, `document.querySelector(".writer-section .tick [type=checkbox]").click(); 0`)
	w.until(`document.querySelector("#progress").textContent.includes("1 of ")`)
	js[any](w, `document.querySelector(".writer-section .to-remark").click(); 0`)
	w.until(`!!document.querySelector(".remark-form textarea")`)
	w.do(chromedp.SendKeys(chromedp.CSS(`.remark-form textarea`), "Half a remark"))
	w.do(chromedp.Reload())
	w.until(`document.querySelector(".remark-form textarea").value === "Half a remark"`)
	js[any](w, `document.querySelector(".remark-form button").click(); 0`)
	w.until(`document.querySelector(".said-thread .said")?.textContent === "Half a remark"`)
	assert.Equal(t, 0, js[int](w, `Object.keys(localStorage).filter(k => k.includes("remark")).length`), "what was sent is not offered again")
	assert.True(t, js[bool](w, `document.querySelector(".writer-section .tick [type=checkbox]").checked`))
	b.visit("/studies/1/brief")
	b.untilText("Half a remark")
	b.do(chromedp.SendKeys(chromedp.CSS(`.remark input[name="body"]`), "A whole answer\n"))
	b.untilText("A whole answer")
	w.do(chromedp.Reload())
	w.untilText("A whole answer")
	b.clean()
	w.clean()
}

// Two people in one outline: both move sections, and neither loses anything.
func TestTwoPeopleInOneOutline(t *testing.T) {
	t.Parallel()
	base := gathered(t)
	b := open(t, base)
	b.begin()
	b.visit("/studies/1/brief")
	other := b.tab(t, "/studies/1/brief")
	headings := `[...document.querySelectorAll(".outline [data-section]")].map(s => s.dataset.section).sort().join("|")`
	before := js[string](b, headings)
	move := func(p *browser, n int, way string) {
		button := fmt.Sprintf(`document.querySelectorAll(".outline > .out")[%d].querySelector('.out-edit [value=%q]')`, n, way)
		js[any](p, fmt.Sprintf(`document.querySelectorAll(".outline > .out")[%d].querySelector(".out-edit").open = true; 0`, n))
		p.until("!!" + button)
		js[any](p, button+".click(); 0")
		p.untilText("Moved " + way)
	}
	move(b, 0, "down")
	move(other, 3, "up") // of a page that knows nothing of the first
	move(b, 2, "in")
	b.do(chromedp.Reload())
	other.do(chromedp.Reload())
	outline := `[...document.querySelectorAll(".outline [data-section]")].map(s => s.className.match(/lv\d/)[0] + s.dataset.section).join("|")`
	assert.Equal(t, js[string](b, outline), js[string](other, outline))
	assert.Equal(t, before, js[string](b, headings), "no section is lost")
	assert.Contains(t, js[string](b, outline), "lv3")
	b.clean()
	other.clean()
}
