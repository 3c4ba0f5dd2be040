package search

import (
	"bytes"
	"context"
	"encoding/json"
	"io"
	"math"
	"net/http"
	"time"

	"corpulan/core/demand"
	"corpulan/core/message"
)

// Completer is a provider that also completes queries.
type Completer interface {
	// Complete returns how people go on with what is begun; none is no error.
	Complete(ctx context.Context, q Query) ([]string, error)
}

// Complete implements Completer; an engine without suggestions has none.
func (o OpenSearch) Complete(ctx context.Context, q Query) ([]string, error) {
	if o.Suggest == "" {
		return nil, nil
	}
	body, err := o.get(ctx, o.Suggest, q)
	if err != nil {
		return nil, message.Errorf("asking for suggestions: %v", err)
	}
	list, err := ParseSuggestions(body)
	if err != nil {
		return nil, message.Errorf("reading the suggestions: %v", err)
	}
	return list, nil
}

// KeywordService tells how much queries are searched.
type KeywordService interface {
	// Figures returns what is known of some queries of a market; those of which nothing is
	// known are left out. At most MaxFigures are asked for at once.
	Figures(ctx context.Context, language, country string, keywords []string) ([]demand.Keyword, error)
}

// MaxFigures is how many keywords are asked for at once. Our own.
const MaxFigures = 200

// KeywordsByHTTP asks a service as docs/keyword-service.md describes it.
type KeywordsByHTTP struct {
	Address string
	Client  *http.Client
}

// Figures implements KeywordService.
func (k KeywordsByHTTP) Figures(ctx context.Context, language, country string, keywords []string) ([]demand.Keyword, error) {
	asked, err := json.Marshal(map[string]any{"language": language, "country": country, "keywords": keywords})
	if err != nil {
		return nil, err
	}
	req, err := http.NewRequestWithContext(ctx, http.MethodPost, k.Address, bytes.NewReader(asked))
	if err != nil {
		return nil, message.Errorf("asking the keyword service: %v", WithoutAddress(err))
	}
	req.Header.Set("Content-Type", "application/json")
	req.Header.Set("User-Agent", UserAgent)
	resp, err := k.Client.Do(req)
	if err != nil {
		return nil, message.Errorf("asking the keyword service: %v", WithoutAddress(err))
	}
	defer resp.Body.Close()
	if resp.StatusCode != http.StatusOK {
		return nil, message.Errorf("asking the keyword service: it answered %s", resp.Status)
	}
	body, err := io.ReadAll(io.LimitReader(resp.Body, largestFeed))
	if err != nil {
		return nil, message.Errorf("asking the keyword service: %v", WithoutAddress(err))
	}
	return ParseFigures(body)
}

// ParseFigures reads the answer of a keyword service. A figure that cannot be one is not known.
func ParseFigures(body []byte) ([]demand.Keyword, error) {
	var answer struct {
		Keywords []struct {
			Keyword     string     `json:"keyword"`
			Volume      *float64   `json:"volume"`
			Difficulty  *float64   `json:"difficulty"`
			Cost        *float64   `json:"cost"`
			Competition *float64   `json:"competition"`
			Months      []*float64 `json:"months"`
			Until       string     `json:"until"`
		} `json:"keywords"`
	}
	if err := json.Unmarshal(body, &answer); err != nil {
		return nil, message.Errorf("reading the keyword service's answer: %v", err)
	}
	if answer.Keywords == nil {
		return nil, message.Errorf("reading the keyword service's answer: it has no list of keywords")
	}
	figure := func(x *float64, most float64) demand.Figure {
		if x == nil || *x < 0 || *x > most {
			return demand.Figure{}
		}
		return demand.Of(*x)
	}
	out := []demand.Keyword{}
	for _, k := range answer.Keywords {
		word := demand.Tidy(k.Keyword)
		f := demand.Keyword{Text: word, Volume: figure(k.Volume, math.MaxFloat64), Difficulty: figure(k.Difficulty, 100), Cost: figure(k.Cost, math.MaxFloat64), Competition: figure(k.Competition, 1)}
		if _, err := time.Parse("2006-01", k.Until); err == nil {
			f.Until = k.Until
		}
		for _, m := range k.Months[:min(len(k.Months), maxMonths)] {
			f.Trend = append(f.Trend, figure(m, math.MaxFloat64))
		}
		if word != "" && (f.Volume.Known || f.Difficulty.Known || f.Cost.Known || f.Competition.Known) {
			out = append(out, f)
		}
	}
	return out, nil
}

// maxMonths is how many months of a trend are kept: ten years.
const maxMonths = 120
