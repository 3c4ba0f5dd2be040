package e2e

import (
	"testing"

	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
)

// back presses the browser's Back.
func (b *browser) back() {
	b.Helper()
	js[any](b, `setTimeout(() => history.back()); 0`)
}

// Back closes what was opened on a page, the latest first, and then leaves the page; what was closed by
// other means it passes over.
func TestBackClosesBeforeItLeaves(t *testing.T) {
	t.Parallel()
	b := open(t, gathered(t))
	b.begin()
	const pane = `!!document.querySelector("#pane") && !document.querySelector("#pane").hidden`
	at := func(path string) string { return `location.pathname === "` + path + `"` }
	b.visit("/studies/1/gather")
	b.visit("/studies/1/evidence")
	js[any](b, `window.samePage = true; document.querySelector("#findings [data-open]").click(); 0`)
	b.until(pane)
	js[any](b, `document.querySelectorAll("#findings [data-open]")[1].click(); 0`) // in the same pane
	b.until(`document.querySelector("#pane h2").innerText === document.querySelectorAll("#findings [data-open]")[1].innerText`)
	b.back()
	b.until("!(" + pane + ")")
	assert.True(t, js[bool](b, "window.samePage === true && "+at("/studies/1/evidence")), "the page is left alone")
	// Opened again and closed by Esc: there is nothing for Back to close.
	js[any](b, `document.querySelector("#findings [data-open]").click(); 0`)
	b.until(pane)
	b.keys(kb.Escape)
	b.until("!(" + pane + ")")
	// A sort is undone first.
	js[any](b, `document.querySelector("#findings th .sorter").click(); 0`)
	b.until(`location.search.includes("sort=")`)
	b.back()
	b.until(at("/studies/1/evidence") + ` && !location.search.includes("sort=") && !document.querySelector("#findings th[aria-sort]")`)
	b.back()
	b.until(at("/studies/1/gather"))

	// A sort of the list in Gather is of this page alone.
	first := js[string](b, `document.querySelector("[data-result]").dataset.result`)
	js[any](b, `window.samePage = true; document.querySelectorAll("[data-sort]")[1].click(); 0`)
	b.until(`!!document.querySelector("[aria-sort]") && document.querySelector("[data-result]").dataset.result !== "` + first + `"`)
	b.back()
	b.until(`!document.querySelector("[aria-sort]") && document.querySelector("[data-result]").dataset.result === "` + first + `"`)
	assert.True(t, js[bool](b, "window.samePage === true"))

	// In the brief: a pane above a section that is being edited.
	b.visit("/studies/1/brief")
	js[any](b, `window.samePage = true; document.querySelector(".out-edit summary").click(); 0`)
	b.until(`document.querySelector(".out-edit").open && !!document.querySelector(".out-edit input")`)
	js[any](b, `htmx.ajax("GET", "/studies/1/drawer", "#pane"); 0`)
	b.until(pane)
	b.back()
	b.until("!(" + pane + `) && document.querySelector(".out-edit").open`)
	b.back()
	b.until(`!document.querySelector(".out-edit").open`)
	assert.True(t, js[bool](b, "window.samePage === true"))
	b.back()
	b.until(at("/studies/1/gather"))
	b.clean()
}
