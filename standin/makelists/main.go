// Command makelists makes the demo's keyword lists anew from the hand-written matters.
package main

import (
	"fmt"
	"os"

	"corpulan/standin"
)

func main() {
	keywords, own, err := standin.MakeLists()
	if err == nil {
		err = os.WriteFile("lists/keywords.csv", keywords, 0o644)
	}
	if err == nil {
		err = os.WriteFile("lists/own-queries.csv", own, 0o644)
	}
	if err != nil {
		fmt.Fprintln(os.Stderr, "makelists:", err)
		os.Exit(1)
	}
}
