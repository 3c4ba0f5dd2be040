package pdf

import (
	"syscall"
)

// boundMemory bounds the address space of this process. Where that is not allowed it goes on
// unbounded.
func boundMemory(bytes uint64) {
	_ = syscall.Setrlimit(syscall.RLIMIT_AS, &syscall.Rlimit{Cur: bytes, Max: bytes})
}
