package parts

import (
	"fmt"
	"hash/fnv"
	"math"
	"slices"
	"strings"

	"corpulan/core/message"

	"corpulan/core/brief"
	"corpulan/core/demand"
	"corpulan/core/evidence"
	"corpulan/core/questions"
	"corpulan/core/stats"
	"corpulan/core/vocabulary"
	"corpulan/web/kit"
)

// FindingRow is one finding of any kind, in the one table that shows them all.
type FindingRow struct {
	StudyID int64
	Kind    brief.Kind
	Key     string
	Text    string
	Note    string // type, tier, flag
	In      bool   // in the brief
	State   brief.State
	Pages   int
	Of      int
	Counts  []int // per page
	Sources []evidence.Source
	Total   int
	Range   stats.Range
	Term    *vocabulary.Term // of a term
	Lead    string           // text of the first term of its semantic field
	Even    int              // percent: how evenly the pages that use a term do so
	Most    float64          // the scale of the range marks
	More    message.Message
	Flagged message.Message
	Long    string         // what an abbreviation stands for
	Form    string         // that a short answer should have
	Perhaps []string       // questions that may be the same
	Asked   demand.Keyword // what a list knows of it as a query
	Listed  bool           // lists of keywords are there, so that there is a column for it
	Swap    bool           // it replaces itself on the page (htmx out of band)
}

// ID is the row's id in the page; a key may hold spaces, an id may not.
func (r FindingRow) ID() string {
	h := fnv.New64a()
	_, _ = h.Write([]byte(r.Key))
	return fmt.Sprintf("row-%s-%x", r.Kind, h.Sum64())
}

// Noted is the note as it is said.
func (r FindingRow) Noted() message.Message {
	switch r.Kind {
	case brief.EntityKind:
		return message.Label(r.Note, "names")
	case brief.PointKind: // the theme, in the words of a page
		return message.Text(r.Note)
	}
	return message.Message(r.Note)
}

// Findings lists everything of one kind as rows.
func Findings(an *kit.Analysis, kind brief.Kind) []FindingRow {
	e := an.Evidence
	choices := an.Choices
	in := inBrief(an.Brief, kind)
	row := func(key, text string) FindingRow {
		return FindingRow{StudyID: an.Study.ID, Kind: kind, Key: key, Text: text, In: in[key], State: choices.State(kind, key), Of: len(e.Sources), Sources: e.Sources, Asked: an.Figures[key], Listed: len(an.Figures) > 0}
	}
	var rows []FindingRow
	switch kind {
	case brief.TermKind:
		most := 1.0
		texts := map[string]string{}
		for _, t := range e.Terms {
			texts[t.Key] = t.Text
			if t.Recommended() {
				most = max(most, t.Use.Upper)
			}
		}
		for _, t := range e.Terms {
			r := row(t.Key, t.Text)
			r.Note, r.Pages, r.Counts, r.Total, r.Range, r.Most = string(t.Tier), t.Pages, t.Counts, t.Count, t.Use, most
			r.Term, r.Even = &t, int(math.Round(100*(1-t.Spread)))
			r.Lead = texts[t.Field]
			r.Flagged = t.Flag
			if t.YieldsTo != "" && r.Flagged == "" {
				r.Flagged = message.Of("stands for %s", texts[t.YieldsTo])
			}
			rows = append(rows, r)
		}
	case brief.EntityKind:
		for _, x := range e.Entities {
			r := row(x.Key, x.Name)
			r.Note, r.Pages, r.Counts, r.Total, r.Flagged = string(x.Type), x.Pages, x.Counts, x.Mentions, x.Flag
			r.More, r.Even, r.Long = x.Why, int(math.Round(100*x.Salience)), x.Long
			rows = append(rows, r)
		}
	case brief.QuestionKind:
		texts := map[string]string{}
		for _, q := range e.Questions {
			texts[q.Key] = q.Text
		}
		for _, q := range e.Questions {
			r := row(q.Key, q.Text)
			r.Note, r.Pages, r.Counts, r.Total = string(q.Kind), len(q.AnsweredBy), answerCounts(e, q), len(q.Wordings)
			r.More = askedBy(q)
			r.Form = string(q.Form)
			for _, k := range q.Perhaps {
				if text := texts[k]; text != "" {
					r.Perhaps = append(r.Perhaps, text)
				}
			}
			rows = append(rows, r)
		}
	case brief.ThemeKind:
		most := 1.0
		for _, t := range e.Themes {
			if t.Pages >= 2 {
				most = max(most, t.Length.Upper)
			}
		}
		for _, t := range e.Themes {
			r := row(t.Key, t.Label)
			r.Note, r.Pages, r.Counts, r.Total, r.Range, r.Most = fmt.Sprintf("h%d", t.Level), t.Pages, t.Counts, len(t.Members), t.Length, most
			if t.Generic {
				r.Flagged = "says where it stands, not what it is about"
			}
			rows = append(rows, r)
		}
	case brief.PointKind:
		labels := map[string]string{}
		for _, t := range e.Themes {
			labels[t.Key] = t.Label
		}
		for _, t := range e.Points {
			for _, p := range t.Points {
				r := row(p.Key, p.Text)
				r.Note, r.Pages, r.Counts = labels[t.Theme], len(p.Ranks), saidBy(e, p.Ranks)
				if len(p.Disputed) > 0 {
					r.Flagged = "pages differ"
				}
				rows = append(rows, r)
			}
		}
	case brief.FactKind:
		for _, x := range e.Facts {
			r := row(x.Key, x.Text)
			r.Note, r.More, r.Total, r.Long = string(x.Kind), message.Text(strings.Join(x.Figures, ", ")), x.Rank, x.Date
			rows = append(rows, r)
		}
	}
	return rows
}

func inBrief(b brief.Brief, kind brief.Kind) map[string]bool {
	in := map[string]bool{}
	switch kind {
	case brief.TermKind:
		for _, t := range b.Terms {
			in[t.Key] = true
		}
	case brief.EntityKind:
		for _, e := range b.Entities {
			in[e.Key] = true
		}
	case brief.QuestionKind:
		for _, q := range b.Questions {
			in[q.Key] = true
		}
	case brief.FactKind:
		for _, x := range b.Facts {
			in[x.Key] = true
		}
	case brief.LinkKind:
		for _, l := range b.Links.Outward {
			in[l.Key] = true
		}
	case brief.ThemeKind:
		b.Each(func(s *brief.Section) { in[s.Key] = true })
	case brief.PointKind:
		b.Each(func(s *brief.Section) {
			for _, p := range s.Points {
				in[p.Key] = true
			}
		})
	}
	return in
}

// answerCounts are the words with which each page answers a question.
func answerCounts(e *evidence.Evidence, q questions.Question) []int {
	counts := make([]int, len(e.Sources))
	for i, s := range e.Sources {
		for _, a := range q.AnsweredBy {
			if a.Rank == s.Rank {
				counts[i] = a.Words
			}
		}
	}
	return counts
}

func askedBy(q questions.Question) message.Message {
	var parts []message.Message
	if q.OnResults {
		parts = append(parts, "results page")
	}
	if n := len(q.AskedBy); n == 1 {
		parts = append(parts, "1 page")
	} else if n > 1 {
		parts = append(parts, message.Of("%d pages", n))
	}
	return message.Joined(", ", parts...)
}

// saidBy marks the pages of some ranks.
func saidBy(e *evidence.Evidence, ranks []int) []int {
	counts := make([]int, len(e.Sources))
	for i, s := range e.Sources {
		if slices.Contains(ranks, s.Rank) {
			counts[i] = 1
		}
	}
	return counts
}
