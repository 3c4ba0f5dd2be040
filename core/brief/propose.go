package brief

import (
	"math"
	"slices"
	"strconv"
	"strings"
	"unicode"

	"corpulan/core/evidence"
	"corpulan/core/language"
	"corpulan/core/links"
	"corpulan/core/message"
	"corpulan/core/questions"
	"corpulan/core/says"
	"corpulan/core/text"
)

// Setting is what a brief is composed in, beside the evidence: whose it is, where and when.
type Setting struct {
	Publication string
	Address     string            // of its site
	Country     string            // ISO 3166-1 alpha-2 in small letters, of the market
	Gathered    string            // when the evidence was, YYYY-MM-DD
	Version     int               // of the brief; 0 for the untouched proposal
	Defaults    map[string]string // what the publication says in the fields of its briefs
	Templates   []Template        // of the publication
	Own         links.Found       // among the pages of the publication
	References  []Source          // extra sources, read beside the field
	Voice       Voice             // of those, as measured
	Words       Words             // of what is proposed; English where nil
	Dossier     bool              // goes along in files and by links
}

// Front is what stands at the head of the document.
type Front struct {
	Publication string `json:"publication"`
	Country     string `json:"country"`
	Kind        string `json:"kind"` // of page
	Status      string `json:"status"`
	Owner       string `json:"owner"`
	Writer      string `json:"writer"`
	Due         string `json:"due"`      // YYYY-MM-DD
	Gathered    string `json:"gathered"` // the evidence, YYYY-MM-DD
	Version     int    `json:"version"`
}

// The stages of a brief. Common practice, no published source.
const (
	Proposed  = "proposed"
	Composed  = "composed"
	Approved  = "approved"
	Handed    = "handed over"
	Drafted   = "drafted"
	Published = "published"
)

// Stages lists them in their order.
func Stages() []string { return []string{Proposed, Composed, Approved, Handed, Drafted, Published} }

// proposal is what stands in a field as long as nobody types there, and why.
type proposal struct {
	text string
	why  message.Message
}

// propose fills the fields: with what the template has for them, else the publication, else
// what the evidence says.
func (b *Brief) propose(e *evidence.Evidence, c Choices, t Template, s Setting) map[string]proposal {
	byEvidence := map[string]proposal{
		FieldAddress:        {addressOf(s.Address, b.Keyword, language.For(b.Language)), message.Of("from the keyword")},
		FieldGoal:           b.goal(),
		FieldSearchIntent:   b.intentText(e),
		FieldAvoid:          b.avoid(),
		FieldReadingGrade:   b.readingGrade(e),
		FieldShortAnswer:    b.shortAnswer(e),
		FieldMedia:          b.mediaText(e),
		FieldStructuredData: b.structuredData(e, t),
		// Of these the field says nothing that would not be true of any page.
		FieldAudience: {}, FieldVoice: b.voice(s.Voice), FieldPointOfView: {}, FieldCallToAction: {}, FieldSummary: {},
	}
	for name, p := range byEvidence {
		if text := t.Fields[name]; text != "" && !(name == FieldGoal && p.text != "") { // of this page before of any of its kind
			if strings.HasPrefix(t.Key, OwnTemplate) {
				p = proposal{text, message.Of("from the template “%s”", t.Name)}
			} else {
				p = proposal{b.in.Look(text), message.Of("as in every %v", message.Message(t.Name))}
			}
			p.text = strings.ReplaceAll(p.text, "{K}", b.Keyword)
		}
		// A publication's voice is its own whatever the kind of page; a template that it has
		// saved itself goes before.
		if text := s.Defaults[name]; strings.TrimSpace(text) != "" && !(strings.HasPrefix(t.Key, OwnTemplate) && t.Fields[name] != "") {
			field := p.text
			p = proposal{text, message.Of("as %s has it", or(s.Publication, b.say("the publication")))}
			if name == FieldAvoid && field != "" { // of this page, and so beside it
				p.text = field + "\n" + text
			} else if b.field(name) != nil && c.TypedIn(name) == nil {
				b.House = append(b.House, name)
			}
		}
		byEvidence[name] = p
	}
	if byEvidence[FieldVoice].text != "" && c.TypedIn(FieldVoice) == nil && !slices.Contains(b.House, FieldVoice) {
		b.House = append(b.House, FieldVoice) // it is that of every brief
	}
	slices.Sort(b.House)
	if text := t.Fields[FieldNotes]; text != "" {
		byEvidence[FieldNotes] = proposal{text, message.Of("from the template “%s”", t.Name)}
	}
	return byEvidence
}

// addressOf proposes an address: the keyword's words joined by hyphens, as its language writes
// addresses, below the site's.
func addressOf(site, keyword string, lang *language.Language) string {
	words := strings.FieldsFunc(lang.InAddress(keyword), func(r rune) bool { return !unicode.IsLetter(r) && !unicode.IsDigit(r) })
	return strings.TrimRight(site, "/") + "/" + strings.Join(words, "-")
}

// disputedOf are what pages differ in, each under the section that says it: “Lights”: 400 lumens, 700 lumens.
func (b *Brief) disputedOf() []string {
	var list []string
	b.Each(func(s *Section) {
		for _, p := range s.Points {
			if len(p.Disputed) > 1 && len(list) < maxDisputed {
				list = append(list, b.say("“%s”: %s", s.Heading, strings.Join(p.Disputed, ", ")))
			}
		}
	})
	return list
}

// maxDisputed is how many matters in which pages differ a brief warns of. Our own.
const maxDisputed = 2

// goal says by what a reader chooses, where the field is there to choose; of other pages nothing that would not be true of each.
func (b *Brief) goal() proposal {
	var by []string
	for _, x := range b.Criteria {
		name := x.Name
		if !langOf(b).NounsHaveCapitals {
			name = lowerFirst(name)
		}
		by = append(by, name)
	}
	if len(by) < fewestNames {
		return proposal{}
	}
	return proposal{b.say("A reader can choose by %s.", b.listed(by[:min(len(by), maxNames)])), message.Of("by what the pages compare")}
}

// intentText says what the searcher wants, with the signals that say so.
func (b *Brief) intentText(e *evidence.Evidence) proposal {
	var parts []string
	for _, s := range e.Intent {
		if s.Share < 0.1 { // our own: less is noise
			continue
		}
		part := b.say("%s %.0f %%", message.Message(s.Kind), 100*s.Share)
		var says []string
		for _, g := range s.Signals[:min(len(s.Signals), 2)] {
			says = append(says, g.Says.In(b.in))
		}
		if len(says) > 0 {
			part += " (" + strings.Join(says, "; ") + ")"
		}
		parts = append(parts, part)
	}
	if len(parts) == 0 {
		return proposal{}
	}
	out := strings.Join(parts, "; ")
	return proposal{capitalise(out) + ".", message.Of("shares of %v and of the results page", message.Counted(len(e.Sources), "page"))}
}

// avoid names what pages differ in: no figure of theirs is settled.
func (b *Brief) avoid() proposal {
	if open := b.disputedOf(); len(open) > 0 {
		return proposal{b.say("No single figure where pages differ: %s.", strings.Join(open, "; ")), message.Of("from figures of the pages that do not agree")}
	}
	return proposal{}
}

// mostOfKeyword is how much of the keyword a question has at least to be the one that the results page may show an answer to. Our own.
const mostOfKeyword = 0.5

// shortAnswer is what a results page may show as the answer: for the first question that has
// most of the keyword.
func (b *Brief) shortAnswer(e *evidence.Evidence) proposal {
	best, bestShare := -1, 0.0
	lang := langOf(b)
	want := lang.ContentStems(b.Keyword)
	for i, q := range b.Questions {
		have := lang.ContentStems(q.Text)
		if !slices.Contains(have, b.rarest()) {
			continue
		}
		n := 0
		for _, s := range want {
			if slices.Contains(have, s) {
				n++
			}
		}
		if share := float64(n) / float64(max(len(want), 1)); share > bestShare {
			best, bestShare = i, share
		}
	}
	form, why := b.say("one paragraph of 40 to 60 words"), message.Of("common practice")
	if best < 0 || bestShare < mostOfKeyword {
		return proposal{}
	}
	q := b.Questions[best]
	where := b.say("the opening")
	if q.Section != "" && b.headed(q.Section) {
		where = b.say("the section “%s”", q.Section)
	}
	for _, x := range e.Questions {
		if x.Key != q.Key {
			continue
		}
		switch x.Form {
		case says.Steps:
			form = b.say("a numbered list of steps, a line each")
		case says.List:
			form = b.say("a list of points, a line each, after one sentence")
		case says.Table:
			form = b.say("a small table after one sentence")
		}
		why = message.Of("the form that suits a question of the kind “%v”", message.Message(x.Kind))
		if len(x.AnsweredBy) > 0 {
			why = message.Joined("; ", why, message.Of("answered by %v", ranksOf(answeredBy(x))))
		}
	}
	answer := b.say("“%s”: at the beginning of %s, %s.", q.Text, where, form)
	if i := slices.IndexFunc(e.Written, func(x evidence.Written) bool { return x.Question == q.Key }); i >= 0 {
		answer += "\n" + b.writtenOut(e.Written[i])
	}
	return proposal{answer, why}
}

// writtenOut is an answer as a page gives it, for the writer to say in words of their own.
func (b *Brief) writtenOut(x evidence.Written) string {
	lines := slices.Clone(x.Lines)
	switch x.Form {
	case says.Steps:
		for i := range lines {
			lines[i] = strconv.Itoa(i+1) + ". " + lines[i]
		}
	case says.List:
		for i := range lines {
			lines[i] = "– " + lines[i]
		}
	case says.Table:
	default:
		return b.say("In words of your own, as page %d has it: “%s”", x.Rank, strings.Join(lines, " "))
	}
	return b.say("In words of your own, as page %d has it:", x.Rank) + "\n" + strings.Join(lines, "\n")
}

// rarest is the stem of the keyword's word that general language has least: what it is about, where the others say only in which way. Of
// "storing a bike over winter" it is that of "storing".
func (b *Brief) rarest() (stem string) {
	lang, least := langOf(b), math.Inf(1)
	text.EachWord(b.Keyword, func(w text.Span) {
		folded := text.Fold(w.Of(b.Keyword))
		if n := lang.PerMillion(folded); !lang.Stop(folded) && n < least {
			stem, least = lang.StemFolded(folded), n
		}
	})
	return stem
}

// headed tells whether a section of the outline has a heading of its own.
func (b *Brief) headed(heading string) (is bool) {
	b.Each(func(s *Section) { is = is || s.Heading == heading && !s.Folded })
	return is
}

func answeredBy(q questions.Question) []int {
	var ranks []int
	for _, a := range q.AnsweredBy {
		ranks = append(ranks, a.Rank)
	}
	return ranks
}

// mediaText asks for what the field shows, with examples.
func (b *Brief) mediaText(e *evidence.Evidence) proposal {
	var lines []string
	for _, m := range e.Media {
		if 3*m.Pages < len(e.Sources) { // what fewer than a third have is no custom; our own
			continue
		}
		name := m.Kind
		lower, upper := int(math.Round(m.Range.Lower)), int(math.Round(m.Range.Upper))
		many := strconv.Itoa(upper)
		switch {
		case lower == 0:
			many = b.say("up to %d", upper)
		case lower < upper:
			many = b.say("%d to %d", lower, upper)
		}
		if upper == 1 {
			name = strings.TrimSuffix(name, "s")
		}
		if upper == 0 {
			continue
		}
		line := b.say("%s %s (%s have some: %s)", many, message.Message(name), pagesOf(m.Pages, len(e.Sources)), ranksOf(m.Sources))
		var shown []string
		for _, x := range m.Examples[:min(len(m.Examples), 4)] {
			shown = append(shown, b.say("“%s” (%d)", x.Text, x.Rank))
		}
		if len(shown) > 0 {
			line += ", " + b.say("such as %s", strings.Join(shown, ", "))
		}
		lines = append(lines, capitalise(line)+".")
	}
	if len(lines) == 0 {
		return proposal{}
	}
	return proposal{strings.Join(lines, "\n"), message.Of("quartiles of the field; pictures of our own, each with a text that says what it shows")}
}

// pageTypes are the schema.org types that are about a page as a whole, and so worth a word.
var pageTypes = []string{"Article", "BlogPosting", "NewsArticle", "TechArticle", "FAQPage", "HowTo", "Product", "Service", "ItemList", "BreadcrumbList", "VideoObject", "Review", "LocalBusiness", "Event", "Recipe", "Course", "Dataset"}

// minForFAQ is how many questions are worth structured data of their own. Our own.
const minForFAQ = 3

func (b *Brief) structuredData(e *evidence.Evidence, t Template) proposal {
	var want []string
	var field []message.Message
	want = append(want, t.Data...)
	if len(b.Questions) >= minForFAQ {
		want = append(want, b.say("FAQPage for the %d questions (the file comes with this brief, answers to be written)", len(b.Questions)))
	}
	for _, d := range e.Data {
		if slices.Contains(pageTypes, d.Type) {
			field = append(field, message.Of("%s on %s", d.Type, ranksOf(d.Sources)))
		}
	}
	why := message.Of("no page of the field gives any")
	if len(field) > 0 {
		why = message.Of("the field has %s", message.Joined(", ", field[:min(len(field), 4)]...))
	}
	if len(want) == 0 {
		return proposal{}
	}
	return proposal{strings.Join(want, ", ") + ".", why}
}

// wordsIn reads a number of words as a person writes it: "1,200", "1 200". 0 for none.
func wordsIn(s string) int {
	digits := strings.Map(func(r rune) rune {
		if r >= '0' && r <= '9' {
			return r
		}
		return -1
	}, s)
	n, err := strconv.Atoi(digits)
	if err != nil || n > maxWords {
		return 0
	}
	return n
}

// maxWords is the longest page that can be asked for. Our own.
const maxWords = 100_000

// LengthIn reads a length as a person writes it: "1,200", "900 to 1,300", "900–1300 words".
// ok is false where there is no such number in it, or more than two.
func LengthIn(s string) (lower, upper int, ok bool) {
	inside := func(r rune) bool {
		return r >= '0' && r <= '9' || r == ',' || r == '.' || r == '\u00a0' || r == '\u202f' || r == '\''
	}
	parts := strings.FieldsFunc(s, func(r rune) bool { return !inside(r) })
	var numbers []int
	for _, p := range parts {
		if n := wordsIn(p); n > 0 {
			numbers = append(numbers, n)
		}
	}
	switch len(numbers) {
	case 1:
		return numbers[0], numbers[0], true
	case 2:
		return min(numbers[0], numbers[1]), max(numbers[0], numbers[1]), true
	}
	return 0, 0, false
}

// pagesOf says "4 of 9 pages".
func pagesOf(n, all int) message.Message { return message.Of("%d of %d pages", n, all) }

// ranksOf names pages: "ranks 1, 3".
func ranksOf(ranks []int) message.Message {
	s := make([]string, len(ranks))
	for i, r := range ranks {
		s[i] = strconv.Itoa(r)
	}
	if len(s) == 1 {
		return message.Of("rank %s", s[0])
	}
	return message.Of("ranks %s", strings.Join(s, ", "))
}

func or(values ...string) string {
	for _, v := range values {
		if v != "" {
			return v
		}
	}
	return ""
}
