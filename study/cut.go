package study

import (
	"context"
	"slices"
	"strings"

	"corpulan/analysis"
	"corpulan/core/brief"
	"corpulan/core/message"
	"corpulan/store"
)

// Errors of cuttings.
var (
	ErrNotThere  = message.Errorf("these words do not stand in the captured page")
	ErrNoCutting = message.Errorf("this cutting is not in the brief")
)

// WordsIn finds words in the captured text of a page: the whole sentence where they are the
// part of one, else as they are. It fails with ErrNotThere, so that nothing is kept that was
// not on the page.
func WordsIn(an *analysis.Analysis, result store.Result, words string) (text, heading string, err error) {
	want := strings.Join(strings.Fields(strings.Trim(words, "… \t\n")), " ")
	if want == "" || result.ReadingID == nil || an.Docs[*result.ReadingID] == nil {
		return "", "", ErrNotThere
	}
	doc := an.Docs[*result.ReadingID]
	for i := range doc.Sentences {
		s := &doc.Sentences[i]
		if whole := strings.Join(strings.Fields(s.Text), " "); strings.Contains(whole, want) && len(whole) <= 2*len(want)+longestSentence {
			if len(want)*3 >= len(whole)*2 || strings.ContainsAny(words, "…") { // most of it was meant
				want = whole
			}
			return want, doc.Reading.Sections[s.Section].Heading, nil
		}
	}
	for _, s := range doc.Reading.Sections {
		if strings.Contains(strings.Join(strings.Fields(s.Heading+"\n"+s.Text), " "), want) {
			return want, s.Heading, nil
		}
	}
	return "", "", ErrNotThere
}

// longestSentence is how long a sentence may be to be kept whole for a part of it, in bytes.
// Our own.
const longestSentence = 500

// Cut keeps a cutting.
func (c Commands) Cut(ctx context.Context, study int64, x brief.Cutting) (Done, error) {
	x.ID = brief.CuttingID(x.URL, x.Text)
	return c.edit(ctx, study, func(ch brief.Choices) (message.Message, []brief.Edit, error) {
		if len(ch.CuttingOrder()) >= brief.MaxCuttings {
			return "", nil, store.ErrTooMany
		}
		edits, err := ch.Cut(x)
		if err == nil && len(edits) == 0 {
			return "This is among the cuttings already.", nil, nil
		}
		return message.Of("Cut: %s", short(x.Text)), edits, err
	})
}

// short is how a cutting begins.
func short(s string) string {
	if r := []rune(s); len(r) > 60 {
		return string(r[:60]) + "…"
	}
	return s
}

// RemoveCutting takes a cutting out of the brief.
func (c Commands) RemoveCutting(ctx context.Context, study int64, id string) (Done, error) {
	return c.edit(ctx, study, func(ch brief.Choices) (message.Message, []brief.Edit, error) {
		if ch.TypedIn(brief.CuttingPrefix+id) == nil {
			return "", nil, ErrNoCutting
		}
		return "Cutting taken out", ch.RemoveCutting(id), nil
	})
}

// MoveCutting moves a cutting up or down.
func (c Commands) MoveCutting(ctx context.Context, study int64, id string, up bool) (Done, error) {
	return c.edit(ctx, study, func(ch brief.Choices) (message.Message, []brief.Edit, error) {
		return "Cutting moved", ch.MoveCutting(id, up), nil
	})
}

// MovePick moves a thing that the page lists by some places.
func (c Commands) MovePick(ctx context.Context, study int64, key string, by int) (Done, error) {
	e, err := c.evidence(ctx, study)
	if err != nil {
		return Done{}, err
	}
	return c.edit(ctx, study, func(ch brief.Choices) (message.Message, []brief.Edit, error) {
		b := brief.Compose(e, ch, brief.Setting{})
		i := slices.IndexFunc(b.Picks, func(p brief.Pick) bool { return p.Key == key })
		if i < 0 {
			return "", nil, brief.ErrNoSection
		}
		return message.Of("Moved: %s", b.Picks[i].Name), ch.MovePick(b, key, by), nil
	})
}

// PlaceCutting puts a cutting under a section of the outline, which is the person's from then
// on; under none where section is empty.
func (c Commands) PlaceCutting(ctx context.Context, study int64, id, section string) (Done, error) {
	e, err := c.evidence(ctx, study)
	if err != nil {
		return Done{}, err
	}
	return c.edit(ctx, study, func(ch brief.Choices) (message.Message, []brief.Edit, error) {
		if ch.TypedIn(brief.CuttingPrefix+id) == nil {
			return "", nil, ErrNoCutting
		}
		if section == "" {
			return "Cutting under no section", []brief.Edit{ch.Write(brief.CuttingAtPrefix+id, nil, nil)}, nil
		}
		if brief.LinesOf(brief.Compose(e, ch, brief.Setting{}).Outline).At(section) < 0 {
			return "", nil, brief.ErrNoSection
		}
		return thenOn(ch, e, "Cutting put under its section", func(now brief.Choices) []brief.Edit {
			return []brief.Edit{now.Write(brief.CuttingAtPrefix+id, &section, nil)}
		})
	})
}
