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
)

// Setting is what a brief is composed in, beside the evidence: whose it is, where and when.
type Setting struct {
	Publication string
	Address     string            // of its site
	Country     string            // ISO 3166-1, of the market
	Gathered    string            // when the evidence was, YYYY-MM-DD
	Version     int               // of the brief; 0 for the untouched proposal
	Defaults    map[string]string // what the publication says in the fields of its briefs
	Templates   []Template        // of the publication
	Own         links.Found       // among the pages of the publication
	References  []Source          // extra sources, read beside the field
	Words       Words             // of what is proposed; English where nil
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
func (b *Brief) propose(e *evidence.Evidence, t Template, s Setting) map[string]proposal {
	byEvidence := map[string]proposal{
		FieldAddress:        {addressOf(s.Address, b.Keyword, language.For(b.Language)), message.Of("from the keyword")},
		FieldGoal:           b.goal(),
		FieldSearchIntent:   b.intentText(e),
		FieldAudience:       b.audience(e),
		FieldVoice:          b.voice(e),
		FieldPointOfView:    b.pointOfView(),
		FieldCallToAction:   {b.say("One, after the last section: the next step for a reader who has what they came for."), message.Of("common practice")},
		FieldAvoid:          b.avoid(),
		FieldReadingGrade:   b.readingGrade(e),
		FieldShortAnswer:    b.shortAnswer(e),
		FieldMedia:          b.mediaText(e),
		FieldSummary:        b.summary(e),
		FieldStructuredData: b.structuredData(e, t),
	}
	for name, p := range byEvidence {
		if text := t.Fields[name]; text != "" {
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
			p = proposal{text, message.Of("as %s has it", or(s.Publication, b.say("the publication")))}
		}
		byEvidence[name] = p
	}
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

// quoted names up to two texts: “one” and “two”.
func (b *Brief) quoted(texts ...string) string {
	if len(texts) > 1 {
		return b.say("“%s” and “%s”", texts[0], texts[1])
	}
	return b.say("“%s”", texts[0])
}

// openingsOf are the texts of the openings of some kinds, a few.
func (b *Brief) openingsOf(kinds ...evidence.OpeningKind) []string {
	var list []string
	for _, k := range kinds {
		for _, o := range b.Openings {
			if o.Kind == k && o.Of != string(ThingKind) && len(list) < 2 {
				list = append(list, o.Text)
			}
		}
	}
	return list
}

func (b *Brief) goal() proposal {
	if len(b.Sources) == 0 {
		return proposal{}
	}
	does := b.say("A reader who searches “%s” has the whole answer on this page, and need not go back to the results", b.Keyword)
	switch b.leadingIntent() {
	case "commercial":
		does = b.say("A reader who searches “%s” can choose on this page, and need not go back to the results", b.Keyword)
	case "transactional":
		does = b.say("A reader who searches “%s” finds here what they want to get, and need not go back to the results", b.Keyword)
	case "navigational":
		does = b.say("A reader who searches “%s” is led to the right place at once, and need not go back to the results", b.Keyword)
	}
	covers := b.say("it covers %s of the field.", message.Counted(len(b.Outline), "matter"))
	if n := len(b.Questions); n > 0 {
		covers = b.say("it covers %s and answers %s of the field.", message.Counted(len(b.Outline), "matter"), message.Counted(n, "question"))
	}
	s := does + ": " + covers
	if left := b.openingsOf(evidence.AskedUnmet, evidence.SearchedUnmet, evidence.OnePage); len(left) > 0 {
		s += " " + b.say("It says what the others leave open, above all %s.", b.quoted(left...))
	}
	return proposal{s, message.Of("from the intent, the outline and the openings")}
}

// leadingIntent is the intent that most of the field serves.
func (b *Brief) leadingIntent() string {
	if len(b.Intent) == 0 {
		return ""
	}
	return b.Intent[0].Kind
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

func (b *Brief) audience(e *evidence.Evidence) proposal {
	if len(b.Sources) == 0 {
		return proposal{}
	}
	s := b.say("People who search “%s” and want to understand it and do it themselves.", b.Keyword)
	switch b.leadingIntent() {
	case "commercial":
		s = b.say("People who search “%s” and compare before they choose.", b.Keyword)
	case "transactional":
		s = b.say("People who search “%s” and are ready to act.", b.Keyword)
	case "navigational":
		s = b.say("People who search “%s” and look for one place.", b.Keyword)
	}
	if g := e.Figure("grade").Target; g.N > 0 && language.Graded(b.Language) {
		s += " " + b.say("The field writes for a reading grade of about %.0f.", g.Median)
	}
	if q := b.firstQuestions(2); len(q) > 0 {
		s += " " + b.say("They ask %s.", b.quoted(q...))
	}
	return proposal{s, message.Of("from the intent and the questions")}
}

func (b *Brief) firstQuestions(n int) []string {
	var list []string
	for _, q := range b.Questions {
		if !q.Gone && len(list) < n {
			list = append(list, q.Text)
		}
	}
	return list
}

// plainGrade is the reading grade that is asked of writers. Common practice, no published
// source.
const plainGrade = 8

func (b *Brief) voice(e *evidence.Evidence) proposal {
	s := b.say("Plain and active, to “you”; one thought a sentence.")
	why := message.Of("common practice")
	if p := e.Figure("paragraph").Target; p.N > 0 {
		s += " " + b.say("Paragraphs of about %.0f words", p.Median)
		why = message.Joined("; ", why, message.Of("paragraphs as on %v", message.Counted(p.N, "page")))
		if g := e.Figure("grade").Target; g.N > 0 && language.Graded(b.Language) {
			if field := math.Round(g.Median); field > plainGrade {
				s += ", " + b.say("reading grade about %d, and no higher than the field's %.0f", plainGrade, field)
			} else {
				s += ", " + b.say("reading grade %d or lower", plainGrade)
			}
		}
		s += "."
	}
	return proposal{s, why}
}

func (b *Brief) pointOfView() proposal {
	left := b.openingsOf(evidence.OnePage, evidence.AskedUnmet, evidence.Disputed)
	if len(left) == 0 {
		return proposal{b.say("Somebody who does this themselves and says what they saw."), message.Of("common practice")}
	}
	return proposal{b.say("Somebody who does this themselves and says what they saw.") + " " + b.say("Room of our own: %s.", b.quoted(left...)), message.Of("from the openings")}
}

func (b *Brief) avoid() proposal {
	s := b.say("Figures without a source; superlatives that nobody has measured; sentences taken over from the pages below.")
	why := message.Of("common practice")
	if open := b.openingsOf(evidence.Disputed); len(open) > 0 {
		s += " " + b.say("No single figure where pages differ: %s.", b.quoted(open...))
		why = message.Of("common practice, and what pages differ in")
	}
	return proposal{s, why}
}

// shortAnswer is what a results page may show as the answer: for the first question that has
// most of the keyword, else for what the keyword is.
func (b *Brief) shortAnswer(e *evidence.Evidence) proposal {
	best, bestShare := -1, 0.0
	lang := langOf(b)
	want := lang.ContentStems(b.Keyword)
	for i, q := range b.Questions {
		have := lang.ContentStems(q.Text)
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
	if best < 0 {
		return proposal{b.say("Say in the opening, in %s, what a reader must know of “%s”.", form, b.Keyword), message.Joined("; ", why, "no question of the brief has the keyword")}
	}
	q := b.Questions[best]
	where := b.say("the opening")
	if q.Section != "" {
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
	return proposal{b.say("Answer “%s” at the beginning of %s, in %s that can stand alone.", q.Text, where, form), why}
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
		if len(e.Sources) == 0 {
			return proposal{}
		}
		return proposal{b.say("A picture of our own, or a small table, in each of the longest sections: it would stand out."), message.Of("fewer than a third of the pages show anything beside their text")}
	}
	return proposal{strings.Join(lines, "\n"), message.Of("quartiles of the field; pictures of our own, each with a text that says what it shows")}
}

// summary asks for a table or a list that sums the page up.
func (b *Brief) summary(e *evidence.Evidence) proposal {
	for _, m := range e.Media {
		if m.Kind == "tables" && 3*m.Pages >= len(e.Sources) {
			var rows []string
			for _, s := range b.Outline[:min(len(b.Outline), 4)] {
				rows = append(rows, b.say("“%s”", s.Heading))
			}
			return proposal{b.say("One table that sums the page up, a row for each of the matters that can be compared: %s.", strings.Join(rows, ", ")), message.Of("%v have a table: %v", pagesOf(m.Pages, len(e.Sources)), ranksOf(m.Sources))}
		}
	}
	return proposal{b.say("Three to five lines after the opening that say the whole answer, one for each of the first sections."), message.Of("common practice; fewer than a third of the pages have a table")}
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
