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
	"mime"
	"net/http"
	"path"
	"strings"

	"corpulan/store"
	"corpulan/study"
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

// tongue is the templates in one language: one set, of the layout, all parts, and each page's body
// under a name of its own.
type tongue struct {
	*words.Words
	set *template.Template
}

// bodyOf is what the body of a page is called in the set.
func bodyOf(page string) string { return "body of " + page }

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
	Content     template.HTML // made of the body by the page's own template
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
	t := &tongue{Words: w, set: template.New("").Funcs(v.functions(w))}
	parts, err := fs.Glob(templateFiles, "templates/parts/*.html")
	if err != nil {
		return nil, err
	}
	pages, err := fs.Glob(templateFiles, "templates/*.html")
	if err != nil {
		return nil, err
	}
	for _, name := range append(parts, pages...) {
		if err := t.parse(name); err != nil {
			return nil, err
		}
	}
	return t, nil
}

// parse adds a file to the set, in the tongue's language.
func (t *tongue) parse(name string) error {
	b, err := templateFiles.ReadFile(name)
	if err != nil {
		return err
	}
	source := string(b)
	if !t.IsEnglish() {
		source = words.Template(source, t.Look)
	}
	file := path.Base(name)
	source = strings.Replace(source, `{{define "body"}}`, `{{define "`+bodyOf(strings.TrimSuffix(file, ".html"))+`"}}`, 1)
	if _, err := t.set.New(file).Parse(source); err != nil {
		return fmt.Errorf("reading %s: %w", name, err)
	}
	return nil
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

// page answers with a whole page. It is rendered before anything is sent, so
// that a fault in a template does not leave half a page.
func (v *views) page(c *gin.Context, status int, name string, data pageData) {
	t := v.of(c)
	if v, ok := c.Get(visitorKey); ok {
		data.Person = v.(*study.Visitor).Person.Name
		data.Role = v.(*study.Visitor).Role
	}
	var content, b bytes.Buffer
	if err := t.write(&content, bodyOf(name), data.Body); err != nil {
		panic(fmt.Errorf("page %s: %w", name, err))
	}
	data.Content = template.HTML(content.String()) // escaped by its own template
	if err := t.write(&b, "layout", data); err != nil {
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
	return t.set.ExecuteTemplate(w, name, data)
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
