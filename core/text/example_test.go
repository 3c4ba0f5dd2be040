package text_test

import (
	"fmt"

	"corpulan/core/text"
)

func ExamplePhrases_Match() {
	comments := text.NewPhrases("leave|post a|your comment", "#? comments")
	fmt.Println(comments.Match("Leave a comment!"), comments.Match("1,204 Comments"), comments.Match("Comments are welcome"))
	// Output: true true false
}

func ExampleFold() {
	fmt.Println(text.Fold("Café"), text.Fold("rider’s"), text.Fold("non‑slip"))
	// Output: cafe rider non-slip
}
