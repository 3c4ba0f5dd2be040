//go:build !linux

package pdf

// boundMemory does nothing here; see bound_linux.go.
func boundMemory(uint64) {}
