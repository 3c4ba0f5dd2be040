package demand

import (
	"maps"
	"slices"
)

// Hand is what a person did to groups. It is tied to keywords and not to groups, so that it
// holds when the list grows and when the width changes. Keywords are named as Same has them.
type Hand struct {
	// Of says which keywords a person put together: those with the same word. They stay
	// together, and apart from others put together; new ones may join them.
	Of    map[string]string `json:"of,omitempty"`
	Names map[string]string `json:"names,omitempty"` // of groups, by a keyword that goes along
	Out   map[string]string `json:"out,omitempty"`   // thrown out, with the reason
	In    map[string]bool   `json:"in,omitempty"`    // kept though a rule would throw it out
}

// Clone is a copy that can be changed.
func (h Hand) Clone() Hand {
	made := func(m map[string]string) map[string]string {
		if m == nil {
			return map[string]string{}
		}
		return maps.Clone(m)
	}
	in := maps.Clone(h.In)
	if in == nil {
		in = map[string]bool{}
	}
	return Hand{made(h.Of), made(h.Names), made(h.Out), in}
}

// Move puts keywords to those of a group. It stays as it is from then on, and so do the groups
// of all that they are taken from: else those they left would follow them.
func (h Hand) Move(keys []string, to Group, all []Group) Hand {
	h = h.left(keys, all)
	for _, k := range to.Keywords {
		h.Of[Same(k.Text)] = to.Key
	}
	return h.put(keys, to.Key)
}

// Split makes a group of its own of some keywords of the groups there are.
func (h Hand) Split(keys []string, all []Group) Hand {
	h = h.left(keys, all)
	word := keys[0]
	for _, g := range all { // a group that is held by the word lets it go
		if g.Key == word {
			for _, k := range g.Keywords {
				if key := Same(k.Text); !slices.Contains(keys, key) {
					word = ""
				}
			}
		}
	}
	if word == "" {
		h = h.release(keys[0], keys)
	}
	return h.put(keys, keys[0])
}

// left holds together what some keywords leave behind.
func (h Hand) left(keys []string, all []Group) Hand {
	h = h.Clone()
	for _, g := range all {
		of := keysOf(g.Keywords)
		if !slices.ContainsFunc(of, func(k string) bool { return slices.Contains(keys, k) }) {
			continue
		}
		for _, k := range of {
			if !slices.Contains(keys, k) {
				h.Of[k] = g.Key
			}
		}
	}
	return h
}

// release gives those that stand together under a word another one, and their name with it.
func (h Hand) release(word string, but []string) Hand {
	rest := ""
	for _, k := range slices.Sorted(maps.Keys(h.Of)) {
		if h.Of[k] == word && !slices.Contains(but, k) {
			if rest == "" {
				rest = k
			}
			h.Of[k] = rest
		}
	}
	if name := h.Names[word]; rest != "" && name != "" {
		h.Names[rest] = name
	}
	return h
}

func (h Hand) put(keys []string, word string) Hand {
	for _, k := range keys {
		h.Of[k] = word
		delete(h.Out, k)
		delete(h.Names, k)
	}
	return h
}

// Join makes one group of several, under the name of the first.
func (h Hand) Join(groups []Group) Hand {
	h = h.Clone()
	for _, g := range groups {
		h = h.put(keysOf(g.Keywords), groups[0].Key)
	}
	h.Names[groups[0].Key] = groups[0].Name
	return h
}

// Rename names a group; an empty name takes that back.
func (h Hand) Rename(g Group, name string) Hand {
	h = h.Clone()
	for _, k := range g.Keywords {
		delete(h.Names, Same(k.Text))
	}
	if delete(h.Names, g.Key); name != "" {
		h.Names[g.Key] = name
	}
	return h
}

// ThrowOut takes keywords out, with the reason.
func (h Hand) ThrowOut(keys []string, reason string) Hand {
	h = h.Clone()
	for _, k := range keys {
		h.Out[k] = reason
		delete(h.In, k)
	}
	return h
}

// TakeIn keeps keywords that a person or a rule has thrown out.
func (h Hand) TakeIn(keys []string) Hand {
	h = h.Clone()
	for _, k := range keys {
		h.In[k] = true
		delete(h.Out, k)
	}
	return h
}

// Loosen gives the keywords of a group back to the rules.
func (h Hand) Loosen(g Group) Hand {
	h = h.Clone()
	for _, k := range g.Keywords {
		delete(h.Of, Same(k.Text))
		delete(h.Names, Same(k.Text))
	}
	return h
}

func keysOf(list []Keyword) []string {
	keys := make([]string, len(list))
	for i, k := range list {
		keys[i] = Same(k.Text)
	}
	return keys
}

// heldIn numbers keywords by what a person put together; -1 for all others.
func (h Hand) heldIn(keys []string) []int {
	if len(h.Of) == 0 {
		return nil
	}
	number, held := map[string]int{}, make([]int, len(keys))
	for i, k := range keys {
		held[i] = -1
		if with, ok := h.Of[k]; ok {
			if _, ok := number[with]; !ok {
				number[with] = len(number)
			}
			held[i] = number[with]
		}
	}
	return held
}
