package standin

import (
	"net/http"
	"slices"
	"strings"
	"testing"

	"corpulan/core/reading"
	"corpulan/formats/sheet"
	"corpulan/gather"
	"corpulan/search"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func start(t *testing.T) (*Web, *gather.Fetcher) {
	t.Helper()
	w, err := Start(0)
	require.NoError(t, err)
	t.Cleanup(func() { _ = w.Stop(t.Context()) })
	return w, gather.NewFetcher(gather.DefaultLimits(), gather.Guard{Simulated: w.Address()}.Dial)
}

func searched(t *testing.T, w *Web, keyword string, count int) *search.Results {
	t.Helper()
	res, err := search.OpenSearch{Template: w.SearchTemplate(), Suggest: w.SuggestTemplate(), Client: http.DefaultClient}.
		Search(t.Context(), search.Query{Keyword: keyword, Language: "en", Country: "gb", Count: count})
	require.NoError(t, err)
	return res
}

func TestSearch(t *testing.T) {
	w, _ := start(t)
	res := searched(t, w, "Winter Bike commuting", 20)
	assert.Len(t, res.Items, 15)
	assert.NotEmpty(t, res.Asked)
	assert.NotEmpty(t, res.Related)
	assert.NotEmpty(t, res.Suggestions)
	assert.Len(t, searched(t, w, "winter bike commuting", 10).Items, 10)
	assert.Empty(t, searched(t, w, "a keyword nobody wrote for", 10).Items)
}

// expected is what a reader must find on each page of the simulated web: its
// kind, about how many words its author wrote, headings that are the author's,
// and headings or words that are not.
var expected = map[string]struct {
	kind             reading.Kind
	least, most      int
	headings, struck []string
	junk             []string
}{
	"northlane.example/guides/winter-bike-commuting": {reading.Article, 1100, 1250,
		[]string{"Winter bike commuting: the complete guide", "Mudguards", "Do you need studded tyres?", "What to wear", "Looking after the bike"},
		[]string{"We value your privacy", "On this page", "Get the Northlane newsletter", "Most read", "You might also like", "14 comments", "About Northlane"},
		[]string{"48,000 readers", "trike", "store cookies", "Lumens, lux"}},
	"commutecraft.example/tips/winter-bike-commuting-tips": {reading.List, 750, 850,
		[]string{"1. Start a little chilly", "17. Have a plan B", "Dress for the cold", "How cold is too cold to bike to work?"},
		[]string{"Wait! Before you go", "About the author", "Recommended for you", "The 8 Best Fenders", "Trending"},
		[]string{"Heated socks", "free commuting checklist", "since 2014"}},
	"wheelwise.example/ask/cycling-to-work-in-winter": {reading.Article, 680, 800,
		[]string{"Safety", "Do I need studded tyres for winter commuting?", "Where should I keep my bike in winter?", "Sources"}, nil, []string{"Join Wheelwise", "registered charity", "Buying a bike"}},
	"everwheel.example/": {reading.Home, 30, 150, nil, nil, nil},
	"spokeandkettle.example/2025/11/riding-to-work-all-winter": {reading.Article, 930, 1050,
		[]string{"Mistake one: dressing for the doorstep", "Days I do not ride"}, []string{"Share this:", "Related", "Leave a Reply", "Recent Posts", "Archives"}, []string{"tea flasks", "fogging up", "Required fields"}},
	"greyharbour.example/learn/what-to-wear-winter-cycling": {reading.Article, 730, 850,
		[]string{"The three layers", "Base layer", "What to wear at each temperature"}, []string{"Shop this guide", "Cookie settings", "Customer service"}, []string{"Gale windproof", "keep your basket"}},
	"harrowmere.example/transport/cycling/winter-routes": {reading.Article, 640, 740,
		[]string{"Routes we grit", "Report ice or a missed route", "Free winter checks"}, []string{"In this section", "Was this page helpful?", "Contact the council"}, []string{"Accessibility", "Cycle parking"}},
	"pedalboard.example/forum/thread/winter-commute-setup-8841": {reading.Forum, 200, 320, []string{"Winter commute setup?"}, nil, nil},
	"loamandlever.example/journal/frost-and-the-daily-ride": {reading.Article, 900, 1020,
		[]string{"Why ice is slippery, and when it is not", "Tyre pressure", "Which tyre should you buy?"}, []string{"Topics", "From the bench"}, []string{"Bearings and salt"}},
	"thornfieldcycles.example/advice/winter-commuting-essentials": {reading.Article, 660, 780,
		[]string{"1. Fit proper mudguards", "What wears out, and what it costs", "Preparing an e-bike"}, []string{"Shedguard full-length mudguards", "Customers also bought", "10% off your first order"}, []string{"£79.00", "Add to basket", "Bogwater", "Click and collect"}},
	"cyclescope.example/watch/winter-commuting-in-8-minutes": {reading.Video, 20, 120, nil, []string{"Up next"}, []string{"nine mudguards"}},
	"tarnandtread.example/guides/commuting-by-bike-in-winter": {reading.Article, 730, 850,
		[]string{"Step 1: Choose a winter route", "Studded tyres or winter tyres?", "What does it cost?"}, []string{"More guides"}, []string{"Choosing panniers"}},
	"thelongerway.example/features/the-quiet-months": {reading.Article, 800, 920,
		[]string{"What the counters say", "The price of a clear path", "Dawn"}, []string{"Read next", "Forty years on one tandem", "Support slow journalism"}, []string{"gear inches", "on paper you can keep"}},
	"ridefacts.example/winter": {reading.Thin, 10, 60, nil, nil, nil},
}

func TestEveryPageIsReadAsItsAuthorWroteIt(t *testing.T) {
	w, f := start(t)
	for path, want := range expected {
		t.Run(path, func(t *testing.T) {
			page, err := f.Fetch(t.Context(), "http://"+path)
			require.NoError(t, err)
			assert.Equal(t, http.StatusOK, page.Status)
			r, err := reading.Read(reading.Page{URL: page.FinalURL, ContentType: page.ContentType, Body: page.Body})
			require.NoError(t, err)
			assert.Equal(t, want.kind, r.Kind, "%v", r.KindSignals)
			assert.GreaterOrEqual(t, r.Counts.Words, want.least)
			assert.LessOrEqual(t, r.Counts.Words, want.most)
			var have, out []string
			for _, h := range r.Headings {
				have = append(have, h.Text)
			}
			for _, s := range r.Struck {
				out = append(out, s.Text)
			}
			for _, h := range want.headings {
				assert.Contains(t, have, h)
			}
			for _, h := range want.struck {
				assert.Contains(t, out, h)
				assert.NotContains(t, have, h)
			}
			for _, j := range want.junk {
				assert.NotContains(t, r.Text(), j)
			}
			assert.Equal(t, "en", r.Language+strings.TrimPrefix(r.Detected, r.Language))
		})
	}
	// Every ranked page is either in the table above or the one that refuses.
	for _, it := range searched(t, w, "winter bike commuting", 100).Items {
		path := strings.TrimPrefix(it.URL, "http://")
		if _, ok := expected[path]; !ok {
			_, err := f.Fetch(t.Context(), it.URL)
			var failure *gather.Failure
			require.ErrorAs(t, err, &failure, path)
			assert.Equal(t, gather.Refused, failure.Code)
		}
	}
}

// Three keywords of the scenario, twelve to fifteen pages each, that share
// results as neighbouring keywords do.
func TestTheScenariosKeywords(t *testing.T) {
	w, f := start(t)
	found := map[string]map[string]bool{}
	for _, keyword := range []string{"winter bike commuting", "studded bike tyres", "storing a bike over winter"} {
		res := searched(t, w, keyword, 100)
		assert.GreaterOrEqual(t, len(res.Items), 12, keyword)
		assert.LessOrEqual(t, len(res.Items), 15, keyword)
		assert.NotEmpty(t, res.Asked, keyword)
		found[keyword] = map[string]bool{}
		for _, it := range res.Items {
			found[keyword][it.URL] = true
			page, err := f.Fetch(t.Context(), it.URL)
			if strings.Contains(it.URL, "saltmarshbikes") {
				continue
			}
			require.NoError(t, err, it.URL)
			r, err := reading.Read(reading.Page{URL: page.FinalURL, ContentType: page.ContentType, Body: page.Body})
			require.NoError(t, err, it.URL)
			assert.Empty(t, r.Barrier, it.URL)
			assert.NotContains(t, r.Text(), "cookies", it.URL)
		}
	}
	shared := func(a, b string) (n int) {
		for u := range found[a] {
			if found[b][u] {
				n++
			}
		}
		return n
	}
	assert.GreaterOrEqual(t, shared("winter bike commuting", "studded bike tyres"), 4)
	assert.GreaterOrEqual(t, shared("winter bike commuting", "storing a bike over winter"), 3)
}

// The lists that ship are those the generator makes, and have the noise of real ones.
func TestLists(t *testing.T) {
	keywords, own, err := MakeLists()
	require.NoError(t, err)
	shippedKeywords, shippedOwn := Lists()
	assert.Equal(t, string(shippedKeywords), string(keywords), "run go generate ./standin")
	assert.Equal(t, string(shippedOwn), string(own))
	rows, err := sheet.Read("keywords.csv", strings.NewReader(string(keywords)), 1000)
	require.NoError(t, err)
	assert.Len(t, rows, 501)
	for _, noise := range []string{"2021", "christmas", "10 – 100", `"1,900"`, ",-,"} {
		assert.Contains(t, string(keywords), noise)
	}
}

// What nobody wrote a results page for by hand is answered from the matters: those of one share
// results, those of two hardly do, and each page of a matter can be fetched and read.
func TestMatters(t *testing.T) {
	w, fetcher := start(t)
	addresses := func(keyword string) (list []string) {
		for _, i := range searched(t, w, keyword, 10).Items {
			list = append(list, i.URL)
		}
		require.Len(t, list, 10, keyword)
		return list
	}
	shared := func(a, b string) (n int) {
		with := addresses(b)
		for _, u := range addresses(a) {
			if slices.Contains(with, u) {
				n++
			}
		}
		return n
	}
	assert.GreaterOrEqual(t, shared("winter cycling gloves", "how to keep hands warm on a bike"), 3)
	apart := []string{"winter chain lube", "bike mudguards", "waterproof panniers", "frozen bike lock", "winter cycling shoes"}
	sum := 0
	for _, k := range apart {
		sum += shared("winter cycling gloves", k)
	}
	assert.Less(t, sum, 2*len(apart))
	assert.Zero(t, shared("winter cycling gloves", "winter horse riding gloves"))
	assert.Equal(t, addresses("winter cycling gloves"), addresses("winter cycling gloves"))
	res := searched(t, w, "winter cycling gloves", 20)
	assert.NotEmpty(t, res.Related)
	assert.Contains(t, res.Suggestions, "waterproof winter cycling gloves")
	assert.Contains(t, res.Asked, "Are bar mitts safe?")
	headings, read := map[string]bool{}, 0
	for _, i := range res.Items {
		page, err := fetcher.Fetch(t.Context(), i.URL)
		require.NoError(t, err, i.URL)
		r, err := reading.Read(reading.Page{URL: i.URL, ContentType: page.ContentType, Body: page.Body})
		require.NoError(t, err)
		if !strings.Contains(i.URL, "/winter/gloves") {
			continue
		}
		read++
		assert.Greater(t, r.Counts.Words, 80, i.URL)
		assert.NotContains(t, r.Text(), "cookies", i.URL)
		assert.NotContains(t, r.Text(), "%!", i.URL)
		for _, h := range r.Headings {
			headings[h.Text] = true
		}
	}
	assert.Greater(t, read, 8)
	assert.True(t, headings["Bar mitts and safety"] && headings["Are bar mitts safe"], "sites have headings of their own")
	for keyword, found := range map[string]bool{"Winter Cycling Gloves": true, "winter gloves for cycling": true, "tax return": false, "": false} {
		f, ok := w.figuresOf(keyword)
		assert.Equal(t, found, ok, keyword)
		if found {
			assert.Positive(t, f.volume)
			assert.Len(t, f.months, 12)
		}
	}
}
