package study

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"strings"

	"corpulan/core/brief"
	"corpulan/core/house"
	"corpulan/core/themes"
	"corpulan/store"
)

// ErrNoSection says that a section is not in the outline.
var ErrNoSection = errors.New("this section is not in the outline")

// MoveSection moves a section of the outline one place up or down. At either end it does
// nothing. ch are the choices that the brief was composed of; a *Conflict says that somebody
// else has moved sections since.
func (c Commands) MoveSection(ctx context.Context, study int64, b brief.Brief, ch brief.Choices, key string, up bool) (Done, error) {
	var keys []string
	for _, s := range b.Outline {
		keys = append(keys, s.Key)
	}
	at := slices.Index(keys, key)
	if at < 0 {
		return Done{}, ErrNoSection
	}
	to, way := at+1, "down"
	if up {
		to, way = at-1, "up"
	}
	if to < 0 || to >= len(keys) {
		return Done{}, nil
	}
	keys[at], keys[to] = keys[to], keys[at]
	order := strings.Join(keys, "\n")
	done, _, err := c.Write(ctx, study, nil, Typing{Field: brief.FieldOrder, Was: ch.TypedIn(brief.FieldOrder), Text: &order,
		Said: fmt.Sprintf("Moved %s: %s", way, b.Outline[at].Heading)})
	return done, err
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
	return c.Teach(ctx, study, fmt.Sprintf("“%s” joined with the theme of “%s”", t.Label, heading), edits)
}
