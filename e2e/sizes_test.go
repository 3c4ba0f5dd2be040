package e2e

import (
	"encoding/json"
	"fmt"
	"math/rand/v2"
	"strings"
	"testing"
)

// sized begins a study of so many pages, brought by their addresses and handed in as files, each
// with sentences of the article in an order of its own.
func (b *browser) sized(pages int) (study string) {
	b.Helper()
	var sentences []string
	for _, p := range article(b.T) {
		if !strings.HasPrefix(p, "#") {
			sentences = append(sentences, strings.SplitAfter(p, ". ")...)
		}
	}
	headings := []string{"Tyres and pressure", "What to wear on cold mornings", "Lights that are seen", "Care of the chain", "Brakes in the wet", "Is it safe on ice?", "How long does it take?", "Mudguards"}
	order := rand.New(rand.NewPCG(uint64(pages), 31))
	var addresses []string
	var files []string
	for i := range pages {
		at := fmt.Sprintf("http://host%d.example/cycling-to-work-in-winter-%d", i, i)
		var html strings.Builder
		fmt.Fprintf(&html, `<!doctype html><html lang="en"><head><title>Cycling to work in winter, as rider %d does it</title><link rel="canonical" href="%s"></head><body><main><h1>Cycling to work in winter, rider %d</h1>`, i, at, i)
		for _, h := range order.Perm(len(headings))[:5] {
			fmt.Fprintf(&html, "<h2>%s</h2><p>", headings[h])
			for _, s := range order.Perm(len(sentences))[:7] {
				html.WriteString(sentences[s] + " ")
			}
			html.WriteString("</p>")
		}
		addresses, files = append(addresses, at), append(files, html.String()+"</main></body></html>")
	}
	study = js[string](b, fmt.Sprintf(`fetch("/studies", {method: "POST", body: new URLSearchParams({keyword: "cycling to work in winter %d", language: "en", country: "gb", addresses: %q})}).then(r => r.url.match(/\/studies\/\d+/)[0])`, pages, strings.Join(addresses, "\n")))
	b.gathered(study)
	said, _ := json.Marshal(files)
	js[any](b, fmt.Sprintf(`(async () => {
		const form = new FormData()
		for (const [i, html] of %s.entries()) form.append("file", new File([html], "page" + i + ".html", {type: "text/html"}))
		const answer = await fetch(%q, {method: "POST", body: form})
		if (!answer.ok) throw new Error(await answer.text())
	})().then(() => 0)`, said, study+"/hand-in"))
	b.gathered(study)
	b.untilText(fmt.Sprintf("All %d pages answered", pages))
	return study
}

// asideIn is how many milliseconds pass from a press on the first page's button until the row says so.
func (b *browser) asideIn(study string) int {
	b.visit(study + "/gather")
	return js[int](b, `new Promise(done => {
		const row = document.querySelector(".ranked tr[data-row]"), t = performance.now()
		new MutationObserver((_, o) => {
			if (document.getElementById(row.id)?.matches(".aside")) { o.disconnect(); done(Math.round(performance.now() - t)) }
		}).observe(document.body, {subtree: true, childList: true, attributes: true})
		row.querySelector("[data-key=space]").click()
	})`)
}

// Fields of few and of many pages stand as well as the demo's, at every width.
func TestFieldsOfAllSizes(t *testing.T) {
	t.Parallel()
	base := program(t)
	b := open(t, base)
	var views []string
	for _, pages := range []int{5, 20, 100} {
		study := b.sized(pages)
		t.Logf("%d pages: a page set aside and seen in %v ms, the evidence without it in %v ms", pages, b.asideIn(study), js[int](b, `(async () => { const t = performance.now(); await (await fetch(location.pathname.replace("gather", "evidence"))).text(); return Math.round(performance.now() - t) })()`))
		for _, view := range []string{"/gather", "/field", "/evidence", "/evidence?tab=themes&view=grid", "/against", "/standing", "/pages", "/brief", "/network"} {
			views = append(views, study+view)
		}
	}
	several(t, base, views, func(b *browser, path string) {
		b.visit(path)
		b.stands(path)
	})
}
