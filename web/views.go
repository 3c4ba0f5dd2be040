package web

import (
	"bytes"
	"crypto/sha256"
	"embed"
	"encoding/hex"
	"fmt"
	"html/template"
	"io"
	"io/fs"
	"math"
	"mime"
	"net/http"
	"net/url"
	"path"
	"slices"
	"strings"

	"corpulan/core/address"
	"corpulan/core/brief"
	"corpulan/core/change"
	"corpulan/core/demand"
	"corpulan/core/evidence"
	"corpulan/core/fit"
	corelanguage "corpulan/core/language"
	"corpulan/core/reading"
	"corpulan/core/stats"
	"corpulan/render"
	"corpulan/store"
	"corpulan/study"
	"corpulan/web/draw"
	"corpulan/words"

	"github.com/gin-gonic/gin"
	"golang.org/x/text/language"
)

//go:embed templates
var templateFiles embed.FS

//go:embed static/own all:static/dist
var staticFiles embed.FS

// views are the parsed templates, in the languages of the interface.
type views struct {
	tongues map[string]*tongue
	choose  language.Matcher
	version string // of the static files, in their addresses
}

// tongue is the templates in one language: every page with the layout and all partials.
type tongue struct {
	*words.Words
	pages     map[string]*template.Template
	fragments *template.Template
}

// pageData is what the layout shows around a page's own body.
type pageData struct {
	Title       string
	Place       string // "desk", "gather", "field", "evidence" or "brief"
	Publication string
	Study       *studyHead
	Person      string // who is signed in; empty for nobody
	Role        store.Role
	Plan        string // where what is done to a list or slate is undone; empty for neither
	Body        any
}

// studyHead is what the top of a study's places shows.
type studyHead struct {
	ID                         int64
	Keyword, Language, Country string
}

func (s *Server) inStudy(c *gin.Context, place string, body any) pageData {
	st := studyOf(c)
	return pageData{Title: st.Keyword, Place: place, Publication: publicationOf(c).Name, Body: body,
		Study: &studyHead{st.ID, st.Keyword, st.Language, st.Country}}
}

func loadViews() (*views, error) {
	v := &views{tongues: map[string]*tongue{}}
	if err := v.fingerprint(); err != nil {
		return nil, err
	}
	all, err := words.All()
	if err != nil {
		return nil, err
	}
	var tags []language.Tag
	for _, code := range words.Codes() { // the first is for whoever asks for none of them
		if v.tongues[code], err = v.speak(all[code]); err != nil {
			return nil, err
		}
		tags = append(tags, all[code].Tag)
	}
	v.choose = language.NewMatcher(tags)
	return v, nil
}

// speak reads the templates in one language.
func (v *views) speak(w *words.Words) (*tongue, error) {
	t := &tongue{Words: w, pages: map[string]*template.Template{}}
	parts, err := fs.Glob(templateFiles, "templates/parts/*.html")
	if err != nil {
		return nil, err
	}
	base := template.New("").Funcs(v.functions(w))
	for _, name := range append([]string{"templates/layout.html"}, parts...) {
		if base, err = t.parse(base, name); err != nil {
			return nil, err
		}
	}
	t.fragments = base
	names, err := fs.Glob(templateFiles, "templates/*.html")
	if err != nil {
		return nil, err
	}
	for _, name := range names {
		if path.Base(name) == "layout.html" {
			continue
		}
		page, err := base.Clone()
		if err != nil {
			return nil, err
		}
		if t.pages[strings.TrimSuffix(path.Base(name), ".html")], err = t.parse(page, name); err != nil {
			return nil, err
		}
	}
	return t, nil
}

// parse adds a file to a set of templates, in the tongue's language.
func (t *tongue) parse(set *template.Template, name string) (*template.Template, error) {
	b, err := templateFiles.ReadFile(name)
	if err != nil {
		return nil, err
	}
	source := string(b)
	if !t.IsEnglish() {
		source = words.Template(source, t.Look)
	}
	if _, err := set.New(path.Base(name)).Parse(source); err != nil {
		return nil, fmt.Errorf("reading %s: %w", name, err)
	}
	return set, nil
}

// languageKey is where the language of an answer stands in its request's context.
const languageKey = "language"

// of is the interface in the language of who asks: as their account says, or their browser.
func (v *views) of(c *gin.Context) *tongue {
	if t, ok := c.Get(languageKey); ok {
		return t.(*tongue)
	}
	t := v.tongues[words.Codes()[0]]
	said := ""
	if who, ok := c.Get(visitorKey); ok {
		said = who.(*study.Visitor).Person.Language
	}
	if chosen := v.tongues[said]; chosen != nil {
		t = chosen
	} else if asked := c.GetHeader("Accept-Language"); asked != "" {
		tag, _ := language.MatchStrings(v.choose, asked)
		base, _ := tag.Base()
		if found := v.tongues[base.String()]; found != nil {
			t = found
		}
	}
	c.Set(languageKey, t)
	return t
}

// fingerprint hashes the static files, so that browsers may keep them for
// ever and still see a new program's.
func (v *views) fingerprint() error {
	h := sha256.New()
	err := fs.WalkDir(staticFiles, "static", func(name string, d fs.DirEntry, err error) error {
		if err != nil || d.IsDir() {
			return err
		}
		b, err := staticFiles.ReadFile(name)
		_, _ = io.WriteString(h, name)
		_, _ = h.Write(b)
		return err
	})
	v.version = hex.EncodeToString(h.Sum(nil))[:12]
	return err
}

func (v *views) functions(w *words.Words) template.FuncMap {
	return template.FuncMap{
		"say":       func(v any) string { return w.Say(fmt.Sprint(v)) }, // a role, a kind, a text
		"word":      func(text string) string { return text },           // translated in the source
		"noun":      w.Noun,
		"lang":      w.Code,
		"day":       w.Day,
		"daytime":   w.DayTime,
		"shorttime": w.ShortTime,
		"longday":   w.LongDay,
		"monthday":  w.MonthDay,
		"weekday":   w.WeekDay,
		"asset":     func(name string) string { return "/static/" + name + "?v=" + v.version },
		"presence": func(counts []int, sources []evidence.Source, unit string) template.HTML {
			return draw.PresenceRow(w, counts, sources, unit)
		},
		"saidby":     saidBy,
		"coverwidth": func(pages int) int { return pages * draw.CellWidth(pages) },
		"cellcentre": func(i, pages int) int { return i*draw.CellWidth(pages) + draw.CellWidth(pages)/2 },
		"tenth":      func(i int) int { return i % 10 },
		"rangemark":  func(r stats.Range, most float64) template.HTML { return draw.RangeMark(w, r, most) },
		"fitmark":    func(f fit.Field, ours, aim float64) template.HTML { return draw.FitMark(w, f, ours, aim) },
		"oursmark": func(r stats.Range, most float64, ours []draw.Pointer) template.HTML {
			return draw.RangeMark(w, r, most, ours...)
		},
		"thousands":  w.Number,
		"decimal":    w.Decimal,
		"ranks":      render.Ranks,
		"spans":      draw.RankSpans,
		"shortranks": func(ranks []int, most int) string { return draw.ShortRanks(w, ranks, most) },
		"times":      func(lower, upper int) string { return render.Times(w, lower, upper) },
		"percent":    func(x float64) int { return int(100*x + 0.5) },
		"round":      func(x float64) string { return w.Number(int(x + 0.5)) },
		"sources":    sourcesPath,
		"movedpath": func(study, from, to int64, page string, rank change.Rank) string {
			return fmt.Sprintf("/studies/%d/movement/page?%s", study, url.Values{"from": {fmt.Sprint(from)}, "to": {fmt.Sprint(to)}, "url": {page}, "rank": {fmt.Sprint(int(rank))}}.Encode())
		},
		"editpath": func(study int64, key string) string {
			return fmt.Sprintf("/studies/%d/outline/edit?%s", study, url.Values{"key": {key}}.Encode())
		},
		"span":         func(r any) (string, error) { return spanOf(w, r) },
		"list":         func(v ...any) []any { return v },
		"dict":         dict,
		"tiers":        tiersOf,
		"groups":       groupsOf,
		"items":        render.ItemsOf,
		"has":          func(list ...string) bool { return slices.Contains(list[:len(list)-1], list[len(list)-1]) },
		"languages":    corelanguage.Codes,
		"languagename": w.Language,
		"first":        func(h []reading.Heading) []reading.Heading { return h[:min(len(h), mostListed)] },
		"firstStruck":  func(h []reading.Struck) []reading.Struck { return h[:min(len(h), mostListed)] },
		"beyond":       func(n int) int { return max(n-mostListed, 0) },
		"counted":      w.Counted,
		"int":          func(n int64) int { return int(n) },
		"whole":        func(x float64) int { return int(math.Round(x)) },
		"known":        func(f demand.Figure, decimals int) template.HTML { return knownFigure(w, f, decimals) },
		"add":          func(a, b int) int { return a + b },
		"grouppath":    groupPath,
		"next":         func(i int) int { return i + 1 },
		"prev":         func(i int) int { return i - 1 },
		"chars":        func(s string) int { return len([]rune(s)) },
		"lines":        func(list []string) string { return strings.Join(list, "\n") },
		"web":          func(u string) bool { return address.Parse(u).Web() },
		"site":         func(u string) string { return strings.TrimPrefix(strings.TrimPrefix(u, "http://"), "https://") },
		"scale":        scaleOf,
		"sourcelist":   sourceList,
		"site1":        hostPart,
		"path":         pathPart,
		"flag":         func(b bool) string { return map[bool]string{true: "1", false: ""}[b] },
	}
}

// knownFigure is a figure as a table shows it, with so many decimals; a dash where it is not known.
func knownFigure(w *words.Words, f demand.Figure, decimals int) template.HTML {
	switch {
	case !f.Known:
		return `<span class="quiet">–</span>`
	case decimals == 0:
		return template.HTML(w.Number(int(math.Round(f.Value))))
	}
	return template.HTML(w.Decimal(decimals, f.Value))
}

// sourceList is the pages of a field, one a line, for marks.js to name them.
func sourceList(sources []evidence.Source) string {
	lines := make([]string, len(sources))
	for i, s := range sources {
		lines[i] = fmt.Sprintf("%d %s", s.Rank, s.Host)
	}
	return strings.Join(lines, "\n")
}

// hostPart and pathPart are the two halves of an address as a list shows them.
func hostPart(address string) string {
	u, err := url.Parse(address)
	if err != nil || u.Host == "" {
		return address
	}
	return strings.TrimPrefix(u.Host, "www.")
}

func pathPart(address string) string {
	u, err := url.Parse(address)
	if err != nil || u.Host == "" {
		return ""
	}
	path := u.Path
	if u.RawQuery != "" {
		path += "?" + u.RawQuery
	}
	return path
}

func dict(pairs ...any) (map[string]any, error) {
	if len(pairs)%2 != 0 {
		return nil, fmt.Errorf("dict: %d values do not make pairs", len(pairs))
	}
	m := map[string]any{}
	for i := 0; i < len(pairs); i += 2 {
		name, ok := pairs[i].(string)
		if !ok {
			return nil, fmt.Errorf("dict: the name %v is no string", pairs[i])
		}
		m[name] = pairs[i+1]
	}
	return m, nil
}

// sourcesPath is where the sentences behind a finding are shown. A key may
// hold any character, and templates encode addresses only where they know one.
func sourcesPath(study int64, kind any, key string) string {
	return fmt.Sprintf("/studies/%d/sources?%s", study, url.Values{"kind": {fmt.Sprint(kind)}, "key": {key}}.Encode())
}

// spanOf says a range in whole numbers: "4–13", or "1" where both ends are the
// same. It takes the ranges of evidence and of briefs.
func spanOf(w *words.Words, r any) (string, error) {
	var lower, upper float64
	switch r := r.(type) {
	case stats.Range:
		lower, upper = r.Lower, r.Upper
	case brief.Range:
		lower, upper = r.Lower, r.Upper
	default:
		return "", fmt.Errorf("span: %T is no range", r)
	}
	from, to := w.Number(int(lower+0.5)), w.Number(int(upper+0.5))
	if from == to {
		return from, nil
	}
	return from + "–" + to, nil
}

// mostListed is how many headings of one page are listed; no author has more.
const mostListed = 400

// page answers with a whole page. It is rendered before anything is sent, so
// that a fault in a template does not leave half a page.
func (v *views) page(c *gin.Context, status int, name string, data pageData) {
	tongue := v.of(c)
	t := tongue.pages[name]
	if t == nil {
		panic("web: no page " + name)
	}
	if v, ok := c.Get(visitorKey); ok {
		data.Person = v.(*study.Visitor).Person.Name
		data.Role = v.(*study.Visitor).Role
	}
	var b bytes.Buffer
	if err := t.ExecuteTemplate(&b, "layout", data); err != nil {
		panic(fmt.Errorf("page %s: %w", name, err))
	}
	send(c, status, b.Bytes())
}

// send answers with a page or a part of one, less what its reader may not do.
func send(c *gin.Context, status int, page []byte) {
	if v, ok := c.Get(visitorKey); ok {
		page = without(page, v.(*study.Visitor).Role)
	}
	c.Data(status, "text/html; charset=utf-8", page)
}

// sheetData is a page without the program around it, for those who come by a link.
type sheetData struct {
	Title   string
	Keep    string // what the browser keeps unsent texts under
	Content template.HTML
}

// sheet answers with a page of its own, made of one of the parts.
func (v *views) sheet(c *gin.Context, status int, name string, data any) {
	var content, b bytes.Buffer
	if err := v.of(c).write(&content, name, data); err != nil {
		panic(fmt.Errorf("sheet %s: %w", name, err))
	}
	d := sheetData{Title: "Content brief", Content: template.HTML(content.String())} // escaped by its own template
	if _, ok := data.(compareBody); ok {
		d.Title = "Two versions of the draft"
	}
	if w, ok := data.(*writerBody); ok {
		d.Title, d.Keep = "Brief: "+w.Brief.Keyword, fmt.Sprintf("link %d", w.Link.ID)
	}
	if err := v.of(c).write(&b, "bare-page", d); err != nil {
		panic(fmt.Errorf("sheet %s: %w", name, err))
	}
	c.Data(status, "text/html; charset=utf-8", b.Bytes())
}

// fragment answers htmx with a part of a page.
func (v *views) fragment(c *gin.Context, status int, name string, data any) {
	var b bytes.Buffer
	if err := v.of(c).write(&b, name, data); err != nil {
		panic(fmt.Errorf("fragment %s: %w", name, err))
	}
	send(c, status, b.Bytes())
}

func (t *tongue) write(w io.Writer, name string, data any) error {
	return t.fragments.ExecuteTemplate(w, name, data)
}

// languageWorker is the file of the language check.
const languageWorker = "static/dist/language.js"

func (s *Server) static(c *gin.Context) {
	name := path.Join("static", path.Clean("/"+c.Param("path")))
	b, err := staticFiles.ReadFile(name)
	if err != nil {
		c.String(http.StatusNotFound, "not found\n")
		return
	}
	if c.Query("v") == s.views.version {
		c.Header("Cache-Control", "public, max-age=31536000, immutable")
	}
	if name == languageWorker { // a worker has the rules of its own answer: this one compiles Hunspell
		c.Header("Content-Security-Policy", "default-src 'none'; script-src 'self' 'wasm-unsafe-eval'; connect-src 'self'")
	}
	kind := mime.TypeByExtension(path.Ext(name))
	if path.Ext(name) == ".woff2" {
		kind = "font/woff2"
	}
	c.Data(http.StatusOK, kind, b)
}
