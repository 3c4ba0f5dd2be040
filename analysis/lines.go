package analysis

import (
	"strings"

	"corpulan/core/demand"
)

// Lines are keywords that a person typed or pasted, one a line.
func Lines(typed string) (list []string) {
	for line := range strings.Lines(typed) {
		if line = demand.Tidy(line); line != "" {
			list = append(list, line)
		}
	}
	return list
}
