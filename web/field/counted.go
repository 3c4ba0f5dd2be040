package field

import (
	"cmp"
	"fmt"
	"slices"
	"strconv"
	"strings"

	"github.com/gin-gonic/gin"

	"corpulan/core/corpus"
	"corpulan/core/fit"
	"corpulan/core/message"
	"corpulan/core/reading"
	"corpulan/core/text"
	"corpulan/store"
	"corpulan/web/kit"
	"corpulan/web/parts"
)

// countedOf shows what a measure of a page was counted from.
func (s *handlers) countedOf(c *gin.Context) {
	an, err := s.Analyse(c)
	if err != nil {
		s.Fail(c, err)
		return
	}
	id, _ := strconv.ParseInt(c.Param("result"), 10, 64)
	i := slices.IndexFunc(an.Results, func(r store.Result) bool { return r.ID == id })
	if i < 0 || an.Results[i].ReadingID == nil || an.Docs[*an.Results[i].ReadingID] == nil {
		s.Fail(c, store.ErrNotFound)
		return
	}
	r, doc := an.Results[i], an.Docs[*an.Results[i].ReadingID]
	page := countedPage{doc, fmt.Sprintf("/studies/%d/pages/%d", an.Study.ID, r.ID)}
	body := parts.Behind{Title: cmp.Or(doc.Reading.Title, r.Title)}
	name, measure := message.Message("Fit to the brief"), c.Param("measure")
	if measure == fitColumn {
		body.About = "points of 100, part by part, and what is missing"
		body.Lines = page.fit(fit.Of(&an.Brief, doc, nil), an.In)
	} else {
		f := an.Evidence.Figure(measure)
		of := page.of(measure)
		if f.Key == "" || of == nil {
			s.Fail(c, store.ErrNotFound)
			return
		}
		name, body.Lines, body.About = message.Message(f.Name), of(), aboutMeasure[measure]
	}
	body.Of = message.Of("%v · %s, rank %d", name, r.Host, r.Rank)
	if r.Own {
		body.Of = message.Of("%v · %s, ours", name, r.Host)
	}
	parts.ShowBehind(s.Kit, c, body)
}

// aboutMeasure says how a measure is made, where it is more than the number of its places.
var aboutMeasure = map[string]message.Message{
	"words":  "section by section, headings included",
	"images": "those that have a caption or a text; others have nothing to show here",
	"grade":  "long sentences and long words raise it; the longest sentences first",
	"ease":   "long sentences and long words lower it; the longest sentences first",
}

// countedPage is a page with the address of how it was read.
type countedPage struct {
	*corpus.Doc
	path string
}

func (p countedPage) section(i int) string { return fmt.Sprintf("%s/sections/%d", p.path, i) }

// of is what lists the places of a measure; nil for one that has none.
func (p countedPage) of(measure string) func() []parts.BehindLine {
	return map[string]func() []parts.BehindLine{
		"words": p.words, "headings": p.headings, "paragraphs": p.paragraphs, "images": p.images, "tables": p.tables,
		"internal_links": func() []parts.BehindLine { return p.links(false) },
		"external_links": func() []parts.BehindLine { return p.links(true) },
		"grade":          p.sentences, "ease": p.sentences,
	}[measure]
}

func (p countedPage) words() (list []parts.BehindLine) {
	for i, x := range p.Reading.Sections {
		if n := x.Words + len(text.Words(x.Heading)); n > 0 {
			list = append(list, parts.BehindLine{Figure: strconv.Itoa(n), What: levelOf(x.Level), Text: cmp.Or(x.Heading, opens(x.Text)), Href: p.section(i)})
		}
	}
	return list
}

func (p countedPage) headings() (list []parts.BehindLine) {
	for i, h := range p.Reading.Headings {
		list = append(list, parts.BehindLine{Figure: strconv.Itoa(i + 1), What: levelOf(h.Level), Text: h.Text, Href: p.section(i + 1)})
	}
	return list
}

func (p countedPage) paragraphs() (list []parts.BehindLine) {
	for i, x := range p.Reading.Sections {
		for kind, line := range x.Blocks() {
			if kind == reading.LineParagraph || kind == reading.LineQuote {
				list = append(list, parts.BehindLine{Figure: strconv.Itoa(len(list) + 1), What: message.Counted(len(text.Words(line)), "word"), Text: opens(line), Href: p.section(i)})
			}
		}
	}
	return list
}

func (p countedPage) images() (list []parts.BehindLine) {
	for i, t := range p.Reading.ImageTexts {
		list = append(list, parts.BehindLine{Figure: strconv.Itoa(i + 1), Text: t})
	}
	return list
}

func (p countedPage) tables() (list []parts.BehindLine) {
	for i, t := range p.Reading.Tables {
		columns, head := 0, t.Caption
		for _, row := range t.Rows {
			columns = max(columns, len(row))
		}
		if head == "" && len(t.Rows) > 0 {
			head = strings.Join(t.Rows[0], " | ")
		}
		list = append(list, parts.BehindLine{Figure: strconv.Itoa(i + 1), What: message.Of("%d by %d", len(t.Rows), columns), Text: opens(head), Href: p.section(t.Section)})
	}
	return list
}

// links are those of the site, or to others; a reading has each address once.
func (p countedPage) links(external bool) (list []parts.BehindLine) {
	for _, l := range p.Reading.Links {
		if l.External == external {
			list = append(list, parts.BehindLine{Figure: strconv.Itoa(len(list) + 1), What: message.Text(l.Text), Text: l.URL, Href: p.section(l.Section)})
		}
	}
	return list
}

// sentences are those of the text, the longest first.
func (p countedPage) sentences() (list []parts.BehindLine) {
	words := map[int]int{}
	var at []int
	for i, x := range p.Sentences {
		if !x.Heading {
			at, words[i] = append(at, i), len(text.Words(x.Text))
		}
	}
	slices.SortStableFunc(at, func(a, b int) int { return cmp.Compare(words[b], words[a]) })
	for _, i := range at {
		list = append(list, parts.BehindLine{Figure: strconv.Itoa(words[i]), What: message.Text(p.Reading.Sections[p.Sentences[i].Section].Heading), Text: p.Sentences[i].Text, Href: p.section(p.Sentences[i].Section)})
	}
	return list
}

// fit are the parts of how far the page meets the brief, each with what it lacks.
func (p countedPage) fit(f fit.Fit, in message.Language) (list []parts.BehindLine) {
	for _, x := range f.Parts {
		var lacks []string
		for _, m := range x.Missing {
			lacks = append(lacks, m.Text.In(in))
		}
		list = append(list, parts.BehindLine{Figure: fmt.Sprintf("%.0f", 100*x.Weight*x.Score), What: message.Of("%v, of %.0f", fit.PartName(x.Name), 100*x.Weight), Text: strings.Join(lacks, " · ")})
	}
	return list
}

// levelOf is what a heading is on its page.
func levelOf(level int) message.Message {
	if level == 0 {
		return "Opening"
	}
	return message.Of("h%d", level)
}

// opens is how a text begins, some four lines of it.
func opens(s string) string {
	s = strings.ReplaceAll(s, "\n", " ")
	if cut := kit.Shorten(s, parts.FewLines); cut != s {
		return cut + "…"
	}
	return s
}
