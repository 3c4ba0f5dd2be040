package analysis

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
)

// Evidence that took long is shown for longer, and never older than twenty seconds
// without that newer is asked for.
func TestHowLongASnapshotServes(t *testing.T) {
	for _, x := range []struct {
		took, lasts time.Duration
	}{{0, 2 * time.Second}, {500 * time.Millisecond, 2 * time.Second}, {2 * time.Second, 8 * time.Second}, {10 * time.Second, 20 * time.Second}} {
		assert.Equal(t, x.lasts, snapshotLasts(x.took), "%v", x.took)
	}
}
