package change

import (
	"fmt"
	"maps"
	"math"
	"slices"
	"strings"
	"unicode"

	"corpulan/core/brief"
	"corpulan/core/evidence"
)

// What a brief is to do about a finding or a field.
type What string

// The proposals.
const (
	TakeIn  What = "take in"
	TakeOut What = "take out"
	Renew   What = "renew" // a field: what would now be proposed for it
)

// Proposal is one change of a brief that stands, for a person to take over or to leave.
type Proposal struct {
	What  What       `json:"what"`
	Kind  brief.Kind `json:"kind,omitempty"` // of a finding; none for a field
	Key   string     `json:"key"`            // of a finding, or the name of a field
	Text  string     `json:"text"`           // the finding, or what would stand in the field
	Now   string     `json:"now,omitempty"`  // what stands in the field
	Pages int        `json:"pages"`          // that have it now
	Of    int        `json:"of"`
	Ranks []int      `json:"ranks"`
	Moved *Finding   `json:"moved,omitempty"` // what it did, where that is worth showing
}

// ID tells a proposal from the others of a brief.
func (p Proposal) ID() string { return string(p.What) + " " + string(p.Kind) + " " + p.Key }

// lengthWorth is by how much of it the length asked for has to change to be worth a proposal.
// Our own.
const lengthWorth = 0.1

// sharedPoint is how many pages have to make a point for it to be worth a proposal. Our own.
const sharedPoint = 2

// renewed are the fields that are worth a proposal, in the order of the document. What else is
// proposed for fields says in other words what the findings do, and follows when all is settled.
var renewed = []string{brief.FieldKind, brief.FieldTitleTag, brief.FieldMetaDescription, brief.FieldH1, brief.FieldSearchIntent, brief.FieldLength, brief.FieldShortAnswer}

// asks tells whether a finding moved so much that it is to be proposed: what merely passes or
// fails the bounds of how much a brief takes in is no movement. Where nobody knows what moved all
// is proposed.
func (m *Movement) asks(l line) bool {
	of, _ := evidence.OfKind(l.kind)
	switch {
	case of.Moves:
		return m == nil || m.about(l) != nil
	case l.kind == brief.LinkKind:
		return l.pages > 0 // not those within the site
	case l.kind == brief.PointKind:
		return l.pages >= sharedPoint
	}
	return m == nil && l.kind == brief.EntityKind
}

// Proposals are the changes that newer evidence asks of a brief that stands on an older
// gathering: the brief as it is laid beside the brief as it would be if it followed. There are
// none for a brief that follows. m is what moved since, nil where that is not known.
func Proposals(e *evidence.Evidence, c brief.Choices, s brief.Setting, m *Movement) []Proposal {
	if c.Stands == nil {
		return []Proposal{}
	}
	is, would := brief.Compose(e, c, s), brief.Compose(e, c.Following(), s)
	today := c.On(e)
	now, then := linesOf(is), linesOf(would)
	there := map[string]bool{} // points of sections that are in the brief
	is.Each(func(s *brief.Section) { there[s.Key] = true })
	would.Each(func(s *brief.Section) {
		if !there[s.Key] {
			then = slices.DeleteFunc(then, func(l line) bool {
				return l.kind == brief.PointKind && slices.ContainsFunc(s.Points, func(p brief.Point) bool { return p.Key == l.key })
			})
		}
	})
	for _, o := range is.Offers {
		if l := (line{kind: brief.ThemeKind, key: o.Key, text: o.Heading, pages: o.Pages, ranks: o.Sources}); !slices.ContainsFunc(then, l.same) {
			then = append(then, l)
		}
	}
	list := []Proposal{}
	add := func(what What, l line) {
		list = append(list, Proposal{What: what, Kind: l.kind, Key: l.key, Text: l.text, Pages: l.pages, Of: len(e.Sources), Ranks: l.ranks, Moved: m.about(l)})
	}
	for _, l := range then {
		if !slices.ContainsFunc(now, l.same) && today.State(l.kind, l.key) == "" && m.asks(l) {
			add(TakeIn, l)
		}
	}
	for _, l := range now {
		moved := m.about(l)
		switch state := today.State(l.kind, l.key); {
		case state == brief.Standing && !slices.ContainsFunc(then, func(o line) bool { return l.same(o) && !o.gone }) && (l.gone || l.kind != brief.PointKind && m.asks(l)):
			add(TakeOut, l)
		case l.kind == brief.ThemeKind && l.pages < 2 && moved != nil && (moved.How == Fallen || moved.How == Gone):
			add(TakeOut, l)
		}
	}
	return append(list, renewals(is, would, c.Stands, len(e.Sources))...)
}

// renewals propose the fields that newer evidence fills otherwise than stood.
func renewals(is, would brief.Brief, basis *brief.Basis, of int) (list []Proposal) {
	renew := func(name, text, now string) {
		list = append(list, Proposal{What: Renew, Key: name, Text: text, Now: now, Of: of, Ranks: []int{}})
	}
	for _, name := range renewed {
		stood, ok := basis.Fields[name]
		text := would.Field(name)
		switch {
		case !ok:
		case name == brief.FieldLength:
			if w := would.Words; math.Abs(float64(w.Target-is.Words.Target)) >= lengthWorth*float64(is.Words.Target) {
				renew(name, fmt.Sprintf("%d–%d", w.Lower, w.Upper), stood)
			}
		case name == brief.FieldKind:
			if is.Front.Kind != would.Front.Kind {
				renew(name, would.Front.Kind, is.Front.Kind)
			}
		case text != "" && withoutFigures(text) != withoutFigures(stood):
			renew(name, text, stood)
		}
	}
	return list
}

// withoutFigures is a text but for its figures: 96 % instead of 99 is nothing to decide about.
func withoutFigures(s string) string {
	return strings.Map(func(r rune) rune {
		if unicode.IsDigit(r) {
			return -1
		}
		return r
	}, s)
}

// line is a finding in a brief.
type line struct {
	kind  brief.Kind
	key   string
	text  string
	pages int
	ranks []int
	gone  bool
}

func (l line) same(o line) bool { return l.kind == o.kind && l.key == o.key }

func linesOf(b brief.Brief) (list []line) {
	add := func(k brief.Kind, key, text string, ranks []int, gone bool) {
		list = append(list, line{k, key, text, len(ranks), slices.Concat([]int{}, ranks), gone})
	}
	b.Each(func(s *brief.Section) { add(brief.ThemeKind, s.Key, s.Heading, s.Sources, s.Gone) })
	for _, t := range b.Terms {
		add(brief.TermKind, t.Key, t.Term, t.Sources, t.Gone)
	}
	for _, q := range b.Questions {
		add(brief.QuestionKind, q.Key, q.Text, q.AskedBy, q.Gone)
	}
	for _, x := range b.Entities {
		add(brief.EntityKind, x.Key, x.Name, x.Sources, x.Gone)
	}
	b.Each(func(s *brief.Section) {
		for _, p := range s.Points {
			add(brief.PointKind, p.Key, p.Text, p.Sources, p.Gone)
		}
	})
	for _, p := range b.Picks {
		add(brief.ThingKind, p.Key, p.Name, p.Sources, p.Gone)
	}
	for _, l := range b.Links.Outward {
		add(brief.LinkKind, l.Key, l.URL, l.Sources, l.Gone)
	}
	for _, l := range b.Links.Inward {
		add(brief.LinkKind, brief.ToPrefix+l.URL, l.URL, nil, false)
	}
	for _, l := range b.Links.From {
		add(brief.LinkKind, brief.FromPrefix+l.URL, l.URL, nil, false)
	}
	return list
}

// about is what moved of a line of a brief; nil for nothing.
func (m *Movement) about(l line) *Finding {
	if m == nil {
		return nil
	}
	list := map[brief.Kind][]Finding{brief.TermKind: m.Terms, brief.ThemeKind: m.Themes, brief.QuestionKind: m.Questions, brief.ThingKind: m.Listed}[l.kind]
	for i, f := range list {
		if f.Key == l.key || slices.ContainsFunc(f.Made, func(s string) bool { return s == l.key || strings.EqualFold(s, l.text) }) {
			return &list[i]
		}
	}
	return nil
}

// Settle is the edits that take some of all proposals over, or leave them: then they are a
// person's decisions. Where none is left to decide the brief follows the evidence again.
func Settle(e *evidence.Evidence, c brief.Choices, some, all []Proposal, take bool) ([]brief.Edit, error) {
	basis := c.Stands
	if basis == nil {
		return nil, nil
	}
	now := c.Clone()
	var edits []brief.Edit
	apply := func(more ...brief.Edit) error {
		for _, x := range more {
			if err := now.Apply(x); err != nil {
				return err
			}
		}
		edits = append(edits, more...)
		return nil
	}
	next := *basis
	next.Fields = maps.Clone(basis.Fields)
	var marks []brief.Mark
	for _, p := range some {
		switch {
		case p.What == Renew:
			stood := next.Fields[p.Key]
			delete(next.Fields, p.Key)
			if !take {
				if err := apply(now.Write(p.Key, &stood, nil)); err != nil {
					return nil, err
				}
			}
		case (p.What == TakeIn) == take:
			marks = append(marks, brief.Mark{Kind: p.Kind, Key: p.Key, Text: p.Text, State: brief.Adopted})
		default:
			marks = append(marks, brief.Mark{Kind: p.Kind, Key: p.Key, Text: p.Text, State: brief.Dropped})
		}
	}
	if err := apply(now.DecideOn(e, marks...)...); err != nil {
		return nil, err
	}
	if len(some) >= len(all) {
		if err := apply(now.Follow()...); err != nil || take {
			return edits, err
		}
		// Title and description say what the sections are; where these are left, so are those.
		free := brief.Compose(e, now, brief.Setting{})
		for _, name := range []string{brief.FieldTitleTag, brief.FieldMetaDescription} {
			if stood, ok := next.Fields[name]; ok && now.TypedIn(name) == nil && free.Field(name) != stood {
				if err := apply(now.Write(name, &stood, nil)); err != nil {
					return edits, err
				}
			}
		}
		return edits, nil
	}
	if len(next.Fields) != len(basis.Fields) {
		err := apply(now.WriteBasis(&next))
		return edits, err
	}
	return edits, nil
}
