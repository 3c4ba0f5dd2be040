package reading_test

import (
	"fmt"

	"corpulan/core/reading"
)

func ExampleRead() {
	r, err := reading.Read(reading.Page{URL: "http://northlane.example/chains", Body: []byte(`<html lang="en"><title>Chains</title><body>
		<nav><a href="/">Home</a></nav><article><h1>Chains</h1><p>Salt eats a chain that nobody oils, and by March it is worn.</p>
		<h2>Wet lube</h2><p>It clings to the links in rain, and lasts for a week of commuting.</p></article></body></html>`)})
	if err != nil {
		panic(err)
	}
	for _, s := range r.Sections {
		fmt.Printf("%d %q %d words\n", s.Level, s.Heading, s.Words)
	}
	// Output:
	// 0 "" 0 words
	// 1 "Chains" 13 words
	// 2 "Wet lube" 14 words
}
