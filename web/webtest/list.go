package webtest

import (
	"fmt"
	"net/http"
	"testing"

	"corpulan/core/demand"
	"corpulan/store"

	"github.com/stretchr/testify/require"
)

// WithList gives the site a list of keywords, grouped by words and by known results.
func WithList(t *testing.T) *Site {
	t.Helper()
	s := WithField(t)
	ctx := t.Context()
	code, text, h := s.Post(t, "/demand", false, "name", "Winter <b>", "language", "en", "country", "gb", "pasted",
		"Keyword\tVolume\tDifficulty\tCPC\nwinter riding\t900\t40\t1.00\nriding in winter\t300\t30\t0.50\nbar mitts\t500\t20\t0.80\npogies for bikes\t200\t22\t0.70\nhow do bar mitts work\t50\t15\t0.10\nchain lube\t400\t25\t0.30\nwinter riding 2019\t10\t5\t0.10\n")
	require.Equal(t, http.StatusSeeOther, code, text)
	require.Equal(t, "/demand/1", h.Get("Location"))
	for _, k := range []string{"bar mitts", "pogies for bikes", "how do bar mitts work", "chain lube"} {
		site, from := "m", len(k)%3
		if k == "chain lube" {
			site = "l"
		}
		var list []string
		for i := range 10 {
			list = append(list, fmt.Sprintf("http://%s.example/%d", site, from+i))
		}
		require.NoError(t, s.Scope.KeepResultsPage(ctx, store.ResultsPage{Language: "en", Country: "gb", Key: demand.Same(k), Addresses: list}))
	}
	return s
}
