package main

import (
	"fmt"
	"io"
	"math"
	"slices"
	"strings"

	"corpulan/core/corpus"
	"corpulan/core/themes"

	"gonum.org/v1/gonum/mat"
)

// lesson is what one labelled field teaches: the traits of pairs of sections, and whether they treat one
// matter.
type lesson struct {
	field  string
	traits []themes.Judge
	same   []bool
}

func lessonOf(name string, c *corpus.Field, labels map[heading]string) lesson {
	l := lesson{field: name}
	for x := range themes.Examples(c) {
		a, b := labels[heading{x.A.Rank, foldHeading(x.A.Text)}], labels[heading{x.B.Rank, foldHeading(x.B.Text)}]
		if a != "" && b != "" {
			l.traits, l.same = append(l.traits, x.Traits), append(l.same, a == b)
		}
	}
	return l
}

// How a judge is taught: rounds of Newton's method, which settle well before; what large weights cost. Our own.
const (
	rounds = 30
	ridge  = 1.0
	eachIs = 3000 // pairs that each field counts for, whatever it has
)

// example is one thing to judge: its traits, the first of which is always 1, and whether it is so.
type example struct {
	traits []float64
	yes    bool
	weight float64
}

// regress gives the weights of traits by which examples are judged best: logistic regression by iteratively
// reweighted least squares, with a ridge (le Cessie & van Houwelingen 1992).
func regress(k int, examples []example) []float64 {
	judge := make([]float64, k)
	for range rounds {
		hessian, gradient := mat.NewSymDense(k, nil), mat.NewVecDense(k, nil)
		for _, x := range examples {
			z := 0.0
			for a, v := range x.traits {
				z += judge[a] * v
			}
			p, y := 1/(1+math.Exp(-z)), 0.0
			if x.yes {
				y = 1
			}
			for a, v := range x.traits {
				if v == 0 {
					continue
				}
				gradient.SetVec(a, gradient.AtVec(a)+x.weight*(y-p)*v)
				for b := a; b < k; b++ {
					hessian.SetSym(a, b, hessian.At(a, b)+x.weight*p*(1-p)*v*x.traits[b])
				}
			}
		}
		for a := 1; a < k; a++ {
			hessian.SetSym(a, a, hessian.At(a, a)+ridge)
			gradient.SetVec(a, gradient.AtVec(a)-ridge*judge[a])
		}
		var step mat.VecDense
		if err := step.SolveVec(hessian, gradient); err != nil {
			panic(err) // the ridge keeps it from being singular
		}
		for a := range judge {
			judge[a] += step.AtVec(a)
		}
	}
	return judge
}

// taughtBy is the judge that some fields teach, one left out.
func taughtBy(lessons []lesson, without string) (judge themes.Judge) {
	var examples []example
	for _, l := range lessons {
		if l.field == without {
			continue
		}
		for i := range l.traits {
			examples = append(examples, example{l.traits[i][:], l.same[i], eachIs / float64(len(l.same))})
		}
	}
	copy(judge[:], regress(len(judge), examples))
	return judge
}

// lessonsOf are those of all labelled fields of a folder.
func lessonsOf(folder string) (lessons []lesson, err error) {
	err = eachField(folder, "themes.tsv", func(f field, dir string, c *corpus.Field) error {
		labels, err := f.readLabels(dir)
		if err == nil {
			lessons = append(lessons, lessonOf(f.name, c, labels))
		}
		return err
	})
	return lessons, err
}

// printJudge prints the judge that all fields teach, as core/themes has it.
func printJudge(w io.Writer, folder string) error {
	lessons, err := lessonsOf(folder)
	if err != nil {
		return err
	}
	var weights []string
	for _, v := range taughtBy(lessons, "") {
		weights = append(weights, fmt.Sprintf("%.2f", v))
	}
	names := make([]string, len(lessons))
	for i, l := range lessons {
		names[i] = l.field
	}
	slices.Sort(names)
	_, err = fmt.Fprintf(w, "%d fields (%s) teach\nvar Learned = Judge{%s}\n", len(names), strings.Join(names, ", "), strings.Join(weights, ", "))
	return err
}
