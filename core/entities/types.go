package entities

import (
	"cmp"
	"regexp"
	"slices"
	"strings"

	"corpulan/core/corpus"
	"corpulan/core/language"
	"corpulan/core/lexicon"
	"corpulan/core/message"
	"corpulan/core/text"
)

// clue is something that speaks for a type. The weights are our own: 1 is a clue that
// is right in most cases, 2 one that is hardly ever wrong.
type clue struct {
	of     EntityType
	weight float64
	why    message.Message
}

// typeOf weighs what a name looks like, what lists and structured data know of it, and
// what the sentences around it say. The reason is that of the strongest clue.
func typeOf(f *corpus.Field, e *named) (t EntityType, why message.Message, sure float64) {
	clues := byForm(e, f.Language)
	clues = append(clues, byLists(e, f.Language)...)
	clues = append(clues, byData(f, e)...)
	clues = append(clues, bySentences(f, e)...)
	sums := map[EntityType]float64{}
	for _, c := range clues {
		sums[c.of] += c.weight
	}
	if isAbbreviation(byCount(e.shapes)[0]) { // "certified RGE says the ministry"
		delete(sums, PersonType)
		if len(sums) == 0 {
			return ConceptType, "an abbreviation", unsure
		}
	}
	best, strongest := NameType, 0.0
	why = "nothing tells what it is"
	for _, t := range Types() { // in order, so that a tie falls the same way each time
		if sums[t] > sums[best] {
			best = t
		}
	}
	for _, c := range clues {
		if c.of == best && c.weight > strongest {
			why, strongest = c.why, c.weight
		}
	}
	return best, why, sums[best]
}

// unsure is below what a type rests on one weak clue. Our own.
const unsure = .5

// spread gives names that little is known of the type of those they are listed with, then
// that of most names of the field.
func spread(list []*named, lang *language.Language) {
	spreadByLists(list)
	if !lang.NounsHaveCapitals { // a noun would be taken for a name
		spreadByField(list)
	}
}

// spreadByLists gives a name that little is known of the type of most of those that stand in
// a list with it; of two as frequent, that of more names of the field.
func spreadByLists(list []*named) {
	at := map[place]*named{}
	common := map[EntityType]int{}
	for _, e := range list {
		for _, m := range e.mentions {
			at[place{m.sentence, m.to}], at[place{m.sentence, -m.from - 1}] = e, e
		}
		if e.sure >= unsure {
			common[e.Type]++
		}
	}
	given := map[*named]clue{} // given when all are known: what is given is not passed on
	for _, e := range list {
		if e.sure >= unsure || isAbbreviation(byCount(e.shapes)[0]) { // "European and JIS"
			continue
		}
		votes := map[EntityType]int{}
		with := map[EntityType]string{}
		for _, n := range neighbours(e, at) {
			if n.sure >= unsure && n.Type != NameType {
				votes[n.Type]++
				with[n.Type] = n.Name
			}
		}
		best := e.Type
		for _, t := range Types() {
			if votes[t] > votes[best] || votes[t] == votes[best] && votes[t] > 0 && common[t] > common[best] {
				best = t
			}
		}
		if votes[best] > 0 {
			given[e] = clue{best, unsure, message.Of("listed with %s", with[best])}
		}
	}
	for e, g := range given {
		e.Type, e.Why, e.sure = g.of, g.why, g.weight
	}
}

// spreadByField gives names that little is known of the type of most others, where the field
// has enough of them. The shares are our own.
func spreadByField(list []*named) {
	const most, fewest = .6, 5
	counts, all := map[EntityType]int{}, 0
	for _, e := range list {
		if e.sure >= unsure && slices.Contains([]EntityType{ProductType, OrganisationType, PersonType, PlaceType}, e.Type) {
			counts[e.Type]++
			all++
		}
	}
	for t, n := range counts {
		if all < fewest || float64(n) < most*float64(all) {
			continue
		}
		for _, e := range list { // one type at most has so many
			if isAbbreviation(e.Name) {
				continue
			}
			if e.sure < unsure && (e.Type == NameType || e.Type == PersonType) {
				e.Type, e.Why = t, "as most names of the field"
			}
		}
	}
}

// Bodies that issue standards, and what a number follows in the name of one.
var (
	standards = regexp.MustCompile(`^(ISO|IEC|EN|DIN|IEEE|RFC|BS|ANSI|ASTM|ECE|UL|NF|UNE|UNI|SS|NEN|ETSI|ITU|CEN|ISA|SAE|NIST|FIPS|WCAG|NSF|ASME|AWWA|NOM|DTU|JIS|VDI|VDE|NBR|CSA|GOST|ABNT|IRAM)([-/ ][A-Z]{2,4})*[-/ ]?[0-9A-Z.:-]*$`)
	numbered  = regexp.MustCompile(`^[A-Z]{2,5}v[0-9.]+$`) // IPv6, TLSv1.3
	shortLaws = regexp.MustCompile(`^(WCAG|DSGVO|GDPR|RGPD|AVG|StVO|StVZO|HIPAA|POSIX)$`)
	ipRating  = regexp.MustCompile(`^IP[X0-9][0-9X]$`)
)

// byForm reads the name alone. Weights are our own.
func byForm(e *named, lang *language.Language) []clue {
	words := e.words
	if e.Long != "" {
		words = strings.Fields(e.Long)
	}
	list := byStandard(byCount(e.shapes)[0], len(words) > 1)
	if len(words) == 1 {
		return append(list, byWord(words[0], lang)...)
	}
	return append(list, byWords(words, lang, e.Long, len(list) > 0)...)
}

// byStandard reads a name that is the number of a standard, or a law's short one. Weights are
// our own.
func byStandard(name string, several bool) (list []clue) {
	if (standards.MatchString(name) && several || ipRating.MatchString(name)) && strings.ContainsAny(name, "0123456789") {
		list = append(list, clue{StandardType, 4, "the number of a standard"})
	} else if shortLaws.MatchString(name) {
		list = append(list, clue{StandardType, 1.5, "a known law or standard"})
	}
	if numbered.MatchString(name) {
		list = append(list, clue{StandardType, 2, "the number of a standard's version"})
	}
	return list
}

// byEnd reads the last word of a name.
func byEnd(last string, lang *language.Language) []clue {
	if t, weight, ok := ends(last, lang); ok {
		return []clue{{t, weight, message.Of("ends in “%s”", last)}}
	}
	return nil
}

// byWord reads a name of one word. Weights are our own.
func byWord(word string, lang *language.Language) (list []clue) {
	if lang.JoinsWords {
		list = byEnd(text.Fold(word), lang)
	}
	if hasSigns(word) && !isAbbreviation(word) && len(word) > len("pH") {
		list = append(list, clue{ProductType, .8, "written as programs and products are"})
	}
	if head, number, ok := strings.Cut(word, "-"); ok && isAbbreviation(head) && isNumber(number) { // "VG-10"
		list = append(list, clue{ProductType, .8, "a name with the number of a model or version"})
	} else if isAbbreviation(word) {
		list = append(list, clue{ConceptType, .4, "an abbreviation"})
	}
	return list
}

// byWords reads a name of several words; long is what an abbreviation stands for. What is
// weaker is said only where nothing is known yet. Weights are our own.
func byWords(words []string, lang *language.Language, long string, known bool) (list []clue) {
	first, last := text.Fold(strings.TrimSuffix(words[0], ".")), text.Fold(words[len(words)-1])
	add := func(of EntityType, weight float64, why message.Message) { list = append(list, clue{of, weight, why}) }
	if lang.IsHonorific(first) {
		add(PersonType, 3, "has a title before the name")
	}
	list = append(list, byEnd(last, lang)...)
	if lang.AdjectivesFollow || lang.Joins(text.Fold(words[1])) { // "rue de la Paix", "University of Hull"
		if t, weight, ok := ends(first, lang); ok {
			add(t, weight, message.Of("begins with “%s”", first))
		}
	}
	nothing := func() bool { return !known && len(list) == 0 }
	if t, ok := typeOfName(words[len(words)-1]); ok && t != PersonType && nothing() {
		add(t, 1, "ends in the name of such a thing")
	}
	if nothing() && isPersonal(words) {
		add(PersonType, 1.6, "a first name and a family name")
	}
	if (isNumber(last) || isModel(words[len(words)-1])) && nothing() {
		add(ProductType, 1.2, "a name with the number of a model or version")
	}
	if k, ok := lexicon.KindOf(last); ok && lang.Senses && nothing() {
		if t, ok := ofKind[k]; ok && t != PersonType {
			add(t, .8, message.Of("ends in “%s”, %v", last, inWords[k]))
		} else if long != "" {
			add(ConceptType, .8, message.Of("stands for “%s”", long))
		}
	}
	return list
}

// isModel tells the designation of a model: "R2", "500X".
func isModel(w string) bool {
	return len(w) > 1 && len(w) <= longestAbbreviation && strings.ContainsAny(w, "0123456789") && w == strings.ToUpper(w) && strings.Trim(w, "0123456789ABCDEFGHIJKLMNOPQRSTUVWXYZ-") == ""
}

// isPersonal tells a first name with one or two family names, neither a word of the
// language nor the name of something else.
func isPersonal(words []string) bool {
	if len(words) < 2 || len(words) > 3 || !lexicon.IsFirstName(words[0]) {
		return false
	}
	for _, w := range words[1:] {
		if t, ok := typeOfName(w); hasSigns(w) || isNumber(w) || isAbbreviation(w) || ok && t != PersonType && t != PlaceType && t != PeopleType {
			return false
		}
	}
	last := text.Fold(words[len(words)-1])
	_, dictionary := lexicon.KindOf(last)
	return !dictionary || lexicon.IsFirstName(words[len(words)-1])
}

// typeOfName is what the dictionary says a name stands for.
func typeOfName(name string) (EntityType, bool) {
	k, ok := lexicon.KindOf(name)
	if !ok {
		return "", false
	}
	t, ok := ofKind[k]
	return t, ok
}

// ends reads the last word of a name, or the first, by the language's lists. Weights are our own.
func ends(word string, lang *language.Language) (t EntityType, weight float64, known bool) {
	switch {
	case lang.EndsLaw(word):
		return StandardType, 2, true
	case lang.EndsOrganisation(word):
		return OrganisationType, 2.2, true
	case lang.EndsPlace(word):
		return PlaceType, 2.2, true
	case lang.EndsEvent(word):
		return EventType, 1.8, true
	}
	return "", 0, false
}

// ofKind are the types of what a dictionary says a name stands for.
var ofKind = map[lexicon.Kind]EntityType{lexicon.Person: PersonType, lexicon.Nationality: PeopleType, lexicon.Both: PeopleType, lexicon.Organisation: OrganisationType, lexicon.Location: PlaceType,
	lexicon.Event: EventType, lexicon.Time: EventType, lexicon.Tongue: LanguageType, lexicon.Product: ProductType, lexicon.Work: WorkType, lexicon.Standard: StandardType}

// bigTown is from how many inhabitants a town's name is hardly anything else's. Our own.
const bigTown = 200_000

// byLists asks the lists of places, peoples, languages and the dictionary's names. Weights
// are our own.
func byLists(e *named, lang *language.Language) []clue {
	var list []clue
	name := byCount(e.shapes)[0]
	if p, ok := lexicon.PlaceNamed(name); ok && (p.Population == 0 || !isAbbreviation(name)) { // no town of that name is meant
		switch {
		case p.Population == 0:
			list = append(list, clue{PlaceType, 2, "a country"})
		case p.Population >= bigTown:
			list = append(list, clue{PlaceType, 1.5, "a town in the list of towns"})
		default:
			list = append(list, clue{PlaceType, .7, "a town in the list of towns"})
		}
	}
	if k, ok := lexicon.KindOf(name); ok {
		if t, ok := ofKind[k]; ok {
			why := message.Of("in the dictionary: %v", inWords[k])
			switch t {
			case PersonType:
				why = "in the dictionary: a person"
			case EventType:
				why = "in the dictionary: a day or event"
			}
			weight := 1.4
			if t == PersonType && len(e.words) == 1 { // a family name may be anything else's
				weight = .4
			}
			if t == ProductType && isAbbreviation(name) { // LED, GUI: what things are called, and no ware
				t, why = ConceptType, "an abbreviation in the dictionary"
			}
			if k == lexicon.Both && e.mostlyAlone(lang) {
				t, why = LanguageType, "a people's language: it stands alone, without an article"
			}
			list = append(list, clue{t, weight, why})
		} else if k == lexicon.Concept {
			list = append(list, clue{ConceptType, .6, "in the dictionary: a noun"})
		}
	}
	return list
}

// mostlyAlone tells a name that mostly has no article before it and no noun after it, as
// a language has: "in German", but "a German firm", "the Germans".
func (e *named) mostlyAlone(lang *language.Language) bool {
	alone := 0
	for _, m := range e.mentions {
		toks := m.sentence.Tokens
		if (m.from <= 0 || !lang.IsDeterminer(toks[m.from-1].Folded)) && (m.to >= len(toks) || toks[m.to].Stop || toks[m.to].Broken) {
			alone++
		}
	}
	return 2*alone > len(e.mentions)
}

// byData reads the structured data of the pages, and what the name is the anchor of: a
// link whose address is the name's. Weights are our own.
func byData(f *corpus.Field, e *named) []clue {
	var list []clue
	for _, d := range f.Docs {
		for _, n := range d.Reading.Named {
			if text.Fold(n.Name) != e.Key {
				continue
			}
			if t, ok := ofSchema[n.Type]; ok {
				return []clue{{t, 3, message.Of("the structured data of a page says %s", n.Type)}}
			}
		}
		for _, l := range d.Reading.Links {
			if text.Fold(l.Text) == e.Key && labelOf(l.URL) == squeezed(e.Key) && len(list) == 0 {
				list = append(list, clue{OrganisationType, .3, "linked to a site of its name"}, clue{ProductType, .3, "linked to a site of its name"})
			}
		}
	}
	return list
}

var ofSchema = map[string]EntityType{"Person": PersonType, "Organization": OrganisationType, "NewsMediaOrganization": OrganisationType, "Corporation": OrganisationType,
	"LocalBusiness": OrganisationType, "Store": OrganisationType, "EducationalOrganization": OrganisationType, "GovernmentOrganization": OrganisationType, "NGO": OrganisationType,
	"SportsOrganization": OrganisationType, "Brand": OrganisationType, "Product": ProductType, "ProductModel": ProductType, "Vehicle": ProductType, "SoftwareApplication": ProductType,
	"MobileApplication": ProductType, "Place": PlaceType, "City": PlaceType, "Country": PlaceType, "LandmarksOrHistoricalBuildings": PlaceType, "Park": PlaceType,
	"TouristAttraction": PlaceType, "Event": EventType, "Festival": EventType, "SportsEvent": EventType, "Book": WorkType, "Movie": WorkType, "MusicRecording": WorkType,
	"TVSeries": WorkType, "Legislation": StandardType}

// sortClues puts clues in an order that does not depend on a map's.
func sortClues(list []clue) {
	slices.SortFunc(list, func(a, b clue) int {
		return cmp.Or(cmp.Compare(b.weight, a.weight), strings.Compare(string(a.of), string(b.of)), strings.Compare(a.why.String(), b.why.String()))
	})
}
