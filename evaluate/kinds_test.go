package main

import (
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"corpulan/core/fit"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// goodDraft is an article that was written for a field by somebody who knows the matter, before it was measured.
func goodDraft(t *testing.T, field string) string {
	t.Helper()
	text, err := os.ReadFile(filepath.Join("drafts", field, "good.md"))
	require.NoError(t, err)
	return string(text)
}

// body is a draft in its paragraphs, without its front matter.
func body(text string) []string {
	if strings.HasPrefix(text, "---\n") {
		_, text, _ = strings.Cut(text[4:], "\n---\n")
	}
	return strings.Split(strings.TrimSpace(text), "\n\n")
}

// framed are the terms of a brief in sentences that say nothing, each frame another.
func (a asked) framed(frames []string) string {
	var b strings.Builder
	for i, x := range a.b.Terms {
		if i%6 == 0 {
			fmt.Fprintf(&b, "\n\n## %s\n\n", a.b.Outline[(i/6)%len(a.b.Outline)].Heading)
		}
		fmt.Fprintf(&b, frames[i%len(frames)]+" ", x.Term, a.b.Terms[(i+7)%len(a.b.Terms)].Term)
	}
	return b.String()
}

// Drafts of seven kinds come out in their order in each of three fields, one of them German: a good one, its first half, a page of the
// field as it stands and reworded, terms in varied frames, three thin sentences, an article on another subject; and a good one on a
// neighbouring subject, which TestSubjects has pages of.
func TestKindsOfDrafts(t *testing.T) {
	english := []string{"Many people like %s and also think about %s when the day is over.", "With %s it is as it is with %s for all of us here.", "You will find that %s goes well with %s in the end.", "It is good to have %s, and it is better to have %s too.", "Some say %s is what counts, and some say it is %s.", "There is no %s without %s, as they say."}
	german := []string{"Viele mögen %s und denken auch an %s, wenn der Tag vorbei ist.", "Mit %s ist es wie mit %s für uns alle hier.", "Man wird sehen, dass %s gut zu %s passt am Ende.", "Es ist gut, wenn man %s hat, und besser, wenn man %s hat.", "Manche sagen, %s zählt, und manche sagen, es ist %s.", "Es gibt kein %s ohne %s, wie man so sagt."}
	for _, x := range []struct {
		field, other string
		copied       int // the page that is copied
		frames       []string
	}{
		{"knives", "storing", 0, english},
		{"storing", "knives", 1, english},
		{"kompost", "fahrrad", 0, german},
	} {
		t.Run(x.field, func(t *testing.T) {
			a := askedOf(t, x.field)
			own := body(goodDraft(t, x.field))
			page := a.pages[x.copied].Doc
			n := 0
			kinds := map[string]string{
				"good":    goodDraft(t, x.field),
				"partial": strings.Join(own[:len(own)/2], "\n\n"),
				"thin":    own[0] + "\n\n" + strings.Join([]string{first(own[1]), first(own[3]), first(own[5])}, "\n\n"),
				"stuffed": own[0] + a.framed(x.frames),
				"copied":  asDraft(page, func(w string) string { return w }),
				"reworded": asDraft(page, func(w string) string {
					if n++; len(w) > 4 && n%6 == 0 {
						return "quorling"
					}
					return w
				}),
				"other": asDraft(askedOf(t, x.other).pages[0].Doc, func(w string) string { return w }),
			}
			fits := map[string]fit.Fit{}
			for kind, text := range kinds {
				fits[kind] = a.fitOf(t, text)
			}
			for kind, f := range fits {
				t.Logf("%s %s: %.1f; %v", x.field, kind, f.Fit, f.Counted())
				switch kind {
				case "good":
				case "partial":
					assert.Greater(t, fits["good"].Fit, f.Fit+10)
				default:
					assert.Greater(t, fits["partial"].Fit, f.Fit+10, kind)
				}
			}
			assert.Less(t, fits["copied"].Fit, 15.0)
			assert.Less(t, fits["reworded"].Fit, 15.0)
			assert.Less(t, fits["other"].Fit, 15.0)
			assert.Greater(t, fits["good"].Fit, 60.0)
		})
	}
}

// A good article on a neighbouring subject is none on this.
func TestNeighbouringDrafts(t *testing.T) {
	f := askedOf(t, "commuting").fitOf(t, goodDraft(t, "storing"))
	assert.Less(t, f.Fit, 30.0)
	f = askedOf(t, "tyres").fitOf(t, goodDraft(t, "storing"))
	assert.Less(t, f.Fit, 30.0, "it names studs twice, in one sentence")
}

// first is the first sentence of a paragraph.
func first(paragraph string) string {
	s, _, _ := strings.Cut(paragraph, ". ")
	return s + "."
}
