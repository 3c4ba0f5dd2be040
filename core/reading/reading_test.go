package reading

import (
	"encoding/json"
	"fmt"
	"slices"
	"strings"
	"testing"
	"unicode/utf16"

	"corpulan/core/message"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"golang.org/x/text/encoding/charmap"
)

// paragraph is enough text for a page to count as one.
var paragraph = strings.Repeat("<p>The chain is wiped after every ride, and the tyres are checked on Sunday before the week begins.</p>", 8)

func read(t *testing.T, html string) *Reading {
	t.Helper()
	r, err := Read(Page{URL: "http://site.example/guide", Body: []byte(html)})
	require.NoError(t, err)
	return r
}

// numbered repeats a format with the numbers from 0.
func numbered(n int, format string) string {
	var b strings.Builder
	for i := range n {
		fmt.Fprintf(&b, format, i)
	}
	return b.String()
}

func headings(r *Reading) []string {
	var list []string
	for _, h := range r.Headings {
		list = append(list, fmt.Sprintf("%d %s", h.Level, h.Text))
	}
	return list
}

func struck(r *Reading) string {
	b, _ := json.Marshal(r.Struck)
	return string(b)
}

func TestFurnitureIsStruck(t *testing.T) {
	r := read(t, `<title>Chains | Site</title><body>
		<header><h2>Site</h2><nav><ul><li><a href="/a">News</a></li></ul></nav></header>
		<div class="cookie-banner"><h2>We value your privacy</h2><p>Cookies help us.</p></div>
		<article><h1>Looking after chains</h1>`+paragraph+`
		<div class="toc"><h2>In this guide</h2><ul><li><a href="#x">Lube</a></li></ul></div>
		<h2>Which lube<a class="headerlink" href="#lube">¶</a></h2>`+paragraph+`
		<h3><a href="#wet">Wet lube</a></h3><p>It clings to the chain in rain.</p>
		<h3><a href="/shop/brush">A brush from our shop</a></h3><p>Only today.</p>
		<h2>Share this article</h2><p>Mail it to a friend.</p>
		<h2>What it costs</h2><p>Less than you think, and far less than a new cassette.</p>
		<h2>Related posts</h2><h3>Ten saddles</h3><p>We sat on them.</p></article>
		<div id="comments"><h2>4 comments</h2><p>Great read, thanks for it.</p></div>
		<aside><h3>Most read</h3></aside><footer><h4>About us</h4></footer>`)
	assert.Equal(t, []string{"1 Looking after chains", "2 Which lube", "3 Wet lube", "2 What it costs"}, headings(r))
	text := r.Text()
	for _, junk := range []string{"Cookies", "News", "friend", "sat on them", "Great read", "Most read", "About us", "brush", "Only today"} {
		assert.NotContains(t, text, junk)
	}
	for _, h := range []string{"We value your privacy", "In this guide", "A brush from our shop", "Share this article", "Related posts", "Ten saddles", "4 comments", "Most read", "About us"} {
		assert.Contains(t, struck(r), h)
	}
	assert.Contains(t, struck(r), `"A brush from our shop","reason":"the whole heading is a link to another page"`)
	for _, s := range r.Struck {
		assert.NotEmpty(t, s.Reason, s.Text)
	}
}

func TestAHeadingLinkWithItsOwnTextIsTheAuthors(t *testing.T) {
	item := `<p>` + strings.Repeat("We rode it for a month in sleet and it never let go of the rail. ", 5) + `</p>`
	r := read(t, `<main><h1>Five lights</h1><p>All tested.</p><h2><a href="/p/one">Lamp One</a></h2>`+item+`<h2><a href="/p/two">Lamp Two</a></h2>`+item+`</main>`)
	assert.Equal(t, []string{"1 Five lights", "2 Lamp One", "2 Lamp Two"}, headings(r))
}

func TestSections(t *testing.T) {
	r := read(t, `<main><p>Before the first heading stands the opening of the page.</p><h1>Title of it</h1><p>One two three.</p>
		<ul><li>four five</li><li>six<ul><li>seven</li></ul></li></ul><h2>Second</h2><table><tr><th>a</th><th>b</th></tr><tr><td>c</td><td>d</td></tr></table><pre>x = 1
y = 2</pre><blockquote>Said so.</blockquote></main>`)
	require.Len(t, r.Sections, 3)
	assert.Equal(t, 0, r.Sections[0].Level)
	assert.Equal(t, "One two three.\nfour five\nsix\nseven", r.Sections[1].Text)
	assert.Equal(t, "plll", r.Sections[1].Lines)
	assert.Equal(t, "ttttccq", r.Sections[2].Lines)
	assert.Equal(t, 7, r.Sections[1].Words)
	assert.Equal(t, 10, r.Sections[1].Offset, "the opening's words")
	assert.Equal(t, 10+3+7, r.Sections[2].Offset, "and the title with its text")
	words := 0
	for _, s := range r.Sections {
		words += s.Words
	}
	assert.Equal(t, words+3+1, r.Counts.Words, "sections and headings are all of it")
	assert.Equal(t, 1, r.Counts.Tables)
	assert.Equal(t, 1, r.Counts.Lists)
}

func TestCounts(t *testing.T) {
	r := read(t, `<main><h1>Pictures</h1>`+paragraph+`<p><img src="/a.jpg" width=800> <img src="/i.png" width=16 height=16> <img class="avatar" src="/u.jpg">
		<img src="/pixel.gif" width="1"> <img data-src="/lazy.jpg" src="/blank.gif"> <iframe src="/embed/video/1"></iframe>
		See what stands <a href="/in">inside</a> of it, once and <a href="/in#part">again</a>, and what <a href="http://other.example/x">outside</a> sites say; all of it <a href="#here">here</a> or by <a href="mailto:a@b.example">mail</a></p></main>`)
	assert.Equal(t, 2, r.Counts.Images)
	assert.Equal(t, 1, r.Counts.Videos)
	assert.Equal(t, 1, r.Counts.InternalLinks)
	assert.Equal(t, 1, r.Counts.ExternalLinks)
	assert.Equal(t, 9, r.Counts.Paragraphs)
}

func TestMeta(t *testing.T) {
	r := read(t, `<html lang="en-GB"><head><title>A page – Site</title><meta name=description content=" What it
		says "><link rel=canonical href="/guide"><meta property="og:site_name" content="Site"><meta property="article:published_time" content="2026-01-05T08:00:00+01:00">
		<script type="application/ld+json">{"@graph":[{"@type":"Article","headline":"A page","author":{"name":"Orla"},"dateModified":"2026-02-03"},
		{"@type":"FAQPage","mainEntity":[{"@type":"Question","name":"Is it cold?","acceptedAnswer":{"@type":"Answer","text":"<p>Yes, <b>very</b>.</p>"}}]}]}</script>
		<script type="application/ld+json">{broken</script></head><body><h1>A page</h1>`+paragraph)
	assert.Equal(t, "A page – Site", r.Title)
	assert.Equal(t, "What it says", r.Description)
	assert.Equal(t, "en", r.Language)
	assert.Equal(t, "2026-01-05", r.Published)
	assert.Equal(t, "2026-02-03", r.Modified)
	assert.Equal(t, "Orla", r.Author)
	assert.Equal(t, "Site", r.SiteName)
	assert.Equal(t, "http://site.example/guide", r.Canonical)
	assert.Equal(t, []Pair{{"Is it cold?", "Yes, very."}}, r.FAQ)
	assert.Equal(t, []string{"Answer", "Article", "FAQPage", "Question"}, r.DataTypes)
	assert.Contains(t, r.Questions, "Is it cold?")
}

func TestCharsets(t *testing.T) {
	page := `<html><head><title>Café</title></head><body><h1>Größe</h1>` + paragraph + `<p>Überschuhe für nasse Füße.</p></body></html>`
	latin, err := charmap.Windows1252.NewEncoder().String(page)
	require.NoError(t, err)
	var utf16le []byte
	for _, u := range utf16.Encode([]rune("\uFEFF" + page)) {
		utf16le = append(utf16le, byte(u), byte(u>>8))
	}
	for name, p := range map[string]Page{
		"utf-8 without a word of it":      {Body: []byte(page)},
		"utf-8 that claims to be latin 1": {Body: []byte(page), ContentType: "text/html; charset=iso-8859-1"},
		"latin 1 by header":               {Body: []byte(latin), ContentType: "text/html; charset=iso-8859-1"},
		"latin 1 that claims to be utf-8": {Body: []byte(latin), ContentType: "text/html; charset=utf-8"},
		"latin 1 by meta":                 {Body: []byte(strings.Replace(latin, "<head>", `<head><meta charset="windows-1252">`, 1))},
		"utf-16 with a mark":              {Body: utf16le},
		"utf-8 with a mark":               {Body: []byte("\xEF\xBB\xBF" + page)},
	} {
		r, err := Read(p)
		require.NoError(t, err, name)
		assert.Equal(t, "Café", r.Title, name)
		assert.Equal(t, []string{"1 Größe"}, headings(r), name)
		assert.Contains(t, r.Text(), "Überschuhe", name)
	}
}

func TestWhatIsNoPage(t *testing.T) {
	for name, c := range map[string]struct {
		body string
		want error
	}{
		"empty": {"", ErrEmpty}, "blank": {" \n\t ", ErrEmpty},
		"a pdf": {"%PDF-1.7\n...", ErrNotHTML}, "a zip": {"PK\x03\x04....", ErrNotHTML},
		"a picture": {"\x89PNG\r\n\x1a\n....", ErrNotHTML}, "binary": {"\x00\x01\x02\x03\xff\xfe\x00\x9d\x81\x8d", ErrNotHTML},
	} {
		_, err := Read(Page{Body: []byte(c.body)})
		assert.ErrorIs(t, err, c.want, name)
	}
}

// Pages that break readers: each must give a reading, or a clear error.
func TestUglyPages(t *testing.T) {
	for name, body := range map[string]string{
		"a million nested tags":   strings.Repeat("<div>", 1_000_000) + "deep text here" + paragraph,
		"unclosed everything":     "<table><tr><td><ul><li><b><h2>Heading<p>Text" + paragraph,
		"NUL bytes":               "<h1>A\x00B</h1>" + strings.ReplaceAll(paragraph, " ", " \x00"),
		"ten megabytes on a line": "<p>" + strings.Repeat("word ", 2_000_000) + "</p>",
		"50,000 headings":         "<main>" + strings.Repeat("<h2>One</h2><p>Two.</p>", 50_000),
		"a frameset":              `<html><frameset cols="1,2"><frame src="/a"><frame src="/b"></frameset></html>`,
		"script only":             `<html><body><div id="app"></div><script>render()</script></body></html>`,
		"plain text":              "Just words, no markup at all.",
		"right to left":           `<html lang="ar"><body dir="rtl"><h1>الدراجة في الشتاء</h1><p>` + strings.Repeat("ركوب الدراجة في الشتاء ممتع. ", 20) + `</p>`,
		"chinese":                 `<html lang="zh"><body><h1>冬季骑行</h1><p>` + strings.Repeat("冬天骑自行车上班需要好的轮胎和灯。", 20) + `</p>`,
	} {
		r, err := Read(Page{URL: "http://site.example/", Body: []byte(body)})
		require.NoError(t, err, name)
		require.NotEmpty(t, r.Sections, name)
		assert.Equal(t, 0, r.Sections[0].Level, name)
	}
}

func TestKinds(t *testing.T) {
	for name, c := range map[string]struct {
		url, html string
		want      Kind
	}{
		"article":                      {"http://a.example/x", `<title>How to ride</title><h1>How to ride</h1>` + paragraph + paragraph, Article},
		"list":                         {"http://a.example/x", `<title>12 tips for winter</title><h1>12 tips</h1>` + strings.Repeat("<h2>Tip on it</h2>"+paragraph, 4), List},
		"comparison":                   {"http://a.example/x", `<title>Studs vs slicks</title><h1>Studs vs slicks</h1>` + paragraph + paragraph, Comparison},
		"forum":                        {"http://a.example/x", `<script type="application/ld+json">{"@type":"DiscussionForumPosting"}</script>` + paragraph, Forum},
		"video":                        {"http://a.example/x", `<title>Ride</title><iframe src="/embed/1"></iframe><p>Watch it.</p>`, Video},
		"home":                         {"http://a.example/", `<title>Shop</title>` + paragraph + paragraph, Home},
		"an essay on the first page":   {"http://a.example/", `<title>How to ride</title><h1>How to ride</h1>` + strings.Repeat(paragraph, 12), Article},
		"thin":                         {"http://a.example/x", `<title>Fact</title><p>Short.</p>`, Thin},
		"product":                      {"http://a.example/x", `<title>Lamp</title><script type="application/ld+json">{"@type":"Product"}</script>` + paragraph + paragraph, Product},
		"category by its prices":       {"http://a.example/x", `<title>Lamps</title><h1>Lamps</h1>` + strings.Repeat(`<div class="tile"><a href="/p">Lamp of brass</a><span>£49.00</span></div>`, 12), Category},
		"an article that names prices": {"http://a.example/x", `<title>Costs</title><h1>Costs</h1><table>` + strings.Repeat("<tr><td>Lamp</td><td>£49.00</td></tr>", 9) + `</table>` + paragraph + paragraph + paragraph, Article},
		"directory":                    {"http://a.example/x", `<title>Clubs</title><h1>Clubs</h1><ul>` + numbered(40, `<li><a href="http://club%d.example/">Club of the valley</a> meets on Sundays</li>`) + `</ul>`, Directory},
		"category":                     {"http://a.example/x", `<title>Lamps</title><script type="application/ld+json">{"@type":"CollectionPage"}</script>` + paragraph, Category},
	} {
		r, err := Read(Page{URL: c.url, Body: []byte("<html><body>" + c.html)})
		require.NoError(t, err, name)
		assert.Equal(t, c.want, r.Kind, name)
		assert.NotEmpty(t, r.KindSignals, name)
	}
}

// Navigation, cookie boxes and comments must leave no trace in a reading.
func TestFurnitureChangesNothing(t *testing.T) {
	content := `<article><h1>Chains</h1>` + paragraph + `<h2>Lube</h2>` + paragraph + `</article>`
	plain := read(t, `<html><head><title>Chains</title></head><body>`+content+`</body></html>`)
	dressed := read(t, `<html><head><title>Chains</title></head><body><nav><a href="/1">One</a> <a href="/2">Two</a></nav><div id="cookie-consent"><p>We use cookies to remember what you did here and there.</p></div>`+
		content+`<section class="comments-area"><p>I ride every day and I agree with all that was said here.</p></section><footer><p>Imprint and a long note about who we are and why.</p></footer></body></html>`)
	var left []string
	for _, l := range dressed.LeftOut {
		left = append(left, l.What)
	}
	assert.ElementsMatch(t, []string{"navigation", "overlay", "comments", "footer"}, left)
	dressed.Struck, dressed.LeftOut = plain.Struck, plain.LeftOut
	assert.Equal(t, plain, dressed)
}

func TestTheSameBytesGiveTheSameReading(t *testing.T) {
	body := []byte(`<html><head><title>T</title><script type="application/ld+json">{"b":{"@type":"B"},"a":{"@type":"A"},"c":[{"@type":"C"}]}</script></head><body>` + paragraph)
	first, err := Read(Page{Body: body})
	require.NoError(t, err)
	want, err := json.Marshal(first)
	require.NoError(t, err)
	for range 20 {
		again, err := Read(Page{Body: body})
		require.NoError(t, err)
		got, err := json.Marshal(again)
		require.NoError(t, err)
		require.Equal(t, string(want), string(got))
	}
}

func FuzzRead(f *testing.F) {
	for _, seed := range []string{"", "<h1>A</h1><p>b", "<ul><li><a href=x>y</a>", "\xff\xfe<\x00p\x00", `<script type="application/ld+json">[{"@type":["A",1]}]</script>`, "<table><td><h2>x</h2><br><br>y"} {
		f.Add([]byte(seed))
	}
	f.Fuzz(func(t *testing.T, body []byte) {
		r, err := Read(Page{URL: "http://site.example/a", Body: body})
		if err != nil {
			return
		}
		if len(r.Headings)+1 != len(r.Sections) {
			t.Fatalf("%d headings, %d sections", len(r.Headings), len(r.Sections))
		}
		for i, s := range r.Sections {
			if lines := strings.Count(s.Text, "\n") + 1; s.Text != "" && lines != len(s.Lines) {
				t.Fatalf("section %d: %d lines, marks %q", i, lines, s.Lines)
			}
		}
	})
}

func TestDepthRepairsLevelsAndKeepsThem(t *testing.T) {
	r := read(t, `<main><h1>Lights</h1>`+paragraph+`<h4>Front</h4>`+paragraph+`<h3>Rear</h3>`+paragraph+`<h2>Batteries</h2>`+paragraph+`<h6>Cold</h6>`+paragraph+`</main>`)
	var got []string
	for i, h := range r.Headings {
		assert.Equal(t, h.Depth, r.Sections[i+1].Depth)
		got = append(got, fmt.Sprintf("%s h%d at %d", h.Text, h.Level, h.Depth))
	}
	assert.Equal(t, []string{"Lights h1 at 1", "Front h4 at 2", "Rear h3 at 2", "Batteries h2 at 2", "Cold h6 at 3"}, got)
	assert.Contains(t, r.Flags, message.Kept("its headings skip levels"))
}

func TestBoldLinesAreHeadingsOnlyWhereThereAreNone(t *testing.T) {
	bold := `<h1>Lights</h1>` + paragraph + `<p><b>The front lamp</b></p>` + paragraph + `<b>The rear lamp</b><br>It glows. ` + paragraph + `<p>It is <b>never</b> off.</p><p><strong>It must not blind anyone.</strong></p>`
	r := read(t, `<main>`+bold+`</main>`)
	assert.Equal(t, []string{"1 Lights", "2 The front lamp", "2 The rear lamp"}, headings(r))
	assert.True(t, r.Headings[1].Inferred)
	assert.Contains(t, r.Text(), "must not blind")
	assert.Contains(t, r.Flags, message.Kept("its headings are lines in bold"))

	r = read(t, `<main>`+bold+`<h2>Batteries</h2>`+paragraph+`</main>`)
	assert.Equal(t, []string{"1 Lights", "2 Batteries"}, headings(r))
	assert.Contains(t, r.Text(), "The front lamp", "it is text then")

	r = read(t, `<main><h1>Lights</h1>`+paragraph+`<p><b>One line in bold</b></p>`+paragraph+`</main>`)
	assert.Equal(t, []string{"1 Lights"}, headings(r), "one proves nothing")
}

// The title may be a heading of any level; bold lines below it are headings all the same.
func TestBoldLinesBelowATitleOfAnyLevel(t *testing.T) {
	body := paragraph + `<p><b>The front lamp</b></p>` + paragraph + `<p><b>The rear lamp</b></p>` + paragraph
	r := read(t, `<title>Lights for a bike - Wheelwise</title><div id=top><h1><a href="/">Wheelwise</a></h1></div><main><h2>Lights for a bike</h2>`+body+`</main>`)
	assert.Equal(t, []string{"2 Lights for a bike", "3 The front lamp", "3 The rear lamp"}, headings(r))
	r = read(t, `<title>Wheelwise</title><main><h2>Something else</h2>`+body+`</main>`)
	assert.Equal(t, []string{"2 Something else"}, headings(r), "a heading that is no title")
}

func TestTheTitleIsKnownAtAnyLevel(t *testing.T) {
	for html, want := range map[string]int{
		`<h1>Lights</h1>` + paragraph + `<h2>Front</h2>` + paragraph:                                                                         1,
		`<title>Lights for a bike - Wheelwise</title><h4>Lights for a bike</h4>` + paragraph + `<h2>Front</h2>` + paragraph:                  1,
		`<title>Lights for a bike - Wheelwise</title>` + paragraph + `<h4>Lights for a bike</h4>` + paragraph + `<h4>Front</h4>` + paragraph: -1,
		`<title>Wheelwise</title><h4>Rear</h4>` + paragraph + `<h4>Front</h4>` + paragraph:                                                   -1,
	} {
		got, _ := read(t, strings.Replace("<main>"+html+"</main>", "<main><title>", "<title>", 1)).TitleSection()
		assert.Equal(t, want, got, html)
	}
}

// Pages that are looked up and not read are told from articles, and set aside.
func TestReferencePages(t *testing.T) {
	part := func(headings ...string) string {
		out := "<h1>Lamps</h1>" + paragraph
		for _, h := range headings {
			out += "<h2>" + h + "</h2>" + paragraph
		}
		return "<main>" + out + "</main>"
	}
	links := strings.Repeat(`<li>See <a href="/x">x</a> here</li>`, 3)
	for html, want := range map[string]Kind{
		part("Synopsis", "Description", "Parameters", "Notes", "See Also"):                                Reference,
		part("lamp_new()", "lamp_free(lamp)", "lamp_set(lamp, on)", "lamp_get(lamp)", "lamp_blink(lamp)"): Reference,
		part("Description", "What to look for", "How bright", "How long it lasts"):                        Article,
		part("Notes", "Examples", "Description", "Usage"):                                                 Article,
		part("Print (or save) it", "What lamps cost", "Batteries", "Mounts", "Cables"):                    Article,
		"<main>" + paragraph + paragraph + links + "</main>":                                              Article,
	} {
		r := read(t, html)
		assert.Equal(t, want, r.Kind, html[:120])
		assert.Equal(t, want == Reference, r.ProposeAside("en", "lamps") == "A reference page")
	}
}

// The names of wares on their cards are no headings of an author's text.
func TestCards(t *testing.T) {
	card := `<div class=card><h3>Lamp %d</h3><p>Bright.</p><p>£%[1]d.00</p><button>Add to basket</button></div>`
	r := read(t, `<main><h1>Lamps</h1>`+paragraph+`<h2>How bright</h2>`+paragraph+`<div>`+numbered(3, card)+`</div><h3>By itself</h3><p>It costs £4 and is sold by nobody else, as far as we know of it.</p></main>`)
	cards := map[string]bool{}
	for _, h := range r.Headings {
		cards[h.Text] = h.Card
	}
	assert.Equal(t, map[string]bool{"Lamps": false, "How bright": false, "Lamp 0": true, "Lamp 1": true, "Lamp 2": true, "By itself": false}, cards)
}

// A box that asks for an address is no part of the text, whatever its class.
func TestABoxThatAsksForAnAddress(t *testing.T) {
	r := read(t, `<main><h1>Lamps</h1>`+paragraph+paragraph+`<section class=x1><h3>£5 for you</h3><p>Write yourself down.</p><input type=email><button>Yes</button></section></main>`)
	assert.Equal(t, []string{"1 Lamps"}, headings(r))
}

func TestWhatIsCountedOfTheContent(t *testing.T) {
	long := "<p>" + strings.Repeat("It rained on the way and it rained on the way back. ", 12) + "</p>"
	r := read(t, `<html lang=en><main><h1>Lights</h1>`+long+paragraph+`<figure><img src="/lamp.jpg" alt="A lamp on a bar"><figcaption>The lamp after a week of salt</figcaption></figure>
		<iframe src="https://maps.example/?q=1"></iframe><iframe src="/pixel" width=1 height=1></iframe>
		<p>Buy <a rel="sponsored nofollow noopener" href="http://shop.example/l">this one</a> or read <a href="/manual.pdf">the manual</a> before you go.</p></main>`)
	assert.Equal(t, 1, r.Counts.Embeds)
	assert.Equal(t, 1, r.Counts.PaidLinks)
	assert.Equal(t, 1, r.Counts.FileLinks)
	assert.Equal(t, []string{"A lamp on a bar", "The lamp after a week of salt"}, r.ImageTexts)
	assert.Equal(t, "nofollow sponsored", sortedFields(r.Links[0].Rel))
	assert.Equal(t, Paragraphs{Median: 18, Longest: 144, Long: 1}, r.Paragraphs)
	assert.InDelta(t, 0.5, r.StopShare, 0.15)
}

func sortedFields(s string) string {
	f := strings.Fields(s)
	slices.Sort(f)
	return strings.Join(f, " ")
}

func TestDatesAuthorsAndSteps(t *testing.T) {
	r := read(t, `<title>Lights</title><script type="application/ld+json">{"@type":"HowTo","step":[{"@type":"HowToStep","name":"Clean the lens"},{"@type":"HowToStep","text":"<p>Charge it.</p>"}]}</script>
		<main><h1>Lights</h1><p>Published 1 March 2026</p><p>Updated on 4 March 2026</p><p class="x">By <a rel="author" href="/ada">Ada Holm</a></p>`+paragraph+`</main>`)
	assert.Equal(t, "2026-03-01", r.Published)
	assert.Equal(t, "2026-03-04", r.Modified)
	assert.Equal(t, []Struck{{"Published 1 March 2026", "a date or a time by itself"}, {"Updated on 4 March 2026", "a date or a time by itself"}}, r.StruckLines)
	assert.Equal(t, "Ada Holm", r.Author)
	assert.Equal(t, []string{"Clean the lens", "Charge it."}, r.HowTo)
	for line, want := range map[string]string{"Dienstag, 4. Juni 2019": "2019-06-04", "5 de enero de 2024": "2024-01-05", "January 9th, 2025": "2025-01-09", "03.04.2020": "2020-04-03",
		"2026-02-30": "", "3/4/2026": "", "le 1er août 2023": "2023-08-01", "Ende 2020": ""} {
		assert.Equal(t, want, visibleDate(line), line)
	}
}

// Pages of other times and places: read sensibly, or flagged.
func TestOddPages(t *testing.T) {
	for name, c := range map[string]struct{ page, headings, barrier, flag string }{
		"XHTML served as HTML": {page: `<?xml version="1.0"?><html xmlns="http://www.w3.org/1999/xhtml"><head><title/><script src="/a.js"/></head><body><div id="nav"/><h1>Lights</h1><p/>` + paragraph, headings: "1 Lights"},
		"tables of the nineties": {page: `<body><table><tr><td width=120><a href="/">Home</a><br><a href="/links">Links</a></td><td><table><tr><td><font size=5><b>My lights</b></font><br><font size=2>` +
			strings.Repeat("I ride home after dark five days a week and this is what I have learnt. ", 5) + `<p><font size=4><b>The front one</b></font><br>` + strings.Repeat("It hangs low and shines far ahead. ", 6) +
			`<p><font size=4><b>The rear one</b></font><br>` + strings.Repeat("It hangs high and blinks for all to see. ", 6) + `</font></td></tr></table></td></tr></table>`, headings: "2 My lights|2 The front one|2 The rear one", flag: "its headings are lines in bold"},
		"frames":        {page: `<html><head><title>Lights</title></head><frameset cols="20%,80%"><frame src="a.html"><frame src="b.html"></frameset></html>`, barrier: "its text stands in frames"},
		"script only":   {page: `<html><head><title>App</title></head><body><div id="root"></div><script src="/app.js"></script></body></html>`, barrier: "it needs JavaScript to be shown"},
		"right to left": {page: `<html lang="ar" dir="rtl"><body><h1>الدراجة في الشتاء</h1><p>` + strings.Repeat("ركوب الدراجة في الشتاء ممتع. ", 20) + `</p>`, headings: "1 الدراجة في الشتاء"},
		"chinese":       {page: `<html lang="zh"><body><h1>冬季骑行</h1><p>` + strings.Repeat("冬天骑自行车上班需要好的轮胎和灯。", 20) + `</p>`, headings: "1 冬季骑行", flag: "it is written without spaces: each character counts as a word"},
	} {
		t.Run(name, func(t *testing.T) {
			r := read(t, c.page)
			assert.Equal(t, c.headings, strings.Join(headings(r), "|"))
			assert.Equal(t, c.barrier, r.Barrier.Message().String())
			if c.flag != "" {
				assert.Contains(t, r.Flags, message.Kept(c.flag))
			}
		})
	}
}

// What is struck is not counted: no figure may hold more than the text shows.
func TestCountsFollowWhatIsKept(t *testing.T) {
	plain := read(t, `<main><h1>Lights</h1>`+paragraph+`<h2>Rear</h2>`+paragraph+`</main>`)
	r := read(t, `<main><h1>Lights</h1>`+paragraph+`<p>Photo: Ada Holm</p><h2><a href="/more">More lamps of ours</a></h2><p>A <a href="/teaser">teaser</a>.</p><img src="/t.jpg" alt="Teased">
		<h2>Rear</h2>`+paragraph+`</main>`)
	assert.Equal(t, plain.Counts, r.Counts)
	assert.Empty(t, r.Links)
	assert.Empty(t, r.ImageTexts)
	bold := read(t, `<main><h1>Lights</h1><p><b>The front</b></p>`+paragraph+`<p><b>The rear</b></p>`+paragraph+`</main>`)
	assert.Equal(t, 16, bold.Counts.Paragraphs, "a line that heads is no paragraph")
}
