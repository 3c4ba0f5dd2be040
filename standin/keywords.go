package standin

import (
	"encoding/json"
	"math"
	"net/http"
)

// serveKeywords answers as docs/keyword-service.md says a keyword service does.
func (w *Web) serveKeywords(rw http.ResponseWriter, r *http.Request) {
	var in struct {
		Language string   `json:"language"`
		Country  string   `json:"country"`
		Keywords []string `json:"keywords"`
	}
	if r.Method != http.MethodPost || json.NewDecoder(http.MaxBytesReader(rw, r.Body, 1<<20)).Decode(&in) != nil {
		http.Error(rw, "a POST with a JSON object is expected", http.StatusBadRequest)
		return
	}
	type figures struct {
		Keyword     string    `json:"keyword"`
		Volume      *float64  `json:"volume"`
		Difficulty  *float64  `json:"difficulty"`
		Cost        *float64  `json:"cost"`
		Competition *float64  `json:"competition"`
		Months      []float64 `json:"months,omitempty"`
		Until       string    `json:"until,omitempty"`
	}
	out := struct {
		Keywords []figures `json:"keywords"`
	}{[]figures{}}
	for _, k := range in.Keywords {
		f := figures{Keyword: k}
		if x, ok := w.figuresOf(k); ok {
			f = figures{k, &x.volume, &x.difficulty, &x.cost, &x.competition, x.months, until}
		}
		out.Keywords = append(out.Keywords, f)
	}
	rw.Header().Set("Content-Type", "application/json")
	_ = json.NewEncoder(rw).Encode(out) // the connection is gone if this fails
}

// known is what the service knows of a query.
type known struct {
	volume, difficulty, cost, competition float64
	months                                []float64 // twelve, the oldest first, the last of them October
}

// newest is the month that the service's year ends with, and until the month as it says it.
const (
	newest = 10
	until  = "2026-10"
)

// figuresOf are the figures of a query: of one that is nearly a known one, a part of its.
func (w *Web) figuresOf(query string) (known, bool) {
	m, q, like := w.nearest(query)
	if like < answerable {
		return known{}, false
	}
	k := known{volume: q.volume, cost: math.Round(100*m.cost*(0.7+float64(number(query)%60)/100)) / 100, competition: math.Round(100*math.Min(1, m.cost/2)) / 100}
	k.difficulty = math.Max(1, math.Round(m.difficulty+float64(number(q.text)%17)-8))
	if like < 1 || query != q.text {
		k.volume = math.Max(10, 10*math.Round(q.volume*(0.05+0.25*like*float64(number(query)%10)/10)/10))
	}
	for i := range 12 {
		month := (newest+i)%12 + 1
		away := math.Abs(float64(month - m.peak))
		away = math.Min(away, 12-away)
		k.months = append(k.months, 10*math.Round(k.volume*(0.15+1.9*math.Exp(-away*away/5))/10))
	}
	return k, true
}
