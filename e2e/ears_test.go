package e2e

import (
	"context"
	"strings"
	"testing"
	"time"

	"github.com/chromedp/cdproto/accessibility"
	"github.com/chromedp/cdproto/dom"
	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// heard is what a screen reader is told of one thing on the page.
type heard struct {
	role, name, value string
	node              *accessibility.Node
}

// listen is Chromium's tree of accessibility, without what it leaves out.
func (b *browser) listen() (all []heard) {
	b.Helper()
	ctx, stop := context.WithTimeout(b.ctx, patience)
	defer stop()
	tree, err := chromedp.Call(ctx, accessibility.GetFullAXTree, accessibility.GetFullAXTreeParams{})
	require.NoError(b, err)
	text := func(v *accessibility.Value) string {
		if v == nil {
			return ""
		}
		return strings.Trim(string(v.Value), `"`)
	}
	for _, n := range tree.Nodes {
		if !n.Ignored {
			all = append(all, heard{text(n.Role), text(n.Name), text(n.Value), n})
		}
	}
	return all
}

// hears waits until a thing of a role is told whose name holds a text.
func (b *browser) hears(role, name string) (found heard) {
	b.Helper()
	for end := time.Now().Add(patience); ; time.Sleep(patience / 300) {
		var others []string
		for _, h := range b.listen() {
			if h.role == role && strings.Contains(h.name, name) {
				b.until("true") // the page's scripts are there
				return h
			}
			if h.role == role {
				others = append(others, h.name)
			}
		}
		if time.Now().After(end) {
			b.Fatalf("no %s is called %q on %s; there are %q", role, name, js[string](b, "location.pathname"), others)
		}
	}
}

// goesTo gives the focus to what is heard, as a screen reader's lists of links, fields and buttons do.
func (b *browser) goesTo(role, name string) {
	b.Helper()
	ctx, stop := context.WithTimeout(b.ctx, patience)
	defer stop()
	_, err := chromedp.Call(ctx, dom.Focus, dom.FocusParams{BackendNodeID: b.hears(role, name).node.BackendDOMNodeID})
	require.NoError(b, err, "%s %q takes no focus", role, name)
}

// press goes to a link or button, and presses Enter.
func (b *browser) press(role, name string) {
	b.Helper()
	b.goesTo(role, name)
	b.keys(kb.Enter)
}

// ear keeps what live regions say from now on.
func (b *browser) ear() {
	js[any](b, `window.heard = []; new MutationObserver(list => {
		for (const m of list) {
			const region = m.target.nodeType === 1 ? m.target.closest("[aria-live], [role=status], [role=alert]") : m.target.parentElement?.closest("[aria-live], [role=status], [role=alert]")
			const text = region?.innerText.trim()
			if (text && heard.at(-1) !== text) heard.push(text)
		}
	}).observe(document.body, {subtree: true, childList: true, characterData: true}); 0`)
}

// The whole job by what a screen reader is told and the keys it has: nothing is looked up by how it is built, and nothing is pointed at.
func TestTheJobByEar(t *testing.T) {
	t.Parallel()
	base := program(t)
	b := open(t, base)
	b.goesTo("textbox", "Begin a study")
	b.insert("winter bike commuting")
	b.keys(kb.Enter)
	b.hears("heading", "Gather")
	b.until(`document.querySelector("#gather-bar") && !document.querySelector("#gather-bar").hasAttribute("data-running")`)
	b.hears("link", "Evidence")
	b.ear()
	b.press("button", "set aside")
	b.until(`heard.some(t => t.includes("Set aside"))`)
	assert.Equal(t, 1, js[int](b, `heard.filter(t => t.includes("Set aside")).length`), "what happened is said once")
	assert.NotEqual(t, "BODY", js[string](b, `document.activeElement.tagName`), "the focus is kept")

	b.press("link", "Evidence")
	b.hears("heading", "Evidence")
	b.ear()
	b.press("button", "adopt ")
	b.until(`heard.some(t => t.includes("Adopted"))`)
	assert.NotEqual(t, "BODY", js[string](b, `document.activeElement.tagName`), "the focus is kept")
	b.press("link", "studded tyres")
	b.hears("region", "Sentences behind studded tyres")
	b.keys(kb.Escape)

	b.press("link", "Brief")
	b.hears("heading", "winter bike commuting")
	b.press("link", "To the content")
	tabs := 0
	for ; tabs < 5 && !strings.HasPrefix(js[string](b, `document.activeElement.textContent.trim()`), "Hand over"); tabs++ {
		b.keys(kb.Tab)
	}
	assert.LessOrEqual(t, tabs, 5, "handing over is within five tabs of the content")
	b.press("link", "Hand over")
	b.goesTo("textbox", "Who writes")
	b.insert("Wren")
	b.press("button", "Hand over")
	var link string
	b.until(`!!document.querySelector(".made input")`)
	for _, h := range b.listen() {
		if h.role == "textbox" && strings.HasPrefix(h.value, "http") && strings.Contains(h.value, "/w/") {
			link = h.value
		}
	}
	require.NotEmpty(t, link, "the link is read as a text")
	w := open(t, base)
	w.visit(link[strings.Index(link, "/w/"):])
	w.hears("heading", "winter bike commuting")
	w.press("checkbox", "done")
	b.clean()
	w.clean()
}
