//go:build !linux

package gather

// boundMemory does nothing here; see bound_linux.go.
func boundMemory(uint64) {}
