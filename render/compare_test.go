package render

import (
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"

	"corpulan/core/brief"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

func whole(pieces []Piece) (s, marked string) {
	for _, p := range pieces {
		s += p.Text
		if p.Marked {
			marked += p.Text
		}
	}
	return s, marked
}

// The pieces of two texts are those texts, and what is not marked is the same in both.
func TestWordsAddUp(t *testing.T) {
	gone, came := Words("Sell tyres to beginners.", "Sell winter tyres, not lamps, to beginners.")
	_, a := whole(gone)
	_, b := whole(came)
	assert.Equal(t, "tyres ", a)
	assert.Equal(t, "winter tyres, not lamps, ", b)
	rapid.Check(t, func(t *rapid.T) {
		a, b := rapid.String().Draw(t, "a"), rapid.String().Draw(t, "b")
		gone, came := Words(a, b)
		wholeA, markedA := whole(gone)
		wholeB, markedB := whole(came)
		if wholeA != a || wholeB != b {
			t.Fatalf("%q and %q came out as %q and %q", a, b, wholeA, wholeB)
		}
		if len(a)-len(markedA) != len(b)-len(markedB) {
			t.Fatalf("%q and %q share different things", a, b)
		}
	})
}

// Two briefs are compared line by line; diff (of GNU diffutils) finds no fewer lines gone and
// come than we do, and no more.
func TestCompareAgainstDiff(t *testing.T) {
	a := demo(t)
	b := a
	b.Fields.Goal = a.Fields.Goal + "\nAnd sell lamps."
	b.H1 = "Ride on"
	b.Outline = append([]brief.Section{{Key: "own:x", Level: 2, Heading: "Ours", Words: 50, Note: "Say so."}}, a.Outline...)
	b.Terms = a.Terms[1:]
	assert.Empty(t, Compare(a, a))
	changes := Compare(a, b)
	gone, came := 0, 0
	says := map[string]bool{}
	for _, c := range changes {
		if g, _ := whole(c.Gone); g != "" {
			gone++
		}
		if c, _ := whole(c.Came); c != "" {
			came++
			says[c] = true
		}
	}
	for _, want := range []string{"H1: Ride on", "Goal: And sell lamps.", "› Ours (50 words)", "Note: Say so."} {
		assert.True(t, says[want], want)
	}
	dir := t.TempDir()
	write := func(name string, b brief.Brief) string {
		path := filepath.Join(dir, name)
		var lines strings.Builder
		for _, l := range Lines(b) {
			fmt.Fprintln(&lines, l.Under, "|", l.Text)
		}
		require.NoError(t, os.WriteFile(path, []byte(lines.String()), 0o600))
		return path
	}
	out, err := exec.Command("diff", "--text", write("a", a), write("b", b)).Output()
	var exit *exec.ExitError
	require.ErrorAs(t, err, &exit)
	require.Equal(t, 1, exit.ExitCode(), "they differ")
	assert.Equal(t, strings.Count("\n"+string(out), "\n<"), gone)
	assert.Equal(t, strings.Count("\n"+string(out), "\n>"), came)
}
