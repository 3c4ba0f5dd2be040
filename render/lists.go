package render

import (
	"fmt"
	"slices"
	"strings"

	"corpulan/core/brief"
	"corpulan/core/message"
)

func terms(b brief.Brief) Block {
	in := b.In()
	t := Block{Form: TableForm, Name: "terms", Empty: in.Put("No terms are in the brief."), Columns: []Column{{Name: in.Put("term")}, {Name: in.Put("use")}, {Name: in.Put("tier")}, {Name: in.Put("pages"), Figures: true}, {Name: in.Put("ranks"), Small: true}}}
	for _, x := range b.Terms {
		t.Rows = append(t.Rows, Row{Group: x.Tier, Finding: Finding{brief.TermKind, x.Key, x.Pages, x.Sources, x.Gone},
			Cells: []Cell{{Text: x.Term}, {Text: uses(in, x), Short: usesShort(x)}, {Text: or(in.Look(x.Tier), in.Put("on no kept page"))}, {Text: in.Put("%d of %d", x.Pages, x.Of)}, {Text: Ranks(x.Sources)}}})
	}
	return t
}

// entities are those of one type after another, in the order the types first come.
func entities(b brief.Brief) Block {
	in := b.In()
	t := Block{Form: TableForm, Name: "entities", Empty: in.Put("No name stands on two pages; none is proposed."), Columns: []Column{{Name: in.Put("entity")}, {Name: in.Put("type")}, {Name: in.Put("pages"), Figures: true}, {Name: in.Put("mentions"), Figures: true}, {Name: in.Put("ranks"), Small: true}}}
	order := map[string]int{}
	for _, x := range b.Entities {
		if _, ok := order[x.Type]; !ok {
			order[x.Type] = len(order)
		}
		t.Rows = append(t.Rows, Row{Group: x.Type, Finding: Finding{brief.EntityKind, x.Key, x.Pages, x.Sources, x.Gone},
			Cells: []Cell{{Text: x.Name}, {Text: in.Say(message.Label(x.Type, "names"))}, {Text: fmt.Sprint(x.Pages)}, {Text: fmt.Sprint(x.Mentions)}, {Text: Ranks(x.Sources)}}})
	}
	slices.SortStableFunc(t.Rows, func(a, b Row) int { return order[a.Group] - order[b.Group] })
	return t
}

func questions(b brief.Brief) Block {
	in := b.In()
	t := Block{Form: ListForm, Name: "questions", Empty: in.Put("Nobody asks anything.")}
	for _, q := range b.Questions {
		t.Rows = append(t.Rows, Row{Finding: Finding{brief.QuestionKind, q.Key, len(q.AnsweredBy), q.AnsweredBy, q.Gone}, Cells: []Cell{{Text: q.Text, Note: questionNote(in, q), Short: questionShort(in, q)}}})
	}
	return t
}

// openings are what few pages say, or none; they are no parts of the brief, but stand
// beside its outline.
func openings(b brief.Brief) Block {
	in := b.In()
	t := Block{Form: ListForm, Name: "openings"}
	for _, o := range b.Openings {
		t.Rows = append(t.Rows, Row{Group: string(o.Kind), Finding: Finding{Kind: brief.Kind(o.Of), Key: o.Key, Ranks: o.Ranks}, Cells: []Cell{{Text: o.Text, Note: in.Look(string(o.Kind)) + ": " + in.Say(o.Why), Short: in.Say(o.Why)}}})
	}
	return t
}

func toCheck(b brief.Brief) Block {
	in := b.In()
	t := Block{Form: ListForm, Name: "facts"}
	for _, x := range b.Facts {
		note := ranksOf(in, x.Sources)
		if len(x.Sources) == 0 {
			note = strings.Join(slices.DeleteFunc([]string{x.Title, x.URL, in.Put("not counted")}, func(s string) bool { return s == "" }), ", ")
		}
		if x.Date != "" {
			note += ", " + in.Put("page of %s", x.Date)
		}
		kind := brief.FactKind
		if strings.HasPrefix(x.Key, brief.PickPrefix) { // it goes with the thing that is listed
			kind = ""
		}
		t.Rows = append(t.Rows, Row{Finding: Finding{kind, x.Key, len(x.Sources), x.Sources, x.Gone}, Cells: []Cell{{Text: x.Text, Note: note, Short: x.Date}}})
	}
	return t
}

func linksOut(b brief.Brief) Block {
	in := b.In()
	t := Block{Form: ListForm, Name: "links_out", Text: wanted(in, "links to other sites", b.Links.OutwardWanted, b.Front.Kind), Empty: in.Put("No address is linked to by two pages.")}
	for _, l := range b.Links.Outward {
		note := ranksOf(in, l.Sources)
		if l.Pages == 0 && !l.Gone {
			note = in.Put("added by hand")
		}
		t.Rows = append(t.Rows, Row{Finding: Finding{brief.LinkKind, l.Key, l.Pages, l.Sources, l.Gone}, Cells: []Cell{{Text: l.URL, URL: l.URL, Note: note}}})
	}
	return t
}

// wanted says how many links a page of a kind usually has.
func wanted(in brief.Speech, what string, n [2]int, kind string) string {
	switch {
	case kind == "" || n == [2]int{}:
		return ""
	case n[0] == n[1]:
		return in.Put("A %s usually has %d %s.", in.Look(kind), n[0], in.Look(what))
	}
	return in.Put("A %s usually has %d to %d %s.", in.Look(kind), n[0], n[1], in.Look(what))
}

func linksTo(b brief.Brief) Block {
	in := b.In()
	t := Block{Form: TableForm, Name: "links_in", Text: in.Put("To link to from this page"), Empty: in.Put("No own page is known that has to do with this keyword."),
		Columns: []Column{{Name: in.Put("page")}, {Name: in.Put("anchor text")}, {Name: in.Put("from the section")}, {Name: in.Put("what they share"), Small: true}}}
	for _, l := range b.Links.Inward {
		t.Rows = append(t.Rows, Row{Finding: Finding{Kind: brief.LinkKind, Key: brief.ToPrefix + l.URL}, Cells: []Cell{{Text: or(l.Title, l.URL), URL: l.URL}, {Text: l.Anchor}, {Text: l.Section}, {Text: strings.Join(l.Shared, ", ")}}})
	}
	return t
}

func linksFrom(b brief.Brief) Block {
	in := b.In()
	t := Block{Form: TableForm, Name: "links_from", Text: in.Put("That should link to this page"),
		Columns: []Column{{Name: in.Put("page")}, {Name: in.Put("anchor text")}, {Name: in.Put("the sentence to link from")}}}
	for _, l := range b.Links.From {
		t.Rows = append(t.Rows, Row{Finding: Finding{Kind: brief.LinkKind, Key: brief.FromPrefix + l.URL}, Cells: []Cell{{Text: or(l.Title, l.URL), URL: l.URL}, {Text: l.Anchor}, {Text: l.Sentence, Note: l.Heading}}})
	}
	return t
}

// cuttings are those that stand under no section: the others stand there.
func cuttings(b brief.Brief) Block {
	in := b.In()
	t := Block{Form: ListForm, Name: "cuttings"}
	for _, x := range b.Cuttings {
		if x.Section != "" {
			continue
		}
		t.Rows = append(t.Rows, Row{Finding: Finding{Kind: "cutting", Key: x.ID}, Cells: []Cell{{Text: quoted(x), Note: sourceOf(in, x), Short: x.Note}}})
	}
	return t
}

// rivals are own pages that stand for the keyword already: a warning, not a link.
func rivals(b brief.Brief) Block {
	in := b.In()
	t := Block{Form: ListForm, Name: "rivals", Text: in.Put("Stands for this keyword already: improve it, or join the two, before a second page is written")}
	for _, r := range b.Links.Rivals {
		t.Rows = append(t.Rows, Row{Cells: []Cell{{Text: or(r.Title, r.URL), URL: r.URL, Note: in.Say(r.Why)}}})
	}
	return t
}

func sources(b brief.Brief) Block {
	in := b.In()
	t := Block{Form: TableForm, Name: "sources", Columns: []Column{{Name: in.Put("rank"), Figures: true}, {Name: in.Put("page")}, {Name: in.Put("words"), Figures: true}, {Name: in.Put("kind")}}}
	add := func(s brief.Source, kind string) {
		page := Cell{Text: or(s.Title, s.URL, in.Put("untitled"))}
		if strings.HasPrefix(s.URL, "http") { // a file that somebody brought has no address
			page.URL = s.URL
		}
		t.Rows = append(t.Rows, Row{Finding: Finding{Pages: 1, Ranks: []int{s.Rank}}, Cells: []Cell{{Text: fmt.Sprint(s.Rank)}, page, {Text: fmt.Sprint(s.Words)}, {Text: in.Look(kind)}}})
	}
	for _, s := range b.Sources {
		add(s, s.Kind)
	}
	for _, s := range b.References {
		add(s, "read beside the field")
	}
	return t
}
