package language

import (
	"strings"

	"corpulan/core/message"

	"golang.org/x/text/language"
)

// Base is the primary language of a tag (BCP 47), as ISO 639-1 where there is
// such a code: "en" of "en-GB". Tags that are not well formed, with
// underscores or more than one language, give what stands first in them.
func Base(tag string) string {
	tag = strings.ToLower(strings.TrimSpace(tag))
	if i := strings.IndexAny(tag, ",;"); i >= 0 {
		tag = strings.TrimSpace(tag[:i])
	}
	if tag == "" {
		return ""
	}
	if t, err := language.Parse(tag); err == nil {
		if base, sure := t.Base(); sure != language.No {
			return base.String()
		}
	}
	return strings.FieldsFunc(tag+"-", func(r rune) bool { return r == '-' || r == '_' })[0]
}

// Known tells whether a tag names a language that there is.
func Known(tag string) bool {
	_, err := language.ParseBase(Base(tag))
	return err == nil
}

// Name is the English name of a language, "German" of "de"; the code itself
// where it has none.
func Name(code string) string { return message.English{}.Language(code) }
