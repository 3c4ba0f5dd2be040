package main

import (
	"math"
	"path/filepath"
	"testing"

	"corpulan/core/corpus"
	"corpulan/core/themes"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// kept are the labelled fields whose pages come with the project; those of documentation packages are not on
// every machine.
var kept = []string{"bolor", "combles", "commuting", "kalk", "knives", "kompost", "piscina", "pomodori", "storing", "tap", "tyres"}

// A field is judged by what the others teach, and its outline holds the matters of a third of the pages.
func TestTheOutlineHoldsTheMatters(t *testing.T) {
	var lessons []lesson
	fields, labels := map[string]*corpus.Field{}, map[string]map[heading]string{}
	for _, name := range kept {
		f, c := standinField(t, name)
		l, err := f.readLabels(filepath.Join("fields", name))
		require.NoError(t, err)
		fields[name], labels[name] = c, l
		lessons = append(lessons, lessonOf(name, c, l))
	}
	recall, precision := 0.0, 0.0
	for _, name := range kept {
		judge := taughtBy(lessons, name)
		s := outlineOf(fields[name], labels[name], &judge)
		t.Logf("%s: recall %.2f, precision %.2f, B-cubed %.2f", name, s.recall, s.precision, s.bcubed)
		recall += s.recall / float64(len(kept))
		precision += s.precision / float64(len(kept))
	}
	assert.Greater(t, recall, .70)
	assert.Greater(t, precision, .68)
}

// Logistic regression finds the weights that made the examples: drawn at the quantiles of the logistic
// distribution, so that nothing is left to chance.
func TestAJudgeIsTaught(t *testing.T) {
	l := lesson{field: "drawn"}
	for i := range 200 {
		x := float64(i%20) / 20
		z := -2 + 4*x
		quantile := (float64(i/20) + .5) / 10
		l.traits = append(l.traits, themes.Judge{themes.Always: 1, themes.Cosine: x})
		l.same = append(l.same, quantile < 1/(1+math.Exp(-z)))
	}
	judge := taughtBy([]lesson{l}, "")
	assert.InDelta(t, -2, judge[themes.Always], .25)
	assert.InDelta(t, 4, judge[themes.Cosine], .4)
	assert.Zero(t, judge[themes.Money], "what is never seen weighs nothing")
}
