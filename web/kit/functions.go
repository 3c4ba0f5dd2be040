package kit

import (
	"fmt"
	"html/template"
	"math"
	"net/url"
	"slices"
	"strings"

	"corpulan/core/address"
	"corpulan/core/brief"
	"corpulan/core/demand"
	"corpulan/core/evidence"
	"corpulan/core/fit"
	corelanguage "corpulan/core/language"
	"corpulan/core/message"
	"corpulan/core/reading"
	"corpulan/core/stats"
	"corpulan/render"
	"corpulan/web/draw"
	"corpulan/words"
)

// messageOf is what a template says: a message, one that is kept, or a word of the program's own.
func messageOf(v any) message.Message {
	switch v := v.(type) {
	case message.Message:
		return v
	case message.Kept:
		return v.Message()
	}
	return message.Message(fmt.Sprint(v))
}

// said is a value as a page writes it: a message in the language, all else as it is.
func said(w *words.Words, v any) any {
	switch v := v.(type) {
	case message.Message:
		return w.Say(v)
	case message.Kept:
		return w.Say(v.Message())
	}
	return v
}

// functions are what templates call, in one language.
func (s *Kit) functions(v *views, w *words.Words) template.FuncMap {
	return template.FuncMap{
		"say":       func(v any) string { return w.Say(messageOf(v)) }, // a message, or a role or kind
		"label":     func(v any, in string) string { return w.Say(message.Label(fmt.Sprint(v), in)) },
		"said":      func(v any) any { return said(w, v) },
		"word":      func(text string) string { return text }, // translated in the source
		"noun":      w.Noun,
		"lang":      w.Code,
		"day":       w.Day,
		"dayof":     w.DayOf,
		"daytime":   w.DayTime,
		"shorttime": w.ShortTime,
		"longday":   w.LongDay,
		"monthday":  w.MonthDay,
		"weekday":   w.WeekDay,
		"asset":     v.asset,
		"presence": func(counts []int, sources []evidence.Source, unit string) template.HTML {
			return draw.PresenceRow(w, counts, sources, unit)
		},
		"coverwidth": func(pages int) int { return pages * draw.CellWidth(pages) },
		"cellcentre": func(i, pages int) int { return i*draw.CellWidth(pages) + draw.CellWidth(pages)/2 },
		"tenth":      func(i int) int { return i % 10 },
		"rangemark":  func(r stats.Range, most float64) template.HTML { return draw.RangeMark(w, r, most) },
		"fitmark":    func(f fit.Field, ours, aim float64) template.HTML { return draw.FitMark(w, f, ours, aim) },
		"oursmark": func(r stats.Range, most float64, ours []draw.Pointer) template.HTML {
			return draw.RangeMark(w, r, most, ours...)
		},
		"thousands":    w.Number,
		"decimal":      w.Decimal,
		"ranks":        render.Ranks,
		"spans":        draw.RankSpans,
		"shortranks":   func(ranks []int, most int) string { return draw.ShortRanks(w, ranks, most) },
		"times":        func(lower, upper int) string { return render.Times(brief.Speech{Words: w}, lower, upper) },
		"percent":      func(x float64) int { return int(100*x + 0.5) },
		"round":        func(x float64) string { return w.Number(int(x + 0.5)) },
		"tint":         draw.Tint,
		"sources":      SourcesPath,
		"span":         func(r any) (string, error) { return spanOf(w, r) },
		"list":         func(v ...any) []any { return v },
		"dict":         dict,
		"items":        render.ItemsOf,
		"has":          func(list ...string) bool { return slices.Contains(list[:len(list)-1], list[len(list)-1]) },
		"languages":    corelanguage.Codes,
		"languagename": w.Language,
		"first":        func(h []reading.Heading) []reading.Heading { return h[:min(len(h), maxListed)] },
		"firstStruck":  func(h []reading.Struck) []reading.Struck { return h[:min(len(h), maxListed)] },
		"beyond":       func(n int) int { return max(n-maxListed, 0) },
		"counted":      w.Counted,
		"int":          func(n int64) int { return int(n) },
		"whole":        func(x float64) int { return int(math.Round(x)) },
		"known":        func(f demand.Figure, decimals int) template.HTML { return knownFigure(w, f, decimals) },
		"add":          func(a, b int) int { return a + b },
		"next":         func(i int) int { return i + 1 },
		"prev":         func(i int) int { return i - 1 },
		"chars":        func(s string) int { return len([]rune(s)) },
		"lines":        func(list []string) string { return strings.Join(list, "\n") },
		"web":          func(u string) bool { return address.Parse(u).Web() },
		"site":         func(u string) string { return strings.TrimPrefix(strings.TrimPrefix(u, "http://"), "https://") },
		"sourcelist":   sourceList,
		"site1":        HostPart,
		"path":         PathPart,
		"flag":         func(b bool) string { return map[bool]string{true: "1", false: ""}[b] },
	}
}

// knownFigure is a figure as a table shows it, with so many decimals; a dash where it is not known.
func knownFigure(w *words.Words, f demand.Figure, decimals int) template.HTML {
	switch {
	case !f.Known:
		return `<span class="quiet">–</span>`
	case decimals == 0:
		return template.HTML(w.Number(int(math.Round(f.Value))))
	}
	return template.HTML(w.Decimal(decimals, f.Value))
}

// sourceList is the pages of a field, one a line, for marks.js to name them.
func sourceList(sources []evidence.Source) string {
	lines := make([]string, len(sources))
	for i, s := range sources {
		lines[i] = fmt.Sprintf("%d %s", s.Rank, s.Host)
	}
	return strings.Join(lines, "\n")
}

// HostPart and pathPart are the two halves of an address as a list shows them.
func HostPart(address string) string {
	u, err := url.Parse(address)
	if err != nil || u.Host == "" {
		return address
	}
	return strings.TrimPrefix(u.Host, "www.")
}

func PathPart(address string) string {
	u, err := url.Parse(address)
	if err != nil || u.Host == "" {
		return ""
	}
	path := u.Path
	if u.RawQuery != "" {
		path += "?" + u.RawQuery
	}
	return path
}

func dict(pairs ...any) (map[string]any, error) {
	if len(pairs)%2 != 0 {
		return nil, fmt.Errorf("dict: %d values do not make pairs", len(pairs))
	}
	m := map[string]any{}
	for i := 0; i < len(pairs); i += 2 {
		name, ok := pairs[i].(string)
		if !ok {
			return nil, fmt.Errorf("dict: the name %v is no string", pairs[i])
		}
		m[name] = pairs[i+1]
	}
	return m, nil
}

// SourcesPath is where the sentences behind a finding are shown. A key may
// hold any character, and templates encode addresses only where they know one.
func SourcesPath(study int64, kind any, key string) string {
	return fmt.Sprintf("/studies/%d/sources?%s", study, url.Values{"kind": {fmt.Sprint(kind)}, "key": {key}}.Encode())
}

// spanOf says a range in whole numbers: "4–13", or "1" where both ends are the
// same. It takes the ranges of evidence and of briefs.
func spanOf(w *words.Words, r any) (string, error) {
	var lower, upper float64
	switch r := r.(type) {
	case stats.Range:
		lower, upper = r.Lower, r.Upper
	case brief.Range:
		lower, upper = r.Lower, r.Upper
	default:
		return "", fmt.Errorf("span: %T is no range", r)
	}
	from, to := w.Number(int(lower+0.5)), w.Number(int(upper+0.5))
	if from == to {
		return from, nil
	}
	return from + "–" + to, nil
}

// maxListed is how many headings of one page are listed; no author has more.
const maxListed = 400
