package brief

import (
	"slices"
	"strings"

	"corpulan/core/evidence"
	"corpulan/core/language"
	"corpulan/core/message"
)

// Template is what briefs of one kind of page have in common: defaults of fields, sections
// that such a page has whatever the field says, and which parts of the brief are shown.
type Template struct {
	Key      string            `json:"key"`
	Name     string            `json:"name"`
	About    message.Kept      `json:"about"`              // when to take it
	Fields   map[string]string `json:"fields,omitempty"`   // defaults by field; {K} stands for the keyword
	Sections []TemplateSection `json:"sections,omitempty"` // proposed for the outline
	Parts    string            `json:"parts,omitempty"`    // as FieldParts has them; empty for the usual
	Inward   [2]int            `json:"inward"`             // links to own pages, from and to
	Outward  [2]int            `json:"outward"`            // links to other sites, from and to
	Data     []string          `json:"data,omitempty"`     // schema.org types
	Words    [2]int            `json:"words,omitzero"`     // such a page has as a rule, from and to; none for as many as the field
	ByShare  bool              `json:"by_share,omitempty"` // what most pages treat comes first, else what they begin with
}

// TemplateSection is a section that pages of a kind have.
type TemplateSection struct {
	First    bool              `json:"first,omitempty"` // before all others; else behind them
	Headings map[string]string `json:"headings"`        // by language
	Note     string            `json:"note,omitempty"`
}

// Heading is the section's heading in a language; empty where it has none in it.
func (s TemplateSection) Heading(lang string) string { return s.Headings[lang] }

// headingIn is that heading, else the one that a publication typed in whatever language it writes.
func (s TemplateSection) headingIn(lang string) string { return or(s.Heading(lang), s.Heading("")) }

// OwnTemplate begins the key of a template that a publication has saved.
const OwnTemplate = "own:"

// in names a heading in the eight languages, in this order.
func in(en, de, fr, es, it, nl, pt, sv string) map[string]string {
	return language.Texts(en, de, fr, es, it, nl, pt, sv)
}

// Templates are the kinds of pages that ship with the program. Numbers of links, forms of
// answers, lengths and what such pages have are common practice, no published source.
func Templates() []Template {
	glance := TemplateSection{First: true, Headings: in("At a glance", "Auf einen Blick", "En bref", "De un vistazo", "In breve", "In het kort", "Num relance", "I korthet"), Note: "The whole answer in a few lines, for those who read no further."}
	chosen := TemplateSection{Headings: in("How we chose", "So haben wir ausgewählt", "Comment nous avons choisi", "Cómo elegimos", "Come abbiamo scelto", "Hoe we hebben gekozen", "Como escolhemos", "Så valde vi"), Note: "By what, from how many, and what was left out; no claim of a test that was not made."}
	whom := TemplateSection{Headings: in("Which one for whom", "Was für wen", "Lequel pour qui", "Cuál para quién", "Quale per chi", "Welke voor wie", "Qual para quem", "Vilken för vem"), Note: "A plain recommendation for each kind of reader."}
	need := TemplateSection{First: true, Headings: in("What you need", "Das brauchst du", "Ce qu'il vous faut", "Lo que necesitas", "Cosa serve", "Wat je nodig hebt", "O que precisa", "Det här behöver du"), Note: "Tools, parts, time and skill, before the first step."}
	wrong := TemplateSection{Headings: in("If it goes wrong", "Wenn etwas schiefgeht", "En cas de problème", "Si algo sale mal", "Se qualcosa va storto", "Als het misgaat", "Se algo correr mal", "Om något går fel"), Note: "The mistakes people make, how to tell, and the way back."}
	further := TemplateSection{Headings: in("Read on", "Weiterlesen", "Pour aller plus loin", "Para seguir leyendo", "Per approfondire", "Verder lezen", "Para saber mais", "Läs vidare"), Note: "The supporting articles, each with one line on what it answers."}
	proof := TemplateSection{Headings: in("What others say", "Was andere sagen", "Ce qu'on en dit", "Lo que dicen otros", "Cosa dicono gli altri", "Wat anderen zeggen", "O que dizem os outros", "Vad andra säger"), Note: "Only what can be shown: words of customers who agreed, figures with their source."}
	visit := TemplateSection{Headings: in("Where to find us", "So findest du uns", "Où nous trouver", "Dónde encontrarnos", "Dove trovarci", "Waar je ons vindt", "Onde nos encontrar", "Här finns vi"), Note: "Address, hours, how to get there by each way of travel, one number to call."}
	choose := TemplateSection{First: true, Headings: in("How to choose", "So wählst du aus", "Comment choisir", "Cómo elegir", "Come scegliere", "Zo kies je", "Como escolher", "Så väljer du"), Note: "By which two or three measures, before the first product."}
	news := TemplateSection{First: true, Headings: in("What is new", "Was neu ist", "Ce qui change", "Qué hay de nuevo", "Che cosa cambia", "Wat er nieuw is", "O que há de novo", "Det här är nytt"), Note: "Who, what, where and when in two sentences, with the source."}
	means := TemplateSection{Headings: in("What it means", "Was das bedeutet", "Ce que cela signifie", "Qué significa", "Che cosa significa", "Wat dit betekent", "O que significa", "Vad det betyder"), Note: "For whom, from when, and what to do now."}
	return []Template{
		{Key: "guide", Name: "guide", About: "explains a subject from end to end", Inward: [2]int{3, 5}, Outward: [2]int{1, 2}, Data: []string{"Article", "BreadcrumbList"}},
		{Key: "list", Name: "list", About: "goes through many things of one sort", Inward: [2]int{3, 5}, Outward: [2]int{1, 2}, Data: []string{"Article", "ItemList", "BreadcrumbList"}, Sections: []TemplateSection{chosen},
			Fields: map[string]string{FieldGoal: "A reader finds the one that suits, and sees what speaks against it.", FieldCallToAction: "One in each entry where something of ours fits, and none where nothing does."}},
		{Key: "comparison", Name: "comparison", About: "sets a few things beside each other so that one can be chosen", Inward: [2]int{3, 5}, Outward: [2]int{1, 3}, Data: []string{"Article", "BreadcrumbList"}, Sections: []TemplateSection{glance, chosen, whom},
			Fields: map[string]string{FieldGoal: "A reader knows which one to take, and why not the others.", FieldCallToAction: "After each recommendation, to the thing recommended.", FieldSummary: "One table at the top: a row for each thing compared, a column for each matter it is compared by, the same units all through."}},
		{Key: "how-to", Name: "how-to", About: "leads through steps to a result", Inward: [2]int{2, 4}, Outward: [2]int{1, 2}, Data: []string{"HowTo", "BreadcrumbList"}, Sections: []TemplateSection{need, wrong},
			Fields: map[string]string{FieldGoal: "A reader who does what stands there has the result at the end.", FieldCallToAction: "In “what you need”, to the parts and tools that we have; no other.", FieldSummary: "The steps as a numbered list of one line each, before they are told at length."}},
		{Key: "pillar", Name: "pillar page", About: "holds a whole subject together and leads to its supporting articles", Inward: [2]int{5, 10}, Outward: [2]int{2, 4}, Data: []string{"Article", "BreadcrumbList"}, Sections: []TemplateSection{glance, further},
			Fields: map[string]string{FieldGoal: "A reader sees the whole subject and goes on to the part they need.", FieldCallToAction: "None that stops the reading: every section leads to its supporting article.", FieldSummary: "A table of contents that says in a line what each section answers."}},
		{Key: "supporting", Name: "supporting article", About: "answers one question in depth, below a pillar page", Inward: [2]int{2, 4}, Outward: [2]int{1, 2}, Data: []string{"Article", "BreadcrumbList"},
			Fields: map[string]string{FieldGoal: "The one question is answered so that nobody has to look further.", FieldCallToAction: "Up to the pillar page from the opening, and on to the next article at the end."}},
		{Key: "product", Name: "product or service page", About: "sells one thing", Words: [2]int{300, 800}, ByShare: true, Inward: [2]int{2, 4}, Outward: [2]int{0, 1}, Data: []string{"Product", "BreadcrumbList"}, Sections: []TemplateSection{proof},
			Fields: map[string]string{FieldGoal: "A reader who has all but decided can buy or ask, with no doubt left open.", FieldCallToAction: "Buy or ask, in view without scrolling and again at the end, in the same words.", FieldSummary: "One table of what it is: measures, materials, what is in the box, price."}},
		{Key: "category", Name: "category page", About: "leads to the products of one sort", Words: [2]int{150, 400}, Inward: [2]int{5, 10}, Outward: [2]int{0, 1}, Data: []string{"CollectionPage", "ItemList", "BreadcrumbList"}, Sections: []TemplateSection{choose},
			Fields: map[string]string{FieldGoal: "A reader comes to the right product in two choices.", FieldCallToAction: "To the product, from every card; text stands below the first row and does not push it down.", FieldSummary: "What all products of the sort have in common, in one sentence above the first row."}},
		{Key: "faq", Name: "FAQ page", About: "answers many questions on one subject", Words: [2]int{600, 1200}, ByShare: true, Inward: [2]int{3, 8}, Outward: [2]int{1, 3}, Data: []string{"FAQPage", "BreadcrumbList"},
			Fields: map[string]string{FieldGoal: "Each question is answered where it stands, without the others being read.", FieldCallToAction: "Where an answer ends in something to do, and nowhere else.", FieldSummary: "All questions as links at the top; each answered in its first sentence."}},
		{Key: "news", Name: "news article", About: "tells what has happened", Words: [2]int{300, 600}, ByShare: true, Inward: [2]int{2, 4}, Outward: [2]int{1, 3}, Data: []string{"NewsArticle", "BreadcrumbList"}, Sections: []TemplateSection{news, means},
			Fields: map[string]string{FieldGoal: "A reader knows in half a minute what has changed and what to do about it.", FieldCallToAction: "None; a link to the guide that stays true."}},
		{Key: "landing", Name: "landing page", About: "takes in those who come from one place and leads to one action", Words: [2]int{300, 700}, ByShare: true, Inward: [2]int{0, 2}, Outward: [2]int{0, 0}, Data: []string{"WebPage"}, Sections: []TemplateSection{proof},
			Fields: map[string]string{FieldGoal: "A visitor sees what is offered and why to trust it, and takes the one step.", FieldCallToAction: "One action only, said in the first screen, after each argument and at the end; no other way out."}},
		{Key: "local", Name: "local page", About: "is about something in one place", Words: [2]int{300, 800}, Inward: [2]int{2, 4}, Outward: [2]int{1, 2}, Data: []string{"LocalBusiness", "BreadcrumbList"}, Sections: []TemplateSection{visit},
			Fields: map[string]string{FieldGoal: "Somebody near decides to come, and finds the way.", FieldCallToAction: "Come, call or write: address and hours beside it."}},
	}
}

// In is the template with what the program says in it in a language; nil for English.
func (t Template) In(w Words) Template {
	if w == nil || strings.HasPrefix(t.Key, OwnTemplate) {
		return t
	}
	t.Sections = slices.Clone(t.Sections)
	for i := range t.Sections {
		t.Sections[i].Note = w.Look(t.Sections[i].Note)
	}
	return t
}

// kindOfForm is the template that a form of the field stands for.
func kindOfForm(form string) string {
	switch form {
	case "list", "comparison", "product", "category":
		return form
	case "steps":
		return "how-to"
	case "guide", "article":
		return "guide"
	case "questions and answers":
		return "faq"
	case "home", "directory":
		return "landing"
	}
	return ""
}

// proposeKind is the kind of page that most of the field is, and why: a local page where the
// keyword names a place and pages sell there.
func (b *Brief) proposeKind(e *evidence.Evidence) (key string, why message.Message) {
	for _, x := range e.Entities {
		if string(x.Type) == "place" && x.Pages >= 2 && hasWords(e.Keyword, x.Name) {
			for _, s := range e.Intent {
				if s.Kind == "transactional" || s.Kind == "commercial" {
					if s.Share >= localShare {
						return "local", message.Of("the keyword names a place, %s, and the field sells there", x.Name)
					}
				}
			}
		}
	}
	for _, f := range e.Forms {
		if key := kindOfForm(f.Kind); key != "" {
			return key, message.Of("%v are built so: %v", pagesOf(len(f.Sources), len(e.Sources)), ranksOf(f.Sources))
		}
	}
	return "guide", message.Of("no form of the field says otherwise")
}

// localShare is how much of the field's intent must be to buy or to choose, for a keyword
// with a place to ask for a local page. Our own.
const localShare = 0.4

func hasWords(text, part string) bool {
	return strings.Contains(" "+strings.ToLower(text)+" ", " "+strings.ToLower(part)+" ")
}

// templateOf is the template of a key among those of the program and of a publication.
func templateOf(key string, own []Template) (Template, bool) {
	all := slices.Concat(Templates(), own)
	i := slices.IndexFunc(all, func(t Template) bool { return t.Key == key })
	if i < 0 {
		return Template{}, false
	}
	return all[i], true
}

// Use is the edits that make a brief one of a template: the kind, and its sections in place of those
// that the kind before had brought. What a person typed stays, and so do sections that they reworded,
// gave a length or put something under.
func (c Choices) Use(e *evidence.Evidence, t Template) ([]Edit, error) {
	now := c.Clone()
	var edits []Edit
	take := func(more []Edit) error {
		for _, x := range busy(more) {
			if err := now.Apply(x); err != nil {
				return err
			}
			edits = append(edits, x)
		}
		return nil
	}
	lang := Compose(e, c, Setting{}).Language
	if err := take(c.leaveKind(t, lang)); err != nil {
		return nil, err
	}
	if err := take([]Edit{now.Write(FieldKind, &t.Key, nil)}); err != nil {
		return nil, err
	}
	b := Compose(e, now, Setting{})
	lines, first := LinesOf(b.Outline), Lines{}
	for _, s := range t.Sections {
		heading := s.headingIn(lang)
		m := OwnSection(e, heading)
		if heading == "" || lines.has(m.Key) || first.has(m.Key) || now.On(e).State(ThemeKind, m.Key) == Dropped {
			continue
		}
		if err := take(now.DecideOn(e, m)); err != nil {
			return nil, err
		}
		if err := take(now.WriteOn(e, BroughtPrefix+m.Key, &s.Note)); err != nil {
			return nil, err
		}
		if s.Note != "" && now.TypedOn(e, NotePrefix+m.Key) == nil {
			if err := take(now.WriteOn(e, NotePrefix+m.Key, &s.Note)); err != nil {
				return nil, err
			}
		}
		if s.First {
			first = append(first, OutlineLine{Level: TopLevel, Key: m.Key})
		} else {
			lines = append(lines, OutlineLine{Level: TopLevel, Key: m.Key})
		}
	}
	if lines = slices.Concat(first, lines); now.Outline == nil || slices.Equal(lines, LinesOf(b.Outline)) {
		return edits, nil
	}
	return edits, take(now.Arrange(e, Compose(e, now, Setting{}).Outline, lines))
}

// leaveKind is the edits that take out what the kind of page before has brought and t does not have.
func (c Choices) leaveKind(t Template, lang string) []Edit {
	var edits []Edit
	gone := map[string]bool{}
	for _, key := range keysOf(c.Sections) {
		x := c.Sections[key]
		if x.Brought == nil || t.has(key, c.textOf(ThemeKind, key), lang) {
			continue
		}
		edits = append(edits, c.Write(BroughtPrefix+key, nil, nil))
		// The heading of a section that stands is one that nobody worded.
		worded := x.Heading != nil && (c.Stands == nil || c.Stands.Headings[HeadingPrefix+key] != *x.Heading)
		if c.State(ThemeKind, key) != Adopted || worded || x.Words != nil || textOf(x.Note) != *x.Brought || c.holds(key) {
			continue // it is the person's by now
		}
		gone[key] = true
		for _, place := range []string{NotePrefix, StoodPrefix, HeadingPrefix} {
			edits = append(edits, c.Write(place+key, nil, nil))
		}
		edits = append(edits, c.Decide(Mark{Kind: ThemeKind, Key: key}, nil))
	}
	if c.Outline != nil && len(gone) > 0 {
		text := c.Outline.without(func(key string) bool { return gone[key] }).String()
		edits = append(edits, c.Write(FieldOutline, &text, nil))
	}
	return edits
}

// holds tells whether a person put something under a section.
func (c Choices) holds(section string) bool {
	if i := c.Outline.At(section); i >= 0 && c.Outline.end(i) > i+1 {
		return true
	}
	for _, at := range []map[string]string{c.Under.Questions, c.Under.Terms} {
		for _, key := range at {
			if key == section {
				return true
			}
		}
	}
	for _, x := range c.Cuttings {
		if textOf(x.Section) == section {
			return true
		}
	}
	return false
}

// textOf are the words of a finding that something was decided about; empty for none.
func (c Choices) textOf(k Kind, key string) string {
	for _, m := range c.Marks {
		if m.Kind == k && m.Key == key {
			return m.Text
		}
	}
	return ""
}

// has tells whether pages of a kind have a section, by its key or, where it is a theme of the field,
// by its words.
func (t Template) has(key, heading, lang string) bool {
	l := language.For(lang)
	return slices.ContainsFunc(t.Sections, func(s TemplateSection) bool {
		own := l.PhraseKey(s.headingIn(lang))
		return OwnPrefix+own == key || own == l.PhraseKey(heading)
	})
}

// opens tells whether pages of a kind begin with a section.
func (t Template) opens(key, lang string) bool {
	t.Sections = slices.DeleteFunc(slices.Clone(t.Sections), func(s TemplateSection) bool { return !s.First })
	return t.has(key, "", lang)
}

// Template is what a publication keeps of a brief for others of its kind: the texts that are
// about no keyword, the parts, and the sections of its own.
func (b Brief) Template(key, name string) Template {
	t := Template{Key: OwnTemplate + key, Name: name, About: message.Of("saved from “%s”", b.Keyword).Keep(), Fields: map[string]string{}, Inward: b.Links.InwardWanted, Outward: b.Links.OutwardWanted}
	for _, f := range []string{FieldAudience, FieldVoice, FieldPointOfView, FieldCallToAction, FieldAvoid, FieldSummary, FieldNotes} {
		if text := b.Field(f); text != "" && b.Why[f] == "" {
			t.Fields[f] = text
		}
	}
	for _, p := range b.Parts {
		if p.Hidden {
			t.Parts += "-"
		}
		t.Parts += p.Name + "\n"
	}
	seen := false
	for _, s := range b.Outline {
		if strings.HasPrefix(s.Key, OwnPrefix) {
			t.Sections = append(t.Sections, TemplateSection{First: !seen, Headings: map[string]string{"": s.Heading}, Note: s.Note})
		} else {
			seen = true
		}
	}
	return t
}
