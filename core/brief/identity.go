package brief

import (
	"encoding/json"
	"slices"
	"strings"

	"corpulan/core/evidence"
	"corpulan/core/language"
	"corpulan/core/text"
)

// A decision is tied to what a finding was made of when it was decided: the
// headings of a theme, the wordings of a question, the stems of a term, each by
// its content stems. The finding's key, which comes from its label or its leading
// wording, may change when a page comes or goes; the decision stays under the key
// it was made with and follows the finding that now holds most of it.

// place names a finding among all kinds.
func place(k Kind, key string) string { return string(k) + ":" + key }

// Made is what the finding of a key is made of today; nil if there is none.
func Made(e *evidence.Evidence, k Kind, key string) []string {
	for _, f := range findingsOf(e, k) {
		if f.key == key {
			return f.made
		}
	}
	return nil
}

// finding is one finding of the evidence, by what it is made of.
type finding struct {
	key  string
	made []string // each once
}

func findingsOf(e *evidence.Evidence, k Kind) []finding {
	var list []finding
	lang := language.For(e.Language)
	stems := func(s string) string {
		all := lang.ContentStems(s)
		if len(all) == 0 {
			return text.Fold(s)
		}
		slices.Sort(all)
		return strings.Join(slices.Compact(all), " ")
	}
	of, _ := evidence.OfKind(k)
	for _, f := range e.Findings(k) {
		made := slices.Clone(f.Made)
		if !of.ByKeys {
			for i := range made {
				made[i] = stems(made[i])
			}
		}
		slices.Sort(made)
		list = append(list, finding{f.Key, slices.Compact(made)})
	}
	return list
}

// kept lists the keys of a kind that something is decided or noted under.
func (c Choices) kept(k Kind) []string {
	var keys []string
	for _, m := range c.Marks {
		if m.Kind == k {
			keys = append(keys, m.Key)
		}
	}
	add := func(key string) {
		if !slices.Contains(keys, key) {
			keys = append(keys, key)
		}
	}
	names := c.typedAt(k)
	// Notes first: of decisions that have met the later stands.
	slices.SortStableFunc(names, func(a, b string) int {
		return notesFirst(a) - notesFirst(b)
	})
	for _, name := range names {
		_, key := about(name)
		add(key)
	}
	return keys
}

func notesFirst(name string) int {
	if strings.HasPrefix(name, NotePrefix) {
		return 0
	}
	return 1
}

// follow tells for each key that something is kept under which finding of today
// it is about. Keys whose finding is gone are left out; so are those of joint, sections of an outline
// by hand whose theme is that of another section by now: they stay two.
func (c Choices) follow(e *evidence.Evidence, k Kind, findings []finding) (to, joint map[string]string) {
	kept := c.kept(k)
	holders := map[string][]int{} // of each thing findings are made of
	byKey := map[string]int{}
	for i := len(findings) - 1; i >= 0; i-- {
		byKey[findings[i].key] = i
		for _, m := range findings[i].made {
			holders[m] = append(holders[m], i)
		}
	}
	to = map[string]string{}
	for _, key := range kept {
		present := 0
		held := map[int]int{}
		for _, m := range c.Made[place(k, key)] {
			if len(holders[m]) > 0 {
				present++
			}
			for _, i := range holders[m] {
				held[i]++
			}
		}
		best, same := byKey[key]
		if !same {
			best = -1
		}
		// One that has come apart follows the part that has kept its name.
		for i := range findings {
			if n := held[i]; n > 0 && 2*n >= present && (best < 0 || n > held[best] && !(same && held[byKey[key]] > 0)) {
				best = i
			}
		}
		if best < 0 {
			best = c.byWords(e, k, key)
		}
		if best >= 0 {
			to[key] = findings[best].key
		}
	}
	if k == ThemeKind {
		joint = c.keepApart(to)
	}
	return to, joint
}

// keepApart takes out of what keys follow the sections of an outline by hand that follow the theme of
// another: of several the one under the theme's own key follows it, else the first. It returns the
// themes of those taken out.
func (c Choices) keepApart(to map[string]string) map[string]string {
	first := map[string]string{} // by theme
	for _, x := range c.Outline {
		if theme, ok := to[x.Key]; ok && (first[theme] == "" || x.Key == theme) {
			first[theme] = x.Key
		}
	}
	joint := map[string]string{}
	for _, x := range c.Outline {
		if theme, ok := to[x.Key]; ok && first[theme] != x.Key {
			joint[x.Key] = theme
			delete(to, x.Key)
		}
	}
	return joint
}

// byWords finds the finding that has the words of an older decision: one that did not keep what it
// was made on, or was made when words had other stems. It is -1 if none has.
func (c Choices) byWords(e *evidence.Evidence, k Kind, key string) int {
	i := slices.IndexFunc(c.Marks, func(m Mark) bool { return m.Kind == k && m.Key == key })
	if i < 0 {
		return -1
	}
	words := c.Marks[i].Text
	of, _ := evidence.OfKind(k)
	if !of.Worded {
		return -1
	}
	want := language.For(e.Language).PhraseKey(words)
	return slices.IndexFunc(e.Findings(k), func(f evidence.Finding) bool {
		if of.ByKeys {
			return f.Key == want || slices.Contains(f.Made, want)
		}
		return slices.ContainsFunc(f.Said, func(s string) bool { return strings.EqualFold(s, words) })
	})
}

// On is the choices under the keys that findings have today. Where two decisions
// have come to be about one finding the later stands, and notes are joined; the
// choices themselves keep both.
func (c Choices) On(e *evidence.Evidence) Choices {
	today := c.Clone() // of what is about no finding
	today.Marks, today.Sections, today.Points, today.Facts, today.Under, today.Made = nil, nil, nil, nil, Under{}, nil
	var sections map[string]string // of today, by the keys that something is kept under
	for _, k := range Kinds() {
		var to map[string]string
		if len(c.kept(k)) > 0 {
			var joint map[string]string
			if to, joint = c.follow(e, k, findingsOf(e, k)); k == ThemeKind {
				today.joint = joint
			}
		}
		if today.today == nil {
			today.today = map[Kind]map[string]string{}
		}
		today.today[k] = to
		c.typedToday(&today, k, to)
		for _, m := range c.Marks {
			if m.Kind != k {
				continue
			}
			if key, ok := to[m.Key]; ok {
				m.Key = key
			}
			today.Set(m)
		}
		if k != ThemeKind {
			continue
		}
		if c.Outline != nil {
			today.Outline = c.linesToday(to)
		}
		sections = to
		for _, key := range keysOf(c.Sections) {
			note := c.Sections[key].Note
			if note == nil {
				continue
			}
			now := key
			if t, ok := to[key]; ok {
				now = t
			}
			if have := today.noteOn(now); have != "" && *note != "" && have != *note {
				today.Note(now, have+"\n"+*note)
			} else if *note != "" || have == "" {
				today.Note(now, *note)
			}
		}
	}
	today.underToday(sections)
	return today
}

// underToday names the sections that cuttings, questions and terms stand under by their keys of
// today.
func (c *Choices) underToday(sections map[string]string) {
	for _, all := range []map[string]string{c.Under.Questions, c.Under.Terms} {
		for key, section := range all {
			if now, ok := sections[section]; ok {
				all[key] = now
			}
		}
	}
	for id, x := range c.Cuttings {
		if now, ok := sections[textOf(x.Section)]; ok && x.Section != nil {
			x.Section = &now
			c.Cuttings[id] = x
		}
	}
}

// typedToday puts what was typed about findings of a kind under their keys of today. Of two
// texts that have come to be about one the one under today's own key stands, else the later
// by key; the choices keep both.
func (c Choices) typedToday(today *Choices, k Kind, to map[string]string) {
	for _, field := range c.typedAt(k) {
		_, key := about(field)
		if strings.HasPrefix(field, NotePrefix) {
			continue // notes that have met are joined
		}
		now := key
		if t, ok := to[key]; ok {
			now = t
		}
		at := strings.TrimSuffix(field, key) + now
		if c.TypedIn(at) != nil && now != key && to[now] == now {
			continue
		}
		today.put(at, c.TypedIn(field))
	}
}

// tracker tells where things are kept about the findings of one kind, of today.
type tracker struct {
	Choices
	kind Kind
	to   map[string]string   // by key that something is kept under
	old  []string            // those keys
	made map[string][]string // what findings of today are made of, by key
}

// track makes a tracker; it looks through all findings of the kind once.
func (c Choices) track(e *evidence.Evidence, k Kind) *tracker {
	findings := findingsOf(e, k)
	t := &tracker{Choices: c, kind: k, old: c.kept(k), made: map[string][]string{}}
	t.to, _ = c.follow(e, k, findings)
	for i := len(findings) - 1; i >= 0; i-- { // the first of a key stands
		t.made[findings[i].key] = findings[i].made
	}
	return t
}

// keys are those under which something is kept about a finding of today, the
// latest first; one under which it may be kept if nothing is.
func (t *tracker) keys(key string) []string {
	var keys []string
	for _, old := range slices.Backward(t.old) {
		if t.to[old] == key {
			keys = append(keys, old)
		}
	}
	if len(keys) > 0 || t.made[key] == nil {
		return append(keys, key)[:max(len(keys), 1)] // the key itself is of a page made earlier
	}
	// What is kept under this key has gone with another finding.
	for slices.Contains(t.old, key) {
		key += " *"
	}
	return []string{key}
}

// decide is the edits that record a decision about a finding of today: in the
// place of all decisions that have come to be about it.
func (t *tracker) decide(m Mark) []Edit {
	keys, made := t.keys(m.Key), t.made[m.Key]
	decided := slices.DeleteFunc(slices.Clone(keys), func(key string) bool { return t.State(m.Kind, key) == "" })
	if len(decided) == 0 {
		decided = keys[:1]
	}
	m.Key = decided[0]
	edits := []Edit{t.Decide(m, made)}
	for _, key := range decided[1:] {
		edits = append(edits, t.Decide(Mark{Kind: m.Kind, Key: key, Text: m.Text}, nil))
	}
	return busy(edits)
}

// stand is the edit that keeps how a section of today stands.
func (t *tracker) stand(s *Section) Edit {
	key := t.keys(s.Key)[0]
	text, err := json.Marshal(stoodAs(s))
	if err != nil { // texts and numbers
		panic(err)
	}
	x := string(text)
	return t.Write(StoodPrefix+key, &x, t.made[s.Key])
}

// DecideOn is the edits that record decisions about findings of today.
func (c Choices) DecideOn(e *evidence.Evidence, marks ...Mark) []Edit {
	trackers := map[Kind]*tracker{}
	var edits []Edit
	for _, m := range marks {
		if trackers[m.Kind] == nil {
			trackers[m.Kind] = c.track(e, m.Kind)
		}
		decided := trackers[m.Kind].decide(m)
		if edits = append(edits, decided...); m.Kind == FactKind && len(decided) > 0 {
			edits = append(edits, c.keepSource(e, m, decided[0].Key)...)
		}
	}
	return edits
}

// keepSource is the edit that keeps where a fact is from under a key, as long as it is adopted.
func (c Choices) keepSource(e *evidence.Evidence, m Mark, key string) []Edit {
	var from *string
	if m.State == Adopted {
		i := slices.IndexFunc(e.Facts, func(x evidence.Fact) bool { return x.Key == m.Key })
		if i < 0 {
			return nil
		}
		x := e.Facts[i]
		text, err := json.Marshal(FactFrom{x.URL, x.Title, x.Date, x.Figures})
		if err != nil { // texts
			panic(err)
		}
		s := string(text)
		from = &s
	}
	return busy([]Edit{c.Write(FactPrefix+key, from, Made(e, FactKind, m.Key))})
}

// TypedOn is what a person typed into a field, as the place Brief shows it: for
// the section of today, notes that have met joined.
func (c Choices) TypedOn(e *evidence.Evidence, field string) *string {
	k, key := about(field)
	if k == "" || e == nil || Made(e, k, key) == nil {
		return c.TypedIn(field)
	}
	return c.On(e).TypedIn(field)
}

// WriteOn is the edits that put a text into a field; one that is about a finding takes
// the place of all of its kind that have come to be about it.
func (c Choices) WriteOn(e *evidence.Evidence, field string, text *string) []Edit {
	k, key := about(field)
	if k == "" {
		return busy([]Edit{c.Write(field, text, nil)})
	}
	prefix := strings.TrimSuffix(field, key)
	t := c.track(e, k)
	keys, made := t.keys(key), t.made[key]
	typed := slices.DeleteFunc(slices.Clone(keys), func(key string) bool { return c.TypedIn(prefix+key) == nil })
	if len(typed) == 0 {
		typed = keys[:1]
	}
	edits := []Edit{c.Write(prefix+typed[0], text, made)}
	for _, key := range typed[1:] {
		edits = append(edits, c.Write(prefix+key, nil, nil))
	}
	return busy(edits)
}

func busy(edits []Edit) []Edit { return slices.DeleteFunc(edits, Edit.Idle) }
