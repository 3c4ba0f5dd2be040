package vocabulary

// Tier says how much of the field uses a term.
type Tier string

// The tiers. A term of a single page is a hapax and never recommended.
const (
	Staple     Tier = "staple"     // at least 60 % of the pages
	Frequent   Tier = "frequent"   // at least 30 %
	Occasional Tier = "occasional" // at least two pages
	Hapax      Tier = "hapax"
)

// TierOf places a count of pages in a field; two pages are the least for any tier.
// The shares are our own.
func TierOf(pages, of int) Tier {
	share := float64(pages) / float64(max(of, 1))
	switch {
	case pages < 2:
		return Hapax
	case share >= 0.6:
		return Staple
	case share >= 0.3:
		return Frequent
	}
	return Occasional
}
