package main

import (
	"encoding/json"
	"os"
	"path/filepath"
	"testing"

	"github.com/santhosh-tekuri/jsonschema/v6"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// A draft is checked against a brief that was handed over as JSON: fit, closeness and an exit
// code for a publishing pipeline; the same bytes each time.
func TestCheck(t *testing.T) {
	folder := t.TempDir()
	page := "../../standin/sites/northlane.example/guides/winter-bike-commuting.html"
	if list, err := filepath.Glob("../../standin/sites/northlane.example/guides/*.html"); err == nil && len(list) > 0 {
		page = list[0]
	}
	other := "../../standin/sites/tarnandtread.example/guides/commuting-by-bike-in-winter.html"
	brief, draft := filepath.Join(folder, "brief.json"), filepath.Join(folder, "draft.md")
	code, _, errs := call(t, "", "brief", "--keyword", "winter bike commuting", "--out", brief, page, other)
	require.Zero(t, code, errs)
	require.NoError(t, os.WriteFile(draft, []byte("# Winter bike commuting\n\n## Tyres\n\nOn black ice only studded tyres hold, and each stud is a small pin of carbide that bites where rubber slides.\n"), 0o600))
	code, out, errs := call(t, "", "check", "--brief", brief, draft)
	require.Zero(t, code, errs)
	var fit struct {
		Fit       float64
		Copied    struct{ Words, Of int }
		Aim, Near float64
		Questions []struct {
			Text, Sentence string
			Answered       bool
		}
		Claims []struct {
			Text           string
			Ranks, Differs []int
		}
		Parts     []struct{ Name string }
		Closeness []struct{ Share float64 }
	}
	require.NoError(t, json.Unmarshal([]byte(out), &fit))
	assert.Positive(t, fit.Fit)
	assert.Less(t, fit.Fit, 40.0)
	assert.GreaterOrEqual(t, len(fit.Parts), 5)
	_, again, _ := call(t, "", "check", "--brief", brief, draft)
	assert.Equal(t, out, again)
	code, _, errs = call(t, "", "check", "--brief", brief, "--min", "80", draft)
	assert.Equal(t, 1, code)
	assert.Contains(t, errs, "below --min")
	assert.Zero(t, fit.Copied.Words)
	assert.InDelta(t, 80, fit.Aim, 1e-9, "the common one")
	assert.NotEmpty(t, fit.Questions)
	code, lines, errs := call(t, "", "check", "--explain", "--brief", brief, draft)
	require.Zero(t, code, errs)
	assert.Contains(t, lines, "of 100; 80 is the aim\n")
	assert.Contains(t, lines, "  missing: ")
	code, out, errs = call(t, "", "check", "--brief", brief, "--min", "15", page, "--pages", page, other)
	assert.Equal(t, 1, code)
	assert.Contains(t, errs, "below --min")
	require.NoError(t, json.Unmarshal([]byte(out), &fit))
	assert.Greater(t, fit.Copied.Words, 100, "what is copied counts for nothing")
	assert.GreaterOrEqual(t, fit.Copied.Of, fit.Copied.Words)
	assert.InDelta(t, 15, fit.Aim, 1e-9, "what is asked for")
	require.NotEmpty(t, fit.Claims)
	assert.Contains(t, fit.Claims[0].Ranks, 1, "its own figure stands there")
	require.NotEmpty(t, fit.Closeness)
	assert.InDelta(t, 1, fit.Closeness[0].Share, 1e-9, "a copy is one")
	schema, err := jsonschema.NewCompiler().Compile("../../docs/schema/fit.json")
	require.NoError(t, err)
	var doc any
	require.NoError(t, json.Unmarshal([]byte(out), &doc))
	assert.NoError(t, schema.Validate(doc))
	for _, wrong := range [][]string{{"check", draft}, {"check", "--brief", brief}, {"check", "--brief", brief, "--min", "101", draft}, {"check", "--brief", brief, draft, draft}} {
		code, _, _ := call(t, "", wrong...)
		assert.Equal(t, exitWrongUse, code, wrong)
	}
	for _, wrong := range [][]string{{"check", "--brief", draft, draft}, {"check", "--brief", brief, "nowhere.md"}, {"check", "--brief", brief, brief[:len(brief)-5]}} {
		code, _, errs := call(t, "", wrong...)
		assert.Equal(t, 1, code, errs)
	}
	// A brief as JSON is written in another form.
	code, out, errs = call(t, "", "brief", "--from", brief, "--format", "md")
	require.Zero(t, code, errs)
	assert.Contains(t, out, "# Brief: winter bike commuting")
	code, _, _ = call(t, "", "brief", "--from", brief, "--format", "md", page)
	assert.Equal(t, exitWrongUse, code)
	code, _, _ = call(t, "", "brief", "--from", draft, "--format", "md")
	assert.Equal(t, 1, code)
}
