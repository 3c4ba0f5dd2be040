package reading

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// A page of our own: what sites use as signs of furniture stands in an author's text.
const shellPage = `<html lang="en"><head><title>Shell scripts</title></head><body><nav><a href="/">home</a></nav><article><h1>Shell scripts</h1>
<p>A script is a file that the shell reads, line after line, until it ends. Comments and more comments help: a comment costs nothing, and who comments is read.</p>
<h2>Comments</h2><p>A comment begins with a hash sign and goes to the end of the line. Say why a line is there, not what it does, since the reader can see that.</p>
<pre><span class="comment"># say why</span>
ls -l</pre>
<p>A variable holds a text, and the dollar sign reads it. Quote it unless you know why not.</p>
<div class="sidebar"><p>Quoting is what beginners forget. Everything in double quotes is one word, and in single quotes nothing is read at all.</p></div>
<p>A loop runs over a list of words. It stops when the list ends, or at a break, which is rarely wanted.</p></article>%s</body></html>`

func TestSignsOfFurnitureInAnAuthorsText(t *testing.T) {
	r, err := Read(Page{URL: "https://a.example/", Body: []byte(strings.Replace(shellPage, "%s", "", 1))})
	require.NoError(t, err)
	all := r.Text()
	for _, part := range []string{"Say why a line is there", "# say why", "Quoting is what beginners forget"} {
		assert.Contains(t, all, part)
	}
	var headings []string
	for _, h := range r.Headings {
		headings = append(headings, h.Text)
	}
	assert.Contains(t, headings, "Comments")
}

// The same words over what readers wrote are furniture.
func TestReadersCommentsAreNoChapter(t *testing.T) {
	below := `<div><h2>Comments</h2><div><time>3 May</time><p>Great post, I comment on every comment here and like comments a lot, all of them, each and every day.</p></div></div>`
	r, err := Read(Page{URL: "https://a.example/", Body: []byte(strings.Replace(strings.Replace(shellPage, "<h2>Comments</h2>", "<h2>Remarks in code</h2>", 1), "%s", below, 1))})
	require.NoError(t, err)
	assert.NotContains(t, r.Text(), "Great post")
	for _, h := range r.Headings {
		assert.NotEqual(t, "Comments", h.Text)
	}
}

func TestPagesOnOtherSubjectsAreProposedAside(t *testing.T) {
	read := func(lang, body string) *Reading {
		r, err := Read(Page{URL: "https://a.example/page", Body: []byte(`<html lang="` + lang + `"><body><article><h1>Title</h1>` + strings.Repeat("<p>"+body+"</p>", 12) + `</article></body></html>`)})
		require.NoError(t, err)
		return r
	}
	bread := read("en", "Knead the dough for ten minutes and let it rise in a warm place until it has doubled, then bake it in a hot oven until brown.")
	assert.Contains(t, bread.ProposeAside("en", "winter bike commuting").String(), "About something else")
	assert.Empty(t, bread.ProposeAside("en", "baking bread with dough"), "it has words of it")
	assert.Empty(t, bread.ProposeAside("en", "the"), "a keyword without words of content")
	lock := read("de", "Das Fahrradschloss friert im Winter ein, wenn Wasser in den Zylinder läuft, und dann hilft nur noch etwas Wärme und danach Graphit.")
	assert.Empty(t, lock.ProposeAside("de", "fahrrad winterfest machen"), "parts of compounds count")
}

func TestWhatIsSetAsCodeIsNoted(t *testing.T) {
	r, err := Read(Page{URL: "https://a.example/", Body: []byte(`<html lang="en"><body><article><p>Set <code>LDFLAGS</code> and press <kbd>Enter</kbd>; <code>LDFLAGS</code> holds then for all that is built after it, which is what one wants of it here.</p><pre><code>make</code></pre></article></body></html>`)})
	require.NoError(t, err)
	assert.Equal(t, map[string]int{"LDFLAGS": 2, "Enter": 1}, r.Code)
}

func TestQuestionsWithAnswersThatNoMarkupNames(t *testing.T) {
	r, err := Read(Page{URL: "https://a.example/", Body: []byte(`<html lang="en"><body><article><h1>Questions</h1><p>What riders ask us every autumn, with what we answer them at the counter.</p>
<dl><dt>Do I need studded tyres?</dt><dd>Only where the lanes stay icy, which few do.</dd><dt>Winter tyre</dt><dd>A tyre of soft rubber.</dd></dl>
<details><summary>How often should I oil the chain?</summary><p>Once a week while there is salt.</p><p>More often in rain.</p></details></article></body></html>`)})
	require.NoError(t, err)
	assert.Equal(t, []Pair{{"Do I need studded tyres?", "Only where the lanes stay icy, which few do."}, {"How often should I oil the chain?", "Once a week while there is salt. More often in rain."}}, r.FAQ)
}

func TestABylineIsNoHeading(t *testing.T) {
	for heading, is := range map[string]bool{"By Martha Tarn": true, "Von Anna Maria Berg": true, "by Quillfen": true, "By Bus": false, "By bike or by train": false, "By Mark, with care": false, "Martha Tarn": false, "Di notte": false} {
		assert.Equal(t, is, isByline(heading, "Quillfen"), heading)
	}
	r, err := Read(Page{URL: "https://a.example/", Body: []byte(`<html lang="en"><body><article><h1>Chains</h1><h3>By Martha Tarn</h3><p>Salt eats a chain within one winter, and nobody can stop it but you with a rag and some oil.</p><h2>Oil</h2><p>Use little of it, and often, and wipe off what stands on the plates.</p></article></body></html>`)})
	require.NoError(t, err)
	assert.Len(t, r.Headings, 2)
	assert.Contains(t, r.Text(), "Salt eats a chain")
	assert.Equal(t, "By Martha Tarn", r.Struck[0].Text)
}
