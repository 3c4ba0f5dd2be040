package study

import (
	"cmp"
	"context"
	"maps"
	"slices"
	"strings"

	"corpulan/core/brief"
	"corpulan/core/evidence"
	"corpulan/core/house"
	"corpulan/core/message"
	"corpulan/core/themes"
	"corpulan/store"
)

// arrange changes the outline by hand in one step. change makes the new lines of those that
// stand, under the brief's lock: two who move different sections do not get in each other's
// way.
func (c Commands) arrange(ctx context.Context, study int64, said message.Message, change func(brief.Brief, brief.Lines) (brief.Lines, error)) (Done, error) {
	e, err := c.evidence(ctx, study)
	if err != nil {
		return Done{}, err
	}
	return c.edit(ctx, study, func(ch brief.Choices) (message.Message, []brief.Edit, error) {
		b := brief.Compose(e, ch, brief.Setting{})
		was := brief.LinesOf(b.Outline)
		lines, err := change(b, was)
		if err != nil || slices.Equal(lines, was) {
			return said, nil, err
		}
		return said, ch.Arrange(e, b.Outline, lines), nil
	})
}

// MoveSection moves a section of the outline one step. Where there is no way on it does
// nothing. It fails with brief.ErrNoSection.
func (c Commands) MoveSection(ctx context.Context, study int64, key, heading string, way brief.Way) (Done, error) {
	said := message.Of("Moved %v: %s", message.Message(way), heading)
	return c.arrange(ctx, study, said, func(_ brief.Brief, l brief.Lines) (brief.Lines, error) { return l.Step(key, way) })
}

// FoldSection takes a section's heading, so that the page says it in passing, or gives it one again.
func (c Commands) FoldSection(ctx context.Context, study int64, key, heading string, folded bool) (Done, error) {
	said := message.Of("Made a section: %s", heading)
	if folded {
		said = message.Of("Only in passing: %s", heading)
	}
	return c.arrange(ctx, study, said, func(_ brief.Brief, l brief.Lines) (brief.Lines, error) { return l.Fold(key, folded) })
}

// PutSection moves a section below another one, or to the top where parent is empty, and
// there before one, or to the end where before is empty.
func (c Commands) PutSection(ctx context.Context, study int64, key, heading, parent, before string) (Done, error) {
	return c.arrange(ctx, study, message.Of("Moved: %s", heading), func(_ brief.Brief, l brief.Lines) (brief.Lines, error) { return l.Put(key, parent, before) })
}

// AddSection adds a section behind another one, at its level; at the end where after is
// empty. It is the theme of the field that is called so, or the person's own.
func (c Commands) AddSection(ctx context.Context, study int64, heading, after string) (Done, error) {
	e, err := c.evidence(ctx, study)
	if err != nil {
		return Done{}, err
	}
	m := brief.OwnSection(e, heading)
	return c.edit(ctx, study, func(ch brief.Choices) (message.Message, []brief.Edit, error) {
		edits, err := addTo(ch, e, m, after)
		return message.Of("Added: %s", m.Text), edits, err
	})
}

// addTo is the edits that put a section into the outline.
func addTo(ch brief.Choices, e *evidence.Evidence, m brief.Mark, after string) ([]brief.Edit, error) {
	b := brief.Compose(e, ch, brief.Setting{})
	edits := ch.DecideOn(e, m)
	if len(edits) == 0 && brief.LinesOf(b.Outline).At(m.Key) >= 0 {
		return nil, nil // it is there
	}
	now := ch.Clone()
	for _, x := range edits {
		if err := now.Apply(x); err != nil {
			return nil, err
		}
	}
	lines := slices.DeleteFunc(brief.LinesOf(b.Outline), func(x brief.OutlineLine) bool { return x.Key == m.Key }).Add(m.Key, after)
	return append(edits, now.Arrange(e, b.Outline, lines)...), nil
}

// Rename gives a section of the outline a heading in a person's words; nil gives it the
// field's back.
func (c Commands) Rename(ctx context.Context, study int64, key, heading string, text *string) (Done, error) {
	return c.inOutline(ctx, study, brief.HeadingPrefix+key, text, message.Of("Renamed: %s", heading))
}

// SetWords sets how long a section is to be; nil leaves it to the field.
func (c Commands) SetWords(ctx context.Context, study int64, key, heading string, words *string) (Done, error) {
	return c.inOutline(ctx, study, brief.WordsPrefix+key, words, message.Of("Words set: %s", heading))
}

// inOutline writes a field of a section and makes the outline the person's.
func (c Commands) inOutline(ctx context.Context, study int64, field string, text *string, said message.Message) (Done, error) {
	e, err := c.evidence(ctx, study)
	if err != nil {
		return Done{}, err
	}
	return c.edit(ctx, study, func(ch brief.Choices) (message.Message, []brief.Edit, error) {
		return thenOn(ch, e, said, func(now brief.Choices) []brief.Edit { return now.WriteOn(e, field, text) })
	})
}

// DropSection takes a section out of the outline; those below it move up by a level.
func (c Commands) DropSection(ctx context.Context, study int64, key, heading string) (Done, error) {
	e, err := c.evidence(ctx, study)
	if err != nil {
		return Done{}, err
	}
	return c.edit(ctx, study, func(ch brief.Choices) (message.Message, []brief.Edit, error) {
		return thenOn(ch, e, message.Of("Dropped: %s", heading), func(now brief.Choices) []brief.Edit {
			return now.DecideOn(e, brief.Mark{Kind: brief.ThemeKind, Key: key, Text: heading, State: brief.Dropped})
		})
	})
}

// thenOn is the edits that make the outline the person's, if it is not yet, and more on top
// of them.
func thenOn(ch brief.Choices, e *evidence.Evidence, said message.Message, more func(brief.Choices) []brief.Edit) (message.Message, []brief.Edit, error) {
	edits := takeOver(ch, e)
	now := ch.Clone()
	for _, x := range edits {
		if err := now.Apply(x); err != nil {
			return said, nil, err
		}
	}
	return said, append(edits, more(now)...), nil
}

// takeOver is the edits that make the outline the person's, if it is not yet.
func takeOver(ch brief.Choices, e *evidence.Evidence) []brief.Edit {
	if ch.Outline != nil {
		return nil
	}
	b := brief.Compose(e, ch, brief.Setting{})
	return ch.Arrange(e, b.Outline, brief.LinesOf(b.Outline))
}

// Bring takes a question or a term into the brief and puts it under a section: by its key, or,
// where that is empty, by its words.
func (c Commands) Bring(ctx context.Context, study int64, section, heading string, kind brief.Kind, key, words string) (Done, error) {
	e, err := c.evidence(ctx, study)
	if err != nil {
		return Done{}, err
	}
	return c.edit(ctx, study, func(ch brief.Choices) (message.Message, []brief.Edit, error) {
		of := slices.DeleteFunc(Bringable(e, brief.Compose(e, ch, brief.Setting{})), func(m brief.Mark) bool {
			return key == "" && !strings.EqualFold(m.Text, words) || key != "" && (m.Kind != kind || m.Key != key)
		})
		if len(of) == 0 {
			return "", nil, ErrNothingSo
		}
		m := of[0]
		m.State = brief.Adopted
		return thenOn(ch, e, message.Of("Put under “%s”: %s", heading, m.Text), func(now brief.Choices) []brief.Edit {
			return append(now.DecideOn(e, m), now.WriteOn(e, brief.AtField(m.Kind, m.Key), &section)...)
		})
	})
}

// Bringable are the questions and terms that can be put under a section: those of the brief first,
// then those that the evidence has besides, the most common first.
func Bringable(e *evidence.Evidence, b brief.Brief) []brief.Mark {
	var list []brief.Mark
	seen := map[brief.Mark]bool{}
	add := func(kind brief.Kind, key, text string) {
		if id := (brief.Mark{Kind: kind, Key: key}); !seen[id] {
			seen[id] = true
			list = append(list, brief.Mark{Kind: kind, Key: key, Text: text})
		}
	}
	for _, q := range b.Questions {
		add(brief.QuestionKind, q.Key, q.Text)
	}
	for _, t := range b.Terms {
		add(brief.TermKind, t.Key, t.Term)
	}
	for _, kind := range []brief.Kind{brief.QuestionKind, brief.TermKind} {
		found := slices.DeleteFunc(e.Findings(kind), func(f evidence.Finding) bool { return f.Flag != "" })
		slices.SortStableFunc(found, func(x, y evidence.Finding) int { return cmp.Compare(y.Pages, x.Pages) })
		for _, f := range found {
			add(kind, f.Key, f.Text)
		}
	}
	return list
}

// ErrNothingSo says that no question and no term has some words.
var ErrNothingSo = message.Errorf("no question and no term is called so")

// Follow gives the outline back to the evidence: order and levels are the field's again.
// What was adopted, dropped, renamed and noted stays.
func (c Commands) Follow(ctx context.Context, study int64) (Done, error) {
	return c.edit(ctx, study, func(ch brief.Choices) (message.Message, []brief.Edit, error) {
		edits := ch.FreeOutline()
		if len(edits) == 0 {
			return "The outline follows the evidence.", nil, nil
		}
		return "The outline follows the evidence again", edits, nil
	})
}

// UseTemplate makes the brief one of a kind of page.
func (c Commands) UseTemplate(ctx context.Context, study int64, t brief.Template) (Done, error) {
	e, err := c.evidence(ctx, study)
	if err != nil {
		return Done{}, err
	}
	return c.edit(ctx, study, func(ch brief.Choices) (message.Message, []brief.Edit, error) {
		edits, err := ch.Use(e, t)
		return message.Of("Kind of page: %v", message.Message(t.Name)), edits, err
	})
}

// SetParts writes fields about the parts of the document, in one step: which it has, in what
// order, and titles and texts of a person's own.
func (c Commands) SetParts(ctx context.Context, study int64, said message.Message, fields map[string]*string) (Done, error) {
	return c.edit(ctx, study, func(ch brief.Choices) (message.Message, []brief.Edit, error) {
		var edits []brief.Edit
		for _, name := range slices.Sorted(maps.Keys(fields)) {
			if e := ch.Write(name, fields[name], nil); !e.Idle() {
				edits = append(edits, e)
			}
		}
		return said, edits, nil
	})
}

// JoinThemes moves all headings of a theme to that of another heading, in one step.
// entries are what is taught already.
func (c Commands) JoinThemes(ctx context.Context, study int64, entries []store.LexiconEntry, t themes.Theme, heading string) (Done, error) {
	var edits []store.LexiconEdit
	seen := map[string]bool{}
	for _, m := range t.Members {
		entry, err := house.Check(house.Entry{Kind: house.Gather, Term: m.Text, Other: heading})
		if err != nil || seen[strings.ToLower(entry.Term)] {
			continue // the same words, which are there already
		}
		seen[strings.ToLower(entry.Term)] = true
		edits = append(edits, Instead(entries, entry, false)...)
	}
	return c.Teach(ctx, study, message.Of("“%s” joined with the theme of “%s”", t.Label, heading), edits)
}
