package brief

import (
	"encoding/json"
	"fmt"
	"maps"
	"slices"
	"strings"

	"corpulan/core/evidence"
)

// A brief that somebody has worked on stands as it is when its study is gathered again: what
// the evidence had put into it stays, and what the new evidence would put in or take out is
// proposed, and taken over by hand. Figures and sources go on following.

// Standing is the state of what is in a brief because it was proposed when the brief began to
// stand; nobody decided about it.
const Standing State = "standing"

// Basis is the gathering that a brief stands on.
type Basis struct {
	Gathering int64                   `json:"gathering"`
	Gathered  string                  `json:"gathered"`         // YYYY-MM-DD
	Fields    map[string]string       `json:"fields"`           // what was proposed for fields that nobody typed into, by name
	Target    int                     `json:"target,omitempty"` // words to aim at, within the length that was proposed
	Outline   bool                    `json:"outline"`          // followed the evidence until then
	Headings  map[string]string       `json:"headings"`         // of sections that nobody had worded, by the field that holds them now
	Terms     []StoodTerm             `json:"terms,omitempty"`
	Findings  map[Kind][]StoodFinding `json:"findings,omitempty"` // in the brief, as they were listed
}

// StoodFinding is a finding in the words in which it stands.
type StoodFinding struct {
	Key  string `json:"key"`
	Text string `json:"text"`
}

// StoodTerm is how often a term was asked for when the brief began to stand.
type StoodTerm struct {
	Key    string `json:"key"`
	Tier   string `json:"tier"`
	Lower  int    `json:"lower"`
	Median int    `json:"median"`
	Upper  int    `json:"upper"`
	Most   int    `json:"most"`
	AtWill bool   `json:"at_will,omitempty"`
}

// letStand gives the findings of a brief the words and the order, and its terms the figures, that they
// stand with.
func (b *Brief) letStand(c Choices) {
	basis := c.basis
	if basis == nil {
		return
	}
	now := func(k Kind, key string) string { // of a finding that stands, its key of today
		if t, ok := c.today[k][key]; ok {
			return t
		}
		return key
	}
	for i := range b.Terms {
		t := &b.Terms[i]
		if k := slices.IndexFunc(basis.Terms, func(x StoodTerm) bool { return now(TermKind, x.Key) == t.Key }); k >= 0 {
			x := basis.Terms[k]
			t.Tier, t.Lower, t.Median, t.Upper, t.Most, t.AtWill = x.Tier, x.Lower, x.Median, x.Upper, x.Most, x.AtWill
		}
	}
	stood := func(k Kind) []StoodFinding {
		list := slices.Clone(basis.Findings[k])
		for i := range list {
			list[i].Key = now(k, list[i].Key)
		}
		return list
	}
	standIn(b.Terms, stood(TermKind), func(t *Term) (string, *string) { return t.Key, &t.Term })
	standIn(b.Entities, stood(EntityKind), func(x *Entity) (string, *string) { return x.Key, &x.Name })
	standIn(b.Questions, stood(QuestionKind), func(q *Question) (string, *string) { return q.Key, &q.Text })
	standIn(b.Picks, stood(ThingKind), func(p *Pick) (string, *string) { return p.Key, &p.Name })
	standIn(b.Links.Outward, stood(LinkKind), func(l *Outward) (string, *string) { return l.Key, &l.URL })
}

// had tells whether a finding was in the brief when it began to stand.
func (b *Basis) had(k Kind, key string) bool {
	return b != nil && slices.ContainsFunc(b.Findings[k], func(x StoodFinding) bool { return x.Key == key })
}

// standIn sorts what has come since behind what stands, and that as it stood, in its words.
func standIn[T any](list []T, stood []StoodFinding, of func(*T) (key string, text *string)) {
	at := make(map[string]int, len(stood))
	for i, x := range stood {
		at[x.Key] = i + 1
	}
	place := func(x *T) int {
		key, _ := of(x)
		if i := at[key]; i > 0 {
			return i
		}
		return len(stood) + 1
	}
	slices.SortStableFunc(list, func(x, y T) int { return place(&x) - place(&y) })
	for i := range list {
		if key, text := of(&list[i]); at[key] > 0 {
			*text = stood[at[key]-1].Text
		}
	}
}

// stood is what was proposed for a field when the brief began to stand.
func (c Choices) stood(field string) (text string, ok bool) {
	if c.basis == nil {
		return "", false
	}
	text, ok = c.basis.Fields[field]
	return text, ok
}

// WriteBasis is the edit that puts a brief on a basis; nil lets it follow the evidence.
func (c Choices) WriteBasis(b *Basis) Edit {
	if b == nil {
		return c.Write(FieldBasis, nil, nil)
	}
	text, err := json.Marshal(b)
	if err != nil { // strings and a number
		panic(err)
	}
	s := string(text)
	return c.Write(FieldBasis, &s, nil)
}

// Stand is the edits that make a brief stand as it is: on this evidence, of a gathering. b is
// the brief as composed of both. There are none where it stands already.
func (c Choices) Stand(e *evidence.Evidence, b Brief, gathering int64) []Edit {
	if c.Stands != nil {
		return nil
	}
	basis := &Basis{Gathering: gathering, Gathered: b.Front.Gathered, Fields: map[string]string{}}
	today := c.On(e)
	for _, name := range FieldNames() {
		if _, typed := c.Typed[name]; typed || name == FieldStatus {
			continue
		}
		if b.field(name) != nil {
			basis.Fields[name] = b.Field(name) // empty ones too: what the field proposes later does not come in by itself
		}
	}
	if _, typed := c.Typed[FieldLength]; !typed && b.Words.N > 0 {
		basis.Fields[FieldLength], basis.Target = fmt.Sprintf("%d–%d", b.Words.Lower, b.Words.Upper), b.Words.Target
	}
	if _, typed := c.Typed[FieldKind]; !typed {
		if key, _ := b.proposeKind(e); key != "" {
			basis.Fields[FieldKind] = key
		}
	}
	for _, t := range b.Terms {
		basis.Terms = append(basis.Terms, StoodTerm{t.Key, t.Tier, t.Lower, t.Median, t.Upper, t.Most, t.AtWill})
	}
	basis.Findings = map[Kind][]StoodFinding{}
	for _, m := range b.Taken() {
		if m.Kind != PointKind { // those stand in their sections
			basis.Findings[m.Kind] = append(basis.Findings[m.Kind], StoodFinding{m.Key, m.Text})
		}
	}
	var marks []Mark
	for _, m := range b.Taken() {
		if today.State(m.Kind, m.Key) == "" {
			m.State = Standing
			marks = append(marks, m)
		}
	}
	edits := c.DecideOn(e, marks...)
	basis.Headings = map[string]string{}
	each(b.Outline, func(s *Section) {
		if today.TypedIn(HeadingPrefix+s.Key) != nil {
			return
		}
		for _, x := range c.WriteOn(e, HeadingPrefix+s.Key, &s.Heading) {
			basis.Headings[x.Key] = s.Heading
			edits = append(edits, x)
		}
	})
	basis.Outline = c.Outline == nil
	edits = append(edits, c.arrange(e, b.Outline, LinesOf(b.Outline), true)...)
	return append(edits, c.WriteBasis(basis))
}

// Follow is the edits that let a brief follow the evidence again. What a person decided stays,
// and sections that were in it.
func (c Choices) Follow() []Edit {
	var edits []Edit
	for _, m := range c.Marks {
		if m.State == Standing {
			m.State = ""
			edits = append(edits, c.Decide(m, nil))
		}
	}
	if b := c.Stands; b != nil {
		for _, field := range slices.Sorted(maps.Keys(b.Headings)) {
			if h := c.TypedIn(field); h != nil && *h == b.Headings[field] { // nobody has worded it since
				edits = append(edits, c.Write(field, nil, nil))
			}
		}
		if b.Outline {
			edits = append(edits, c.FreeOutline()...)
		}
		edits = append(edits, c.WriteBasis(nil))
	}
	return edits
}

// Following is the choices as they were if the brief followed the evidence: without what only
// stands.
func (c Choices) Following() Choices {
	free := c.Clone()
	for _, x := range free.Follow() {
		if free.Apply(x) != nil {
			return c
		}
	}
	return free
}

// Holds lists all findings that are in the brief.
func (b Brief) Holds() []Mark {
	list := b.Taken()
	for _, x := range b.Facts {
		if strings.HasPrefix(x.Key, PickPrefix) {
			continue
		}
		list = append(list, Mark{Kind: FactKind, Key: x.Key, Text: x.Text})
	}
	each(b.Outline, func(s *Section) { list = append(list, Mark{Kind: ThemeKind, Key: s.Key, Text: s.Heading}) })
	return list
}

// Taken lists the findings that are in the brief, the sections of its outline left out.
func (b Brief) Taken() []Mark {
	var list []Mark
	add := func(k Kind, key, text string) { list = append(list, Mark{Kind: k, Key: key, Text: text}) }
	for _, t := range b.Terms {
		add(TermKind, t.Key, t.Term)
	}
	for _, x := range b.Entities {
		add(EntityKind, x.Key, x.Name)
	}
	for _, q := range b.Questions {
		add(QuestionKind, q.Key, q.Text)
	}
	for _, p := range b.Picks {
		add(ThingKind, p.Key, p.Name)
	}
	for _, l := range b.Links.Outward {
		add(LinkKind, l.Key, l.URL)
	}
	for _, l := range b.Links.Inward {
		add(LinkKind, ToPrefix+l.URL, l.URL)
	}
	for _, l := range b.Links.From {
		add(LinkKind, FromPrefix+l.URL, l.URL)
	}
	each(b.Outline, func(s *Section) {
		for _, p := range s.Points {
			add(PointKind, p.Key, p.Text)
		}
	})
	return list
}
