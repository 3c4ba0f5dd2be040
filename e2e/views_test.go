package e2e

import (
	"encoding/base64"
	"encoding/json"
	"fmt"
	"os"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
)

// Rules of axe-core: all that hold (WCAG 2.2 A and AA, and its best practice), those that another
// paper can break, and those that another language can.
const (
	all      = `["wcag2a", "wcag2aa", "wcag21a", "wcag21aa", "wcag22aa", "best-practice"]`
	contrast = `{type: "rule", values: ["color-contrast"]}`
	spoken   = `{type: "rule", values: ["html-has-lang", "html-lang-valid", "valid-lang", "label-content-name-mismatch"]}`
)

// accessible lets axe-core look at the page.
func (b *browser) accessible(view, rules string) {
	b.Helper()
	if js[bool](b, `typeof axe === "undefined"`) {
		axe, err := os.ReadFile("../node_modules/axe-core/axe.min.js")
		if err != nil {
			b.Fatalf("axe-core is not installed; `make test` installs it: %v", err)
		}
		js[any](b, string(axe)+";0")
		// Further rows and items are made by the same lines of a template as those before them.
		js[any](b, `for (const l of document.querySelectorAll("tbody, ul, ol, dl")) for (const x of [...l.children].slice(16)) x.remove(); 0`)
	}
	found := js[[]struct {
		ID    string `json:"id"`
		Help  string `json:"help"`
		Nodes []struct {
			HTML           string `json:"html"`
			FailureSummary string `json:"failureSummary"`
		} `json:"nodes"`
	}](b, fmt.Sprintf(`axe.run({runOnly: %s, resultTypes: ["violations"]}).then(r => r.violations)`, rules))
	for _, v := range found {
		detail, _ := json.Marshal(v.Nodes[0])
		b.Errorf("%s: %s: %s (%d places, the first: %s)", view, v.ID, v.Help, len(v.Nodes), detail)
	}
}

// looked holds what must be true of the page that is open: axe-core finds nothing on light paper,
// and no lack of contrast on dark; nothing has to be scrolled sideways at 1280. In German, which is
// longer, it is of the language and as wide.
func (b *browser) looked(view, language string) {
	b.Helper()
	assert.LessOrEqual(b, js[int](b, "document.documentElement.scrollWidth"), 1280, "%s in %s", view, language)
	if language != "en" {
		b.accessible(view+" in "+language, spoken)
		return
	}
	b.stands(view)
	b.accessible(view, all)
	js[any](b, `document.documentElement.dataset.bsTheme = "dark"; 0`)
	b.accessible(view+" on dark paper", contrast)
}

func TestEveryView(t *testing.T) {
	t.Parallel()
	b := open(t, gathered(t))
	b.begin()
	link := b.link()
	js[any](b, `fetch("/studies/1/outline", {method: "POST", body: new URLSearchParams({do: "add", key: "", value: "A section of ours"})}).then(() => 0)`)
	b.halfADraft()
	b.takeSample(40)
	b.slateOf(9)
	b.doubtfulTable()
	again := js[string](b, `fetch("/studies", {method: "POST", body: new URLSearchParams({keyword: "storing a bike over winter", language: "en", country: "gb", depth: "20"})}).then(r => r.url.match(/\/studies\/\d+/)[0])`)
	b.gathered(again)
	js[any](b, fmt.Sprintf(`fetch(%q, {method: "POST", body: new URLSearchParams({field: "notes", was: "", typed: "false", value: "Mind the frost"}), headers: {"HX-Request": "true"}}).then(() => 0)`, again+"/brief/fields"))
	b.gatherAgain(again)
	b.visit(again + "/movement")
	moved := js[string](b, `document.querySelector('a[href*="/movement/page"]').getAttribute("href")`)
	for _, language := range []string{"en", "de"} { // as the account says, so one after the other
		b.reads(language)
		t.Run(language, func(t *testing.T) {
			several(t, b.base, views(again, link, moved), func(b *browser, path string) {
				b.visit(path)
				b.looked(path, language)
			})
			several(t, b.base, []string{"fit", "missing", "brief", "language", "closeness", "sources", "versions"}, func(b *browser, tab string) {
				b.atDraft("/studies/1/draft?beside=" + tab)
				js[any](b, `for (const d of document.querySelectorAll("#beside-panel > details, .draft-menu")) d.open = true; 0`)
				b.looked("the draft, "+tab, language)
			})
			b.T = t
			b.atDraft(link + "/draft")
			js[any](b, `document.querySelector("#ask-image").showModal(); 0`)
			b.looked("the draft by a link", language)
			b.visit("/studies/1/evidence")
			js[any](b, `document.querySelector(".columns").open = true; 0`)
			b.looked("the choice of columns", language)
			b.visit("/studies/1/evidence")
			b.keys("j", "o")
			b.until(fmt.Sprintf(count+" > 1", ".concordance tr"))
			b.looked("concordance", language)
		})
		b.T = t
	}
	// The brief as it is handed over, with its own style sheet.
	file := js[string](b, `fetch("/studies/1/brief/as/html?dossier=yes").then(r => r.text())`)
	b.do(chromedp.Navigate("data:text/html;charset=utf-8;base64," + base64.StdEncoding.EncodeToString([]byte(file))))
	b.until(`!!document.querySelector("table") && !document.querySelector("header.head")`)
	b.accessible("the HTML that is handed over", all)
	b.clean("404 (Not Found)")
}

// several looks at several views, in a few browsers side by side.
func several(t *testing.T, base string, views []string, look func(b *browser, view string)) {
	t.Helper()
	const browsers = 3
	for n := range browsers {
		t.Run(fmt.Sprint(n), func(t *testing.T) {
			t.Parallel()
			b := open(t, base)
			for i := n; i < len(views); i += browsers {
				look(b, views[i])
			}
			b.clean("404 (Not Found)")
		})
	}
}

// views are the addresses of all views: of study 1, of one that was gathered again, of what came by
// a link, of a page that moved.
func views(again, link, moved string) []string {
	return []string{
		"/", "/studies/1/gather", "/studies/1/field?open=1.3", "/studies/1/pages/1", "/studies/1/evidence", "/studies/1/evidence?tab=questions", "/studies/1/evidence?tab=listed", "/studies/1/evidence?tab=listed&view=criteria",
		"/studies/1/evidence?tab=themes", "/studies/1/brief", "/nowhere", "/studies/99/brief", "/studies/1/field?table=1", "/studies/1/receive",
		"/?shelf=deleted", "/studies/1/sources?kind=term&key=stud+tyre", "/studies/1/evidence?tab=terms&view=glossary", "/studies/1/lexicon?term=lube",
		"/studies/1/evidence?tab=themes&view=grid", "/studies/1/evidence?tab=points", "/studies/1/evidence?tab=facts", "/studies/1/evidence?tab=openings",
		"/studies/1/against", "/studies/1/brief/revisions?from=0", "/studies/1/share", "/studies/1/drawer?q=tyre", "/publication", "/demand", "/demand/1",
		"/demand/1?tab=map", "/demand/1?tab=ours", "/demand/1?tab=out", "/demand/1/group?key=winter+cycling+gloves", "/slates/1", "/slates/1?tab=links",
		"/slates/1?tab=weeks", "/studies/1/standing", "/studies/1/standing?swap=1", "/studies/1/searched", "/demand/2/columns", "/account", "/people",
		"/week", "/search?q=tyre", "/publication/set-up", "/studies/1/history", "/studies/1/network", "/studies/1/beside", "/studies/1/movement",
		"/studies/1/pages", "/studies/1/further", again + "/movement", again + "/brief", again + "/beside?with=1", moved, "/movement", "/?moved=any", "/?in=all&sort=due", "/sign-in", link,
		link + "?remark=field+title_tag", "/studies/1/evidence?tab=entities", "/studies/1/evidence?tab=terms&all=1", "/studies/1/lexicon",
		"/studies/1/brief/revisions", "/studies/1/draft/compare?from=now",
	}
}
