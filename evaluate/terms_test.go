package main

import (
	"path/filepath"
	"slices"
	"testing"

	"corpulan/core/corpus"
	"corpulan/core/vocabulary"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func standinField(t *testing.T, name string) (field, *corpus.Field) {
	t.Helper()
	f, err := readField("..", filepath.Join("fields", name))
	require.NoError(t, err)
	c, missing, err := f.corpusOf()
	require.NoError(t, err)
	require.Zero(t, missing)
	return f, c
}

// What was measured stays so: of the first fifty terms of the stand-in's fields, how
// many a reader found right, and how many general or cut.
func TestTheFirstTermsAreRight(t *testing.T) {
	for name, least := range map[string]float64{"commuting": .9, "tyres": .85, "storing": .8, "fahrrad": .95} {
		f, c := standinField(t, name)
		s := f.tally(c)
		assert.Equal(t, termsShown, s.shown, name)
		assert.GreaterOrEqual(t, float64(s.right)/float64(s.shown), least, "%s: not right are %v", name, s.wrong)
		assert.LessOrEqual(t, float64(s.junk)/float64(s.shown), .06, "%s: not right are %v", name, s.wrong)
	}
}

// No page bends the vocabulary: leave out the page that uses a term most, and the term
// is still proposed where two pages have it, a tier away at most.
func TestNoPageBendsATerm(t *testing.T) {
	tiers := []vocabulary.Tier{vocabulary.Hapax, vocabulary.Occasional, vocabulary.Frequent, vocabulary.Staple}
	for _, name := range []string{"commuting", "fahrrad"} {
		_, all := standinField(t, name)
		lost, checked := []string{}, 0
		for _, term := range firstTerms(t, all, 40) {
			if term.Pages < 3 {
				continue
			}
			checked++
			most := 0
			for i, n := range term.Counts {
				if n > term.Counts[most] {
					most = i
				}
			}
			var pages []corpus.RankedPage
			for i, d := range all.Docs {
				if i != most {
					pages = append(pages, corpus.RankedPage{Rank: all.Ranks[i], Doc: d})
				}
			}
			rest := vocabulary.Find(t.Context(), corpus.NewField(pages, all.Language.Code, all.Keyword), nil)
			i := slices.IndexFunc(rest, func(r vocabulary.Term) bool { return r.Key == term.Key })
			require.GreaterOrEqual(t, i, 0, term.Text)
			if !rest[i].Recommended() {
				lost = append(lost, term.Text+" ("+rest[i].Flag.String()+rest[i].YieldsTo+")")
			}
			assert.LessOrEqual(t, slices.Index(tiers, term.Tier)-slices.Index(tiers, rest[i].Tier), 1, term.Text)
		}
		assert.GreaterOrEqual(t, checked, 25)
		assert.LessOrEqual(t, len(lost), checked/10, "%s: %v", name, lost)
	}
}

func firstTerms(t *testing.T, c *corpus.Field, n int) (list []vocabulary.Term) {
	t.Helper()
	for _, term := range vocabulary.Find(t.Context(), c, nil) {
		if term.Recommended() && len(list) < n {
			list = append(list, term)
		}
	}
	return list
}
