// Package brief turns evidence and a person's choices into a content brief: the
// document a writer works from. Composing is a pure function, so that the brief
// follows the evidence whenever a page is kept or set aside, and nothing a
// person chose or typed is lost by it.
//
//   - brief.go     the document
//   - compose.go   evidence and choices to a brief: what is proposed, and how much of it
//   - candidates.go titles and descriptions to pick from
//   - fields.go    what can be typed: names, labels, where each stands in the document
//   - propose.go   what stands in fields that nobody typed into, and why
//   - templates.go kinds of pages
//   - voice.go     how a publication's own pages speak
//   - grade.go     how hard the text may be to read
//   - parts.go     the parts of the document and their order
//   - outline.go   the outline: which sections, in which order
//   - lines.go     the outline by hand
//   - length.go    words shared out among sections
//   - fold.go      which matters lose their heading where the page is short
//   - short.go     the brief itself, of the whole: what a writer must know
//   - placing.go   questions and terms put under sections
//   - picks.go     the things that a page lists, and the table that compares them
//   - own.go       a person's own sections, a publication's own pages
//   - warnings.go  what is odd about an outline, and what is offered beside it
//   - cuttings.go  passages kept with their sources
//   - choices.go   what a person decided and typed
//   - places.go    the names by which edits and forms call what is typed
//   - stands.go    a brief that stands while its study is gathered again
//   - edit.go      one change of that, which can be turned round
//   - identity.go  how a decision follows its finding
package brief

import (
	"bytes"
	"encoding/json"
	"maps"
	"slices"

	"corpulan/core/evidence"
	"corpulan/core/language"
	"corpulan/core/links"
	"corpulan/core/message"
)

// Schema names the version of the document's form; docs/schema/brief.json
// describes it.
const Schema = "corpulan/brief/1"

// Brief is the document. Every line of it names the ranks of the pages it
// came from.
type Brief struct {
	Schema          string                     `json:"schema"`
	Keyword         string                     `json:"keyword"`
	Language        string                     `json:"language"`
	Front           Front                      `json:"front"`
	TitleTag        string                     `json:"title_tag"`
	MetaDescription string                     `json:"meta_description"`
	Titles          []Candidate                `json:"title_candidates"`
	Descriptions    []Candidate                `json:"description_candidates"`
	H1              string                     `json:"h1"`
	Address         string                     `json:"address"` // proposed for the page
	Fields          Fields                     `json:"fields"`
	Why             map[string]message.Message `json:"why"`             // what the fields that nobody typed into come from, by name
	House           []string                   `json:"house,omitempty"` // fields that say what the publication says in every brief, by name
	Parts           []Part                     `json:"parts"`
	Intent          []Intent                   `json:"intent"`
	Words           WordRange                  `json:"words"`
	Measures        Measures                   `json:"measures"`
	Outline         []Section                  `json:"outline"`
	OutlineNote     message.Message            `json:"outline_note,omitempty"` // where the proposal needs a word
	OpeningWords    int                        `json:"opening_words"`
	Warnings        []Warning                  `json:"warnings"`
	Offers          []Offer                    `json:"offers"` // what the evidence would add to an outline by hand
	Terms           []Term                     `json:"terms"`
	Entities        []Entity                   `json:"entities"`
	Questions       []Question                 `json:"questions"`
	Picks           []Pick                     `json:"picks"`    // things that the page is to list
	Criteria        []Criterion                `json:"criteria"` // by which they are compared
	Links           Links                      `json:"links"`
	Facts           []Fact                     `json:"facts"` // to be checked
	Openings        []evidence.Opening         `json:"openings"`
	Cuttings        []Cutting                  `json:"cuttings"`
	Sources         []Source                   `json:"sources"`
	References      []Source                   `json:"references"` // extra sources: what did not rank, and does not count

	Dossier bool `json:"dossier,omitempty"` // goes with it in files

	in Words // of what is proposed
}

// MarshalJSON gives the document with all that is said in it in its language.
func (b Brief) MarshalJSON() ([]byte, error) {
	type document Brief
	in := b.In()
	said := func(m message.Message) message.Message { return message.Text(m.In(in)) }
	b.OutlineNote, b.Words.Why, b.Why = said(b.OutlineNote), said(b.Words.Why), maps.Clone(b.Why)
	for name, why := range b.Why {
		b.Why[name] = said(why)
	}
	b.Titles, b.Descriptions, b.Warnings, b.Openings = slices.Clone(b.Titles), slices.Clone(b.Descriptions), slices.Clone(b.Warnings), slices.Clone(b.Openings)
	for _, list := range [][]Candidate{b.Titles, b.Descriptions} {
		for i := range list {
			list[i].Pattern = said(list[i].Pattern)
		}
	}
	for i := range b.Warnings {
		b.Warnings[i].Text = said(b.Warnings[i].Text)
	}
	for i := range b.Openings {
		b.Openings[i].Why = said(b.Openings[i].Why)
	}
	var out bytes.Buffer
	e := json.NewEncoder(&out)
	e.SetEscapeHTML(false)
	err := e.Encode(document(b))
	return out.Bytes(), err
}

// Fields are the texts of the brief: a person's, or what is proposed for them.
type Fields struct {
	Goal           string `json:"goal"`
	SearchIntent   string `json:"search_intent"`
	Audience       string `json:"audience"`
	Voice          string `json:"voice"`
	PointOfView    string `json:"point_of_view"`
	CallToAction   string `json:"call_to_action"`
	Avoid          string `json:"avoid"`
	ReadingGrade   string `json:"reading_grade"`      // how hard it may be to read; see Brief.Grade
	Secondary      string `json:"secondary_keywords"` // other queries that the page is to answer, one a line
	ShortAnswer    string `json:"short_answer"`
	Media          string `json:"media"`
	Summary        string `json:"summary"`
	StructuredData string `json:"structured_data"`
	Notes          string `json:"notes"`
}

// Intent is a share of the field that serves one intent, 0 to 1.
type Intent struct {
	Kind    string  `json:"kind"`
	Share   float64 `json:"share"`
	Sources []int   `json:"sources"`
}

// WordRange is the length asked for, and the figure the outline adds up to.
type WordRange struct {
	Lower  int `json:"lower"`
	Target int `json:"target"`
	Upper  int `json:"upper"`
	N      int `json:"n"` // pages behind it

	Set bool            `json:"set,omitempty"` // by a person
	Why message.Message `json:"why"`
}

// Range is a spread over pages: quartiles and the number of pages.
type Range struct {
	Lower  float64 `json:"lower"`
	Median float64 `json:"median"`
	Upper  float64 `json:"upper"`
	N      int     `json:"n"`
}

// Measures are how the field is built, outliers left out.
type Measures struct {
	Words      Range `json:"words"`
	Headings   Range `json:"headings"`
	Images     Range `json:"images"`
	Paragraphs Range `json:"paragraphs"`
}

// Section is a part of the outline.
type Section struct {
	Key       string    `json:"key"` // of the theme
	Level     int       `json:"level"`
	Heading   string    `json:"heading"`
	Words     int       `json:"words"`               // sub-sections included
	WordsSet  bool      `json:"words_set,omitempty"` // by a person
	Pages     int       `json:"pages"`
	Sources   []int     `json:"sources"`
	Best      []int     `json:"best"` // ranks of the pages that say most of it
	Note      string    `json:"note"`
	Questions []string  `json:"questions"`
	Terms     []string  `json:"terms"`          // of the brief, that belong here
	Points    []Point   `json:"points"`         // what to say, as several pages say it
	Show      *Show     `json:"show,omitempty"` // the form in which several pages show the matter
	Cuttings  []Cutting `json:"cuttings,omitempty"`
	Children  []Section `json:"children"`
	Gone      bool      `json:"gone,omitempty"`   // adopted, and on no kept page any more
	Struck    int       `json:"struck,omitempty"` // points of it that a person dropped: others do not take their room
	Folded    bool      `json:"folded,omitempty"` // a matter that some treat, with no heading and no words of its own: said in passing
}

// Show is a table, a picture or a list, as pages have one on the matter.
type Show struct {
	Form    string   `json:"form"`
	Heads   []string `json:"heads,omitempty"` // of a table
	Says    string   `json:"says,omitempty"`  // of a picture
	Sources []int    `json:"sources"`
}

// Point is a statement that several pages make, in the words of one.
type Point struct {
	Key      string   `json:"key"`
	Text     string   `json:"text"`
	Rank     int      `json:"rank"`               // of the page whose words they are
	Sources  []int    `json:"sources"`            // ranks of the pages that say so
	Disputed []string `json:"disputed,omitempty"` // the figures that pages differ in, as they are written
	Edited   bool     `json:"edited,omitempty"`   // the words are a person's, and not a page's
	Gone     bool     `json:"gone,omitempty"`     // no kept page says so any more

	Chosen bool `json:"chosen,omitempty"` // by a person, and so never left to the dossier
}

// Term is a term to use, with how often: the field's range scaled to the
// brief's length.
type Term struct {
	Key     string `json:"key"`
	Term    string `json:"term"`
	Tier    string `json:"tier"`
	Pages   int    `json:"pages"`
	Of      int    `json:"of"`
	Lower   int    `json:"lower"`
	Median  int    `json:"median"`
	Upper   int    `json:"upper"`
	Most    int    `json:"most"`              // beyond it the term is overdone; 0 where nothing says so
	AtWill  bool   `json:"at_will,omitempty"` // the field disagrees too much for a range
	Sources []int  `json:"sources"`
	Gone    bool   `json:"gone,omitempty"`

	Chosen bool `json:"chosen,omitempty"`
}

// Fact is a sentence with a figure, adopted to be checked.
type Fact struct {
	Key     string   `json:"key"`
	Text    string   `json:"text"`
	Figures []string `json:"figures"`
	Sources []int    `json:"sources"` // pages that count and give it
	URL     string   `json:"url"`     // of the page whose words they are, counted or not
	Title   string   `json:"title"`
	Date    string   `json:"date,omitempty"` // of the page
	Gone    bool     `json:"gone,omitempty"`
}

// Entity is a thing to mention.
type Entity struct {
	Key      string `json:"key"`
	Name     string `json:"name"`
	Type     string `json:"type"`
	Pages    int    `json:"pages"`
	Mentions int    `json:"mentions"`
	Sources  []int  `json:"sources"`
	Gone     bool   `json:"gone,omitempty"`
}

// Question is a question to answer.
type Question struct {
	Key        string                `json:"key"`
	Text       string                `json:"text"`
	Kind       language.QuestionKind `json:"kind"`
	OnResults  bool                  `json:"on_results"` // asked on the results page
	AskedBy    []int                 `json:"asked_by"`
	AnsweredBy []int                 `json:"answered_by"`
	Section    string                `json:"section"` // heading of the outline it is placed under
	Gone       bool                  `json:"gone,omitempty"`

	Chosen bool `json:"chosen,omitempty"`
}

// Links are addresses to give.
type Links struct {
	Outward []Outward     `json:"outward"`
	Inward  []links.Link  `json:"inward"` // own pages to link to from this one
	From    []links.Link  `json:"from"`   // own pages that should link to this one
	Rivals  []links.Rival `json:"rivals"` // own pages that stand for this keyword already

	OutwardWanted [2]int `json:"outward_wanted"` // how many, from and to
	InwardWanted  [2]int `json:"inward_wanted"`
}

// Outward is an address that several pages of the field link to, or one that a person added.
type Outward struct {
	Key     string `json:"key"`
	URL     string `json:"url"`
	Pages   int    `json:"pages"`
	Sources []int  `json:"sources"`
	Gone    bool   `json:"gone,omitempty"`

	Chosen bool `json:"chosen,omitempty"`
}

// Source is a page the brief was made from.
type Source struct {
	Rank  int    `json:"rank"`
	URL   string `json:"url"`
	Title string `json:"title"`
	Words int    `json:"words"`
	Kind  string `json:"kind"`
}
