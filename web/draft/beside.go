package draft

import (
	"fmt"
	"html/template"
	"slices"
	"strings"

	"corpulan/analysis"
	"corpulan/core/draft"
	"corpulan/core/evidence"
	"corpulan/core/fit"
	"corpulan/core/language"
	"corpulan/core/message"
	"corpulan/core/reading"
	"corpulan/core/text"
	"corpulan/render"
	"corpulan/store"
	"corpulan/study"
	"corpulan/words"

	"github.com/gin-gonic/gin"
)

// draftBody is the draft with what stands beside it.
type draftBody struct {
	desk
	An       *analysis.Analysis
	Saved    store.Draft
	Node     *draft.Node
	M        *analysis.Measured
	Tab      string
	Show     string // what of the missing is shown
	Versions []store.DraftVersion
	Own      []study.OwnText
	Formats  []render.DraftFormat
	Boot     draftBoot
	Spelt    bool // there is a dictionary for the language
	ReadOnly bool // somebody who only looks

	sections []int // first blocks of the sections of the reading
}

// draftTab is a view beside the text.
type draftTab struct{ Name, Text string }

// Tabs are the views beside the text.
func (b *draftBody) Tabs() []draftTab {
	return []draftTab{{"fit", "Fit"}, {"missing", "Missing"}, {"brief", "Brief"}, {"language", "Language"}, {"closeness", "Closeness"}, {"sources", "Sources"}, {"versions", "Versions"}}
}

// maxVersions is how many versions are listed.
const maxVersions = 100

// draftBody loads the place; n is the text as the editor has it, nil for the saved one.
func (s *handlers) draftBody(c *gin.Context, n *draft.Node) (*draftBody, error) {
	ctx := c.Request.Context()
	b := &draftBody{desk: deskOf(c), Tab: c.DefaultQuery("beside", "fit"), Show: c.Query("show"), Node: n, Formats: render.DraftFormats()}
	if !slices.ContainsFunc(b.Tabs(), func(t draftTab) bool { return t.Name == b.Tab }) {
		b.Tab = "fit"
	}
	saved, doc, err := b.commands.Draft(ctx, b.study.ID)
	if err != nil {
		return nil, err
	}
	if b.Saved = saved; n == nil {
		b.Node = doc
	}
	if b.An, err = s.Analyst.Analyse(ctx, b.scope, b.study); err != nil {
		return nil, err
	}
	if b.M, err = s.Analyst.Measure(ctx, b.scope, b.An, b.Node, saved.Said.Data()); err != nil {
		return nil, err
	}
	b.sections = sectionBlocks(b.Node)
	b.Spelt = s.Dictionary(dictionaryOf(b.An.Study)) != nil
	if b.Tab == "versions" {
		if b.Versions, err = b.scope.DraftVersions(ctx, saved.ID, maxVersions); err != nil {
			return nil, err
		}
		if !b.ByLink {
			if b.Own, err = study.OwnTexts(ctx, b.scope, b.An); err != nil {
				return nil, err
			}
		}
	}
	return b, nil
}

// sectionBlocks are the textblocks that the sections of a draft's reading begin with: the
// opening's, then each heading's.
func sectionBlocks(n *draft.Node) []int {
	list := []int{0}
	for _, b := range n.Blocks() {
		if b.Heading > 0 && text.HasWord(b.Text) {
			list = append(list, b.Number)
		}
	}
	return list
}

// Block is where a section of the draft begins; -1 for none.
func (b *draftBody) Block(section int) int {
	if section < 0 || section >= len(b.sections) {
		return -1
	}
	return b.sections[section]
}

// AllMarks are the marks of the text: those of its fit, and figures without a source, as they are
// said in a language.
func (b *draftBody) AllMarks(in *words.Words) []fit.Mark {
	list := slices.Clone(b.M.Marks)
	for _, f := range b.M.Figures {
		if f.WantsSource() && (f.Source == "" || f.Page && !f.There) {
			list = append(list, f.Mark)
		}
	}
	list = list[:min(len(list), maxMarks)]
	for i, m := range list {
		list[i].Says = message.Text(in.Say(m.Says))
	}
	return list
}

// Bounds of what is shown of a very long text. Our own.
const (
	maxMarks   = 10_000
	maxFigures = 200
)

// Claims are what wants a source: figures, and what else no page of the field has.
func (b *draftBody) Claims() (list []fit.Figure) {
	for _, f := range b.M.Figures {
		if f.WantsSource() || len(f.Ranks) == 0 {
			list = append(list, f)
		}
	}
	return list
}

// Figures are the first of them, as many as are listed.
func (b *draftBody) Figures() []fit.Figure {
	list := b.Claims()
	return list[:min(len(list), maxFigures)]
}

// Score draws where the field stands, and the draft.

// Doing says what a part counts.
func (b *draftBody) Doing(name string) message.Message {
	return map[string]message.Message{
		fit.Terms:     "each in a sentence, as often as the pages use it; in a heading alone it counts a tenth, beyond the fence it costs",
		fit.Sections:  "covered by sentences that say what its heading, points and terms are about; the heading alone gives nothing",
		fit.Questions: "answered by a passage of the text",
		fit.Things:    "named, with some twenty words on each; the table that compares them weighs as much as two",
		fit.Entities:  "named in a sentence",
		fit.Length:    "words of sentences that count, each sentence once; quotations and lists of words are left out",
		fit.Form:      "what a page has beside its sentences; it grows with the text",
	}[name]
}

// Points are what a part gives, and could give, of 100.
func (b *draftBody) Points(p fit.Part) message.Message {
	return message.Of("%.0f of %.0f", 100*p.Weight*p.Score, 100*p.Weight)
}

// Closest says which page the draft is too near to; nothing where it is near to none.
func (b *draftBody) Closest() message.Message {
	if len(b.M.Closeness) == 0 || b.M.Closeness[0].Share < tooClose && b.M.Closeness[0].Longest < longRun {
		return ""
	}
	c := b.M.Closeness[0]
	return message.Of("%.0f %% of it stands word for word on page %d, up to %d words in a row", 100*c.Share, c.Rank, c.Longest)
}

// From where on a draft is called close to a page: a share of its shingles, or a run of words.
// Our own: a sentence taken over whole is said.
const (
	tooClose = 0.05
	longRun  = 15
)

// Unsourced is how many claims have no source, or one that does not say so.
func (b *draftBody) Unsourced() int {
	n := 0
	for _, f := range b.Claims() {
		if f.Source == "" || f.Page && !f.There {
			n++
		}
	}
	return n
}

// Long counts long sentences and paragraphs.
func (b *draftBody) Long(kind string) int {
	n := 0
	for _, m := range b.M.Marks {
		if m.Kind == kind {
			n++
		}
	}
	return n
}

// StopShare says how much of the words are function words, and whether that is unusual.
func (b *draftBody) StopShare() message.Message {
	share := b.M.Reading.StopShare
	switch {
	case share == 0:
		return "not known for this language"
	case share > unusualStops:
		return message.Of("%.0f %%; above %.0f %% is unusual", 100*share, 100*unusualStops)
	}
	return message.Of("%.0f %%", 100*share)
}

// Ease says how easily the draft reads, against what plain text has.
func (b *draftBody) Ease() message.Message {
	ease, ok := language.EaseOf(b.An.Study.Language)
	switch r := b.M.Reading; {
	case !ok:
		return "no formula is known for this language"
	case r.Counts.Sentences == 0:
		return "no sentence yet"
	case ease.Harder:
		return message.Of("%.0f by %s; plain text has at most %.0f", r.Readability.Ease, ease.Formula, ease.Plain)
	default:
		return message.Of("%.0f by %s; plain text has at least %.0f", r.Readability.Ease, ease.Formula, ease.Plain)
	}
}

// unusualStops is a share of function words beyond what running text has. Common practice, no
// published source.
const unusualStops = 0.6

// Grade says the reading grade against the one asked for.
func (b *draftBody) Grade() message.Message {
	r := b.M.Reading
	if r.Counts.Sentences == 0 {
		return "no sentence yet"
	}
	return message.Of("%.1f; asked is %d, at most %d", r.Readability.FleschKincaidGrade, b.An.Brief.Grade(), b.An.Brief.Grade()+fit.GradeBeyond)
}

// PerSentence is the mean length of sentences, in words.
func (b *draftBody) PerSentence() string {
	c := b.M.Reading.Counts
	if c.Sentences == 0 {
		return "–"
	}
	return fmt.Sprintf("%.1f", float64(c.Words)/float64(c.Sentences))
}

// PageOf is the page of a rank.
func (b *draftBody) PageOf(rank int) evidence.Source {
	for _, p := range b.An.Evidence.Sources {
		if p.Rank == rank {
			return p
		}
	}
	return evidence.Source{}
}

// Checks says which checks of language there are for the study's language.
func (b *draftBody) Checks() message.Message {
	if b.An.Study.Language == "en" {
		return "Spelling, words that stand twice, and a or an are looked for in this browser; the names and terms of the field and the house lexicon are known."
	}
	if b.Spelt {
		return "Spelling and words that stand twice are looked for in this browser; articles are only for English. The names and terms of the field and the house lexicon are known."
	}
	return "There is no dictionary for this language."
}

// LongParagraph is the length from which a paragraph is hard to scan.
func (b *draftBody) LongParagraph() int { return reading.LongParagraph }

// HTML is the text for reading where there is no JavaScript: it holds nothing but the elements
// that core/draft writes.
func (b *draftBody) HTML() template.HTML { return template.HTML(b.Node.HTML()) }

// BriefAt is where the brief is.
func (b *draftBody) BriefAt() string {
	if b.ByLink {
		return strings.TrimSuffix(b.Base, "/draft")
	}
	return fmt.Sprintf("/studies/%d/brief", b.study.ID)
}

// Links are the addresses that the brief names, for the editor to offer.
func (b *draftBody) Links() []string {
	var list []string
	add := func(url string) {
		if url != "" && !slices.Contains(list, url) {
			list = append(list, url)
		}
	}
	for _, l := range b.An.Brief.Links.Inward {
		add(l.URL)
	}
	for _, l := range b.An.Brief.Links.Outward {
		add(l.URL)
	}
	for _, x := range b.An.Brief.Cuttings {
		add(x.URL)
	}
	for _, p := range b.An.Brief.Sources {
		add(p.URL)
	}
	return list
}
