package listed

import (
	"regexp"
	"strconv"
	"strings"

	"corpulan/core/language"
	"corpulan/core/reading"
	"corpulan/core/text"
)

// Bounds of what is read below a name, our own.
const (
	longestTold = 8  // words of a value
	mostSaid    = 4  // sentences of praise, and of criticism, that are no list
	mostListed  = 12 // items of such a list
)

// below are the sections that are about the thing of a heading: its own and those under it.
func (f *finder) below(page, section int) (from, to int) {
	sections := f.Docs[page].Reading.Sections
	to = section + 1
	for to < len(sections) && sections[to].Level > sections[section].Level {
		to++
	}
	return section, to
}

// tellsWare tells a section that names a price, figures or what is good and bad as lines of their own.
func (f *finder) tellsWare(page, section int) bool {
	from, to := f.below(page, section)
	sections := f.Docs[page].Reading.Sections
	for n := from; n < to; n++ {
		if n > from && (f.Language.IsLabel(language.LabelPros, sections[n].Heading) || f.Language.IsLabel(language.LabelCons, sections[n].Heading)) {
			return true
		}
		for _, line := range sections[n].Blocks() {
			for _, p := range f.pairs(line) {
				if f.labelOf(p.label) != "" && f.labelOf(p.label) != language.LabelName {
					return true
				}
			}
			if _, ok := f.money(line); ok && text.CountWords(line) <= longestLabel {
				return true
			}
		}
	}
	return false
}

// readBelow adds to an entry what its section and those under it say.
func (f *finder) readBelow(e *entry) {
	r := f.Docs[e.page].Reading
	from, to := f.below(e.page, e.Section)
	for n := from; n < to; n++ {
		p := saying{finder: f, e: e, section: n}
		if n > from {
			p.mode = f.sideOf(r.Sections[n].Heading)
		}
		for kind, line := range r.Sections[n].Blocks() {
			if kind != reading.LineCell {
				p.line(kind, line)
			}
		}
		for _, t := range r.Tables {
			if t.Section == n && len(t.Rows) > 0 && len(t.Rows[0]) == 2 {
				for _, row := range t.Rows {
					if len(row) == 2 {
						p.pair(pair{row[0], row[1]})
					}
				}
			}
		}
	}
	f.priceInProse(e, from, to)
}

// saying reads the lines below a name.
type saying struct {
	*finder
	e       *entry
	section int
	mode    language.Label // what the lines that follow say, LabelPros or LabelCons
	items   bool           // they were items so far
}

func (p *saying) line(kind byte, line string) {
	if side := p.sideOf(line); side != "" {
		p.mode, p.items = side, false
		return
	}
	pairs := p.pairs(line)
	if len(pairs) > 0 {
		for _, x := range pairs {
			p.pair(x)
		}
		if whole := strings.HasPrefix(line, pairs[0].label); whole && (len(pairs) > 1 || p.labelOf(pairs[0].label) != "" || len(p.e.Attributes) > 0 && p.mode == "") {
			line = after(line, pairs[len(pairs)-1].told)
		}
	}
	if line == "" {
		return
	}
	if p.mode != "" && kind != reading.LineItem && p.items {
		p.mode = ""
	}
	if p.mode != "" {
		p.say(p.mode, line, mostListed)
		if p.items = kind == reading.LineItem; !p.items {
			p.mode = ""
		}
		return
	}
	if one, ok := p.money(line); ok && strings.HasPrefix(line, one.Text) && text.CountWords(line) <= longestTold {
		p.prices(line)
		return
	}
	for _, s := range p.Language.Sentences(line) {
		p.judge(s.Of(line))
	}
}

// sideOf tells a line that says what follows: what is good, or what is bad.
func (f *finder) sideOf(line string) language.Label {
	for _, l := range []language.Label{language.LabelPros, language.LabelCons} {
		if f.Language.IsLabel(l, line) {
			return l
		}
	}
	return ""
}

// judge puts a sentence to what is praised or to what is criticised, by its words.
func (p *saying) judge(sentence string) {
	good, bad := p.Language.Cues(language.LabelPraise, sentence), p.Language.Cues(language.LabelBlame, sentence)
	switch {
	case good > bad:
		p.say(language.LabelPros, sentence, mostSaid)
	case bad > good:
		p.say(language.LabelCons, sentence, mostSaid)
	}
}

func (p *saying) say(side language.Label, said string, most int) {
	into := &p.e.Praise
	if side == language.LabelCons {
		into = &p.e.Criticism
	}
	if said = strings.TrimSpace(strings.TrimLeft(said, "+–-•✓✔✗✘ ")); text.HasWord(said) && len(*into) < most {
		*into = together(*into, []Said{{p.section, said}})
	}
}

// pair takes what a label tells of the thing.
func (p *saying) pair(x pair) {
	told := strings.TrimSpace(x.told)
	if told == "" {
		if side := p.sideOf(x.label); side != "" {
			p.mode, p.items = side, false
		}
		return
	}
	if outOf.MatchString(told) && p.Language.Cues(language.LabelRating, x.label) > 0 {
		p.rate(told)
		return
	}
	switch p.labelOf(x.label) {
	case language.LabelPrice:
		p.prices(told)
	case language.LabelVerdict:
		if p.e.Verdict == "" && text.CountWords(told) <= longestVerdict {
			p.e.Verdict = strings.Trim(told, " .")
		}
	case language.LabelRating:
		p.rate(told)
	case language.LabelPros:
		p.sayAll(language.LabelPros, told)
	case language.LabelCons:
		p.sayAll(language.LabelCons, told)
	case language.LabelPosition, language.LabelPressed:
	default:
		if len(p.amounts(told)) > 0 && len(p.e.Prices) == 0 && text.CountWords(told) <= longestLabel && p.Language.Cues(language.LabelPrice, x.label) > 0 {
			p.prices(told)
			return
		}
		p.attribute(x.label, told)
	}
}

// sayAll cuts a line of praise or criticism at its semicolons.
func (p *saying) sayAll(side language.Label, told string) {
	for part := range strings.SplitSeq(told, ";") {
		p.say(side, strings.TrimSpace(part), mostListed)
	}
}

// prices takes the amounts of a cell or a line that is about the price.
func (p *saying) prices(told string) {
	if len(p.e.Prices) > 0 {
		return
	}
	list := p.amounts(told)
	if one, ok := p.money(told); ok && len(list) == 0 {
		list = []Price{one}
	}
	for _, x := range list {
		x.Rank, x.Section = p.e.Rank, p.section
		p.e.Prices = append(p.e.Prices, x)
	}
}

var outOf = regexp.MustCompile(`^(\d+(?:[.,]\d+)?)\s*(?:/|out of|von|sur|de|su|van|av|of)\s*(\d+)\b`)

// rate takes a mark "4.5/5".
func (p *saying) rate(told string) {
	m := outOf.FindStringSubmatch(told)
	if m == nil || p.e.Rating != nil {
		return
	}
	value, _ := strconv.ParseFloat(strings.Replace(m[1], ",", ".", 1), 64) // digits, by the pattern
	of, _ := strconv.ParseFloat(m[2], 64)
	if value > 0 && value <= of {
		p.e.Rating = &Rating{Value: value, Of: of, Rank: p.e.Rank}
	}
}

var unitInName = regexp.MustCompile(`^(.+?)\s*[(\[](?:in )?([^)\]]{1,12})[)\]]$`)

// attribute takes a value under the page's own name for it.
func (p *saying) attribute(name, told string) {
	v, ok := p.valueOf(told)
	name = strings.Trim(name, " :*")
	if !ok || !text.HasWord(name) || text.CountWords(told) > longestTold {
		return
	}
	if m := unitInName.FindStringSubmatch(name); m != nil && v.isQuantity() && v.unit == "" {
		name, v.unit = m[1], m[2]
	}
	if _, known := measures()[text.Fold(name)]; v.isQuantity() && v.unit == "" && (known || p.Language.IsUnit(text.Fold(name))) {
		v.unit = text.Lower(name)
	}
	for _, a := range p.e.Attributes {
		if a.Name == name {
			return
		}
	}
	p.e.Attributes = append(p.e.Attributes, Attribute{Name: name, Value: v.value, Unit: v.unit, Rank: p.e.Rank, Section: p.section, Text: told})
}

// short reads a line that names figures one after another, "900 lumens, 165 g, £69", as definitions and items of a list do:
// a figure that is all of a part between commas, with its unit telling of what.
func (p *saying) short(line string) {
	for _, s := range p.Language.Sentences(line) {
		for part := range strings.FieldsFuncSeq(strings.Trim(s.Of(line), " ."), func(r rune) bool { return r == ';' || r == '|' || r == '·' || r == '/' }) {
			for bit := range strings.SplitSeq(strings.ReplaceAll(part, ". ", ", "), ", ") {
				bit = strings.TrimSpace(bit)
				if len(p.amounts(bit)) > 0 {
					continue
				}
				v, ok := p.valueOf(bit)
				if ok && v.isQuantity() && v.unit != "" && !strings.Contains(v.unit, " ") {
					p.attribute(p.nameOfUnit(v.unit), bit)
				}
			}
		}
	}
}

// nameOfUnit is what a unit is of, by itself: the language's word, else the unit.
func (f *finder) nameOfUnit(unit string) string {
	if name := f.Language.Measured(unit); name != "" {
		return strings.ToUpper(name[:1]) + name[1:]
	}
	return unit
}

// priceInProse takes the price from a sentence where no line tells it: the only amount below the name, in a sentence that
// speaks of costs, or after a preposition in one that names the thing.
func (f *finder) priceInProse(e *entry, from, to int) {
	if len(e.Prices) > 0 {
		return
	}
	p := saying{finder: f, e: e}
	var found *Price
	for n := from; n < to; n++ {
		for _, line := range f.Docs[e.page].Reading.Sections[n].Blocks() {
			for _, s := range f.Language.Sentences(line) {
				sentence := s.Of(line)
				amounts := f.amounts(sentence)
				if len(amounts) == 0 {
					continue
				}
				if found != nil || len(amounts) > 1 {
					return
				}
				if f.speaksOfPrice(sentence, amounts[0].Text, e.Name) {
					amounts[0].Rank, amounts[0].Section = e.Rank, n
					found = &amounts[0]
				} else {
					return
				}
			}
		}
	}
	if found != nil {
		p.e.Prices = []Price{*found}
	}
}

func (f *finder) speaksOfPrice(sentence, amount, name string) bool {
	before, _, _ := strings.Cut(sentence, amount)
	before = strings.TrimRight(before, " :")
	if label := before; f.Language.IsLabel(language.LabelPrice, label) {
		return true
	}
	words := strings.Fields(before)
	if len(words) == 0 {
		return false
	}
	if last := text.Fold(words[len(words)-1]); f.Language.IsLabel(language.LabelPrice, last) && !f.Language.Stop(last) {
		return true
	} else if !f.Language.IsPreposition(last) {
		return false
	}
	for _, w := range strings.Fields(name) {
		if strings.Contains(sentence, w) && len(w) > 2 {
			return true
		}
	}
	return false
}
