package reading

import (
	"fmt"
	"math/rand/v2"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
)

// The estimate against the exact Jaccard coefficient of the shingle sets, on
// texts that share a known part.
func TestResemblanceEstimatesJaccard(t *testing.T) {
	random := rand.New(rand.NewPCG(1, 2))
	words := func(n int) []string {
		w := make([]string, n)
		for i := range w {
			w[i] = fmt.Sprintf("w%d", random.IntN(5000))
		}
		return w
	}
	shingles := func(w []string) map[string]bool {
		m := map[string]bool{}
		for i := 0; i+shingleWords <= len(w); i++ {
			m[strings.Join(w[i:i+shingleWords], " ")] = true
		}
		return m
	}
	for _, share := range []float64{0, 0.25, 0.5, 0.75, 0.95, 1} {
		common := words(int(1500 * share))
		a, b := append(common, words(1500-len(common))...), append(append([]string{}, common...), words(1500-len(common))...)
		x, y := shingles(a), shingles(b)
		both := 0
		for s := range x {
			if y[s] {
				both++
			}
		}
		exact := float64(both) / float64(len(x)+len(y)-both)
		got := Resemblance(sketchOf(hashWords(nil, strings.Join(a, " "))), sketchOf(hashWords(nil, strings.Join(b, " "))))
		// Three standard errors of a sample of 128.
		assert.InDelta(t, exact, got, 0.13, "share %.2f", share)
	}
	assert.Zero(t, Resemblance(sketchOf(hashWords(nil, "too short")), sketchOf(hashWords(nil, "too short"))))
}

func TestASmallEditIsANearDuplicate(t *testing.T) {
	page := strings.Repeat("<p>The chain is wiped after every ride. </p>", 3) + `<p>` + strings.Join(strings.Fields(paragraph), " ") + `</p>`
	var long strings.Builder
	for i := range 60 {
		fmt.Fprintf(&long, "<p>On day %d the road was wet and rider number %d came home with a clean chain.</p>", i, i*7)
	}
	a := read(t, "<h1>One</h1>"+page+long.String())
	b := read(t, "<h1>One, copied</h1><nav><a href=/x>Other site</a></nav>"+page+strings.Replace(long.String(), "day 30", "day thirty", 1))
	c := read(t, "<h1>Another</h1>"+strings.ReplaceAll(long.String(), "wet", "dry and cold and quiet"))
	assert.GreaterOrEqual(t, Resemblance(a.Sketch, b.Sketch), NearDuplicate)
	assert.Less(t, Resemblance(a.Sketch, c.Sketch), NearDuplicate)
}

// Pages that say only that something is in the way.
func TestBarriers(t *testing.T) {
	for name, html := range map[string]string{
		"it needs JavaScript to be shown":   `<title>App</title><div id=root></div><noscript>x</noscript><p>Please enable JavaScript to continue.</p>`,
		"it asks whether a person is there": `<h1>One moment</h1><p>Verify you are human by completing the action below.</p>`,
		"it refuses the reader":             `<h1>Access Denied</h1><p>You don't have permission to access this page.</p>`,
		"it asks to sign in or to pay":      `<h1>Winter</h1><p>The first lines.</p><p>Subscribe to continue reading.</p>`,
	} {
		assert.Equal(t, name, read(t, html).Barrier.Message().String())
	}
	assert.Empty(t, read(t, "<h1>Chains</h1>"+paragraph+"<p>Please enable JavaScript for the calculator.</p>"+paragraph).Barrier)
	paid := read(t, `<script type="application/ld+json">{"@type":"NewsArticle","headline":"x","isAccessibleForFree":"False"}</script><h1>Chains</h1>`+paragraph)
	assert.Equal(t, "it asks to sign in or to pay", paid.Barrier.Message().String())
}
