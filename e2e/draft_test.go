package e2e

import (
	"context"
	"fmt"
	"os"
	"regexp"
	"strings"
	"testing"

	"github.com/chromedp/cdproto/input"
	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

const (
	fitShown  = `Number(document.querySelector(".score-figure strong").textContent)`
	draftText = `corpulanDraft.state.doc.textBetween(0, corpulanDraft.state.doc.content.size, "\n", "\n")`
	savedLine = `/^saved/.test(document.querySelector("#draft-line").textContent)`
)

// atDraft opens the draft's place and waits for the editor.
func (b *browser) atDraft(path string) {
	b.Helper()
	b.visit(path)
	b.until(`!!window.corpulanDraft && document.body.dataset.measured > 0`)
	js[any](b, `corpulanDraft.focus(); 0`)
}

// unplug takes the connection away from the page, and plug gives it back.
func (b *browser) unplug() {
	b.Helper()
	js[any](b, `window.realFetch ??= fetch; window.fetch = () => Promise.reject(new TypeError("no connection")); 0`)
}

func (b *browser) plug() {
	b.Helper()
	js[any](b, `window.fetch = window.realFetch; dispatchEvent(new Event("online")); 0`)
}

// enter presses Enter. The driver's own key event sends the character besides the key, which a
// browser does not once the page has dealt with the key.
func (b *browser) enter() {
	b.Helper()
	ctx, stop := context.WithTimeout(b.ctx, patience)
	defer stop()
	for _, kind := range []input.DispatchKeyEventType{input.DispatchKeyEventTypeRawKeyDown, input.DispatchKeyEventTypeKeyUp} {
		_, err := chromedp.Call(ctx, input.DispatchKeyEvent, input.DispatchKeyEventParams{Type: kind, Key: "Enter", Code: "Enter", WindowsVirtualKeyCode: 13})
		require.NoError(b, err)
	}
}

// insert types a text at once, as an input method does.
func (b *browser) insert(text string) {
	b.Helper()
	ctx, stop := context.WithTimeout(b.ctx, patience)
	defer stop()
	_, err := chromedp.Call(ctx, input.InsertText, input.InsertTextParams{Text: text})
	require.NoError(b, err)
}

// article is a text that was written by the brief of the demo's first keyword, with its links
// taken out: they are put in by hand.
func article(t testing.TB) (paragraphs []string) {
	t.Helper()
	b, err := os.ReadFile("testdata/article.md")
	require.NoError(t, err)
	links := regexp.MustCompile(`\[([^\]]*)\]\([^)]*\)`)
	for p := range strings.SplitSeq(strings.TrimSpace(string(b)), "\n\n") {
		paragraphs = append(paragraphs, links.ReplaceAllString(p, "$1"))
	}
	return paragraphs
}

// halfADraft writes the first half of the article, with a sentence that stands on a page.
func (b *browser) halfADraft() {
	b.Helper()
	b.atDraft("/studies/1/draft")
	half := article(b.T)[:14]
	for i, p := range append(half, "Wider tyres at lower pressure grip better on packed snow, and a set of studs lasts three or four winters of commuting, which you recieve.") {
		if i > 0 {
			b.enter()
		}
		heading, rest, found := strings.Cut(p, "# ")
		if found {
			b.do(chromedp.KeyEvent(heading + "# "))
			p = rest
		}
		b.insert(p)
	}
	b.until(savedLine)
}

// A writer with nothing but the link takes a draft from 0 to above 80 by writing only; what is
// missing becomes less with every section, and the text is there afterwards.
func TestFromALinkToAFinishedDraft(t *testing.T) {
	t.Parallel()
	base := gathered(t)
	b := open(t, base)
	b.begin()
	path := b.link()
	w := open(t, base) // a browser of its own
	w.visit(path)
	w.do(chromedp.Click(chromedp.CSS(`.writer-begin a`)))
	w.until(`!!window.corpulanDraft && document.body.dataset.measured > 0`)
	assert.Zero(t, js[int](w, fitShown))
	assert.Equal(t, 0, js[int](w, `document.querySelectorAll('a[href^="/studies"], a[href="/"]').length`), "nothing else can be reached")

	// Headings alone do not get there.
	w.do(chromedp.Click(chromedp.CSS(`.draft-prose`)))
	w.presses("outline")
	w.until(`corpulanDraft.state.doc.childCount > 10`)
	w.until(savedLine)
	measured := `Number(document.body.dataset.measured)`
	n := js[int](w, measured)
	js[any](w, `document.querySelector('[data-tab="fit"]').click(); 0`)
	w.until(fmt.Sprintf("%s > %d", measured, n))
	assert.Less(t, js[int](w, fitShown), 25)
	w.presses("undo")
	w.until(draftText + ` === ""`)

	for i, p := range article(t) {
		if i > 0 {
			w.enter()
		}
		heading, rest, found := strings.Cut(p, "# ")
		if found { // "## " is typed key by key, since it makes the heading; the rest comes in at once
			w.do(chromedp.KeyEvent(heading + "# "))
			p = rest
		}
		w.insert(p)
	}
	js[any](w, `document.querySelector('#draft-head [name="title"]').focus(); 0`)
	w.do(chromedp.KeyEvent("Winter bike commuting: what to wear, fit and check"))
	js[any](w, `document.querySelector('#draft-head [name="description"]').focus(); 0`)
	w.do(chromedp.KeyEvent("How to commute by bike in winter: layers, studded tyres or winter tyres, pressure, lights and the chain."))
	w.until(savedLine)
	w.until(fitShown + " > 80")
	assert.Equal(t, 0, js[int](w, `[...document.querySelectorAll(".draft-prose > p")].filter(p => !p.textContent).length`), "Enter makes one paragraph")
	assert.Equal(t, "Dress in layers", js[string](w, `[...document.querySelectorAll(".draft-prose h2")][0].textContent`), "## at the beginning of a line makes a heading")

	// A link by the keyboard, from those that the brief names.
	js[any](w, `(() => { const { state } = corpulanDraft; let at; state.doc.descendants((n, pos) => { const i = n.isText ? n.text.indexOf("winter service") : -1; if (i >= 0) at = pos + i }); corpulanDraft.dispatch(state.tr.setSelection(state.selection.constructor.create(state.doc, at, at + 14))); corpulanDraft.focus() })(); 0`)
	w.presses("link")
	w.until(`document.querySelector("#ask-link").open`)
	w.do(chromedp.KeyEvent("http://quillfen.example/workshop/winter-service"), chromedp.KeyEvent(kb.Enter))
	w.until(`document.querySelector('.draft-prose a')?.getAttribute("href") === "http://quillfen.example/workshop/winter-service"`)

	// Each point leads to its place, and to how the field says it.
	js[any](w, `document.querySelector('[data-tab="missing"]').click(); 0`)
	w.until(`!!document.querySelector("#beside-panel .with-kind")`)
	js[any](w, `document.querySelector("#beside-panel .row-examples summary").click(); 0`)
	w.until(`!!document.querySelector("#beside-panel .row-examples [data-fill]").textContent.trim()`)
	js[any](w, `document.querySelector('[data-tab="fit"]').click(); 0`)
	w.until(`!!document.querySelector('#part-terms [data-key]')`)
	js[any](w, `document.querySelector("#part-terms").open = true; document.querySelector('#part-terms .is-met [data-key]').click(); 0`)
	w.until(`!corpulanDraft.state.selection.empty`)

	text := js[string](w, draftText)
	w.until(savedLine)
	w.do(chromedp.Reload())
	w.until(`!!window.corpulanDraft`)
	assert.Equal(t, text, js[string](w, draftText))
	// The strategist reads the same, with the same fit; the file has title and questions.
	b.atDraft("/studies/1/draft")
	assert.Equal(t, text, js[string](b, draftText))
	assert.Greater(t, js[int](b, fitShown), 80)
	file := js[string](b, `fetch("/studies/1/draft/as/html").then(r => r.text())`)
	assert.Contains(t, file, "<title>Winter bike commuting: what to wear, fit and check</title>")
	assert.Contains(t, file, `"@type":"FAQPage"`)
	w.clean()
	b.clean("409 (Conflict)")
}

// The draft's place, in one program: each part begins with nothing in the text.
func TestTheDraftsPlace(t *testing.T) {
	t.Parallel()
	base := gathered(t)
	b := open(t, base)
	b.begin()
	for _, part := range []struct {
		name string
		of   func(*testing.T, *browser)
	}{{"two writers", twoWriters}, {"a tab that dies", aTabThatDies}, {"pasting", pasting}, {"versions", versions}, {"eight languages", eightLanguages}, {"from right to left", rightToLeft}, {"tables and images", blocks}} {
		t.Run(part.name, func(t *testing.T) {
			b.T = t
			b.atDraft("/studies/1/draft")
			js[any](b, `corpulanDraft.dispatch(corpulanDraft.state.tr.delete(0, corpulanDraft.state.doc.content.size)); 0`)
			b.until(savedLine)
			part.of(t, b)
		})
	}
	b.T = t
}

// Two writers in one text at once: each sees what the other writes, and nothing is lost, also
// where one of them had no connection for a while.
func twoWriters(t *testing.T, b *browser) {
	b.atDraft("/studies/1/draft")
	b.do(chromedp.KeyEvent("Ours begins here."))
	b.until(savedLine)
	w := open(t, b.base)
	path := b.link()
	w.atDraft(path + "/draft")
	w.until(draftText + `.includes("Ours begins here.")`)
	js[any](w, `corpulanDraft.dispatch(corpulanDraft.state.tr.insertText("Theirs before. ", 1)); 0`)
	b.do(chromedp.KeyEvent(" And goes on."))
	const both = "Theirs before. Ours begins here. And goes on."
	b.until(fmt.Sprintf("%s === %q", draftText, both))
	w.until(fmt.Sprintf("%s === %q", draftText, both))

	w.unplug()
	js[any](w, `corpulanDraft.dispatch(corpulanDraft.state.tr.insertText("In a tunnel. ", 1)); 0`)
	w.until(`document.querySelector("#draft-line").textContent.includes("No connection")`)
	b.do(chromedp.KeyEvent(" Meanwhile more."))
	b.until(savedLine)
	w.plug()
	const all = "In a tunnel. Theirs before. Ours begins here. And goes on. Meanwhile more."
	w.until(fmt.Sprintf("%s === %q", draftText, all))
	b.until(fmt.Sprintf("%s === %q", draftText, all))
	// A long while without a connection: thousands of keys, each a step of its own.
	w.unplug()
	for range 6 { // more than are sent at once
		js[any](w, `(() => { for (let i = 0; i < 200; i++) corpulanDraft.dispatch(corpulanDraft.state.tr.insertText("x", 1)) })(); 0`)
	}
	b.do(chromedp.KeyEvent("!"))
	b.until(savedLine)
	w.plug()
	long := fmt.Sprintf("%s === %q", draftText, strings.Repeat("x", 1200)+all+"!")
	w.until(long)
	b.until(long)
	w.until(savedLine + ` && !Object.keys(localStorage).some(k => k.startsWith("draft /"))`)
	// Undo takes back one's own, and nothing of the other's.
	b.keys(kb.Control)
	b.presses("undo")
	b.until(fmt.Sprintf(`!%s.includes("!") && %s.includes("xIn a tunnel.") && %s.includes("Meanwhile")`, draftText, draftText, draftText))
	b.clean("409 (Conflict)") // the way an editor hears that another was first
	w.clean("409 (Conflict)")
}

// A browser that dies with unsent text: the next one that opens the page sends it.
func aTabThatDies(t *testing.T, b *browser) {
	b.atDraft("/studies/1/draft")
	b.do(chromedp.KeyEvent("Sent."))
	b.until(savedLine)
	other := b.tab(t, "/studies/1/draft")
	other.atDraft("/studies/1/draft")
	other.unplug()
	js[any](other, `corpulanDraft.dispatch(corpulanDraft.state.tr.insertText("Unsent. ", 1)); 0`)
	other.until(`Object.keys(localStorage).some(k => k.startsWith("draft /"))`)
	// It is gone at once, without a word to the page.
	js[any](other, `(() => { for (const k of Object.keys(localStorage)) if (k.startsWith("draft /")) { const kept = JSON.parse(localStorage[k]); kept.at -= 60000; window.stowed = [k, JSON.stringify(kept)] } Storage.prototype.setItem = () => {} })(); 0`)
	key, kept := js[string](other, "stowed[0]"), js[string](other, "stowed[1]")
	other.do(chromedp.Navigate("about:blank"))
	js[any](b, fmt.Sprintf(`localStorage.setItem(%q, %q); 0`, key, kept))
	b.until(fmt.Sprintf("%s === %q", draftText, "Unsent. Sent."))
	b.until(`!Object.keys(localStorage).some(k => k.startsWith("draft /"))`)

	// One that is loaded again before its text was sent goes on with it.
	b.unplug()
	b.do(chromedp.KeyEvent(" Typed last."))
	b.until(`Object.keys(localStorage).some(k => k.startsWith("draft /"))`)
	b.do(chromedp.Reload())
	b.until(`!!window.corpulanDraft`)
	b.until(draftText + `.includes("Typed last.")`)
	b.until(savedLine)
	b.until(`!Object.keys(localStorage).some(k => k.startsWith("draft /"))`)
}

// What a word processor puts on the clipboard keeps its structure, and no script comes with it.
func pasting(t *testing.T, b *browser) {
	b.atDraft("/studies/1/draft")
	const word = `<html xmlns:o="urn:schemas-microsoft-com:office:office"><head><style>p.MsoNormal{color:red}</style></head><body><!--StartFragment-->
<h1>Winter riding<o:p></o:p></h1><p class=MsoNormal>Some <b>bold</b> and <i>slanted</i> words, <a href="https://a.example/b">a link</a> and <a href="javascript:alert(1)">none</a>.<o:p></o:p></p>
<p class=MsoListParagraphCxSpFirst style='text-indent:-18.0pt;mso-list:l0 level1 lfo1'><![if !supportLists]><span style='mso-list:Ignore'>·<span style='font:7.0pt "Times New Roman"'>&nbsp;&nbsp; </span></span><![endif]>First<o:p></o:p></p>
<p class=MsoListParagraphCxSpMiddle style='text-indent:-18.0pt;mso-list:l0 level2 lfo1'><![if !supportLists]><span style='mso-list:Ignore'>o<span> </span></span><![endif]>Deeper<o:p></o:p></p>
<p class=MsoListParagraphCxSpLast style='text-indent:-18.0pt;mso-list:l0 level1 lfo1'><![if !supportLists]><span style='mso-list:Ignore'>·<span> </span></span><![endif]>Second<o:p></o:p></p>
<p class=MsoListParagraph style='mso-list:l1 level1 lfo2'><![if !supportLists]><span style='mso-list:Ignore'>1.<span> </span></span><![endif]>Counted<o:p></o:p></p>
<table><tr><th><p>Tyre</p></th><th><p>Ice</p></th></tr><tr><td><p>Studded</p></td><td><p>yes</p></td></tr></table><script>document.title = "hacked"</script><img src=x onerror="document.title='hacked'"><!--EndFragment--></body></html>`
	js[any](b, fmt.Sprintf(`(() => { const d = new DataTransfer(); d.setData("text/html", %q); document.querySelector(".draft-prose").dispatchEvent(new ClipboardEvent("paste", {clipboardData: d, bubbles: true, cancelable: true})) })(); 0`, word))
	b.until(`document.querySelectorAll(".draft-prose td").length === 2`)
	html := js[string](b, `document.querySelector(".draft-prose").innerHTML`)
	for _, part := range []string{"<h1>Winter riding</h1>", "<strong>bold</strong>", "<em>slanted</em>", `<a href="https://a.example/b"`, "<ul><li><p>First</p><ul><li><p>Deeper</p></li></ul></li><li><p>Second</p></li></ul>", "<ol><li><p>Counted</p></li></ol>"} {
		assert.Contains(t, strings.ReplaceAll(html, "\n", ""), part)
	}
	assert.NotContains(t, html, "javascript:")
	assert.NotEqual(t, "hacked", js[string](b, "document.title"))
	b.until(savedLine)
	b.clean("409 (Conflict)")
}

// Versions are kept, compared and brought back; a file is taken in and can be undone; the
// language check finds a misspelt word and mends it.
func versions(t *testing.T, b *browser) {
	b.atDraft("/studies/1/draft?beside=versions")
	b.do(chromedp.KeyEvent("The first text about tyres, which you recieve with the the bike."))
	b.until(savedLine)
	js[any](b, `(() => { const f = document.querySelector("#keep-version"); f.elements.said.value = "Before the file"; f.requestSubmit() })(); 0`)
	b.untilText("Kept: Before the file")
	b.until(`document.querySelector(".beside-versions")?.textContent.includes("Before the file")`)
	js[any](b, `(() => { const d = new DataTransfer(); d.items.add(new File(["---\ntitle: A title\n---\n# From a file\n\nSome *text* of it.\n\n| a | b |\n|---|---|\n| c | d |\n"], "text.md")); const i = document.querySelector("#draft-file"); i.files = d.files; i.dispatchEvent(new Event("change", {bubbles: true})) })(); 0`)
	b.until(draftText + `.startsWith("From a file")`)
	b.until(`document.querySelector('#draft-head [name="title"]').value === "A title"`)
	b.until(savedLine)
	js[any](b, `[...document.querySelectorAll(".beside-versions li")].find(l => l.textContent.includes("Before the file")).querySelector("[data-restore]").click(); 0`)
	b.until(draftText + `.startsWith("The first text")`)
	b.presses("undo")
	b.until(draftText + `.startsWith("From a file")`)
	b.presses("redo")
	b.until(draftText + `.startsWith("The first text")`)
	b.until(savedLine)

	js[any](b, `document.querySelector('[data-tab="language"]').click(); 0`)
	b.until(`!!document.querySelector('.findings [data-fix="receive"]')`)
	b.untilText("stands twice")
	js[any](b, `document.querySelector('.findings [data-fix="receive"]').click(); 0`)
	b.until(draftText + `.includes("which you receive with")`)
	b.until(`![...document.querySelectorAll(".findings button")].some(x => x.textContent === "recieve")`)
	b.until(`document.querySelectorAll(".mk-repeated").length === 1`)
	b.until(savedLine)

	compare := js[string](b, `fetch("/studies/1/draft?beside=versions").then(r => r.text()).then(t => t.match(/draft\/compare\?from=\d+/)[0])`)
	b.visit("/studies/1/" + compare)
	b.untilText("Two versions of the draft")
	b.clean("409 (Conflict)")
}

// Tables and images: there is always a place to go on behind them, a button is a step of its own,
// and what is typed next does not take their place.
func blocks(t *testing.T, b *browser) {
	b.insert("Before")
	b.presses("table")
	b.insert("Tyre")
	b.presses("column-after", "row-after")
	size := `[document.querySelectorAll(".draft-prose tr").length, document.querySelectorAll(".draft-prose tr:first-child > *").length]`
	b.until(size + `.join() === "4,4"`)
	assert.Equal(t, "Tyre", js[string](b, `document.querySelector(".draft-prose th").textContent`))
	b.presses("undo")
	b.until(size + `.join() === "3,4"`)
	b.presses("undo", "undo", "undo")
	b.until(draftText + ` === "Before"`)
	js[any](b, `corpulanDraft.dispatch(corpulanDraft.state.tr.delete(0, corpulanDraft.state.doc.content.size)); corpulanDraft.focus(); 0`)
	b.presses("image")
	b.until(`document.querySelector("#ask-image").open`)
	b.do(chromedp.SendKeys(chromedp.CSS(`#ask-image [name="src"]`), "https://i.example/tyre.jpg"), chromedp.SendKeys(chromedp.CSS(`#ask-image [name="alt"]`), "A tyre"), chromedp.Click(chromedp.CSS(`#ask-image button[value="yes"]`)))
	b.until(`!!document.querySelector(".draft-image") && document.activeElement === corpulanDraft.dom`)
	b.insert("After")
	b.until(draftText + `.trim() === "After"`)
	assert.Equal(t, 1, js[int](b, `document.querySelectorAll(".draft-image").length`))
	b.until(savedLine)
	assert.Contains(t, js[string](b, `fetch("/studies/1/draft/as/html").then(r => r.text())`), `<img src="https://i.example/tyre.jpg" alt="A tyre"/>`)
	b.clean("409 (Conflict)")
}

// The language check knows the words of each language, compounds and elisions too, and finds
// what is none. The sentences are our own.
func eightLanguages(t *testing.T, b *browser) {
	for _, x := range []struct{ language, dictionary, text, wrong, twice string }{
		{"en", "en-gb", "The colour of the tyre is what riders don't see. It is is wet. They wiched the lamp.", "wiched", "is is"},
		{"en", "en", "The color of the tire is what riders don't see. It is is wet. They wiched the lamp.", "wiched", "is is"},
		{"de", "de", "Die Winterreifen und der Fahrradkettenschutz, über die man spricht, sind sind neu. Man siet es.", "siet", "sind sind"},
		{"fr", "fr", "L'hiver, les pneus d'une bicyclette et l'éclairage comptent comptent. Nous nous levons. Il faus partir.", "faus", "comptent comptent"},
		{"es", "es", "En invierno las bicicletas necesitan luces luces y neumáticos anchos. Hay que limpiarr la cadena.", "limpiarr", "luces luces"},
		{"it", "it", "D'inverno la bicicletta vuole vuole luci e dell'olio per la catena. Bisogna pulirre il telaio.", "pulirre", "vuole vuole"},
		{"nl", "nl", "In de winter zijn spijkerbanden en een fietsketting zonder roest roest goed. Men moet die poetssen.", "poetssen", "roest roest"},
		{"pt", "pt", "No inverno as bicicletas precisam de luzes luzes e de pneus largos. É preciso limparr a corrente.", "limparr", "luzes luzes"},
		{"sv", "sv", "På vintern behöver cykeln dubbdäck och en ren cykelkedja kedja kedja. Man måste rengöraa den.", "rengöraa", "kedja kedja"},
	} {
		found := js[[]string](b, fmt.Sprintf(`new Promise((done, fail) => {
			const boot = JSON.parse(document.getElementById("draft-boot").textContent)
			const version = boot.worker.split("?")[1], at = n => "/static/dictionaries/%[2]s." + n + ".gz?" + version
			const w = new Worker(boot.worker)
			w.onmessage = e => {
				if (e.data.type === "ready") w.postMessage({type: "check", id: 1, blocks: [%[3]q]})
				if (e.data.type === "failed") fail(new Error(e.data.why))
				if (e.data.type === "found" && e.data.id === 1) { w.terminate(); done(e.data.findings.map(f => f.kind + ": " + f.word)) }
			}
			w.onerror = fail
			w.postMessage({type: "start", language: %[1]q, known: ["Quillfen"], dictionary: {aff: at("aff"), dic: at("dic")}})
			w.postMessage({type: "check", id: 0, blocks: [%[3]q]}) // while the dictionary is being loaded
		})`, x.language, x.dictionary, x.text))
		assert.ElementsMatch(t, []string{"spelling: " + x.wrong, "repeated: " + x.twice}, found, x.dictionary)
	}
}

// A text from right to left is written, saved, measured and handed over as it is.
func rightToLeft(t *testing.T, b *browser) {
	const text = "ركوب الدراجة في الشتاء يحتاج إلى إطارات جيدة 😀 وضوء قوي"
	b.insert(text)
	b.until(savedLine)
	assert.Equal(t, text, js[string](b, draftText))
	assert.Equal(t, "plaintext", js[string](b, `getComputedStyle(document.querySelector(".draft-prose p")).unicodeBidi`))
	assert.Contains(t, js[string](b, `fetch("/studies/1/draft/as/md").then(r => r.text())`), text)
	b.until(`Number(document.body.dataset.measured) > 1`)
	b.clean("409 (Conflict)")
}

// presses presses buttons of the bar one after another, each when it can be: the bar is drawn once
// a frame, and a button takes no press before it has been drawn as one that does something.
func (b *browser) presses(names ...string) {
	b.Helper()
	for _, name := range names {
		button := fmt.Sprintf(`[data-does="%s"]`, name)
		b.until(fmt.Sprintf(`document.querySelector(%q)?.disabled === false`, button))
		b.do(chromedp.Click(chromedp.CSS(button)))
	}
}
