package brief

import "testing"

// BenchmarkCompose composes the proposal of three pages; an edit composes its brief twice.
func BenchmarkCompose(b *testing.B) {
	e := field(b, "a.example", "b.example", "c.example")
	for b.Loop() {
		Compose(e, Choices{}, Setting{})
	}
}
