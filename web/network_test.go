package web_test

import (
	"net/http"
	"testing"

	"github.com/stretchr/testify/assert"
)

func TestTheNetworkOfTerms(t *testing.T) {
	s := withField(t)
	s.place = "network"
	_, text := s.get(t, s.path("/field"))
	assert.Contains(t, text, s.path("/network"))
	code, text := s.get(t, s.path("/network"))
	assert.Equal(t, http.StatusOK, code)
	assert.Contains(t, text, `<svg class="term-network"`)
	assert.Regexp(t, `<a class="net-node[^"]*adopted[^"]*" data-node="\d+" href="/studies/\d+/sources\?key=bar\+mitt&amp;kind=term"`, text, "a term opens its sentences, and the brief has it")
	assert.Contains(t, text, `data-row="term bar mitt"`, "the same as a table")
	_, again := s.get(t, s.path("/network"))
	assert.Equal(t, text, again)

	code, text, _ = s.post(t, s.path("/choices"), true, "kind", "term", "key", "bar mitt", "text", "bar mitts", "view", "brief", "state", "dropped")
	assert.Equal(t, http.StatusOK, code)
	assert.Contains(t, text, `id="network"`)
	assert.NotRegexp(t, `<a class="net-node[^"]*adopted[^"]*" data-node="\d+" href="/studies/\d+/sources\?key=bar\+mitt&`, text, "hollow again")

	_, text = s.get(t, s.path("/network?hide=bar+mitt"))
	assert.NotContains(t, text, `data-row="term bar mitt"`)
	assert.Contains(t, text, "Hidden: bar mitts")
	for _, q := range []string{"show=searched", "show=both", "who=leaders", "who=followers&within=section", "terms=80", "terms=9000&show=nothing&within=page"} {
		code, _ = s.get(t, s.path("/network?%s", q))
		assert.Equal(t, http.StatusOK, code, q)
	}
}
