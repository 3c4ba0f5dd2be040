package kit

import (
	"bytes"
	"fmt"
	"html/template"
	"io"
	"io/fs"
	"maps"
	"net/http"
	"path"
	"slices"
	"strings"

	"corpulan/account"
	"corpulan/core/message"
	"corpulan/notice"
	"corpulan/store"
	"corpulan/web/draw"
	"corpulan/words"

	"github.com/gin-gonic/gin"
	"golang.org/x/text/language"
)

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

// PageData is what the layout shows around a page's own body.
type PageData struct {
	Title       string
	Place       string // "desk", "gather", "field", "evidence" or "brief"
	Publication string
	Study       *studyHead
	Person      string // who is signed in; empty for nobody
	Role        store.Role
	Plan        string // where what is done to a list or slate is undone; empty for neither
	Body        any
	First       message.Message // what one does here; empty for who was here before
	Content     template.HTML   // made of the body by the page's own template
	shell       *Kit
	line        store.LedgerLine // of the study, as the desk lists it
}

// StepNow is a step of a study with what the study has of it.
type StepNow struct {
	Step
	Stands message.Message // empty for nothing to say
}

// Steps are those of a study, in their order.
func (p PageData) Steps() (list []StepNow) {
	sections := -1
	if b, ok := p.Body.(interface{ OutlineSize() int }); ok {
		sections = b.OutlineSize()
	}
	for _, x := range p.shell.places {
		if x.Step == nil {
			continue
		}
		now := StepNow{Step: *x.Step}
		if x.Step.Stands != nil && p.line.ID != 0 {
			now.Stands = x.Step.Stands(p.line, sections)
		}
		list = append(list, now)
	}
	return list
}

// Links are the places outside of studies that the head leads to.
func (p PageData) Links() (list []Link) {
	for _, x := range p.shell.places {
		list = append(list, x.Links...)
	}
	return list
}

// Styles and Scripts are the files that the page has, besides the kit's.
func (p PageData) Styles() []Asset {
	return p.assets(func(x Place) []Asset { return x.Styles })
}

// Scripts is described at Styles.
func (p PageData) Scripts() []Asset {
	return p.assets(func(x Place) []Asset { return x.Scripts })
}

func (p PageData) assets(of func(Place) []Asset) []Asset {
	return p.shell.assets(p.Place, of)
}

// assets are the files of one kind that a page has.
func (s *Kit) assets(page string, of func(Place) []Asset) (list []Asset) {
	for _, x := range s.places {
		for _, a := range of(x) {
			if len(a.In) == 0 && page != SheetPage || slices.Contains(a.In, page) {
				list = append(list, a)
			}
		}
	}
	return list
}

// KeysByPlace are the keys of each place that has some of its own; those of the page come first.
func (p PageData) KeysByPlace() (list []Place) {
	for _, x := range p.shell.places {
		switch {
		case len(x.Keys) == 0:
		case x.Name == p.Place:
			list = slices.Insert(list, 0, x)
		default:
			list = append(list, x)
		}
	}
	return list
}

// Marks are the marks that the page has.
func (p PageData) Marks() []draw.Mark {
	here, _ := draw.Marks(p.Place)
	return here
}

// OtherMarks are those of other pages.
func (p PageData) OtherMarks() []draw.Mark {
	_, others := draw.Marks(p.Place)
	return others
}

// IsHere tells whether the page is of a step or link.
func (p PageData) IsHere(path string, holds []string) bool {
	return p.Place == strings.Trim(path, "/") || slices.Contains(holds, p.Place)
}

// studyHead is what the top of a study's places shows.
type studyHead struct {
	ID                         int64
	Keyword, Language, Country string
}

func (s *Kit) InStudy(c *gin.Context, place string, body any) PageData {
	st := StudyOf(c)
	return PageData{Title: st.Keyword, Place: place, Publication: PublicationOf(c).Name, Body: body,
		Study: &studyHead{st.ID, st.Keyword, st.Language, st.Country}}
}

// loadViews reads the templates of the kit and of every place.
func (s *Kit) loadViews() (*views, error) {
	v := &views{tongues: map[string]*tongue{}}
	if err := v.fingerprint(s.files()); err != nil {
		return nil, err
	}
	all, err := words.All()
	if err != nil {
		return nil, err
	}
	var tags []language.Tag
	for _, code := range words.Codes() { // the first is for whoever asks for none of them
		if v.tongues[code], err = s.speak(v, all[code]); err != nil {
			return nil, err
		}
		tags = append(tags, all[code].Tag)
	}
	v.choose = language.NewMatcher(tags)
	return v, nil
}

// speak reads the templates in one language.
func (s *Kit) speak(v *views, w *words.Words) (*tongue, error) {
	t := &tongue{Words: w, set: template.New("").Funcs(s.functions(v, w))}
	for _, p := range s.places {
		if p.Funcs != nil {
			t.set.Funcs(p.Funcs(w))
		}
	}
	files := s.files()
	for _, place := range slices.Sorted(maps.Keys(files)) {
		for _, glob := range []string{"templates/parts/*.html", "templates/*.html"} {
			names, err := fs.Glob(files[place], glob)
			if err != nil {
				return nil, err
			}
			for _, name := range names {
				if err := t.parse(files[place], name); err != nil {
					return nil, fmt.Errorf("%s: %w", place, err)
				}
			}
		}
	}
	return t, nil
}

// parse adds a file to the set, in the tongue's language.
func (t *tongue) parse(files fs.FS, name string) error {
	b, err := fs.ReadFile(files, name)
	if err != nil {
		return err
	}
	source := words.Folded(string(b))
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

// Tongue is the interface in the language of who asks: as their account says, or their browser.
func (s *Kit) Tongue(c *gin.Context) *tongue {
	v := s.views
	if t, ok := c.Get(languageKey); ok {
		return t.(*tongue)
	}
	t := v.tongues[words.Codes()[0]]
	said := ""
	if who, ok := c.Get(visitorKey); ok {
		said = who.(*account.Visitor).Person.Language
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

// Page answers with a whole page. It is rendered before anything is sent, so
// that a fault in a template does not leave half a page.
func (s *Kit) Page(c *gin.Context, status int, name string, data PageData) {
	t := s.Tongue(c)
	data.shell = s
	if v, ok := c.Get(visitorKey); ok {
		data.Person = v.(*account.Visitor).Person.Name
		data.Role = v.(*account.Visitor).Role
	}
	if data.Study != nil {
		if lines, err := s.Scope(c).StudiesOf(c.Request.Context(), []int64{data.Study.ID}); err == nil {
			data.line = lines[data.Study.ID] // a page goes without it
		}
	}
	data.First = s.first(c, data)
	var content, b bytes.Buffer
	if err := t.Write(&content, bodyOf(name), data.Body); err != nil {
		panic(fmt.Errorf("page %s: %w", name, err))
	}
	data.Content = template.HTML(content.String()) // escaped by its own template
	if err := t.Write(&b, "layout", data); err != nil {
		panic(fmt.Errorf("page %s: %w", name, err))
	}
	s.Send(c, status, b.Bytes())
}

// Send answers with a page or a part of one, less what its reader may not do.
func (s *Kit) Send(c *gin.Context, status int, page []byte) {
	if v, ok := c.Get(visitorKey); ok {
		page = s.Without(page, v.(*account.Visitor).Role)
	}
	c.Data(status, "text/html; charset=utf-8", page)
}

// SheetData is a page without the program around it, for those who come by a link.
type SheetData struct {
	Title   string
	Keep    string // what the browser keeps unsent texts under
	Content template.HTML
	shell   *Kit
}

// Styles and Scripts are the files of such pages.
func (d SheetData) Styles() []Asset {
	return d.shell.assets(SheetPage, func(x Place) []Asset { return x.Styles })
}

// Scripts is described at Styles.
func (d SheetData) Scripts() []Asset {
	return d.shell.assets(SheetPage, func(x Place) []Asset { return x.Scripts })
}

// SheetPage is what pages without the program around them say they are, among the pages of an Asset.
const SheetPage = "sheet"

// Sheet answers with a page of its own, made of one of the parts.
func (s *Kit) Sheet(c *gin.Context, status int, name string, as SheetData, data any) {
	var content bytes.Buffer
	if err := s.Tongue(c).Write(&content, name, data); err != nil {
		panic(fmt.Errorf("sheet %s: %w", name, err))
	}
	as.shell = s
	as.Content = template.HTML(content.String()) // escaped by its own template
	s.Whole(c, status, "bare-page", as)
}

// Whole answers with a template that is a page of its own.
func (s *Kit) Whole(c *gin.Context, status int, name string, data any) {
	var b bytes.Buffer
	if err := s.Tongue(c).Write(&b, name, data); err != nil {
		panic(fmt.Errorf("page %s: %w", name, err))
	}
	c.Data(status, "text/html; charset=utf-8", b.Bytes())
}

// Fragment answers htmx with a part of a page.
func (s *Kit) Fragment(c *gin.Context, status int, name string, data any) {
	var b bytes.Buffer
	if err := s.Tongue(c).Write(&b, name, data); err != nil {
		panic(fmt.Errorf("fragment %s: %w", name, err))
	}
	s.Send(c, status, b.Bytes())
}

func (t *tongue) Write(w io.Writer, name string, data any) error {
	return t.set.ExecuteTemplate(w, name, data)
}

// licences shows what the program is made of, and under which licences.
func (s *Kit) licences(c *gin.Context) {
	c.Data(http.StatusOK, "text/plain; charset=utf-8", []byte(notice.Text()))
}

// InPublication is the layout's data for a place outside of studies.
func (s *Kit) InPublication(c *gin.Context, place, title string, body any) PageData {
	return PageData{Title: title, Place: place, Publication: VisitorOf(c).Publication.Name, Body: body}
}
