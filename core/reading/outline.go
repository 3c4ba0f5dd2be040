package reading

// wordsBeforeTitle is how much may stand before a title: where one is, and when. Our own.
const wordsBeforeTitle = 15

// TitleSection is the section whose heading stands for the page's title: its first of
// the level of titles; else the first of all, of whatever level, if hardly anything stands
// before it and it says what the page calls itself; else the only one of the highest
// level. -1 where there is none.
func (r *Reading) TitleSection() (section, level int) {
	first, least, n := -1, 7, 0
	for i, s := range r.Sections {
		if s.Level == 0 {
			continue
		}
		if s.Level < least {
			least, first, n = s.Level, i, 0
		}
		if s.Level == least {
			n++
		}
	}
	if least == 1 {
		return first, least
	}
	if len(r.Sections) > 1 && r.Sections[0].Words <= wordsBeforeTitle && similarTitle(r.Sections[1].Heading, r.Title) {
		return 1, r.Sections[1].Level
	}
	if n == 1 {
		return first, least
	}
	return -1, 0
}

// WordsBelow counts a section's words with those of its sub-sections.
func (r *Reading) WordsBelow(section int) int {
	words := r.Sections[section].Words
	for _, s := range r.Sections[section+1:] {
		if s.Level <= r.Sections[section].Level {
			break
		}
		words += s.Words
	}
	return words
}
