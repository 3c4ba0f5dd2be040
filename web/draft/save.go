package draft

import (
	"encoding/json"
	"errors"
	"fmt"
	"net/http"
	"strconv"
	"strings"

	"corpulan/core/draft"
	"corpulan/core/fit"
	"corpulan/core/house"
	"corpulan/core/message"
	"corpulan/formats/manuscript"
	"corpulan/store"
	"corpulan/study"
	"corpulan/web/kit"

	"github.com/gin-gonic/gin"
)

// refuse answers the editor in words; what a person typed stays with the editor.
func (s *handlers) refuse(c *gin.Context, err error) {
	status, what := http.StatusInternalServerError, message.Message("Something went wrong on our side. Your text is kept in this browser.")
	var large *http.MaxBytesError
	switch {
	case kit.HasGone(c, err):
		c.Abort()
		return
	case errors.As(err, &large), errors.Is(err, draft.ErrTooLarge): // which is an ErrDraft as well
		status, what = http.StatusRequestEntityTooLarge, message.Fault(draft.ErrTooLarge)
	case errors.Is(err, study.ErrDraft), errors.Is(err, manuscript.ErrNoDraft):
		status, what = http.StatusUnprocessableEntity, message.Fault(err)
	case errors.Is(err, store.ErrNotFound):
		status, what = http.StatusNotFound, "There is nothing at this address."
	case errors.Is(err, store.ErrTooMany):
		status, what = http.StatusUnprocessableEntity, "There are too many versions with names."
	default:
		s.Log.Error("a draft's request failed", "path", kit.LoggedPath(c), "error", err)
		if code, trouble := s.Trouble(c, err); trouble != "" {
			status, what = code, message.Joined(" ", trouble, "Your text is kept in this browser.")
		}
	}
	c.String(status, "%s\n", s.Tongue(c).Say(what))
}

// draftState tells the editor what the draft is, or what came since a version.
func (s *handlers) draftState(c *gin.Context) {
	d, ctx := deskOf(c), c.Request.Context()
	since, err := strconv.Atoi(c.Query("since"))
	if err != nil {
		now, doc, err := d.commands.Draft(ctx, d.study.ID)
		if err != nil {
			s.refuse(c, err)
			return
		}
		c.JSON(http.StatusOK, gin.H{"version": now.Version, "doc": doc})
		return
	}
	if d.ByLink { // who looks at the study sees that its writer is there
		if _, err := d.commands.Look(ctx, d.study.ID, d.who, d.Author, "draft", true); err != nil && ctx.Err() == nil {
			s.Log.Warn("a look was not kept", "error", err)
		}
	}
	now, err := d.scope.DraftHead(ctx, d.study.ID)
	if err != nil {
		s.refuse(c, err)
		return
	}
	s.answerSteps(c, http.StatusOK, d, now, since)
}

// answerSteps sends what came since a version; "gone" where that is not kept any more.
func (s *handlers) answerSteps(c *gin.Context, status int, d desk, now store.Draft, since int) {
	steps, err := d.scope.Steps(c.Request.Context(), now, since)
	switch {
	case errors.Is(err, store.ErrBehind) || since > now.Version:
		c.JSON(status, gin.H{"version": now.Version, "gone": true})
	case err != nil:
		s.refuse(c, err)
	default:
		c.JSON(status, gin.H{"version": now.Version, "steps": steps, "author": now.Author})
	}
}

// saveDraft takes steps of an editor; 409 with what came before them if there is any.
func (s *handlers) saveDraft(c *gin.Context) {
	d := deskOf(c)
	var in study.DraftSave
	if err := json.NewDecoder(c.Request.Body).Decode(&in); err != nil {
		s.refuse(c, fmt.Errorf("%w: %w", study.ErrDraft, err))
		return
	}
	ctx := c.Request.Context()
	now, err := d.commands.SaveDraft(ctx, d.study.ID, d.Author, in)
	if errors.Is(err, store.ErrNotFound) { // sent before the place was ever opened
		if _, _, err = d.commands.Draft(ctx, d.study.ID); err == nil {
			now, err = d.commands.SaveDraft(ctx, d.study.ID, d.Author, in)
		}
	}
	if errors.Is(err, store.ErrBehind) {
		if now, err = d.scope.DraftHead(ctx, d.study.ID); err == nil {
			s.answerSteps(c, http.StatusConflict, d, now, in.Version)
			return
		}
	}
	if err != nil {
		s.refuse(c, err)
		return
	}
	c.JSON(http.StatusOK, gin.H{"version": now.Version})
}

// keepVersion keeps the text that is sent as a version.
func (s *handlers) keepVersion(c *gin.Context) {
	d := deskOf(c)
	var in struct {
		Said string          `json:"said"`
		Doc  json.RawMessage `json:"doc"`
	}
	err := json.NewDecoder(c.Request.Body).Decode(&in)
	if err != nil {
		err = fmt.Errorf("%w: %w", study.ErrDraft, err)
	}
	ctx := c.Request.Context()
	if err == nil {
		_, _, err = d.commands.Draft(ctx, d.study.ID)
	}
	said := message.Text(kit.Shorten(strings.Join(strings.Fields(in.Said), " "), 120))
	if said == "" {
		said = "Kept by hand"
	}
	if err == nil {
		err = d.commands.KeepDraft(ctx, d.study.ID, d.Author, said, in.Doc)
	}
	if err != nil {
		s.refuse(c, err)
		return
	}
	c.JSON(http.StatusOK, gin.H{})
}

// draftVersion is the text of a version.
func (s *handlers) draftVersion(c *gin.Context) {
	_, n, err := s.versionOf(c, c.Param("version"))
	if err != nil {
		s.refuse(c, err)
		return
	}
	c.JSON(http.StatusOK, n)
}

// versionOf is a version of the draft by its number, the present text for "now".
func (s *handlers) versionOf(c *gin.Context, name string) (store.DraftVersion, *draft.Node, error) {
	d, ctx := deskOf(c), c.Request.Context()
	now, doc, err := d.commands.Draft(ctx, d.study.ID)
	if err != nil || name == "now" {
		return store.DraftVersion{Said: "now", Author: now.Author, Words: now.Words, MadeAt: now.ChangedAt}, doc, err
	}
	id, err := strconv.ParseInt(name, 10, 64)
	if err != nil {
		return store.DraftVersion{}, nil, store.ErrNotFound
	}
	v, err := d.scope.DraftVersion(ctx, now.ID, id)
	if err != nil {
		return v, nil, err
	}
	n, err := draft.Parse(v.Document)
	return v, n, err
}

// importDraft reads a file as a draft; the editor takes it in, so that it can be undone there.
func (s *handlers) importDraft(c *gin.Context) {
	head, err := c.FormFile("file")
	if err != nil {
		if errors.As(err, new(*http.MaxBytesError)) {
			s.refuse(c, err)
			return
		}
		c.String(http.StatusUnprocessableEntity, "No file came with this.\n")
		return
	}
	f, err := head.Open()
	if err != nil {
		s.refuse(c, err)
		return
	}
	defer f.Close()
	n, err := s.Reader.Draft(c.Request.Context(), head.Filename, f)
	if err == nil {
		n, err = within(n)
	}
	if err != nil { // whatever is wrong is wrong with the file
		c.String(http.StatusUnprocessableEntity, "%s\n", message.Fault(err))
		return
	}
	c.JSON(http.StatusOK, n)
}

// judge keeps what a writer says of a question of the brief.
func (s *handlers) judge(c *gin.Context) {
	d := deskOf(c)
	if err := d.commands.Judge(c.Request.Context(), d.study.ID, c.PostForm("question"), fit.Judgement{Answers: c.PostForm("answers") == "yes", Text: c.PostForm("text")}); err != nil {
		s.refuse(c, err)
		return
	}
	c.JSON(http.StatusOK, gin.H{})
}

// within is a draft checked as the editor's are.
func within(n *draft.Node) (*draft.Node, error) {
	b, err := json.Marshal(n)
	if err != nil {
		return nil, err
	}
	return draft.Parse(b)
}

// spelledRight teaches the house that a word is spelt right. Those who come by a link teach it
// their browser alone.
func (s *handlers) spelledRight(c *gin.Context) {
	d := deskOf(c)
	entry, err := house.Check(house.Entry{Kind: house.Spell, Term: c.PostForm("word")})
	if d.ByLink || err != nil {
		s.refuse(c, store.ErrNotFound)
		return
	}
	if _, err = d.commands.Teach(c.Request.Context(), d.study.ID, message.Of("House lexicon: %v", study.Taught(entry)), []store.LexiconEdit{{Wide: true, After: &entry}}); err != nil {
		s.refuse(c, err)
		return
	}
	c.JSON(http.StatusOK, gin.H{})
}

// takeOwn is the text of a page of ours, for the editor to take in.
func (s *handlers) takeOwn(c *gin.Context) {
	d, ctx := deskOf(c), c.Request.Context()
	an, err := s.Analyst.Analyse(ctx, d.scope, d.study)
	var n *draft.Node
	if err == nil {
		n, err = d.commands.TakeOwn(ctx, an, c.PostForm("of"))
	}
	if err == nil {
		n, err = within(n)
	}
	if err != nil {
		s.refuse(c, err)
		return
	}
	c.JSON(http.StatusOK, n)
}
