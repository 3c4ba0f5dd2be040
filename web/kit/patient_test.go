package kit

import (
	"io"
	"net/http"
	"net/http/httptest"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
)

// A body that drips is cut off, whether it stops now and then or takes for ever;
// one that comes at a fair speed is not.
func TestADrippingBody(t *testing.T) {
	body := func(since, end time.Duration, bytes int64) *patient {
		return &patient{io.NopCloser(strings.NewReader("more")), http.NewResponseController(httptest.NewRecorder()), time.Now().Add(end), bytes, time.Now().Add(-since)}
	}
	for name, c := range map[string]struct {
		p  *patient
		ok bool
	}{
		"has just begun":    {body(time.Second, time.Minute, 0), true},
		"fair":              {body(time.Minute, time.Minute, 61*minRate), true},
		"a byte now and on": {body(time.Minute, time.Minute, 600), false},
		"takes for ever":    {body(longestBody, -time.Second, 100<<20), false},
	} {
		got, err := io.ReadAll(c.p)
		if c.ok {
			assert.NoError(t, err, name)
			assert.Equal(t, "more", string(got), name)
		} else {
			assert.ErrorIs(t, err, errDrips, name)
		}
	}
}
