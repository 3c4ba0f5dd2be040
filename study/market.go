package study

import (
	"slices"
	"strings"
	"unicode/utf8"

	"corpulan/core/language"
	"corpulan/core/message"
	"corpulan/store"
)

// LongestKeyword is what a study is about at most, in characters; the database agrees.
const LongestKeyword = 200

// Fresh is a study that begins as its publication says.
func Fresh(says store.Settings) store.Study {
	m := says.Market
	if m.Language == "" {
		m = store.Market{Language: "en", Country: "gb", Depth: 20}
	}
	return store.Study{Language: m.Language, Country: m.Country, Depth: m.Depth}
}

// Wrong says what is wrong with a study that is to begin, by field; it is empty where nothing is.
func Wrong(st store.Study) map[string]message.Message {
	wrong := map[string]message.Message{}
	switch length := utf8.RuneCountInString(st.Keyword); {
	case length == 0:
		wrong["keyword"] = "Type the keyword this study is about."
	case length > LongestKeyword:
		wrong["keyword"] = message.Of("A keyword has at most %d characters; this has %d.", LongestKeyword, length)
	case !utf8.ValidString(st.Keyword) || strings.ContainsRune(st.Keyword, 0):
		wrong["keyword"] = "This keyword holds characters that cannot be searched for."
	}
	if !slices.Contains(language.Codes(), st.Language) {
		wrong["language"] = "This language is not read yet."
	}
	if !IsCountry(st.Country) {
		wrong["country"] = "Give the country as two letters, for example gb."
	}
	if st.Depth < 1 || st.Depth > 100 {
		wrong["depth"] = "Between 1 and 100 results can be gathered."
	}
	return wrong
}

// IsCountry tells a code of ISO 3166-1 by its form: two small letters.
func IsCountry(code string) bool {
	return len(code) == 2 && strings.Trim(code, "abcdefghijklmnopqrstuvwxyz") == ""
}
