package parts

import (
	"testing"

	"corpulan/core/evidence"
	"corpulan/core/stats"

	"github.com/stretchr/testify/assert"
)

func TestDifferencesAreToldInUnitsWhereFew(t *testing.T) {
	row := func(leaders, followers float64, unit string) string {
		return FigureRow{Figure: evidence.Figure{Unit: unit, Leaders: stats.Range{Median: leaders, N: 3}, Followers: stats.Range{Median: followers, N: 7}}}.Compare()
	}
	assert.Equal(t, "+12", row(13, 1, ""))
	assert.Equal(t, "+50 %", row(1200, 800, ""))
	assert.Equal(t, "−25 %", row(600, 800, ""))
	assert.Equal(t, "−3", row(46, 49, "%"))
	assert.Equal(t, "−1", row(46.4, 46.6, "%"), "as the figures beside it are shown")
	assert.Equal(t, "", row(4, 4, ""))
	assert.Equal(t, "", FigureRow{}.Compare(), "nothing to compare")
}
