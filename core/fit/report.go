package fit

import (
	"corpulan/core/brief"
	"corpulan/core/corpus"
	"corpulan/core/draft"
	"corpulan/core/language"
	"corpulan/core/message"
)

// Report is a fit with all that is said beside it, for programs: docs/schema/fit.json.
type Report struct {
	Fit
	Aim       float64    `json:"aim"`
	Near      float64    `json:"near"` // 0 to 1: how near the subject it is; 1 where that takes nothing away
	Questions []Answered `json:"questions"`
	Copied    CopiedOf   `json:"copied"`
	Claims    []Figure   `json:"claims"`
}

// Answered is a question of the brief, and the sentences of the draft that answer it.
type Answered struct {
	Text     string `json:"text"`
	Answered bool   `json:"answered"`
	Sentence string `json:"sentence"`
}

// CopiedOf is how many words stand on captured pages, of all that stand in sentences.
type CopiedOf struct {
	Words int `json:"words"`
	Of    int `json:"of"`
}

// ReportOn measures a draft against a brief and the pages it was researched from; aim 0 is the common one.
func ReportOn(b *brief.Brief, n *draft.Node, pages []corpus.RankedPage, aim float64) Report {
	doc, beside := n.Read(b.Address, b.Language), NewShingles(pages)
	if aim == 0 {
		aim = Aim
	}
	lang := language.For(b.Language)
	f := Of(b, doc, beside.Taken(doc))
	f.Closeness = beside.Close(doc)
	return NewReport(f, aim, NewKnown(pages, lang).Figures(n, lang))
}

// NewReport puts a fit together with the aim and the draft's figures.
func NewReport(f Fit, aim float64, claims []Figure) Report {
	r := Report{Fit: f, Aim: aim, Near: 1, Questions: []Answered{}, Claims: claims}
	r.Copied = CopiedOf{r.Fit.Copied, r.Words + r.Fit.Copied}
	if r.Limit != nil {
		r.Near = r.Limit.Most / 100
	}
	for _, p := range r.Parts {
		if p.Name != Questions {
			continue
		}
		for _, x := range p.Met {
			r.Questions = append(r.Questions, Answered{x.Text.String(), true, x.Passage})
		}
		for _, x := range p.Missing {
			r.Questions = append(r.Questions, Answered{x.Text.String(), false, ""})
		}
	}
	return r
}

// Counted says how many words count, and of the others why they do not.
func (f Fit) Counted() message.Message {
	all := f.Words
	parts := make([]message.Message, len(f.Left))
	for i, l := range f.Left {
		all += l.Words
		parts[i] = message.Of("%d %v", l.Words, l.Why)
	}
	if len(parts) == 0 {
		return message.Of("all %d words count", all)
	}
	return message.Of("%d of %d words count: %v", f.Words, all, message.Joined(", ", parts...))
}

// Explained says a report in lines, the sum first, then what each part gives and lacks.
func (r Report) Explained() []message.Message {
	lines := []message.Message{message.Of("%.0f of 100; %.0f is the aim", r.Fit.Fit, r.Aim)}
	lines = append(lines, r.Counted())
	if p := r.NextParagraph(); p.Gain > 0 {
		lines = append(lines, message.Of("one more paragraph of some %d words would bring about %.0f points: %v", p.Words, p.Gain, message.Joined(" · ", p.On...)))
	}
	if r.Limit != nil {
		lines = append(lines, message.Of("at most %.0f: %v", r.Limit.Most, r.Limit.Says))
	}
	for _, p := range r.Parts {
		lines = append(lines, message.Of("%v: %.0f of %.0f", PartName(p.Name), 100*p.Weight*p.Score, 100*p.Weight))
		for _, x := range p.Missing {
			lines = append(lines, message.Of("  missing: %v (%v), +%.1f", x.Text, x.Says, x.Gain))
		}
		for _, x := range p.Overdone {
			lines = append(lines, message.Of("  overdone: %v (%v)", x.Text, x.Says))
		}
	}
	for _, c := range r.Claims {
		lines = append(lines, message.Of("claim: %s (%v)", c.Text, c.Says()))
	}
	return lines
}
