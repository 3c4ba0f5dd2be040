package render

import (
	"bytes"
	"fmt"
	"regexp"
	"strings"
	"testing"

	"corpulan/core/brief"
	"corpulan/core/evidence"
	"corpulan/core/message"
	"corpulan/core/text"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func short(t *testing.T, b brief.Brief) string {
	t.Helper()
	var out bytes.Buffer
	require.NoError(t, Markdown(&out, b))
	return out.String()
}

// The brief itself is at most half as long as the page it asks for, whatever that is, and names no ranks; the dossier behind it has them.
func TestTheBriefIsShort(t *testing.T) {
	e := compute(demoField(t))
	for _, length := range []string{"400", "700", "1000", "1600", "6000"} {
		var c brief.Choices
		c.Type(brief.FieldLength, length)
		b := brief.Compose(e, c, brief.Setting{})
		md := short(t, b)
		assert.LessOrEqual(t, text.CountWords(md), b.MaxWords(), length)
		assert.LessOrEqual(t, b.MaxWords(), 700)
		assert.NotRegexp(t, regexp.MustCompile(`\branks? \d`), md, length)
		assert.NotContains(t, md, "0 images")
		assert.NotContains(t, md, "About 0 words")
		whole := short(t, b.WithDossier(true))
		assert.True(t, strings.HasPrefix(whole, md), "the brief leads")
		assert.Regexp(t, regexp.MustCompile(`\branks \d`), whole)
	}
}

// What a person took is in the brief whatever its length; what they dropped leaves its room.
func TestWhatAPersonTookIsInTheBrief(t *testing.T) {
	e := compute(demoField(t))
	var c brief.Choices
	c.Type(brief.FieldLength, "400")
	b := brief.Compose(e, c, brief.Setting{})
	s := b.Short()
	require.Less(t, len(s.Terms), len(b.Terms))
	in := map[string]bool{}
	for _, x := range s.Terms {
		in[x.Key] = true
	}
	for _, x := range b.Terms {
		if !in[x.Key] {
			c.Set(brief.Mark{Kind: brief.TermKind, Key: x.Key, Text: x.Term, State: brief.Adopted})
		}
	}
	for _, q := range b.Questions {
		c.Set(brief.Mark{Kind: brief.QuestionKind, Key: q.Key, Text: q.Text, State: brief.Adopted})
	}
	md := short(t, brief.Compose(e, c, brief.Setting{}))
	for _, x := range b.Terms {
		if !in[x.Key] {
			assert.Contains(t, md, x.Term)
		}
	}
	for _, q := range b.Questions {
		assert.Contains(t, md, strings.TrimRight(q.Text, "?"))
	}
}

// Whatever is asked, a brief is one: of no page and of one, of 150 words and of 6,000, of a hundred sections by hand.
func TestBriefsAtTheEdges(t *testing.T) {
	e := compute(demoField(t))
	for name, b := range map[string]brief.Brief{
		"no evidence": brief.Compose(compute(evidence.Input{Keyword: "keyword", Language: "en"}), brief.Choices{}, brief.Setting{}),
		"one page":    brief.Compose(compute(evidence.Input{Keyword: "winter bike commuting", Language: "en", Pages: demoField(t).Pages[:1]}), brief.Choices{}, brief.Setting{}),
		"right to left": brief.Compose(compute(evidence.Input{Keyword: "רכיבה בחורף", Language: "he"}), brief.Choices{
			Typed: map[string]string{brief.FieldGoal: "מטרה"}}, brief.Setting{}),
	} {
		md := short(t, b)
		assert.Contains(t, md, "# Brief: ", name)
		assert.NotContains(t, md, "About 0 words", name)
		assert.LessOrEqual(t, text.CountWords(md), 700, name)
	}
	var c brief.Choices
	c.Type(brief.FieldLength, "150")
	b := brief.Compose(e, c, brief.Setting{})
	b.Each(func(s *brief.Section) {
		assert.True(t, s.Folded || s.Words >= 40, "%s has %d words", s.Heading, s.Words)
	})
	for i := range 100 {
		c.Set(brief.OwnSection(e, fmt.Sprintf("Own matter %c%d", 'a'+i%26, i)))
	}
	many := brief.Compose(e, c, brief.Setting{})
	assert.NotContains(t, short(t, many), "About 0 words")
	assert.Greater(t, len(many.Outline), 99)
}

// An answer that is written out stands in the brief where it leaves room for the rest, else in the dossier; what a person typed stays
// whole.
func TestTheWrittenOutAnswer(t *testing.T) {
	answer := "“How long do studs last?”: at the beginning of the opening.\nThree winters, where roads are cleared."
	b := func(target int, why message.Message) brief.Brief {
		return brief.Brief{Keyword: "studded tyres", Language: "en", Words: brief.WordRange{Target: target}, Fields: brief.Fields{ShortAnswer: answer}, Why: map[string]message.Message{brief.FieldShortAnswer: why}}
	}
	long, shorter := b(1000, "common practice"), b(40, "common practice")
	assert.Contains(t, short(t, long), "Three winters")
	assert.Equal(t, 1, strings.Count(short(t, long.WithDossier(true)), "Three winters"), "not twice")
	assert.NotContains(t, short(t, shorter), "Three winters")
	assert.Contains(t, short(t, shorter), "How long do studs last?")
	assert.Contains(t, short(t, shorter.WithDossier(true)), "Three winters")
	assert.Contains(t, short(t, b(40, "")), "Three winters", "a person's own")
}
