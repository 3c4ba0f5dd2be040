package draft_test

import (
	"bufio"
	"bytes"
	"encoding/json"
	"os/exec"
	"testing"

	"corpulan/core/draft"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// Changes of any drafts lead where ProseMirror's transform module, the editor's own and the reference
// for them, leads; and each step, checked and written again, is the step that it was.
func TestStepsAsTheEditorMakesThem(t *testing.T) {
	out, err := exec.CommandContext(t.Context(), "node", "editor/cases.mjs", "1500").Output()
	require.NoError(t, err)
	lines := bufio.NewScanner(bytes.NewReader(out))
	lines.Buffer(nil, 1<<20)
	n := 0
	for ; lines.Scan(); n++ {
		var x struct {
			Doc, Result json.RawMessage
			Steps       []json.RawMessage
		}
		require.NoError(t, json.Unmarshal(lines.Bytes(), &x))
		doc, err := draft.Parse(x.Doc)
		require.NoError(t, err)
		was := asJSON(t, doc)
		var steps []draft.Step
		for _, s := range x.Steps {
			step, err := draft.ParseStep(s)
			require.NoError(t, err, string(s))
			steps = append(steps, step)
			again, err := draft.ParseStep([]byte(asJSON(t, step)))
			require.NoError(t, err)
			assert.Equal(t, step, again)
		}
		want, err := draft.Parse(x.Result)
		require.NoError(t, err)
		got, err := doc.Apply(steps)
		require.NoError(t, err, lines.Text())
		require.JSONEq(t, asJSON(t, want), asJSON(t, got), lines.Text())
		require.Equal(t, was, asJSON(t, doc), "the draft itself is left as it is")
	}
	require.NoError(t, lines.Err())
	assert.Equal(t, 1500, n)
}

func asJSON(t *testing.T, v any) string {
	t.Helper()
	b, err := json.Marshal(v)
	require.NoError(t, err)
	return string(b)
}
