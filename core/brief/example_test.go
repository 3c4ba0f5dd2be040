package brief_test

import (
	"fmt"

	"corpulan/core/brief"
)

// What a person decides is an edit, and can be turned round.
func ExampleChoices_Apply() {
	var c brief.Choices
	drop := c.Decide(brief.Mark{Kind: brief.TermKind, Key: "tyre", Text: "tyres", State: brief.Dropped}, nil)
	fmt.Println(c.Apply(drop), c.State(brief.TermKind, "tyre"))
	fmt.Println(c.Apply(drop), "twice")
	fmt.Println(c.Apply(drop.Reversed()), len(c.Marks))
	// Output:
	// <nil> dropped
	// this has been changed meanwhile twice
	// <nil> 0
}
