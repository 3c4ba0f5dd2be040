package language

import (
	"strconv"
	"strings"
)

// ending is what stands in the place of a word's last letters, from so many letters of the word on.
type ending struct {
	from, to string
	least    int
}

// endingsOf reads a list of from=to/least.
func endingsOf(list string) []ending {
	var all []ending
	for item := range strings.FieldsSeq(list) {
		pair, least, ok := strings.Cut(item, "/")
		from, to, both := strings.Cut(pair, "=")
		n, err := strconv.Atoi(least)
		if !ok || !both || err != nil {
			panic("language: no ending: " + item)
		}
		all = append(all, ending{from, to, n})
	}
	return all
}

// replaced puts the first ending that fits in the place of a word's own; done tells that one did.
func replaced(word string, list []ending) (out string, done bool) {
	for _, e := range list {
		if len(word) >= e.least && strings.HasSuffix(word, e.from) {
			return word[:len(word)-len(e.from)] + e.to, e.from != e.to
		}
	}
	return word, false
}

// maxEndings is how many endings a stem loses one after another: "laarz", "laars", "laar", "lar". Our own.
const maxEndings = 3

// inflected brings a folded word nearer to its singular where the stemmer knows no such plural
// ("knives", "balões"); whole words go before endings.
func (k *known) inflected(folded string) string {
	if one, ok := k.plurals[folded]; ok {
		return one
	}
	out, _ := replaced(folded, k.before)
	return out
}

// joinedStem gives stems one form that the stemmer leaves apart: "huiz" and "huis".
func (k *known) joinedStem(stem string) string {
	for range maxEndings {
		out, done := replaced(stem, k.after)
		if !done {
			break
		}
		stem = out
	}
	return stem
}

// pairsOf reads a list of plural=singular.
func pairsOf(list string) map[string]string {
	of := map[string]string{}
	for pair := range strings.FieldsSeq(list) {
		many, one, ok := strings.Cut(pair, "=")
		if !ok {
			panic("language: no plural: " + pair)
		}
		of[many] = one
	}
	return of
}
