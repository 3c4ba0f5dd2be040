package says

// holders are the sections of a field by what they have: of thousands of sections a question concerns some dozens, and nobody has to
// ask each of them for each of its words.
type holders struct {
	said   map[string][]place // by stem, the sections that say it
	headed map[string][]place // by token, those that have it in their heading

	sections int
	shares   [][]share // by text and section, and what they hold, for one question after another
	room     []float64
}

// holders are made when they are first asked for: by then a draft has its own stems.
func (t *Texts) holders() *holders {
	if t.held != nil {
		return t.held
	}
	t.held = &holders{said: map[string][]place{}, headed: map[string][]place{}}
	for i := range t.parts {
		t.held.sections += len(t.parts[i])
		t.held.shares = append(t.held.shares, make([]share, len(t.parts[i])))
		for n := range t.parts[i] {
			at := place{i, n}
			for stem, count := range t.parts[i][n].stems {
				if count > 0 {
					t.held.said[stem] = append(t.held.said[stem], at)
				}
			}
			for _, token := range t.parts[i][n].tokens {
				t.held.headed[token] = append(t.held.headed[token], at)
			}
		}
	}
	return t.held
}

// share is how much a section has of each word that is wanted, 0 to 1: in its heading, and in its text.
type share struct{ headed, said []float64 }

// sharesOf are the shares of all sections, by text and section, until they are asked for again.
func (h *holders) sharesOf(t *Texts, w *wanted) [][]share {
	h.room = append(h.room[:0], make([]float64, 2*h.sections*len(w.words))...)
	room := h.room
	next := func() (piece []float64) {
		piece, room = room[:len(w.words):len(w.words)], room[len(w.words):]
		return piece
	}
	all := h.shares
	for i := range all {
		for n := range all[i] {
			all[i][n] = share{next(), next()}
		}
	}
	for i, x := range w.words {
		for _, way := range x.ways {
			part := inMeaning
			if way == x.token {
				part = 1
			}
			for _, at := range h.said[way] {
				said := all[at.text][at.section].said
				said[i] = max(said[i], part)
			}
		}
		if x.matter {
			for _, at := range h.headed[x.token] {
				all[at.text][at.section].headed[i] = 1
			}
		}
	}
	for token, places := range h.headed {
		for _, hit := range t.hits(w, token) {
			for _, at := range places {
				headed := all[at.text][at.section].headed
				headed[hit.word] = max(headed[hit.word], hit.part)
			}
		}
	}
	return all
}
