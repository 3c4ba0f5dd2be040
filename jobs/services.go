package jobs

import (
	"context"
	"fmt"
	"net"
	"net/http"
	"time"

	"corpulan/account"
	"corpulan/gather"
	"corpulan/search"
	"corpulan/store"
	"corpulan/study"
)

// services are whom to ask for a publication: its own, or the installation's.
type services struct {
	store    *store.Store
	provider search.Provider
	keywords search.KeywordService // nil for none
	sealer   *account.Sealer
	client   *http.Client // for what people name: it goes nowhere private
}

// of finds the services of a publication. A search engine of its own has its own suggestions
// or none.
func (s services) of(ctx context.Context, publication int64) (search.Provider, search.KeywordService, error) {
	p, err := s.store.In(publication).Publication(ctx)
	if err != nil {
		return nil, nil, err
	}
	own, err := study.ServicesOf(s.sealer, p)
	if err != nil {
		return nil, nil, fmt.Errorf("the publication's own services cannot be read: %w", err)
	}
	provider, keywords := s.provider, s.keywords
	if own != nil && own.Search != "" {
		provider = search.OpenSearch{Template: own.Search, Suggest: own.Suggest, Client: s.client}
	}
	if own != nil && own.Keywords != "" {
		keywords = search.KeywordsByHTTP{Address: own.Keywords, Client: s.client}
	}
	return provider, keywords, nil
}

// outward is a client for addresses that people name.
func outward(dial func(ctx context.Context, network, address string) (net.Conn, error)) *http.Client {
	if dial == nil {
		dial = gather.Guard{}.Dial
	}
	return &http.Client{Timeout: 20 * time.Second, Transport: &http.Transport{DialContext: dial, MaxIdleConns: 20, IdleConnTimeout: time.Minute},
		CheckRedirect: func(*http.Request, []*http.Request) error { return http.ErrUseLastResponse }}
}
