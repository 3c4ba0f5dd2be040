package network

import (
	"math"
	"slices"
)

// Measures of the layout. Our own.
const (
	spring  = 110. // length of a link, in units of the drawing
	wide    = 1.7  // how much wider than high a drawing is
	rounds  = 400
	gapX    = 10. // between labels
	gapY    = 5.
	lineOf  = 20. // height of a label
	margin  = 30.
	cohere  = 0.06  // how strongly a community draws its nodes together
	page    = 1150. // width of a drawing of many labels, before they are moved apart
	leaf    = 560.  // and its height
	many    = 50.
	spread  = 0.7      // how far apart communities begin
	coil    = 0.55     // of a link's length, between the turns of the spiral they begin on
	golden  = 2.399963 // the golden angle, in radians (Vogel 1979)
	drawn   = 0.8      // power by which distances from the middle are drawn in
	fewest  = 0.35     // of the room for many labels that a few have at least
	nudge   = 0.01     // beyond what parts two labels
	narrow  = 600.     // width of a drawing at least
	pushes  = 400
	grows   = 1.04
	tickets = 200
)

// Lay gives every node its place: by the forces of Fruchterman & Reingold (1991), from a fixed
// beginning, with a pull to the middle of each community; then labels are moved apart until no
// two collide. width tells how wide a label is drawn. Nodes that stand with no other are ranged
// in lines below. The same network is laid out the same, to the byte.
func (n *Network) Lay(width func(Node) float64) {
	var in []int
	for i := range n.Nodes {
		if n.Nodes[i].Community >= 0 {
			in = append(in, i)
		}
	}
	x, y := make([]float64, len(n.Nodes)), make([]float64, len(n.Nodes))
	n.begin(x, y)
	n.forces(in, x, y)
	half := make([]float64, len(n.Nodes))
	for i, node := range n.Nodes {
		half[i] = width(node)/2 + gapX
	}
	fit(in, x, y)
	apart(in, x, y, half)
	n.frame(in, x, y, half)
}

// begin puts communities on an ellipse and their nodes on a spiral about each, the lead in the
// middle.
func (n *Network) begin(x, y []float64) {
	radius := spring * math.Sqrt(float64(len(n.Nodes))) * spread
	for c, g := range n.Communities {
		a := 2 * math.Pi * float64(c) / float64(len(n.Communities))
		cx, cy := radius*wide*math.Cos(a), radius*math.Sin(a)
		if len(n.Communities) == 1 {
			cx, cy = 0, 0
		}
		at := 0
		for _, i := range slices.Concat([]int{g.Lead}, slices.DeleteFunc(slices.Clone(g.Nodes), func(i int) bool { return i == g.Lead })) {
			r, turn := spring*coil*math.Sqrt(float64(at)), golden*float64(at)
			x[i], y[i] = cx+r*math.Cos(turn), cy+r*math.Sin(turn)
			at++
		}
	}
}

func (n *Network) forces(in []int, x, y []float64) {
	dx, dy := make([]float64, len(x)), make([]float64, len(y))
	for round := range rounds {
		heat := spring * (1 - float64(round)/rounds)
		for _, i := range in {
			dx[i], dy[i] = 0, 0
		}
		for k, i := range in {
			for _, j := range in[k+1:] {
				vx, vy := (x[i]-x[j])/wide, y[i]-y[j]
				d2 := math.Max(vx*vx+vy*vy, nudge)
				f := spring * spring / d2
				dx[i], dy[i], dx[j], dy[j] = dx[i]+vx*f, dy[i]+vy*f, dx[j]-vx*f, dy[j]-vy*f
			}
		}
		for _, l := range n.Links {
			vx, vy := (x[l.A]-x[l.B])/wide, y[l.A]-y[l.B]
			f := math.Sqrt(vx*vx+vy*vy) / spring
			dx[l.A], dy[l.A], dx[l.B], dy[l.B] = dx[l.A]-vx*f, dy[l.A]-vy*f, dx[l.B]+vx*f, dy[l.B]+vy*f
		}
		for _, g := range n.Communities {
			mx, my := float64(0), float64(0)
			for _, i := range g.Nodes {
				mx, my = mx+x[i], my+y[i]
			}
			mx, my = mx/float64(len(g.Nodes)), my/float64(len(g.Nodes))
			for _, i := range g.Nodes {
				dx[i], dy[i] = dx[i]+(mx-x[i])*cohere*8, dy[i]+(my-y[i])*cohere*8
				dx[i], dy[i] = dx[i]-x[i]*cohere/2, dy[i]-y[i]*cohere // all keep to the middle
			}
		}
		for _, i := range in {
			if d := math.Sqrt(dx[i]*dx[i] + dy[i]*dy[i]); d > 0 {
				step := math.Min(d, heat)
				x[i], y[i] = x[i]+dx[i]/d*step*wide, y[i]+dy[i]/d*step
			}
		}
	}
}

// fit brings the nodes into a drawing as large as so many labels need. Distances from the middle
// are drawn in a little, so that what lies far out does not press the rest together.
func fit(in []int, x, y []float64) {
	if len(in) < 2 {
		return
	}
	squeeze := func(v []float64, size float64) {
		low, high := math.Inf(1), math.Inf(-1)
		for _, i := range in {
			low, high = math.Min(low, v[i]), math.Max(high, v[i])
		}
		middle, reach := (low+high)/2, math.Max((high-low)/2, 1)
		for _, i := range in {
			d := (v[i] - middle) / reach
			v[i] = math.Copysign(math.Pow(math.Abs(d), drawn), d) * size / 2
		}
	}
	room := math.Max(math.Sqrt(float64(len(in))/many), fewest)
	squeeze(x, page*math.Sqrt(room))
	squeeze(y, leaf*room*math.Sqrt(room))
}

// apart moves labels that collide away from each other, each pair along the way that is shorter;
// where that finds no end everything is spread a little, and begun again.
func apart(in []int, x, y, half []float64) {
	const tall = lineOf/2 + gapY
	for range tickets {
		for range pushes {
			hit := false
			for k, i := range in {
				for _, j := range in[k+1:] {
					ox, oy := half[i]+half[j]-gapX-math.Abs(x[i]-x[j]), 2*tall-gapY-math.Abs(y[i]-y[j])
					if ox <= 0 || oy <= 0 {
						continue
					}
					hit = true
					if oy <= ox {
						s := math.Copysign(oy/2+nudge, y[i]-y[j])
						y[i], y[j] = y[i]+s, y[j]-s
					} else {
						s := math.Copysign(ox/2+nudge, x[i]-x[j])
						x[i], x[j] = x[i]+s, x[j]-s
					}
				}
			}
			if !hit {
				return
			}
		}
		for _, i := range in {
			x[i], y[i] = x[i]*grows, y[i]*grows
		}
	}
}

// frame moves everything into a drawing that begins at 0, and ranges the nodes that stand with
// none below it.
func (n *Network) frame(in []int, x, y, half []float64) {
	left, right, top, bottom := float64(0), float64(narrow), float64(0), float64(0)
	if len(in) > 0 {
		left, right, top, bottom = math.Inf(1), math.Inf(-1), math.Inf(1), math.Inf(-1)
		for _, i := range in {
			left, right = math.Min(left, x[i]-half[i]), math.Max(right, x[i]+half[i])
			top, bottom = math.Min(top, y[i]-lineOf), math.Max(bottom, y[i]+lineOf)
		}
	}
	n.Width = math.Max(right-left, narrow) + 2*margin
	middle := (n.Width - 2*margin - (right - left)) / 2
	tenth := func(v float64) float64 { return math.Round(v*10) / 10 }
	for _, i := range in {
		n.Nodes[i].X, n.Nodes[i].Y = tenth(x[i]-left+margin+middle), tenth(y[i]-top+margin)
	}
	at, line := margin, bottom-top+2*margin+lineOf
	alone := false
	for i := range n.Nodes {
		if n.Nodes[i].Community >= 0 {
			continue
		}
		if at+2*half[i] > n.Width-margin && at > margin {
			at, line = margin, line+lineOf+2*gapY
		}
		n.Nodes[i].X, n.Nodes[i].Y = tenth(at+half[i]), tenth(line)
		at += 2 * half[i]
		alone = true
	}
	n.Width, n.Height = tenth(n.Width), tenth(bottom-top+2*margin)
	if alone {
		n.Height = tenth(line + margin)
	}
}
