module corpulan

go 1.26.0

require (
	github.com/abadojack/whatlanggo v1.0.1
	github.com/blevesearch/snowballstem v0.9.0
	github.com/clipperhouse/uax29/v2 v2.7.0
	golang.org/x/text v0.43.0
)

require golang.org/x/net v0.62.0 // indirect
