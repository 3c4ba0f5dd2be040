package draw

import (
	"fmt"
	"html/template"
	"math"
	"strings"

	"corpulan/core/network"
	"corpulan/words"
)

// The network of terms: every term stands as its word, with a dot whose area is the pages that
// use it, filled where the brief has it; a community is a quiet tint about its terms, named by
// its lead in larger letters. Words searched and not found stand in italics with an open square.
const (
	dotLeast, dotMost = 2.5, 6.5
	tintRadius        = 30
	tints             = 10
	emphasis          = 1.18 // how much wider a lead is written
)

// NetworkLabel is how wide a term's label is drawn, its dot included.
func NetworkLabel(n network.Node) float64 { return textWidth(n.Text)*1.12*emphasis + 2*dotMost + 6 }

// Tint is the tint of a community by its number.
func Tint(community int) int { return community%tints + 1 }

// NetworkNode is what is drawn of a node beside the node itself.
type NetworkNode struct {
	Href, Get string // where it leads, and what htmx asks for
	Adopted   bool   // the brief has it
}

// Terms draws a network that has been laid out. pages is how many pages there are, says puts
// what a node is into words for those who do not see it.
func Terms(in *words.Words, n *network.Network, pages int, of func(network.Node) NetworkNode, says func(network.Node) string) template.HTML {
	var b strings.Builder
	fmt.Fprintf(&b, `<svg class="term-network" viewBox="0 0 %.0f %.0f" role="group" aria-label="%s">`, n.Width, n.Height, template.HTMLEscapeString(in.Look("terms that stand together; the same as the table below")))
	for c, g := range n.Communities {
		fmt.Fprintf(&b, `<g class="net-tint tint-%d" aria-hidden="true">`, Tint(c))
		for _, i := range g.Nodes {
			node := n.Nodes[i]
			w := math.Max(NetworkLabel(node)/2, tintRadius)
			fmt.Fprintf(&b, `<ellipse cx="%.1f" cy="%.1f" rx="%.1f" ry="%d"/>`, node.X, node.Y, w+6, tintRadius-8)
		}
		b.WriteString(`</g>`)
	}
	b.WriteString(`<g class="net-links" aria-hidden="true">`)
	for _, l := range n.Links {
		x, y := n.Nodes[l.A], n.Nodes[l.B]
		class := ""
		if !x.Field || !y.Field {
			class = ` class="asked"`
		}
		fmt.Fprintf(&b, `<line%s data-a="%d" data-b="%d" x1="%.1f" y1="%.1f" x2="%.1f" y2="%.1f" stroke-width="%.1f"/>`, class, l.A, l.B, x.X, x.Y, y.X, y.Y, math.Max(0.6, (l.LogDice-6)/4))
	}
	b.WriteString(`</g>`)
	lead := map[int]bool{}
	for _, g := range n.Communities {
		lead[g.Lead] = true
	}
	for i, node := range n.Nodes {
		to := of(node)
		class := "net-node"
		if lead[i] {
			class += " lead"
		}
		if to.Adopted {
			class += " adopted"
		}
		if !node.Field {
			class += " asked"
		}
		size := textWidth(node.Text) * 1.12
		if lead[i] {
			size *= emphasis
		}
		r := dotLeast + (dotMost-dotLeast)*math.Sqrt(float64(node.Pages)/math.Max(float64(pages), 1))
		left := node.X - (size+2*r+4)/2
		open, shut := fmt.Sprintf(`<g class="%s" data-node="%d">`, class, i), `</g>`
		if to.Href != "" {
			open = fmt.Sprintf(`<a class="%s" data-node="%d" href="%s" hx-get="%s" hx-target="#pane" hx-swap="innerHTML" data-open aria-label="%s">`, class, i, template.HTMLEscapeString(to.Href), template.HTMLEscapeString(to.Get), template.HTMLEscapeString(says(node)))
			shut = `</a>`
		}
		b.WriteString(open)
		if node.Field {
			fmt.Fprintf(&b, `<circle cx="%.1f" cy="%.1f" r="%.1f"/>`, left+r, node.Y, r)
		} else {
			fmt.Fprintf(&b, `<rect x="%.1f" y="%.1f" width="6" height="6"/>`, left+r-3, node.Y-3)
		}
		fmt.Fprintf(&b, `<text x="%.1f" y="%.1f">%s</text>`, left+2*r+4, node.Y+4.5, template.HTMLEscapeString(node.Text))
		if node.Searched > 0 && node.Field {
			fmt.Fprintf(&b, `<path class="searched" d="M%.1f %.1fh%.1f"/>`, left+2*r+4, node.Y+9, size)
		}
		b.WriteString(shut)
	}
	b.WriteString(`</svg>`)
	return template.HTML(b.String())
}
