package reading

import (
	"slices"

	"corpulan/core/text"
)

// Sizes of sketches (Broder 1997). The numbers are common practice, no published source.
const (
	shingleWords = 5   // words in a shingle
	sketchSize   = 128 // hashes kept of a page
)

// sketchOf is the sketch of a text by which near-duplicates are found: the
// smallest hashes of its shingles of five words (Broder 1997). words are the
// hashes of its words in order. A short text has fewer than sketchSize, one
// below five words none.
func sketchOf(words []uint64) []uint64 {
	var all []uint64
	for i := 0; i+shingleWords <= len(words); i++ {
		h := uint64(0)
		for _, w := range words[i : i+shingleWords] {
			h = h*1099511628211 + w
		}
		all = append(all, mix(h))
	}
	slices.Sort(all)
	all = slices.Compact(all)
	return slices.Clone(all[:min(len(all), sketchSize)])
}

// hashWords appends the hashes of the words of a text.
func hashWords(to []uint64, s string) []uint64 {
	text.EachWord(s, func(w text.Span) { to = append(to, hashWord(w.Of(s))) })
	return to
}

// hashWord is FNV-1a over a word's bytes, ASCII capitals taken as small letters.
func hashWord(w string) uint64 {
	h := uint64(14695981039346656037)
	for i := 0; i < len(w); i++ {
		b := w[i]
		if b >= 'A' && b <= 'Z' {
			b += 'a' - 'A'
		}
		h = (h ^ uint64(b)) * 1099511628211
	}
	return h
}

// mix spreads the bits of an FNV hash, whose order is not random enough to
// sample by (the finaliser of MurmurHash3).
func mix(h uint64) uint64 {
	h ^= h >> 33
	h *= 0xff51afd7ed558ccd
	h ^= h >> 33
	h *= 0xc4ceb9fe1a85ec53
	return h ^ h>>33
}

// Resemblance estimates the share of shingles that two pages have in common,
// 0 to 1: of the smallest hashes of their union, those that both have.
func Resemblance(a, b []uint64) float64 {
	if len(a) == 0 || len(b) == 0 {
		return 0
	}
	both, union := 0, 0
	for i, j := 0, 0; union < sketchSize && (i < len(a) || j < len(b)); union++ {
		switch {
		case j == len(b) || i < len(a) && a[i] < b[j]:
			i++
		case i == len(a) || b[j] < a[i]:
			j++
		default:
			both++
			i++
			j++
		}
	}
	return float64(both) / float64(union)
}

// NearDuplicate is the resemblance from which two pages are one text twice.
// Common practice, no published source.
const NearDuplicate = 0.7
