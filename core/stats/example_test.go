package stats_test

import (
	"fmt"

	"corpulan/core/stats"
)

func ExampleRangeOf() {
	words := []float64{1163, 788, 729, 980, 782}
	fmt.Printf("%+v\n", stats.RangeOf(words))
	// Output: {Lower:782 Median:788 Upper:980 N:5}
}

func ExampleLogLikelihood() {
	// 30 times in 1,000 words here, 10 times in 1,000 words there.
	fmt.Printf("%.2f\n", stats.LogLikelihood(30, 10, 1000, 1000))
	// Output: 10.46
}
