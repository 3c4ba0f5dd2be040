package brief

import (
	"encoding/json"
	"fmt"
	"slices"
	"strconv"
	"strings"
)

// A text that a person typed stands at a place. Edits and forms call a place by name: a field of
// the document by its own, everything else by a prefix and a key, or by one word. The table of
// spots has a row for each of them, and is all that knows where in the choices it lies.

// The prefixes of places, and the names of those without a key.
const (
	NotePrefix    = "note:"    // a note on a section of the outline, by the section's key
	HeadingPrefix = "heading:" // its heading, as a person words it
	WordsPrefix   = "words:"   // its length, sub-sections included
	StoodPrefix   = "stood:"   // the section as it stood when the outline became a person's, as JSON
	BroughtPrefix = "brought:" // the note with which the kind of page brought the section
	PointPrefix   = "point:"   // the wording of a point, by its key
	FactPrefix    = "fact:"    // where an adopted fact is from, as JSON
	PickPrefix    = "pick:"    // the verdict on a listed thing, by its key
	AtPrefix      = "at:"      // the key of the section that a question or a term stands under, by its kind and key

	PartTitlePrefix = "part_title:" // the title of a part of a person's own, by its number
	PartPrefix      = "part:"       // its text

	CuttingPrefix     = "cutting:"      // a cutting as JSON, by its number
	CuttingNotePrefix = "cutting_note:" // a note on it
	CuttingAtPrefix   = "cutting_at:"   // the key of the section it stands under

	FieldOutline  = "outline"  // the outline by hand: a line for each section, its level and its key
	FieldParts    = "parts"    // the parts of the document: a name a line, "-" before it hides the part
	FieldCuttings = "cuttings" // the order of the cuttings, a number a line
	FieldPicks    = "picks"    // the order of the listed things, a key a line
	FieldBasis    = "basis"    // what the brief stands on, as JSON
)

// AtField is the place that says under which section a finding stands.
func AtField(k Kind, key string) string { return AtPrefix + place(k, key) }

// spot is a place, or all that have a prefix.
type spot struct {
	name  string // a prefix where it ends with a colon
	of    Kind   // of the finding whose key follows; empty for none
	keys  func(c *Choices) []string
	read  func(c *Choices, key string) *string
	write func(c *Choices, key string, text *string)
}

var spots = []spot{
	among(NotePrefix, ThemeKind, sectionsBy, func(s *SectionBy) **string { return &s.Note }),
	among(HeadingPrefix, ThemeKind, sectionsBy, func(s *SectionBy) **string { return &s.Heading }),
	among(WordsPrefix, ThemeKind, sectionsBy, func(s *SectionBy) **string { return &s.Words }),
	among(BroughtPrefix, ThemeKind, sectionsBy, func(s *SectionBy) **string { return &s.Brought }),
	aboutOne(ThemeKind, asJSON(StoodPrefix, func(c *Choices, key string) **Stood {
		x := c.Sections[key]
		return &x.Stood
	}, func(c *Choices) []string { return keysOf(c.Sections) }, func(c *Choices, key string, x *Stood) {
		put(&c.Sections, key, func(o *SectionBy) { o.Stood = x })
	})),
	aboutOne(FactKind, asJSON(FactPrefix, func(c *Choices, key string) **FactFrom {
		x := c.Facts[key]
		return &x
	}, func(c *Choices) []string { return keysOf(c.Facts) }, func(c *Choices, key string, x *FactFrom) {
		put(&c.Facts, key, func(o **FactFrom) { *o = x })
	})),
	texts(PointPrefix, PointKind, func(c *Choices) *map[string]string { return &c.Points }),
	texts(PickPrefix, ThingKind, func(c *Choices) *map[string]string { return &c.Picks }),
	texts(AtField(QuestionKind, ""), QuestionKind, func(c *Choices) *map[string]string { return &c.Under.Questions }),
	texts(AtField(TermKind, ""), TermKind, func(c *Choices) *map[string]string { return &c.Under.Terms }),
	among(PartTitlePrefix, "", partsBy, func(p *PartBy) **string { return &p.Title }),
	among(PartPrefix, "", partsBy, func(p *PartBy) **string { return &p.Text }),
	asJSON(CuttingPrefix, func(c *Choices, id string) **Cutting {
		x := c.Cuttings[id]
		return &x.Cutting
	}, func(c *Choices) []string { return keysOf(c.Cuttings) }, func(c *Choices, id string, x *Cutting) {
		put(&c.Cuttings, id, func(o *Cut) { o.Cutting = x })
	}),
	among(CuttingNotePrefix, "", cuttingsBy, func(x *Cut) **string { return &x.Note }),
	among(CuttingAtPrefix, "", cuttingsBy, func(x *Cut) **string { return &x.Section }),
	{name: FieldOutline, read: func(c *Choices, _ string) *string {
		if c.Outline == nil {
			return nil
		}
		s := c.Outline.String()
		return &s
	}, write: func(c *Choices, _ string, text *string) { c.Outline = linesIn(text) }},
	{name: FieldParts, read: func(c *Choices, _ string) *string {
		if c.Parts == nil {
			return nil
		}
		s := partsText(c.Parts)
		return &s
	}, write: func(c *Choices, _ string, text *string) {
		if c.Parts = nil; text != nil {
			c.Parts = partLines(*text)
		}
	}},
	ordered(FieldCuttings, func(c *Choices) *[]string { return &c.CuttingsOrder }),
	ordered(FieldPicks, func(c *Choices) *[]string { return &c.PicksOrder }),
	asJSON(FieldBasis, func(c *Choices, _ string) **Basis { return &c.Stands }, nil, func(c *Choices, _ string, b *Basis) { c.Stands = b }),
}

// ordered is an order, a key a line.
func ordered(name string, in func(*Choices) *[]string) spot {
	return spot{name: name, read: func(c *Choices, _ string) *string {
		if *in(c) == nil {
			return nil
		}
		s := strings.Join(*in(c), "\n")
		return &s
	}, write: func(c *Choices, _ string, text *string) {
		if *in(c) = nil; text != nil {
			*in(c) = strings.FieldsFunc(*text, func(r rune) bool { return r == '\n' })
		}
	}}
}

func sectionsBy(c *Choices) *map[string]SectionBy { return &c.Sections }
func partsBy(c *Choices) *map[string]PartBy       { return &c.OwnParts }
func cuttingsBy(c *Choices) *map[string]Cut       { return &c.Cuttings }

// put changes an entry of a map and takes it out where nothing is left in it.
func put[T comparable](all *map[string]T, key string, change func(*T)) {
	x := (*all)[key]
	change(&x)
	var none T
	switch {
	case x != none && *all == nil:
		*all = map[string]T{key: x}
	case x != none:
		(*all)[key] = x
	default:
		if delete(*all, key); len(*all) == 0 {
			*all = nil
		}
	}
}

func keysOf[T any](all map[string]T) (keys []string) {
	for key := range all {
		keys = append(keys, key)
	}
	slices.Sort(keys)
	return keys
}

// among are texts that are one of several of an entry.
func among[T comparable](prefix string, of Kind, in func(*Choices) *map[string]T, text func(*T) **string) spot {
	read := func(c *Choices, key string) *string {
		x := (*in(c))[key]
		return *text(&x)
	}
	return spot{name: prefix, of: of, read: read,
		keys: func(c *Choices) []string {
			return slices.DeleteFunc(keysOf(*in(c)), func(key string) bool { return read(c, key) == nil })
		},
		write: func(c *Choices, key string, s *string) { put(in(c), key, func(x *T) { *text(x) = s }) }}
}

// texts are texts by themselves.
func texts(prefix string, of Kind, in func(*Choices) *map[string]string) spot {
	return spot{name: prefix, of: of,
		keys: func(c *Choices) []string { return keysOf(*in(c)) },
		read: func(c *Choices, key string) *string {
			if s, ok := (*in(c))[key]; ok {
				return &s
			}
			return nil
		},
		write: func(c *Choices, key string, s *string) {
			m := in(c)
			switch {
			case s == nil:
				if delete(*m, key); len(*m) == 0 {
					*m = nil
				}
			case *m == nil:
				*m = map[string]string{key: *s}
			default:
				(*m)[key] = *s
			}
		}}
}

// aboutOne is a place that is about a finding of a kind.
func aboutOne(k Kind, s spot) spot {
	s.of = k
	return s
}

// asJSON is a value that edits hold as JSON; what is none is nothing.
func asJSON[T any](name string, at func(*Choices, string) **T, keys func(*Choices) []string, set func(*Choices, string, *T)) spot {
	return spot{name: name,
		keys: func(c *Choices) []string {
			if keys == nil {
				return nil
			}
			return slices.DeleteFunc(keys(c), func(key string) bool { return *at(c, key) == nil })
		},
		read: func(c *Choices, key string) *string {
			x := *at(c, key)
			if x == nil {
				return nil
			}
			b, err := json.Marshal(x)
			if err != nil { // texts and numbers
				panic(err)
			}
			s := string(b)
			return &s
		},
		write: func(c *Choices, key string, s *string) {
			x := new(T)
			if s == nil || json.Unmarshal([]byte(*s), x) != nil {
				x = nil
			}
			set(c, key, x)
		}}
}

// spotOf finds the row of a place, and its key; none for a field of the document.
func spotOf(name string) (*spot, string) {
	for i := range spots {
		s := &spots[i]
		if !strings.HasSuffix(s.name, ":") {
			if name == s.name {
				return s, ""
			}
		} else if key, ok := strings.CutPrefix(name, s.name); ok {
			return s, key
		}
	}
	return nil, ""
}

// TypedIn is what a person typed at a place, nil where the proposal stands.
func (c Choices) TypedIn(name string) *string {
	if s, key := spotOf(name); s != nil {
		return s.read(&c, key)
	}
	if text, ok := c.Typed[name]; ok {
		return &text
	}
	return nil
}

// put is the text that is to stand at a place from now on; nil for none.
func (c *Choices) put(name string, text *string) {
	if s, key := spotOf(name); s != nil {
		s.write(c, key, text)
		return
	}
	if text == nil {
		if delete(c.Typed, name); len(c.Typed) == 0 {
			c.Typed = nil
		}
	} else {
		c.Type(name, *text)
	}
}

// Type records what a person typed at a place.
func (c *Choices) Type(name, text string) {
	if s, key := spotOf(name); s != nil {
		s.write(c, key, &text)
		return
	}
	if c.Typed == nil {
		c.Typed = map[string]string{}
	}
	c.Typed[name] = text
}

// Note records a note for a section of the outline.
func (c *Choices) Note(theme, note string) { c.Type(NotePrefix+theme, note) }

// noteOn is the note on a section; empty for none.
func (c Choices) noteOn(theme string) string { return textOf(c.Sections[theme].Note) }

func textOf(s *string) string {
	if s == nil {
		return ""
	}
	return *s
}

// typedAt are the names of the places at which something is typed: those about findings of a kind,
// or with no kind those that are about none, the fields of the document among them.
func (c Choices) typedAt(k Kind) (names []string) {
	for _, s := range spots {
		switch {
		case s.of != k:
		case s.keys == nil:
			if s.read(&c, "") != nil {
				names = append(names, s.name)
			}
		default:
			for _, key := range s.keys(&c) {
				names = append(names, s.name+key)
			}
		}
	}
	if k == "" {
		names = append(names, keysOf(c.Typed)...)
		if c.Stands != nil {
			names = append(names, FieldBasis)
		}
	}
	slices.Sort(names)
	return names
}

// about tells which finding a place is about; no kind where it is about none.
func about(name string) (k Kind, key string) {
	if s, key := spotOf(name); s != nil && s.of != "" {
		return s.of, key
	}
	return "", ""
}

// FollowsFinding tells a place that is about a finding and goes with it when its key changes.
func FollowsFinding(name string) bool {
	k, _ := about(name)
	return k != ""
}

// unseen are the places where nobody types: the program keeps there what goes with a decision.
var unseen = []string{FieldBasis, StoodPrefix, BroughtPrefix, FactPrefix}

// KnownField tells whether a name is that of a place where something can be typed.
func KnownField(name string) bool {
	if s, key := spotOf(name); s != nil {
		return !slices.Contains(unseen, s.name) && (name == s.name) == (key == "") && !strings.HasSuffix(name, ":")
	}
	return slices.Contains(FieldNames(), name)
}

// linesIn reads an outline as edits hold it; nil for none.
func linesIn(text *string) Lines {
	if text == nil {
		return nil
	}
	lines := Lines{}
	for s := range strings.Lines(*text) {
		level, key, _ := strings.Cut(strings.TrimRight(s, "\n"), " ")
		level, isFolded := strings.CutSuffix(level, foldedMark)
		if n, err := strconv.Atoi(level); err == nil && key != "" && !lines.has(key) {
			lines = append(lines, OutlineLine{min(max(n, TopLevel), DeepestLevel), key, isFolded})
		}
	}
	return lines
}

// foldedMark stands behind the level of a line whose matter is folded.
const foldedMark = "~"

// String is the outline as edits hold it: a line for each section.
func (l Lines) String() string {
	var b strings.Builder
	for _, x := range l {
		mark := ""
		if x.Folded {
			mark = foldedMark
		}
		fmt.Fprintf(&b, "%d%s %s\n", x.Level, mark, x.Key)
	}
	return b.String()
}

// partLines reads the parts of a document as edits and templates hold them, each once.
func partLines(text string) []PartLine {
	list := []PartLine{}
	for line := range strings.Lines(text) {
		name, hidden := strings.CutPrefix(strings.TrimSpace(line), "-")
		if name != "" && !slices.ContainsFunc(list, func(p PartLine) bool { return p.Name == name }) {
			list = append(list, PartLine{name, hidden})
		}
	}
	return list
}

func partsText(list []PartLine) string {
	var b strings.Builder
	for _, p := range list {
		if p.Hidden {
			b.WriteByte('-')
		}
		b.WriteString(p.Name + "\n")
	}
	return b.String()
}

// PartsText is the parts of a document as an edit holds them.
func PartsText(list []Part) string {
	lines := make([]PartLine, len(list))
	for i, p := range list {
		lines[i] = PartLine{p.Name, p.Hidden}
	}
	return partsText(lines)
}
