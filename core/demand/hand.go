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

// Move puts keywords to those of a group, which stays as it is from then on.
func (h Hand) Move(keys []string, to Group) Hand {
	h = h.Clone()
	for _, k := range to.Keywords {
		h.Of[Same(k.Text)] = to.Key
	}
	for _, k := range keys {
		h.Of[k] = to.Key
		delete(h.Out, k)
		delete(h.Names, k)
	}
	return h
}

// Join makes one group of several, under the name of the first.
func (h Hand) Join(groups []Group) Hand {
	for _, g := range groups[1:] {
		h = h.Move(keysOf(g.Keywords), groups[0])
		groups[0].Keywords = append(slices.Clone(groups[0].Keywords), g.Keywords...)
	}
	if named := groups[0].Name; len(groups[0].Keywords) > 0 {
		h.Names[groups[0].Key] = named
	}
	return h
}

// Split makes a group of its own of some keywords.
func (h Hand) Split(keys []string) Hand {
	h = h.Clone()
	named := h.Names[keys[0]]
	for _, k := range keys {
		h.Of[k] = keys[0]
		delete(h.Out, k)
		delete(h.Names, k)
	}
	// Those it leaves that stood together under its word take another.
	rest := ""
	for _, k := range slices.Sorted(maps.Keys(h.Of)) {
		if h.Of[k] == keys[0] && !slices.Contains(keys, k) {
			if rest == "" {
				rest = k
			}
			h.Of[k] = rest
		}
	}
	if rest != "" && named != "" {
		h.Names[rest] = named
	}
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
