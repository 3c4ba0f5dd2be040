package study

import (
	"context"
	"encoding/json"
	"fmt"
	"math"
	"strings"
	"unicode/utf8"

	"corpulan/analysis"
	"corpulan/core/draft"
	"corpulan/core/fit"
	"corpulan/core/message"
	"corpulan/core/reading"
	"corpulan/core/text"
	"corpulan/formats/handed"
	"corpulan/store"
)

// DraftSave is what an editor sends: steps on a version of the draft.
type DraftSave struct {
	Version int               `json:"version"`
	Client  string            `json:"client"`
	Steps   []json.RawMessage `json:"steps"`
}

// Bounds of what is sent at once. Our own.
const (
	maxSteps     = 5000
	longestStep  = 2 << 20
	longestNames = 64
)

// ErrDraft says that what an editor sent is none of a draft.
var ErrDraft = message.Errorf("this cannot be saved as a draft")

// Draft is the writer's text of a study, begun where there is none yet.
func (c Commands) Draft(ctx context.Context, study int64) (store.Draft, *draft.Node, error) {
	empty, err := json.Marshal(draft.New())
	if err != nil {
		return store.Draft{}, nil, err
	}
	d, err := c.scope.BeginDraft(ctx, study, empty)
	if err != nil {
		return d, nil, err
	}
	n, err := draft.Parse(d.Document)
	return d, n, err
}

// SaveDraft puts an editor's steps onto the draft, each checked against the schema before anybody else
// receives it; store.ErrBehind if the draft has moved on.
func (c Commands) SaveDraft(ctx context.Context, study int64, author string, s DraftSave) (store.Draft, error) {
	if len(s.Steps) == 0 || len(s.Steps) > maxSteps || s.Client == "" || len(s.Client) > longestNames {
		return store.Draft{}, message.Errorf("%v: %d steps", ErrDraft, len(s.Steps))
	}
	steps := make([]draft.Step, len(s.Steps))
	for i, st := range s.Steps {
		if len(st) > longestStep {
			return store.Draft{}, message.Errorf("%v: a step is too long", ErrDraft)
		}
		var err error
		if steps[i], err = draft.ParseStep(st); err != nil {
			return store.Draft{}, fmt.Errorf("%w: %w", ErrDraft, err)
		}
	}
	now, err := c.scope.Draft(ctx, study)
	if err != nil {
		return now, err
	}
	if now.Version != s.Version {
		return now, store.ErrBehind
	}
	n, err := draft.Parse(now.Document)
	if err != nil {
		return now, err
	}
	if n, err = n.Apply(steps); err != nil {
		return now, fmt.Errorf("%w: %w", ErrDraft, err)
	}
	document, err := json.Marshal(n)
	if err == nil && len(document) > draft.Largest {
		err = fmt.Errorf("%w: %w", ErrDraft, draft.ErrTooLarge)
	}
	edit := store.DraftEdit{On: s.Version, Client: s.Client, Author: author, Document: document, Words: wordsOf(n)}
	for i := 0; err == nil && i < len(steps); i++ {
		var step []byte
		step, err = json.Marshal(steps[i])
		edit.Steps = append(edit.Steps, step)
	}
	if err != nil {
		return now, err
	}
	return c.scope.SaveDraft(ctx, study, edit)
}

// KeepFit keeps how far the draft meets its brief, for those who do not open it.
func (c Commands) KeepFit(ctx context.Context, study int64, fit float64) error {
	return c.scope.KeepFit(ctx, study, int(math.Round(fit)))
}

// KeepDraft keeps a text as a version of the draft, with a name.
func (c Commands) KeepDraft(ctx context.Context, study int64, author string, said message.Message, document []byte) error {
	n, clean, err := checked(document)
	if err != nil {
		return err
	}
	return c.scope.KeepVersion(ctx, study, store.DraftVersion{Document: store.JSON(clean), Author: author, Said: said.Keep(), Words: wordsOf(n)})
}

// checked is a document as it may be kept.
func checked(document []byte) (*draft.Node, []byte, error) {
	n, err := draft.Parse(document)
	if err != nil {
		return nil, nil, fmt.Errorf("%w: %w", ErrDraft, err)
	}
	clean, err := json.Marshal(n)
	return n, clean, err
}

func wordsOf(n *draft.Node) int {
	words := 0
	for _, b := range n.Blocks() {
		words += text.CountWords(b.Text)
	}
	return words
}

// Judge keeps what a writer says of a question: that a passage of the draft answers it, that what was found does not; with no
// passage it is taken back.
func (c Commands) Judge(ctx context.Context, study int64, question string, j fit.Judgement) error {
	if question == "" || len(question) > longestKey || utf8.RuneCountInString(j.Text) > fit.LongestJudged {
		return message.Errorf("a passage that answers a question has at most %d characters", fit.LongestJudged)
	}
	return c.scope.SayOfDraft(ctx, study, func(said *store.DraftSaid) {
		if strings.TrimSpace(j.Text) == "" {
			delete(said.Answers, question)
			return
		}
		if said.Answers == nil {
			said.Answers = fit.Judged{}
		}
		if _, known := said.Answers[question]; known || len(said.Answers) < mostJudged {
			said.Answers[question] = j
		}
	})
}

// Bounds of what writers say of questions. Our own.
const (
	longestKey = 500
	mostJudged = 200
)

// OwnText is a page of ours that can be taken as a draft.
type OwnText struct {
	Of    string // "result:12" or "own:7"
	URL   string
	Title string
}

// maxOwnTexts is how many are listed. Our own.
const maxOwnTexts = 60

// OwnTexts lists the pages of ours that can be taken as a draft: those among the results
// first, then those that stand for the keyword already, those near to it, the others.
func OwnTexts(ctx context.Context, sc store.Scope, an *analysis.Analysis) ([]OwnText, error) {
	var list []OwnText
	seen := map[string]bool{}
	for _, r := range an.Results {
		if r.Own && r.CaptureID != nil {
			list = append(list, OwnText{fmt.Sprintf("result:%d", r.ID), r.URL, r.Title})
			seen[r.URL] = true
		}
	}
	pages, _, err := sc.OwnPages(ctx, "", 0, store.MaxOwn)
	if err != nil {
		return nil, err
	}
	near := map[string]int{} // rivals, those near to the subject
	for _, r := range an.Brief.Links.Rivals {
		near[r.URL] = 2
	}
	for _, l := range an.Brief.Links.Inward {
		near[l.URL] = max(near[l.URL], 1)
	}
	for _, how := range []int{2, 1, 0} {
		for _, p := range pages {
			if near[p.URL] == how && p.State == store.Read && !seen[p.URL] && len(list) < maxOwnTexts {
				list = append(list, OwnText{fmt.Sprintf("own:%d", p.ID), p.URL, p.Title})
			}
		}
	}
	return list, nil
}

// TakeOwn is the text of a page of ours as a draft: of its capture where there is one. The draft is the new text of that page from
// then on, so that it may say what that says.
func (c Commands) TakeOwn(ctx context.Context, an *analysis.Analysis, of string) (*draft.Node, error) {
	n, url, err := ownText(ctx, c.scope, an, of)
	if err == nil {
		_, _, err = c.Draft(ctx, an.Study.ID) // where none was begun
	}
	if err != nil {
		return nil, err
	}
	return n, c.scope.SayOfDraft(ctx, an.Study.ID, func(said *store.DraftSaid) { said.Rewrites = url })
}

func ownText(ctx context.Context, sc store.Scope, an *analysis.Analysis, of string) (n *draft.Node, url string, err error) {
	var kind string
	var id int64
	for _, k := range []string{"result", "own"} {
		if n, err := fmt.Sscanf(of, k+":%d", &id); err == nil && n == 1 {
			kind = k
		}
	}
	switch kind {
	case "result":
		for _, r := range an.Results {
			if r.ID != id || !r.Own || r.CaptureID == nil {
				continue
			}
			c, err := sc.Capture(ctx, *r.CaptureID)
			if err != nil {
				return nil, "", err
			}
			page, err := PageOf(c)
			if err != nil {
				return nil, "", err
			}
			n, err = handed.PageDraft(reading.Page{URL: page.FinalURL, ContentType: page.ContentType, Body: page.Body})
			return n, r.URL, err
		}
	case "own":
		readings, err := sc.OwnReadings(ctx, []int64{id})
		if err != nil {
			return nil, "", err
		}
		if r := readings[id]; r != nil {
			return draft.FromReading(r), r.URL, nil
		}
	}
	return nil, "", store.ErrNotFound
}
