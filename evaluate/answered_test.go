package main

import (
	"os"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// leastAnswered is the F1 from which the judgement of drafts is as good as it was when it was measured: .746.
const leastAnswered = 0.72

// Whether drafts answer the questions of their brief, against a reader's labels.
func TestDraftsAnswer(t *testing.T) {
	lines, err := fileLines("drafts/answers.tsv")
	require.NoError(t, err)
	answered := map[string]map[string]bool{} // by draft, the questions; nothing of one that is not asked
	var right, wrong, missed float64
	for _, l := range lines {
		cells := strings.Split(l, "\t")
		if len(cells) != 4 { // the head
			continue
		}
		name := cells[0] + "/" + cells[1]
		if answered[name] == nil {
			text, err := os.ReadFile("drafts/" + name + ".md")
			require.NoError(t, err)
			a := askedOf(t, cells[0])
			answered[name] = map[string]bool{}
			for _, q := range a.b.Questions {
				answered[name][q.Text] = false
			}
			for _, x := range a.fitOf(t, string(text)).Answers() {
				answered[name][x.Question] = true
			}
		}
		says, asked := answered[name][cells[2]]
		if !asked {
			continue
		}
		switch {
		case says && cells[3] == "yes":
			right++
		case says:
			wrong++
			t.Logf("%s does not answer %s", name, cells[2])
		case cells[3] == "yes":
			missed++
			t.Logf("%s answers %s", name, cells[2])
		}
	}
	assert.Greater(t, right+missed, 25.0, "the questions of the labels are asked")
	f := 2 * right / (2*right + wrong + missed)
	t.Logf("precision %.2f, recall %.2f, F1 %.3f", right/(right+wrong), right/(right+missed), f)
	assert.GreaterOrEqual(t, f, leastAnswered)
}
