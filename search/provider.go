// Package search is the roads by which ranked results come.
//
//   - provider.go     what a search provider is
//   - opensearch.go   an engine that speaks OpenSearch
//   - keywords.go     completions of queries; a service that knows how much they are searched
//   - resultspage.go  a saved results page
//   - ranks.go        ranks as CSV, TSV or XLSX
package search

import (
	"context"
)

// Query is what is asked of a search engine.
type Query struct {
	Keyword  string
	Language string // ISO 639-1
	Country  string // ISO 3166-1 alpha-2
	Count    int
}

// Item is one ranked result.
type Item struct {
	Rank    int
	URL     string
	Title   string
	Snippet string
}

// Results is a results page: the ranked items and what else it offered.
type Results struct {
	Items       []Item
	Asked       []string // questions people ask
	Related     []string // related searches
	Suggestions []string
}

// Provider finds the ranked results of a keyword.
type Provider interface {
	// Search returns the results in rank order; none is no error.
	Search(ctx context.Context, q Query) (*Results, error)
}

// UserAgent is how the fetcher names itself to sites.
const UserAgent = "Corpulan/1 (page reader for content research)"
