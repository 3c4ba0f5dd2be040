package draft

import (
	"net/url"
	"slices"

	"corpulan/core/brief"
	"corpulan/core/evidence"
	"corpulan/core/fit"
	"corpulan/core/message"
	"corpulan/core/stats"
	"corpulan/web/parts"
)

// draftRow is a line of what the brief asks for.
type draftRow struct {
	Part  string
	State string // "missing", "overdone" or "met"
	fit.Item
	Block int
	ID    string
	Load  string // where its sentences of the field are
}

// row makes a line of an item.
func (b *draftBody) row(part, state string, x fit.Item) draftRow {
	r := draftRow{Part: part, State: state, Item: x, Block: b.Block(x.Section), ID: parts.LineID(part + " " + x.Key + x.Text.String())}
	switch part {
	case fit.Terms, fit.Entities, fit.Questions, fit.Sections, fit.Things:
		kind := map[string]brief.Kind{fit.Terms: brief.TermKind, fit.Entities: brief.EntityKind, fit.Questions: brief.QuestionKind, fit.Sections: brief.ThemeKind, fit.Things: brief.ThingKind}[part]
		r.Load = b.Base + "/sentences?" + url.Values{"kind": {string(kind)}, "key": {x.Key}}.Encode()
	}
	if part == fit.Terms && x.Score == 0 {
		r.Block = -1
	}
	return r
}

// Rows are the lines of a part: what lacks first.
func (b *draftBody) Rows(p fit.Part) []draftRow {
	var list []draftRow
	for _, x := range p.Overdone {
		list = append(list, b.row(p.Name, "overdone", x))
	}
	for _, x := range p.Missing {
		list = append(list, b.row(p.Name, "missing", x))
	}
	for _, x := range p.Met {
		list = append(list, b.row(p.Name, "met", x))
	}
	return list
}

// MissingRows are the lines of what lacks, the cheapest first, or of all of one part.
func (b *draftBody) MissingRows() []draftRow {
	var list []draftRow
	for _, p := range b.M.Parts {
		if p.Name == b.Show {
			return b.Rows(p)
		}
	}
	for _, l := range b.M.Missing() {
		state := "missing"
		if l.Over {
			state = "overdone"
		}
		if b.Show == "" || b.Show == state || b.Show == "absent" && l.Score == 0 {
			list = append(list, b.row(l.Part, state, l.Item))
		}
	}
	if b.Show == "" { // what a reader would be told wrongly comes before words that are not there
		at := slices.IndexFunc(list, func(r draftRow) bool {
			return !slices.Contains([]string{fit.Questions, fit.Sections, fit.Things}, r.Part)
		})
		if at < 0 {
			at = len(list)
		}
		list = slices.Insert(list, at, b.otherwise()...)
	}
	if b.Show == "within" {
		for _, p := range b.M.Parts {
			for _, x := range p.Met {
				list = append(list, b.row(p.Name, "met", x))
			}
		}
	}
	return list
}

// claimPart marks the line of a claim, which is none of a part of the fit.
const claimPart = "claim"

// otherwise are the figures and dates of the draft of which the field says something else.
func (b *draftBody) otherwise() (list []draftRow) {
	for _, f := range b.M.Figures {
		if f.SaidOtherwise() {
			list = append(list, draftRow{Part: claimPart, State: "overdone", Item: fit.Item{Text: message.Text(f.Text), Says: f.Says()}, Block: f.Mark.Block, ID: parts.LineID(claimPart + f.Text + f.Sentence)})
		}
	}
	return list
}

// Filters are what the missing can be narrowed to, with how many.
func (b *draftBody) Filters() []draftFilter {
	all := draftFilter{"", "all", len(b.M.Missing())}
	absent, over, within := draftFilter{Name: "absent", Text: "absent"}, draftFilter{Name: "overdone", Text: "overdone"}, draftFilter{Name: "within", Text: "within"}
	var parts []draftFilter
	for _, p := range b.M.Parts {
		for _, x := range p.Missing {
			if x.Score == 0 {
				absent.N++
			}
		}
		over.N += len(p.Overdone)
		within.N += len(p.Met)
		parts = append(parts, draftFilter{p.Name, fit.PartName(p.Name), len(p.Missing) + len(p.Overdone)})
	}
	return append([]draftFilter{all, absent, over, within}, parts...)
}

type draftFilter struct {
	Name string
	Text message.Message
	N    int
}

// Kind is the word for a line of a part.
func (r draftRow) Kind() string {
	return map[string]string{fit.Terms: "term", fit.Sections: "section", fit.Questions: "question", fit.Entities: "name", fit.Things: "thing", fit.Length: "length", fit.Form: "form", claimPart: "claim"}[r.Part]
}

// Outline is the outline of the brief with what is covered of it.
func (b *draftBody) Outline() []draftSection {
	covered := map[string]fit.Item{}
	for _, p := range b.M.Parts {
		if p.Name == fit.Sections {
			for _, x := range slices.Concat(p.Missing, p.Met) {
				covered[x.Key] = x
			}
		}
	}
	var list []draftSection
	b.An.Brief.Each(func(x *brief.Section) {
		if x.Folded {
			return
		}
		item := covered[x.Key]
		section := draftSection{Section: *x, Item: item, Block: b.Block(item.Section)}
		if f, ok := b.An.Evidence.Finding(brief.ThemeKind, x.Key); ok {
			section.Theirs = wordsBySource(b.An.Evidence, f.Key)
			section.Range = stats.RangeOf(used(section.Theirs))
		}
		list = append(list, section)
	})
	return list
}

type draftSection struct {
	brief.Section
	Item   fit.Item
	Block  int
	Theirs []int       // words that each kept page gives it in a section of its own, in the order of the sources; nil where it is none of theirs
	Range  stats.Range // of those that do
}

// wordsBySource are the words of the longest section of each page on a theme.
func wordsBySource(e *evidence.Evidence, key string) []int {
	words := make([]int, len(e.Sources))
	for _, t := range e.Themes {
		if t.Key != key {
			continue
		}
		for _, m := range t.Members {
			for i, s := range e.Sources {
				if s.Rank == m.Rank {
					words[i] = max(words[i], m.Words)
				}
			}
		}
	}
	return words
}

// used are the figures that are more than zero.
func used(counts []int) (list []float64) {
	for _, n := range counts {
		if n > 0 {
			list = append(list, float64(n))
		}
	}
	return list
}

// Alone is what the text has and no kept page.
func (b *draftBody) Alone() fit.Alone {
	return fit.AloneIn(b.M.Fit, b.M.Doc, b.An.Pages, b.M.Figures, b.An.Evidence)
}

// Cuttings are the passages kept for the writer, and the facts to be checked; those not used yet first.
func (b *draftBody) Cuttings() []draftCutting {
	var list []draftCutting
	for _, x := range b.An.Brief.Cuttings {
		list = append(list, draftCutting{x, false, b.M.Used[x.ID]})
	}
	for _, x := range b.An.Brief.Facts {
		id := brief.CuttingID(x.URL, x.Text)
		if slices.ContainsFunc(list, func(c draftCutting) bool { return c.ID == id }) {
			continue
		}
		list = append(list, draftCutting{brief.Cutting{ID: id, Kind: "figure", Text: x.Text, URL: x.URL, Title: x.Title}, true, b.M.Used[fit.FactKey(x)]})
	}
	slices.SortStableFunc(list, func(x, y draftCutting) int { return unused(x) - unused(y) })
	return list
}

func unused(x draftCutting) int {
	if x.Used {
		return 1
	}
	return 0
}

type draftCutting struct {
	brief.Cutting
	Fact bool
	Used bool
}

// Data is what the editor puts into the text.
func (x draftCutting) Data() map[string]string {
	return map[string]string{"text": x.Text, "url": x.URL, "title": x.Title}
}
