package draft_test

import (
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"io"
	"mime/multipart"
	"net/http"
	"regexp"
	"strings"
	"testing"
	"time"

	"corpulan/core/draft"
	"corpulan/store"
	"corpulan/web/webtest"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

type tree = map[string]any

func docOf(paragraphs ...string) tree {
	var list []tree
	for _, p := range paragraphs {
		kind, attrs := "paragraph", tree(nil)
		if rest, ok := strings.CutPrefix(p, "## "); ok {
			kind, attrs, p = "heading", tree{"level": 2}, rest
		}
		list = append(list, tree{"type": kind, "attrs": attrs, "content": []tree{{"type": "text", "text": p}}})
	}
	return tree{"type": "doc", "attrs": tree{"title": "T", "description": ""}, "content": list}
}

// writes are the steps that put another text in place of a draft as it is.
func writes(t *testing.T, s *webtest.Site, doc tree) []tree {
	t.Helper()
	n, err := draft.Parse([]byte(asJSON(t, doc)))
	require.NoError(t, err)
	places := 2 // of the empty paragraph that a draft begins with
	if now, err := s.Scope.Draft(t.Context(), 1); err == nil {
		was, err := draft.Parse(now.Document)
		require.NoError(t, err)
		places = was.Places()
	}
	return []tree{{"stepType": "replace", "from": 0, "to": places, "slice": tree{"content": n.Content}}}
}

// step is one that inserts a text at the beginning of the first paragraph.
func step(text string) tree {
	return tree{"stepType": "replace", "from": 1, "to": 1, "slice": tree{"content": []tree{{"type": "text", "text": text}}}}
}

// Whoever is first is saved; the other hears what came before, and nothing is overwritten.
func TestADraftIsSavedInTurn(t *testing.T) {
	s := webtest.WithField(t)
	at := s.Path("/draft")
	code, got := s.Send(t, at+"/steps", tree{"version": 0, "client": "a", "steps": []tree{step("One.")}})
	require.Equal(t, http.StatusOK, code, got)
	assert.EqualValues(t, 1, got["version"])
	code, got = s.Send(t, at+"/steps", tree{"version": 0, "client": "b", "steps": []tree{step("Two."), step("Three.")}})
	require.Equal(t, http.StatusConflict, code)
	steps := got["steps"].([]any)
	require.Len(t, steps, 1)
	assert.Equal(t, "a", steps[0].(tree)["client"])
	code, _ = s.Send(t, at+"/steps", tree{"version": 1, "client": "b", "steps": []tree{step("Three."), step("Two.")}})
	require.Equal(t, http.StatusOK, code)
	_, text := s.Get(t, at+"/state?since=1")
	assert.Contains(t, text, `"version":3`)
	_, text = s.Get(t, at+"/state?since=9")
	assert.Contains(t, text, `"gone":true`)
	_, text = s.Get(t, at+"/state")
	assert.Contains(t, text, "Two.Three.")
	_, text = s.Get(t, at)
	assert.Contains(t, text, "<p>Two.Three.One.</p>", "it can be read without JavaScript")
	code, _ = s.Send(t, at+"/steps", tree{"version": 3, "client": "b", "steps": []tree{step("</script><script>alert(1)</script> "),
		{"stepType": "docAttr", "attr": "title", "value": `"><script>alert(1)</script>`}, {"stepType": "docAttr", "attr": "description", "value": "</textarea><script>alert(1)</script>"}}})
	require.Equal(t, http.StatusOK, code)
	for _, path := range []string{at, at + "/as/html", at + "/compare?from=now"} {
		_, text = s.Get(t, path)
		assert.NotContains(t, text, "<script>alert", path)
	}

	for name, bad := range map[string]any{
		"no steps": tree{"version": 6, "client": "a"}, "no client": tree{"version": 6, "steps": []tree{step("x")}}, "no JSON": "{", "another thing": `[1,2]`,
		"a frame": tree{"version": 6, "client": "a", "steps": []tree{{"stepType": "replace", "from": 0, "to": 0, "slice": tree{"content": []tree{{"type": "iframe"}}}}}},
	} {
		code, _ := s.Send(t, at+"/steps", bad)
		assert.Equal(t, http.StatusUnprocessableEntity, code, name)
	}
	code, _ = s.Send(t, at+"/fit", docOf(strings.Repeat("word ", 1<<20)))
	assert.Equal(t, http.StatusRequestEntityTooLarge, code)
	_, text = s.Get(t, at+"/state?since=6")
	assert.Contains(t, text, `"version":6`, "nothing of it was saved")
}

// Beside the text stands what it lacks, whether it was saved or not; what a person typed is
// never markup.
func TestWhatStandsBesideADraft(t *testing.T) {
	s := webtest.WithField(t)
	at := s.Path("/draft")
	text := docOf("## Tyre pressure", `<script>alert(1)</script> When it is cold you lower the pressure of a studded tyre by 10 psi, so that it grips on ice.`)
	for tab, want := range map[string]string{
		"fit": "Sections", "missing": "First what readers ask", "brief": "Outline", "language": "Reading grade", "closeness": "Pages of ours", "sources": "10 psi", "versions": "No version is kept yet", "nonsense": "Sections",
	} {
		code, got := s.Send(t, at+"/fit?beside="+tab, text)
		require.Equal(t, http.StatusOK, code, tab)
		assert.Contains(t, got["panel"], want, tab)
		assert.NotContains(t, got["panel"].(string)+got["score"].(string), "<script>alert", tab)
		assert.Contains(t, got["score"], "kept pages", tab)
		assert.NotEmpty(t, got["marks"], tab)
	}
	_, got := s.Send(t, at+"/fit?beside=missing&show=terms", text)
	panel := got["panel"].(string)
	assert.Contains(t, panel, "bar mitts")
	assert.NotContains(t, panel, ">section<")
	load := webtest.Between(panel, `data-load="`, `"`)
	require.NotEmpty(t, load)
	code, example := s.Get(t, strings.ReplaceAll(load[0], "&amp;", "&"))
	assert.Equal(t, http.StatusOK, code)
	assert.Contains(t, example, "<b>")
	// Without a page that counts there is still a place to write.
	results, err := s.Scope.Results(t.Context(), 1)
	require.NoError(t, err)
	for _, r := range results {
		if r.State == store.Read {
			s.Post(t, s.Path("/results/%d/kept", r.ID), true, "kept", "false", "reason", "no")
		}
	}
	code, got = s.Send(t, at+"/fit?beside=fit", text)
	require.Equal(t, http.StatusOK, code)
	assert.Contains(t, got["panel"], "No page counts yet")
}

// A link that allows it opens the draft of its study and nothing else; one that does not, a
// revoked one and a stranger's guess open nothing.
func TestTheDraftByALink(t *testing.T) {
	s := webtest.WithField(t)
	w := s.Stranger(t)
	reader, writer := s.Link(t, "remarks", "yes", "days", "30"), s.Link(t, "drafts", "yes", "days", "30")
	_, page := w.Get(t, reader)
	assert.NotContains(t, page, "Write the draft")
	_, page = w.Get(t, writer)
	assert.Contains(t, page, "Write the draft")
	routes := []string{"", "/state", "/own?of=result:1", "/as/md", "/sentences?kind=term&key=x", "/compare?from=now", "/versions/1"}
	for _, r := range routes {
		for _, path := range []string{reader, "/w/" + strings.Repeat("A", 43)} {
			code, _ := w.Get(t, path+"/draft"+r)
			assert.Equal(t, http.StatusNotFound, code, path+r)
		}
	}
	code, _ := w.Send(t, reader+"/draft/steps", tree{"version": 0, "client": "a", "steps": []tree{step("x")}})
	assert.Equal(t, http.StatusNotFound, code)
	code, page = w.Get(t, writer+"/draft")
	require.Equal(t, http.StatusOK, code)
	assert.NotContains(t, page, "/studies/")
	assert.NotContains(t, page, "Begin from a page of ours")
	code, _ = w.Send(t, writer+"/draft/steps", tree{"version": 0, "client": "a", "steps": []tree{step("By link.")}})
	require.Equal(t, http.StatusOK, code)
	_, page = s.Get(t, s.Path("/draft"))
	assert.Contains(t, page, "By link.")
	links, err := s.Scope.Links(t.Context(), 1)
	require.NoError(t, err)
	s.Post(t, s.Path("/share/%d/revoke", links[0].ID), false)
	code, _ = w.Send(t, writer+"/draft/steps", tree{"version": 1, "client": "a", "steps": []tree{step("x")}})
	assert.Equal(t, http.StatusNotFound, code)
	// Another publication's strategist does not reach it either.
	_, err = s.Store.In(99).Draft(t.Context(), 1)
	assert.ErrorIs(t, err, store.ErrNotFound)
	_, err = s.Store.In(99).BeginDraft(t.Context(), 1, []byte("{}"))
	assert.ErrorIs(t, err, store.ErrNotFound)
}

// Versions: kept by name, listed, compared, and read again.
func TestVersionsOfADraft(t *testing.T) {
	s := webtest.WithField(t)
	at := s.Path("/draft")
	code, got := s.Send(t, at+"/versions", tree{"said": " A  <name> ", "doc": docOf("It is an older text of a few words.")})
	require.Equal(t, http.StatusOK, code, got)
	s.Send(t, at+"/steps", tree{"version": 0, "client": "a", "steps": writes(t, s, docOf("It is a newer text of a few words."))})
	_, page := s.Get(t, at+"?beside=versions")
	assert.Contains(t, page, "A &lt;name&gt;")
	id := webtest.Between(page, `data-restore="`, `"`)[0]
	_, text := s.Get(t, at+"/versions/"+id)
	assert.Contains(t, text, "older text of")
	_, text = s.Get(t, at+"/compare?from="+id)
	assert.Contains(t, text, "<del>an older ")
	assert.Contains(t, text, "<ins>a newer ")
	for _, bad := range []string{"0", "x", "99999"} {
		code, _ := s.Get(t, at+"/versions/"+bad)
		assert.Equal(t, http.StatusNotFound, code)
		code, _ = s.Get(t, at+"/compare?from="+bad)
		assert.Equal(t, http.StatusNotFound, code)
	}
	code, _ = s.Send(t, at+"/versions", tree{"said": "x", "doc": 7})
	assert.Equal(t, http.StatusUnprocessableEntity, code)
}

// A text of a hundred thousand words, one of one long line, and one that says one thing without
// end are measured, and what is sent back is bounded.
func TestDraftsBeyondMeasure(t *testing.T) {
	s := webtest.WithField(t)
	at := s.Path("/draft")
	for name, text := range map[string]string{"a book": strings.Repeat("On the road a studded tyre grips, and bar mitts keep your hands warm. ", 7000), "one line": strings.Repeat("take 15 mm of ice ", 25_000), "questions": strings.Repeat("Is it cold? ", 30_000), "marks of quotation": strings.Repeat("“a” ", 100_000)} {
		for _, tab := range []string{"sources", "closeness"} {
			code, got := s.Send(t, at+"/fit?beside="+tab, docOf(text))
			require.Equal(t, http.StatusOK, code, name)
			assert.LessOrEqual(t, len(got["marks"].([]any)), 10_000, name)
			assert.Less(t, len(got["panel"].(string)), 300_000, name)
		}
	}
}

// Files are taken in and handed over; what is none says so.
func TestFilesOfADraft(t *testing.T) {
	s := webtest.WithField(t)
	at := s.Path("/draft")
	upload := func(name, content string) (int, string) {
		var b bytes.Buffer
		m := multipart.NewWriter(&b)
		part, err := m.CreateFormFile("file", name)
		require.NoError(t, err)
		_, err = part.Write([]byte(content))
		require.NoError(t, err)
		require.NoError(t, m.Close())
		resp, err := s.Browser.Post(s.URL+at+"/import", m.FormDataContentType(), &b)
		require.NoError(t, err)
		defer resp.Body.Close()
		text, err := io.ReadAll(resp.Body)
		require.NoError(t, err)
		return resp.StatusCode, string(text)
	}
	code, text := upload("a.md", "# Head\n\nA *text*.\n")
	require.Equal(t, http.StatusOK, code)
	assert.Contains(t, text, `"type":"em"`)
	for name, content := range map[string]string{"a.docx": "no zip", "b.md": "a\x00b", "c.docx": "PK\x03\x04zzzz"} {
		code, text := upload(name, content)
		assert.Equal(t, http.StatusUnprocessableEntity, code, name)
		assert.Regexp(t, `^[A-Z].*\.\n$`, text, "a sentence")
	}
	s.Send(t, at+"/steps", tree{"version": 0, "client": "a", "steps": writes(t, s, docOf("## Tyre pressure", "Handed over."))})
	for format, want := range map[string]string{"md": "## Tyre pressure\n\nHanded over.\n", "html": "<h2>Tyre pressure</h2>", "txt": "Handed over.", "docx": "PK", "faq": "FAQPage"} {
		code, text := s.Get(t, at+"/as/"+format)
		assert.Equal(t, http.StatusOK, code, format)
		assert.Contains(t, text, want, format)
	}
	code, _ = s.Get(t, at+"/as/exe")
	assert.Equal(t, http.StatusNotFound, code)
	_, page := s.Get(t, s.Path("/against?page=draft"))
	assert.Contains(t, page, "bar mitts")
	assert.Contains(t, page, "lacking")
}

// A page of ours becomes the draft, with its title.
func TestAPageOfOursAsADraft(t *testing.T) {
	s := webtest.WithField(t)
	results, err := s.Scope.Results(t.Context(), 1)
	require.NoError(t, err)
	own := func(of string) (int, string) {
		code, text, _ := s.Post(t, s.Path("/draft/own"), false, "of", of)
		return code, text
	}
	ofFirst := fmt.Sprintf("result:%d", results[0].ID)
	code, _ := own(ofFirst)
	assert.Equal(t, http.StatusNotFound, code, "a page of somebody else's is none of ours")
	for _, bad := range []string{"", "own:1", "own:x", "result:99999999999999999999"} {
		code, _ := own(bad)
		assert.Equal(t, http.StatusNotFound, code, bad)
	}
	require.NoError(t, s.Store.SQL().QueryRowContext(t.Context(), fmt.Sprintf("update results set own = true where id = %d returning id", results[0].ID)).Err())
	s.Post(t, s.Path("/results/%d/kept", results[1].ID), true, "kept", "false", "reason", "so that it is counted anew")
	code, text := own(ofFirst)
	require.Equal(t, http.StatusOK, code, text)
	assert.Contains(t, text, `"type":"heading"`)
	assert.Contains(t, text, `"title":`)
	_, page := s.Get(t, s.Path("/draft?beside=versions"))
	assert.Contains(t, page, fmt.Sprintf(`data-own="result:%d"`, results[0].ID))
}

// A word that is right is taught to the house by those of the publication, and known from then on
// to all its drafts; by a link it is not.
func TestWordsThatAreRight(t *testing.T) {
	s := webtest.WithField(t)
	_, page := s.Get(t, s.Path("/draft"))
	assert.NotContains(t, page, "Quillbrake")
	code, _, _ := s.Post(t, s.Path("/draft/right"), false, "word", "Quillbrake")
	require.Equal(t, http.StatusOK, code)
	_, page = s.Get(t, s.Path("/draft"))
	assert.Contains(t, page, "Quillbrake")
	_, page = s.Get(t, s.Path("/lexicon"))
	assert.Contains(t, page, "is spelt right")
	w := s.Stranger(t)
	code, _, _ = w.Post(t, s.Link(t, "drafts", "yes")+"/draft/right", false, "word", "Other")
	assert.Equal(t, http.StatusNotFound, code)
	code, _, _ = s.Post(t, s.Path("/draft/right"), false, "word", " ")
	assert.Equal(t, http.StatusNotFound, code)
}

// Whoever leaves while their text is being saved leaves no fault behind in the log.
func TestLeavingWhileSaving(t *testing.T) {
	s := webtest.WithField(t)
	at := s.Path("/draft")
	s.Send(t, at+"/steps", tree{"version": 0, "client": "a", "steps": []tree{step("x")}})
	// Somebody else holds the draft for a moment.
	tx, err := s.Store.SQL().BeginTx(t.Context(), nil)
	require.NoError(t, err)
	_, err = tx.ExecContext(t.Context(), "select 1 from drafts for update")
	require.NoError(t, err)
	body, err := json.Marshal(tree{"version": 1, "client": "a", "steps": []tree{step("y")}})
	require.NoError(t, err)
	ctx, leave := context.WithCancel(t.Context())
	req, err := http.NewRequestWithContext(ctx, http.MethodPost, s.URL+at+"/steps", bytes.NewReader(body))
	require.NoError(t, err)
	gone := make(chan error)
	go func() {
		resp, err := s.Browser.Do(req)
		if err == nil {
			err = resp.Body.Close()
		}
		gone <- err
	}()
	waits := func(somebody bool) {
		t.Helper()
		require.Eventually(t, func() bool {
			var waiting int
			err := s.Store.SQL().QueryRowContext(t.Context(), "select count(*) from pg_stat_activity where datname = current_database() and wait_event_type = 'Lock'").Scan(&waiting)
			return err == nil && (waiting > 0) == somebody
		}, 10*time.Second, 5*time.Millisecond)
	}
	waits(true)
	leave()
	require.Error(t, <-gone)
	waits(false) // the server has noticed
	require.NoError(t, tx.Rollback())
	code, got := s.Send(t, at+"/steps", tree{"version": 1, "client": "b", "steps": []tree{step("z")}})
	assert.Equal(t, http.StatusOK, code, got)
	assert.NotContains(t, s.Logged(), "a draft's request failed")
}

// A writer says that a passage answers a question of the brief, and takes it back.
func TestJudgingAnAnswer(t *testing.T) {
	s := webtest.WithField(t)
	_, page := s.Get(t, s.Path("/draft?beside=fit"))
	found := regexp.MustCompile(`data-judge="yes"\s+data-question="([^"]+)"`).FindStringSubmatch(page)
	require.NotNil(t, found, "a question that is not answered")
	said := func() string {
		d, err := s.Scope.DraftHead(t.Context(), s.Study.ID)
		require.NoError(t, err)
		return d.Said.Data().Answers[found[1]].Text
	}
	judge := func(answers, text string) int {
		code, _, _ := s.Post(t, s.Path("/draft/judge"), false, "question", found[1], "answers", answers, "text", text)
		return code
	}
	require.Equal(t, http.StatusOK, judge("yes", "A passage of the draft."))
	assert.Equal(t, "A passage of the draft.", said())
	_, page = s.Get(t, s.Path("/draft?beside=fit"))
	assert.Contains(t, page, "is gone, or does not count", "nor did it ever")
	assert.NotEqual(t, http.StatusOK, judge("yes", strings.Repeat("x", 5001)))
	assert.Equal(t, "A passage of the draft.", said())
	require.Equal(t, http.StatusOK, judge("back", ""))
	assert.Empty(t, said())
	w := s.Stranger(t)
	code, _, _ := w.Post(t, s.Link(t)+"/draft/judge", false, "question", found[1], "answers", "yes", "text", "x")
	assert.Equal(t, http.StatusNotFound, code, "a link that does not let one write")
}
