// Package evidence brings together what the kept pages of a study have in common:
// what the finders find (terms, names, questions, themes), and the measures of
// the pages. It works on documents prepared from readings, in memory, and keeps
// for every figure the pages it came from.
//
//   - evidence.go   all evidence, composed
//   - kinds.go      what has to be known of each kind of finding
//   - figures.go    counts and measures of the pages
//   - placement.go  where pages put the keyword
//   - contrast.go   the first ranks against the others
//   - points.go     what the sections of each theme state
//   - openings.go   what the field leaves open
//   - gap.go        a text of ours against the field
//   - covered.go    which findings a text of ours has
//   - citations.go  addresses and sites that pages link to
//   - facts.go      sentences that carry a figure
//   - things.go     listed things as findings
//   - lists.go      a field of lists: the list and its criteria as themes
//   - titles.go     how titles are made
//   - intent.go     what the pages are for
//   - form.go       how they are made
//   - media.go      what they show, and their structured data
//   - shares.go     how pages share out their voices for an intent or a form
package evidence

import (
	"cmp"
	"context"
	"slices"
	"strings"
	"sync"

	"corpulan/core/corpus"
	"corpulan/core/entities"
	"corpulan/core/house"
	"corpulan/core/listed"
	"corpulan/core/message"
	"corpulan/core/questions"
	"corpulan/core/reading"
	"corpulan/core/says"
	"corpulan/core/text"
	"corpulan/core/themes"
	"corpulan/core/vocabulary"
)

// Input is what evidence is computed from.
type Input struct {
	Keyword  string
	Language string              // ISO 639-1, as the documents were prepared
	Pages    []corpus.RankedPage // in rank order
	Asked    []string
	Related  []string
	Beside   []corpus.RankedPage // extra sources: not counted, and looked through for what the field lacks
	Leaders  int                 // how many of the first ranks lead; Leaders where it is 0
	House    []house.Entry       // what the publication and the study have taught, in this order
	First    func(*Evidence)     // given evidence of the terms alone as soon as they are counted; nil for nobody
}

// Evidence is all that is computed over the field.
type Evidence struct {
	Keyword   string               `json:"keyword"`
	Language  string               `json:"language"`
	Sources   []Source             `json:"sources"`
	Figures   []Figure             `json:"figures"`
	Placed    []Placement          `json:"placed"` // of the keyword, per page
	Contrast  Contrast             `json:"contrast"`
	Terms     []vocabulary.Term    `json:"terms"`
	Entities  []entities.Entity    `json:"entities"`
	Questions []questions.Question `json:"questions"`
	Listed    []listed.Thing       `json:"listed"`   // things that pages list under their names
	Criteria  []listed.Criterion   `json:"criteria"` // by which pages compare them
	Themes    []themes.Theme       `json:"themes"`
	Points    []ThemePoints        `json:"points"` // of the themes of two pages and more
	Openings  []Opening            `json:"openings"`
	Citations []Citation           `json:"citations"`
	Cited     []Citation           `json:"cited_sites"`
	Facts     []Fact               `json:"facts"`
	Titles    Titles               `json:"titles"`
	Intent    []Share              `json:"intent"`
	Forms     []Share              `json:"forms"`
	Media     []Media              `json:"media"`
	Shown     []Shown              `json:"shown"`   // how the pages show each matter
	Written   []Written            `json:"written"` // answers written out from what pages say
	Data      []DataType           `json:"data_types"`
	Related   []string             `json:"related"`
	Notes     []message.Message    `json:"notes,omitempty"` // what was left out of the comparison, and why

	sizes []float64 // words of each page that terms are counted in
}

// Size is about how many bytes the evidence takes in memory, for caches to count.
func (e *Evidence) Size() int64 {
	n := int64(len(e.Sources))
	size := 4000 + n*600 + int64(len(e.Terms))*(700+8*n) + int64(len(e.Entities))*(300+16*n)
	for _, q := range e.Questions {
		size += 300 + int64(len(q.Wordings)+len(q.AnsweredBy))*150
	}
	for _, t := range e.Points {
		for _, p := range t.Points {
			size += 400 + int64(len(p.Says))*200
		}
	}
	for _, t := range e.Themes {
		size += 500 + 8*n + int64(len(t.Members))*150
	}
	return size
}

// Source is one kept page, as a brief names it.
type Source struct {
	Rank  int          `json:"rank"`
	URL   string       `json:"url"`
	Host  string       `json:"host"`
	Title string       `json:"title"`
	Words int          `json:"words"`
	Kind  reading.Kind `json:"kind"`
	Date  string       `json:"date,omitempty"` // last changed, else published, YYYY-MM-DD
}

// Source is the page of a rank; nil for none.
func (e *Evidence) Source(rank int) *Source {
	for i := range e.Sources {
		if e.Sources[i].Rank == rank {
			return &e.Sources[i]
		}
	}
	return nil
}

// Compute makes the evidence of a field. An empty field gives empty evidence.
// Its only error is ctx's.
func Compute(ctx context.Context, in Input) (*Evidence, error) {
	f := corpus.NewField(in.Pages, in.Language, in.Keyword)
	e := &Evidence{Keyword: in.Keyword, Language: f.Language.Code, Related: append([]string{}, in.Related...), Sources: make([]Source, len(f.Docs)), Placed: make([]Placement, len(f.Docs))}
	for i, d := range f.Docs {
		r := d.Reading
		e.Sources[i] = Source{f.Ranks[i], r.URL, d.Host, r.Title, r.Counts.Words, r.Kind, cmp.Or(r.Modified, r.Published)}
		e.Placed[i] = PlacementOf(d, in.Keyword)
		if d.Cut() > 0 {
			e.note(message.Of("Of rank %d the first %d words are compared; it has %d.", f.Ranks[i], d.Words, r.Counts.Words))
		}
	}
	if n := e.references(); 2*n >= len(e.Sources) && n > 1 {
		e.note(message.Of("%d of %d pages are looked up and not read: this is no field for an article.", n, len(e.Sources)))
	}
	e.sizes, _ = f.Sizes()
	e.Figures = figures(f, e.Placed)
	taught := house.New(in.House, f.Language)
	var lists listed.Listed
	err := besides(ctx,
		[]func(){
			func() { e.Terms = vocabulary.Find(ctx, f, taught) },
			func() { e.lead(cmp.Or(in.Leaders, Leaders)) },
			func() {
				if in.First != nil {
					in.First(e.terms())
				}
			},
			func() { e.Entities = entities.Find(f, conceptsOf(f, e.Terms), taught) },
		},
		[]func(){
			func() { lists = listed.Find(f, taught) },
			func() {
				e.noted(func() (notes []message.Message) {
					e.Themes, notes = themes.Find(ctx, f, taught, lists.Sections)
					return notes
				})
			},
		})
	if err != nil {
		return nil, err
	}
	e.Listed, e.Criteria = lists.Things, lists.Criteria
	e.flagNames(f)
	e.addLists(f)
	e.Shown = e.shown(f)
	texts := says.In(f, e.Treated())
	err = besides(ctx,
		[]func(){
			func() {
				e.noted(func() (notes []message.Message) {
					e.Questions, notes = questions.Find(ctx, texts, in.Asked, taught)
					return notes
				})
			},
			func() { e.Written = e.written(texts) },
		},
		[]func(){
			func() { e.Points = e.pointsOf(ctx, f) },
			func() { e.Citations, e.Cited = citations(f), citedSites(f) },
			func() { e.Facts = factsOf(f, in.Beside) },
			func() { e.Titles = titlesOf(f) },
			func() { e.Intent = intent(f, in.Related, in.Asked, e.listing()) },
			func() { e.Forms = forms(f, e.listing()) },
			func() { e.Media, e.Data = e.mediaOf(f), dataTypes(f) },
		})
	if err != nil {
		return nil, err
	}
	e.Openings = append(e.openings(texts), beside(in.Beside, f, taught)...)
	if ctx.Err() != nil {
		return nil, ctx.Err()
	}
	return e, nil
}

// terms is evidence of the terms alone, which what is found later does not change.
func (e *Evidence) terms() *Evidence {
	return &Evidence{Keyword: e.Keyword, Language: e.Language, Related: e.Related, Sources: e.Sources, Placed: e.Placed,
		Figures: e.Figures, Contrast: e.Contrast, Terms: slices.Clone(e.Terms), sizes: e.sizes}
}

// besides runs two lines of finders beside each other, neither of which reads what the other finds; within a line one after another,
// so that nobody waits long for a computation given up.
func besides(ctx context.Context, one, other []func()) error {
	line := func(finders []func()) {
		for _, find := range finders {
			if ctx.Err() == nil {
				find()
			}
		}
	}
	var both sync.WaitGroup
	both.Go(func() { line(other) })
	line(one)
	both.Wait()
	return ctx.Err()
}

// Treated tells of which theme of two pages and more a section is, by its number from 1.
func (e *Evidence) Treated() says.Treated {
	at := map[[2]int]int{}
	for i, t := range e.Themes {
		if t.Recommended() {
			for _, m := range t.Members {
				at[[2]int{m.Rank, m.Section}] = i + 1
			}
		}
	}
	return func(rank, section int) int { return at[[2]int{rank, section}] }
}

// references counts the pages that are looked up.
func (e *Evidence) references() (n int) {
	for _, s := range e.Sources {
		if s.Kind == reading.Reference {
			n++
		}
	}
	return n
}

// note tells the person what was left out of the comparison.
func (e *Evidence) note(notes ...message.Message) { e.Notes = append(e.Notes, notes...) }

func (e *Evidence) noted(find func() []message.Message) { e.note(find()...) }

// isName is why a name of a person, a firm, a product or a place is no term.
const isName = "a name: it stands among the entities"

// isListed is why the name of a thing that pages list is no term, nor a part of it.
const isListed = "listed: it stands among the things that pages list"

// flagNames marks the terms that are names of single things, or parts of those that pages list. Abbreviations stay: a trade's are
// its words.
func (e *Evidence) flagNames(f *corpus.Field) {
	named, parts := map[string]bool{}, map[string]bool{}
	for _, x := range e.Entities {
		switch x.Type {
		case entities.PersonType, entities.OrganisationType, entities.ProductType, entities.PlaceType, entities.WorkType, entities.EventType, entities.NameType:
			named[text.Fold(x.Name)] = true
		}
	}
	lists := e.IsOfLists()
	for _, x := range e.Listed {
		for _, p := range x.Places {
			words := strings.Fields(text.Fold(p.Name))
			for from := range words {
				for to := from + 1; to <= len(words); to++ {
					// Where pages do not list things a single word may be one of the subject.
					if whole := to-from == len(words) && to > 1; lists || whole {
						parts[strings.Join(words[from:to], " ")] = true
					}
				}
			}
		}
	}
	for i := range e.Terms {
		t := &e.Terms[i]
		if folded := text.Fold(t.Text); t.Flag == "" && !t.IsKeyword && parts[folded] && slices.ContainsFunc(strings.Fields(folded), f.IsWrittenAsName) {
			t.Flag = isListed
			continue
		}
		if t.Flag == "" && !t.IsKeyword && named[text.Fold(t.Text)] && t.Text != strings.ToUpper(t.Text) {
			t.Flag = isName
		}
	}
}

// conceptsOf are the terms that may be concepts of the subject: those that enough of the
// field uses, in the order of the vocabulary.
func conceptsOf(f *corpus.Field, terms []vocabulary.Term) []entities.Concept {
	var list []entities.Concept
	for _, t := range terms {
		if !t.Recommended() || t.Tier == vocabulary.Occasional {
			continue
		}
		c := entities.Concept{Key: t.Key, Name: t.Text, Counts: t.Counts, LogRatio: t.LogRatio, Shapes: map[string]int{}}
		for _, x := range t.Shapes {
			c.Shapes[x.Text] = x.Count
		}
		for i, d := range f.Docs {
			for _, k := range t.Keys {
				if u := d.Phrases[k]; u != nil && (u.Title || u.Headings > 0 || u.Opening > 0) {
					c.Marked = append(c.Marked, i)
					break
				}
			}
		}
		list = append(list, c)
	}
	return list
}
