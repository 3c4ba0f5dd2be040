package search

import (
	"testing"

	"github.com/stretchr/testify/assert"
)

// Whatever a keyword service answers, it is read or refused, and what is read is sound.
func FuzzParseFigures(f *testing.F) {
	f.Add([]byte(`{"keywords":[{"keyword":"bar mitts","volume":590,"difficulty":31,"cost":0.9,"months":[1,2],"until":"2026-10"}]}`))
	f.Add([]byte(`{"keywords":[{"keyword":"\u0000","volume":-1},{"keyword":"x","difficulty":1e300}]}`))
	f.Add([]byte(`[]`))
	f.Fuzz(func(t *testing.T, body []byte) {
		list, err := ParseFigures(body)
		if err != nil {
			return
		}
		for _, k := range list {
			assert.NotEmpty(t, k.Text)
			assert.False(t, k.Volume.Value < 0 || k.Difficulty.Value < 0 || k.Difficulty.Value > 100 || k.Competition.Value > 1 || k.Cost.Value < 0)
			assert.LessOrEqual(t, len(k.Trend), maxMonths)
		}
	})
}
