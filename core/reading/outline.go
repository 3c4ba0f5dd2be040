package reading

// TitleSection is the section whose heading stands for the page's title: its
// first of the highest level, if that is the level of titles or no other heading
// shares it. -1 where none does.
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
	if least == 1 || n == 1 {
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
