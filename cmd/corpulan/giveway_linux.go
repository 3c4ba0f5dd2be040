package main

import (
	"os"
	"strconv"
	"syscall"
)

// workNice is how far workers stand back: people who look on go before them on the same machine.
// Our own.
const workNice = 10

// giveWay lowers the priority of this process: of each of its threads, since Linux knows no
// other, and threads that come are like those that make them. Where that is not allowed
// everything goes on as it is.
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
}
