package brief

import (
	"maps"
	"slices"

	"corpulan/core/evidence"
	"corpulan/core/message"
)

// The levels of headings that an outline has: the page's own heading is of level 1, and what
// would stand below the fourth is told in the text. Our own.
const (
	TopLevel     = 2
	DeepestLevel = 4
)

// ErrNoSection says that a section is not in the outline.
var ErrNoSection = message.Errorf("this section is not in the outline")

// ErrOwnPart says that a section cannot stand below itself.
var ErrOwnPart = message.Errorf("a section cannot stand below itself")

// OutlineLine is a section of an outline by hand.
type OutlineLine struct {
	Level  int    `json:"level"`
	Key    string `json:"key"`
	Folded bool   `json:"folded,omitempty"`
}

// Lines are the sections of an outline by hand, parents first, each with its level. While there is
// none the outline follows the evidence; from then on sections come and go by hand alone, and
// figures and sources follow still.
type Lines []OutlineLine

// LinesOf are the lines of an outline as it stands.
func LinesOf(outline []Section) Lines {
	lines := Lines{}
	each(outline, func(s *Section) { lines = append(lines, OutlineLine{s.Level, s.Key, s.Folded}) })
	return lines
}

// At is the number of a section's line, -1 where it has none.
func (l Lines) At(key string) int {
	return slices.IndexFunc(l, func(x OutlineLine) bool { return x.Key == key })
}

func (l Lines) has(key string) bool { return l.At(key) >= 0 }

// end is where the block of a line ends: the sections below it belong to it.
func (l Lines) end(i int) int {
	to := i + 1
	for to < len(l) && l[to].Level > l[i].Level {
		to++
	}
	return to
}

// parent is the number of the line that a line stands below, -1 for none.
func (l Lines) parent(i int) int {
	for p := i - 1; p >= 0; p-- {
		if l[p].Level < l[i].Level {
			return p
		}
	}
	return -1
}

// before is the number of the line before a line that stands below the same one, -1 for none.
func (l Lines) before(i int) int {
	for p := i - 1; p >= 0 && l[p].Level >= l[i].Level; p-- {
		if l[p].Level == l[i].Level {
			return p
		}
	}
	return -1
}

// Way is one step of a section within the outline.
type Way string

// The steps: past the section before or behind it, below the one before it, or out of the
// one it stands below.
const (
	Up   Way = "up"
	Down Way = "down"
	In   Way = "in"
	Out  Way = "out"
)

// Step moves a section one step, with all that stands below it. Where there is no way on, at
// an end or at the deepest level, the lines come back as they are.
func (l Lines) Step(key string, way Way) (Lines, error) {
	if i := l.At(key); i >= 0 && l[i].Folded {
		return slices.Clone(l), nil
	}
	shown, folded := l.apart()
	moved, err := shown.step(key, way)
	return moved.with(folded), err
}

// apart takes what is folded out, by the section it is said in: it goes with that, and nothing moves past it.
func (l Lines) apart() (shown Lines, folded map[string]Lines) {
	folded = map[string]Lines{}
	for i, x := range l {
		if !x.Folded {
			continue
		}
		at := l.parent(i)
		for at >= 0 && l[at].Folded {
			at = l.parent(at)
		}
		key := ""
		if at >= 0 {
			key = l[at].Key
		}
		folded[key] = append(folded[key], x)
	}
	return l.without(func(key string) bool { return l[l.At(key)].Folded }), folded
}

// with puts what is folded back, directly below its section; what stands below none at the end.
func (l Lines) with(folded map[string]Lines) Lines {
	if l == nil {
		return nil
	}
	out := Lines{}
	put := func(key string, level int) {
		for _, x := range folded[key] {
			x.Level = level
			out = append(out, x)
		}
	}
	for _, x := range l {
		out = append(out, x)
		put(x.Key, min(x.Level+1, DeepestLevel))
	}
	put("", TopLevel)
	return out
}

func (l Lines) step(key string, way Way) (Lines, error) {
	i := l.At(key)
	if i < 0 {
		return nil, ErrNoSection
	}
	end := l.end(i)
	switch way {
	case Up:
		if p := l.before(i); p >= 0 {
			return slices.Concat(l[:p], l[i:end], l[p:i], l[end:]), nil
		}
	case Down:
		if end < len(l) && l[end].Level == l[i].Level {
			next := l.end(end)
			return slices.Concat(l[:i], l[end:next], l[i:end], l[next:]), nil
		}
	case In:
		if l.before(i) >= 0 {
			return l.deeper(i, end, 1), nil
		}
	case Out:
		if p := l.parent(i); p >= 0 {
			// What follows below the same section stays below that one.
			behind := l.end(p)
			out := slices.Concat(l[:i], l[end:behind], l[i:end].deeper(0, end-i, -1), l[behind:])
			return out, nil
		}
	}
	return slices.Clone(l), nil
}

// deeper changes the levels of lines from i up to end. Where one would lie too deep nothing
// is changed.
func (l Lines) deeper(i, end, by int) Lines {
	out := slices.Clone(l)
	for k := i; k < end; k++ {
		if out[k].Level+by > DeepestLevel {
			return slices.Clone(l)
		}
		out[k].Level += by
	}
	return out
}

// Put moves a section, with all below it, to below another one (at the top where parent is
// empty), before a section there; behind all of them where before is empty. Levels beyond
// the deepest are lifted to it.
func (l Lines) Put(key, parent, before string) (Lines, error) {
	if i := l.At(key); i >= 0 && l[i].Folded {
		return slices.Clone(l), nil
	}
	shown, folded := l.apart()
	moved, err := shown.put(key, parent, before)
	return moved.with(folded), err
}

func (l Lines) put(key, parent, before string) (Lines, error) {
	i := l.At(key)
	if i < 0 {
		return nil, ErrNoSection
	}
	end := l.end(i)
	block := slices.Clone(l[i:end])
	rest := slices.Concat(l[:i], l[end:])
	level, at := TopLevel, len(rest)
	if parent != "" {
		p := rest.At(parent)
		switch {
		case p < 0 && l.has(parent):
			return nil, ErrOwnPart
		case p < 0:
			return nil, ErrNoSection
		}
		level, at = min(rest[p].Level+1, DeepestLevel), rest.end(p)
	}
	if before != "" {
		if at = rest.At(before); at < 0 {
			return nil, ErrNoSection
		}
		level = rest[at].Level
	}
	by := level - block[0].Level
	for k := range block {
		block[k].Level = min(block[k].Level+by, DeepestLevel)
	}
	return slices.Concat(rest[:at], block, rest[at:]), nil
}

// Fold takes a section's heading, so that it is said in passing, or gives it one again.
func (l Lines) Fold(key string, folded bool) (Lines, error) {
	i := l.At(key)
	if i < 0 {
		return nil, ErrNoSection
	}
	out := slices.Clone(l)
	if folded { // what stands below it stands in its place
		for k := i + 1; k < l.end(i); k++ {
			out[k].Level--
		}
	}
	out[i].Folded = folded
	shown, apart := out.apart()
	return shown.with(apart), nil
}

// Add puts a new section behind another one and all below it, at its level; at the end where
// after is empty or not in the outline.
func (l Lines) Add(key, after string) Lines {
	line, at := OutlineLine{Level: TopLevel, Key: key}, len(l)
	if i := l.At(after); i >= 0 {
		line.Level, at = l[i].Level, l.end(i)
	}
	return slices.Insert(slices.Clone(l), at, line)
}

// without takes sections out; what stood below one of them moves up by a level.
func (l Lines) without(gone func(key string) bool) Lines {
	out := Lines{}
	var up []int // levels of the sections taken out that this line stands below
	for _, x := range l {
		for len(up) > 0 && up[len(up)-1] >= x.Level {
			up = up[:len(up)-1]
		}
		if gone(x.Key) {
			up = append(up, x.Level)
			continue
		}
		out = append(out, OutlineLine{x.Level - len(up), x.Key, x.Folded})
	}
	return out
}

// Clone is a copy that can be changed by itself.
func (c Choices) Clone() Choices {
	c.Marks, c.Typed, c.Made, c.basis = slices.Clone(c.Marks), maps.Clone(c.Typed), maps.Clone(c.Made), nil
	c.Sections, c.Points, c.Facts, c.OwnParts, c.Cuttings = maps.Clone(c.Sections), maps.Clone(c.Points), maps.Clone(c.Facts), maps.Clone(c.OwnParts), maps.Clone(c.Cuttings)
	c.Under = Under{maps.Clone(c.Under.Questions), maps.Clone(c.Under.Terms)}
	return c // lists and what pointers lead to are replaced whole, never changed
}

// Arrange is the edits that make the outline the person's, sections in the order of lines:
// every section of the outline as it stands is adopted, so that each follows its theme, and
// the order is kept. The keys of lines are those of today.
func (c Choices) Arrange(e *evidence.Evidence, outline []Section, lines Lines) []Edit {
	return c.arrange(e, outline, lines, c.Outline == nil)
}

// arrange is Arrange; anew has every section stand as it now does, else those only that did not yet.
func (c Choices) arrange(e *evidence.Evidence, outline []Section, lines Lines, anew bool) []Edit {
	t := c.track(e, ThemeKind)
	var edits []Edit
	each(outline, func(s *Section) {
		state := Adopted
		if at := lines.At(s.Key); at >= 0 && lines[at].Folded { // it stands while the outline does, and makes no section when that follows again
			state = Standing
		}
		edits = append(edits, t.decide(Mark{ThemeKind, s.Key, s.Heading, state})...)
		if anew || c.Sections[t.keys(s.Key)[0]].Stood == nil {
			edits = append(edits, t.stand(s))
		}
	})
	kept := slices.Clone(lines)
	for i := range kept {
		kept[i].Key = t.keys(kept[i].Key)[0]
	}
	text := kept.String()
	return append(edits, busy([]Edit{c.Write(FieldOutline, &text, nil)})...)
}

// FreeOutline is the edits that give the outline back to the evidence.
func (c Choices) FreeOutline() []Edit {
	edits := []Edit{c.Write(FieldOutline, nil, nil)}
	for _, key := range keysOf(c.Sections) {
		edits = append(edits, c.Write(StoodPrefix+key, nil, nil))
	}
	return busy(edits)
}

// linesToday are the lines under the keys that findings have today, each once.
func (c Choices) linesToday(to map[string]string) Lines {
	today := Lines{}
	for _, x := range c.Outline {
		if key, ok := to[x.Key]; ok {
			x.Key = key
		}
		if !today.has(x.Key) {
			today = append(today, x)
		}
	}
	return today
}
