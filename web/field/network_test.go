package field_test

import (
	"net/http"
	"testing"

	"github.com/stretchr/testify/assert"

	"corpulan/web/webtest"
)

func TestTheNetworkOfTerms(t *testing.T) {
	s := webtest.WithField(t)
	s.Place = "network"
	_, text := s.Get(t, s.Path("/further"))
	assert.Contains(t, text, s.Path("/network"))
	code, text := s.Get(t, s.Path("/network"))
	assert.Equal(t, http.StatusOK, code)
	assert.Contains(t, text, `<svg class="term-network"`)
	assert.Regexp(t, `<a class="net-node[^"]*adopted[^"]*" data-node="\d+" href="/studies/\d+/sources\?key=bar\+mitt&amp;kind=term"`, text, "a term opens its sentences, and the brief has it")
	assert.Contains(t, text, `data-row="term bar mitt"`, "the same as a table")
	_, again := s.Get(t, s.Path("/network"))
	assert.Equal(t, text, again)

	code, text, _ = s.Post(t, s.Path("/choices"), true, "kind", "term", "key", "bar mitt", "text", "bar mitts", "view", "brief", "state", "dropped")
	assert.Equal(t, http.StatusOK, code)
	assert.Contains(t, text, `id="network"`)
	assert.NotRegexp(t, `<a class="net-node[^"]*adopted[^"]*" data-node="\d+" href="/studies/\d+/sources\?key=bar\+mitt&`, text, "hollow again")

	_, text = s.Get(t, s.Path("/network?hide=bar+mitt"))
	assert.NotContains(t, text, `data-row="term bar mitt"`)
	assert.Contains(t, text, "Hidden: bar mitts")
	for _, q := range []string{"show=searched", "show=both", "who=leaders", "who=followers&within=section", "terms=80", "terms=9000&show=nothing&within=page"} {
		code, _ = s.Get(t, s.Path("/network?%s", q))
		assert.Equal(t, http.StatusOK, code, q)
	}
}
