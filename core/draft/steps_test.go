package draft

import (
	"bytes"
	"encoding/json"
	"testing"

	"github.com/stretchr/testify/require"
)

const stepped = `{"type":"doc","content":[{"type":"paragraph","content":[{"type":"text","text":"Ice ö"},{"type":"hard_break"}]},{"type":"bullet_list","content":[{"type":"list_item","content":[{"type":"paragraph"}]}]},{"type":"code_block","content":[{"type":"text","text":"x"}]},{"type":"image","attrs":{"src":"https://a.example/i"}}]}`

// Whatever an editor sends is refused, or leads to a draft that reads back as it is; the step that
// others receive leads them to the same.
func FuzzApply(f *testing.F) {
	for _, s := range []string{`{"stepType":"replace","from":1,"to":3}`, `{"stepType":"replace","from":0,"to":0,"slice":{"content":[{"type":"paragraph","content":[{"type":"text","text":"x","marks":[{"type":"em"}]}]}],"openStart":1}}`,
		`{"stepType":"replaceAround","from":0,"to":8,"gapFrom":1,"gapTo":7,"insert":1,"slice":{"content":[{"type":"heading","attrs":{"level":2}}]},"structure":true}`,
		`{"stepType":"addMark","mark":{"type":"link","attrs":{"href":"https://a.example/"}},"from":1,"to":4}`, `{"stepType":"removeMark","mark":{"type":"em"},"from":0,"to":9}`,
		`{"stepType":"markSet","steps":[{"stepType":"addMark","mark":{"type":"code"},"from":1,"to":2}]}`, `{"stepType":"attr","pos":16,"attr":"alt","value":"x"}`, `{"stepType":"docAttr","attr":"title","value":"T"}`,
		`{"stepType":"replace","from":0,"to":0,"slice":{"content":[],"openStart":9223372036854775807,"openEnd":9223372036854775807}}`} {
		f.Add([]byte(s))
	}
	f.Fuzz(func(t *testing.T, b []byte) {
		n, err := Parse([]byte(stepped))
		require.NoError(t, err)
		s, err := ParseStep(b)
		if err != nil {
			return
		}
		steps := []Step{s}
		to, err := n.Apply(steps)
		was, _ := json.Marshal(n)
		if again, _ := Parse([]byte(stepped)); !bytes.Equal(was, must(t, again)) {
			t.Fatal("the draft was changed")
		}
		if err != nil {
			return
		}
		back, err := Parse(must(t, to))
		require.NoError(t, err)
		require.Equal(t, string(must(t, to)), string(must(t, back)))
		sent, err := ParseStep(must(t, steps[0]))
		require.NoError(t, err)
		theirs, err := n.Apply([]Step{sent})
		require.NoError(t, err)
		require.Equal(t, string(must(t, to)), string(must(t, theirs)))
	})
}

func must(t *testing.T, v any) []byte {
	t.Helper()
	b, err := json.Marshal(v)
	require.NoError(t, err)
	return b
}
