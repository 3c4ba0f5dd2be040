package evidence_test

import (
	"context"
	"fmt"

	"corpulan/core/corpus"
	"corpulan/core/evidence"
	"corpulan/core/reading"
)

// Two saved pages, and what they share.
func ExampleCompute() {
	var pages []corpus.RankedPage
	for i, body := range []string{
		`<title>Chains</title><h1>Chains</h1><p>A chain with wet lube lasts all winter.</p><h2>How often to oil</h2><p>Wet lube once a week.</p>`,
		`<title>Salt</title><h1>Salt</h1><p>Salt eats a chain. Wet lube keeps it off.</p><h2>How often should you oil?</h2><p>Every week.</p>`,
	} {
		r, err := reading.Read(reading.Page{Body: []byte(`<html lang="en"><body><article>` + body + `</article></body></html>`)})
		if err != nil {
			panic(err)
		}
		pages = append(pages, corpus.RankedPage{Rank: i + 1, Doc: corpus.Prepare(r, "en")})
	}
	e, err := evidence.Compute(context.Background(), evidence.Input{Keyword: "bike chain", Language: "en", Pages: pages})
	if err != nil {
		panic(err)
	}
	for _, t := range e.Terms {
		if t.Recommended() {
			fmt.Println(t.Text, t.Counts)
		}
	}
	fmt.Println(e.Themes[0].Label, e.Themes[0].Sources)
	// Output:
	// wet lube [2 1]
	// chain [2 1]
	// oil [1 1]
	// How often to oil [1 2]
}
