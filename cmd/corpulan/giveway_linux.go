package main

import (
	"os"
	"strconv"
	"syscall"

	"golang.org/x/sys/unix"
)

// workNice is how far workers stand back: people who look on go before them on the same machine.
// Our own.
const workNice = 19

// giveWay lowers the priority of this process: of each of its threads, since Linux knows no
// other, and threads that come are like those that make them. Where Linux shares processors among
// sessions first (autogroup, see sched(7)), that counts only within the own session; one that was
// started for this process alone, as a service is, is lowered as a whole, or the database would
// wait for it. Where that is not allowed everything goes on as it is.
func giveWay() {
	threads, err := os.ReadDir("/proc/self/task")
	if err != nil {
		return
	}
	for _, t := range threads {
		if id, err := strconv.Atoi(t.Name()); err == nil {
			_ = syscall.Setpriority(syscall.PRIO_PROCESS, id, workNice)
		}
	}
	if session, err := unix.Getsid(0); err == nil && session == os.Getpid() {
		_ = os.WriteFile("/proc/self/autogroup", []byte(strconv.Itoa(workNice)), 0)
	}
}
