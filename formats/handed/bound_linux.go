package handed

import (
	"errors"
	"os/exec"
	"syscall"
)

// bound holds this process to so many bytes of data of its own and seconds of computing. Where
// that is not allowed it goes on unbounded. Data are what counts (setrlimit(2), RLIMIT_DATA): of
// addresses Go reserves far more than it uses.
func bound(bytes, seconds uint64) {
	_ = syscall.Setrlimit(syscall.RLIMIT_DATA, &syscall.Rlimit{Cur: bytes, Max: bytes})
	_ = syscall.Setrlimit(syscall.RLIMIT_CPU, &syscall.Rlimit{Cur: seconds, Max: seconds})
}

// overtime tells whether a process was ended by the system, which does so when it has computed for
// too long.
func overtime(ended error) bool {
	var exit *exec.ExitError
	if !errors.As(ended, &exit) {
		return false
	}
	status, ok := exit.Sys().(syscall.WaitStatus)
	return ok && status.Signaled() && status.Signal() == syscall.SIGKILL
}
