package themes

import "corpulan/core/stats"

// matrix is a symmetric one, of what sections are to each other.
type matrix struct {
	n     int
	cells []float32
}

func newMatrix(n int) *matrix { return &matrix{n, make([]float32, n*n)} }

func (m *matrix) at(i, j int) float64 { return float64(m.cells[i*m.n+j]) }

func (m *matrix) put(i, j int, v float64) {
	m.cells[i*m.n+j], m.cells[j*m.n+i] = float32(v), float32(v)
}

func (m *matrix) row(i int) []float32 { return m.cells[i*m.n : (i+1)*m.n] }

// cosinesOf are the cosines of vectors to each other, the diagonal 0.
func cosinesOf(vectors []stats.Vector) *matrix {
	m := newMatrix(len(vectors))
	stats.EachCosine(vectors, m.put)
	return m
}
