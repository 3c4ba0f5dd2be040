package reading

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func readHTML(t *testing.T, page string) *Reading {
	t.Helper()
	r, err := Read(Page{URL: "https://lamps.example/best", Body: []byte("<html lang=en><body><main><h1>Lamps</h1><p>" + strings.Repeat("A lamp lights the road at night. ", 12) + "</p>" + page + "</main></body></html>")})
	require.NoError(t, err)
	return r
}

func jsonLD(data string) string { return `<script type="application/ld+json">` + data + `</script>` }

// The examples of schema.org for Product, ItemList and Review, as JSON-LD and as microdata (from memory of its pages).
func TestItemsOfSchemaOrg(t *testing.T) {
	r := readHTML(t, jsonLD(`{"@context":"https://schema.org","@type":"Product","aggregateRating":{"@type":"AggregateRating","ratingValue":"3.5","reviewCount":"11"},"description":"0.7 cubic feet countertop microwave.","name":"Kenmore White 17\" Microwave","image":"kenmore-microwave-17in.jpg","offers":{"@type":"Offer","availability":"https://schema.org/InStock","price":"55.00","priceCurrency":"USD"},"review":[{"@type":"Review","author":"Ellie","datePublished":"2011-04-01","name":"Not a happy camper","reviewRating":{"@type":"Rating","bestRating":"5","ratingValue":"1","worstRating":"1"}}]}`))
	require.Len(t, r.Items, 1)
	assert.Equal(t, Item{Name: `Kenmore White 17" Microwave`, Type: "Product", Price: "55.00", Currency: "USD", Rating: 3.5, Best: 5, Ratings: 11}, r.Items[0])

	r = readHTML(t, jsonLD(`{"@context":"https://schema.org","@type":"ItemList","url":"http://multivarki.ru?filters%5Bprice%5D%5BLTE%5D=39600","numberOfItems":"315","itemListElement":[{"@type":"Product","image":"x.png","url":"http://multivarki.ru/brand_502/","name":"Brand 502","offers":{"@type":"Offer","price":"4399 p."}},{"@type":"Product","name":"..."}]}`))
	assert.Equal(t, "Brand 502", r.Items[0].Name)
	assert.Equal(t, []int{1, 1}, []int{r.Items[0].Position, r.Items[0].List})
	assert.Equal(t, "http://multivarki.ru/brand_502/", r.Items[0].URL)

	r = readHTML(t, jsonLD(`{"@context":"https://schema.org","@type":"ItemList","itemListElement":["HP Pavilion dv6-6013cl","Dell XPS 15 (Sandy Bridge)","Lenovo ThinkPad X220"],"itemListOrder":"https://schema.org/ItemListOrderDescending","name":"Top 10 laptops"}`))
	require.Len(t, r.Items, 3)
	assert.Equal(t, "Dell XPS 15 (Sandy Bridge)", r.Items[1].Name)
	assert.Equal(t, 2, r.Items[1].Position)

	r = readHTML(t, `<div itemscope itemtype="https://schema.org/Product"><span itemprop="brand">ACME</span><span itemprop="name">Executive Anvil</span><div itemprop="aggregateRating" itemscope itemtype="https://schema.org/AggregateRating"><span itemprop="ratingValue">4.4</span> stars, based on <span itemprop="reviewCount">89</span> reviews</div><div itemprop="offers" itemscope itemtype="https://schema.org/Offer"><meta itemprop="priceCurrency" content="USD">$<span itemprop="price">119.99</span></div></div>`)
	assert.Equal(t, []Item{{Name: "Executive Anvil", Type: "Product", Price: "119.99", Currency: "USD", Rating: 4.4, Best: 5, Ratings: 89}}, r.Items)
}

// What a review praises, properties with units, ranges of offers; a rating above the best is none.
func TestItemsInFull(t *testing.T) {
	r := readHTML(t, jsonLD(`{"@type":"Review","itemReviewed":{"@type":"Product","name":"Halvark Beacon 600","weight":{"@type":"QuantitativeValue","value":112,"unitCode":"GRM"},"additionalProperty":[{"@type":"PropertyValue","name":"Output","value":"600","unitText":"lumens"}],"offers":{"@type":"AggregateOffer","lowPrice":"45","highPrice":"52.50","priceCurrency":"GBP"},"award":"Best in test"},"reviewRating":{"ratingValue":9,"bestRating":5},"positiveNotes":{"@type":"ItemList","itemListElement":[{"@type":"ListItem","name":"Flat beam"}]},"negativeNotes":{"@type":"ItemList","itemListElement":["Weak strap"]}}`))
	require.Len(t, r.Items, 1)
	x := r.Items[0]
	assert.Equal(t, []string{"45", "52.50", "GBP", "Best in test"}, []string{x.Price, x.Upper, x.Currency, x.Award})
	assert.Equal(t, []Property{{"Output", "600", "lumens"}, {"weight", "112", "g"}}, x.Properties)
	assert.Equal(t, []string{"Flat beam"}, x.Praise)
	assert.Equal(t, []string{"Weak strap"}, x.Criticism)
	assert.Zero(t, x.Rating, "nine of five is a lie")
	assert.Empty(t, readHTML(t, jsonLD(`{"@type":"BreadcrumbList","itemListElement":[{"@type":"ListItem","position":1,"name":"Home"}]}`)).Items)
	assert.Empty(t, readHTML(t, jsonLD(`{"@type":"ItemList","itemListElement":[{"@type":"ListItem","item":{"@type":"Article","name":"How to ride"}},{"@type":"ListItem","url":"https://x.example/a"}]}`)).Items)
}

// Tables keep their cells, those that span several in each.
func TestTablesOfAPage(t *testing.T) {
	r := readHTML(t, `<h2>Compared</h2><table><caption>Lamps, measured</caption><thead><tr><td></td><td colspan="2">Light</td><td>Sold</td></tr></thead><tbody><tr><th>Beacon</th><td>600</td><td>112 g</td><td rowspan="2"><img alt="yes" src="t.png"></td></tr><tr><th>Arc</th><td>450</td><td>98 g</td></tr></tbody></table>`)
	require.Len(t, r.Tables, 1)
	assert.Equal(t, Table{Section: 2, Caption: "Lamps, measured", Head: true, Side: true, Rows: [][]string{{"", "Light", "Light", "Sold"}, {"Beacon", "600", "112 g", "yes"}, {"Arc", "450", "98 g", "yes"}}}, r.Tables[0])
	assert.Empty(t, readHTML(t, `<table><tr><td>`+strings.Repeat("Laid out. ", 9)+`</td></tr></table>`).Tables)
}

// Names that a page sets off: on cards, in definition lists, in front of items.
func TestMarkedNames(t *testing.T) {
	card := `<li class="product"><a href="/p/%d"><img src="b.jpg" alt=""><span class="name">Halvark K%d</span></a><span class="price"><del>£60.00</del> £%d.00</span><button>Add to basket</button></li>`
	r := readHTML(t, `<ul>`+fmt.Sprintf(card+card+card, 1, 10, 40, 2, 11, 41, 3, 12, 42)+`</ul><dl><div><dt>Arc</dt><dd>Small.</dd></div><div><dt>Owlet</dt><dd>Red. <a href="https://shop.example/o">Buy</a></dd></div><div><dt>Pebble</dt><dd>Spare.</dd><dd>Cheap.</dd></div></dl><ol><li><b>Lyn</b>: bright</li><li><b>Duo</b>: cheap</li><li><b>Cinder</b>: flat</li></ol><ul><li>Mind the gap</li><li><b>Never</b> run</li><li>Stop</li></ul>`)
	by := map[MarkedBy][]Marked{}
	for _, m := range r.Marked {
		by[m.Kind] = append(by[m.Kind], m)
	}
	require.Len(t, by[MarkedCard], 3)
	assert.Equal(t, Marked{Section: 1, List: 1, Kind: MarkedCard, Name: "Halvark K11", Lines: []string{"£41.00"}, URL: "https://lamps.example/p/2"}, by[MarkedCard][1])
	require.Len(t, by[MarkedTerm], 3)
	assert.Equal(t, []string{"Spare.", "Cheap."}, by[MarkedTerm][2].Lines)
	assert.Equal(t, "https://shop.example/o", by[MarkedTerm][1].URL)
	require.Len(t, by[MarkedItem], 3, "of the list in which most items begin so")
	assert.Equal(t, []string{": cheap"}, by[MarkedItem][1].Lines)
	assert.NotContains(t, r.Text(), "60.00", "what is struck through is taken back")
}
