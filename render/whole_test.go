package render

import (
	"bytes"
	"encoding/json"
	"strings"
	"testing"

	"corpulan/core/brief"
	"corpulan/core/links"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// full is a brief with everything in it that a brief can have.
func full(t *testing.T) brief.Brief {
	t.Helper()
	e := compute(demoField(t))
	var c brief.Choices
	for name, text := range map[string]string{brief.FieldOwner: "Wren", brief.FieldDue: "2026-12-24", brief.FieldNotes: "one\ntwo", brief.FieldLength: "900 to 1,300",
		brief.FieldParts: "terms\n-openings\nown:1\n", brief.PartTitlePrefix + "1": "Approvals", brief.PartPrefix + "1": "Ask <first>"} {
		c.Type(name, text)
	}
	c.Set(brief.OwnSection(e, "Money & insurance"))
	c.Set(brief.Mark{Kind: brief.LinkKind, Key: "own:https://law.example/", Text: "https://law.example/", State: brief.Adopted})
	for i, kind := range []string{"passage", "question", "figure"} {
		x := brief.Cutting{Kind: kind, Text: strings.Repeat("Words that stood there. ", i+1), URL: "http://a.example/", Title: "A | B", Rank: 1, Date: "2026-11-25"}
		x.ID = brief.CuttingID(x.URL, x.Text)
		edits, err := c.Cut(x)
		require.NoError(t, err)
		for _, x := range edits {
			require.NoError(t, c.Apply(x))
		}
	}
	b := brief.Compose(e, c, brief.Setting{})
	at := b.Outline[0].Key
	c.Type(brief.CuttingAtPrefix+c.CuttingOrder()[0], at)
	c.Type(brief.WordsPrefix+at, "250")
	link := links.Link{URL: "http://own.example/a", Title: "Own <a>", Anchor: "winter tyres", Sentence: "We sell winter tyres.", Shared: []string{"tyres"}, Near: 0.5}
	return brief.Compose(e, c, brief.Setting{Publication: "Quillfen Cycles", Country: "gb", Gathered: "2026-11-25", Version: 7,
		Own: links.Found{To: []links.Link{link}, From: []links.Link{link}, Rivals: []links.Rival{{URL: "http://own.example/r", Title: "Rival", Why: "the keyword stands in its H1"}}}})
}

// A brief as JSON reads back: written again, in every format, it is the same bytes.
func TestJSONReadsBack(t *testing.T) {
	b := full(t)
	text := write(t, "json", b)
	var doc any
	require.NoError(t, json.Unmarshal([]byte(text), &doc))
	require.NoError(t, compile(t, "brief.json").Validate(doc))
	again, err := ReadJSON(strings.NewReader(text))
	require.NoError(t, err)
	for _, f := range Formats() {
		var one, two bytes.Buffer
		require.NoError(t, f.Write(&one, b.WithDossier(true)), f.Name)
		require.NoError(t, f.Write(&two, again), f.Name)
		assert.True(t, bytes.Equal(one.Bytes(), two.Bytes()), f.Name)
	}
	for _, wrong := range []string{"", "{}", "[1]", `{"schema":"another"}`, text[:len(text)/2]} {
		_, err := ReadJSON(strings.NewReader(wrong))
		assert.ErrorIs(t, err, ErrNoBrief)
	}
}

// What a brief holds stands in every format that is read by people, and hidden parts in none.
func TestEverythingGoesAlong(t *testing.T) {
	b := full(t)
	for _, format := range []string{"md", "html", "prompt"} {
		doc := write(t, format, b)
		for _, want := range []string{"Quillfen Cycles", "Wren", "2026-12-24", "900 to 1300 words", "Approvals", "law.example", "winter tyres", "We sell winter tyres.", "own.example/r", "Words that stood there.", "captured 2026-11-25", "250 words, set by hand", b.Fields.StructuredData[:10]} {
			if format == "prompt" && want == "Approvals" {
				want = "APPROVALS"
			}
			if format == "prompt" && strings.HasPrefix(want, "250") {
				want = "(about 250 words)"
			}
			assert.Contains(t, doc, want, format)
		}
		assert.NotContains(t, strings.ToLower(doc), "## openings")
		if format != "prompt" { // which is plain text
			assert.NotContains(t, doc, "<first>", format)
		}
	}
	names := map[string]bool{}
	for _, k := range Document(b) {
		if k.Form == PartForm {
			names[k.Name] = true
		}
	}
	assert.False(t, names[brief.PartOpenings])
	assert.True(t, names["own:1"])
}
