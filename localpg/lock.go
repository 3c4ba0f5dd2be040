package localpg

import (
	"errors"
	"fmt"
	"os"
	"path/filepath"
	"strconv"
	"strings"
	"syscall"
	"time"
)

// lock takes a file for this process, until it ends or gives it back. The file
// says whose it is.
func lock(name string) (unlock func(), err error) {
	f, err := os.OpenFile(name, os.O_RDWR|os.O_CREATE, 0o644)
	if err != nil {
		return nil, fmt.Errorf("locking the database's folder: %w", err)
	}
	if err := syscall.Flock(int(f.Fd()), syscall.LOCK_EX|syscall.LOCK_NB); err != nil {
		whose, _ := os.ReadFile(name)
		_ = f.Close()
		return nil, fmt.Errorf("the database in %s is taken by process %s: %w", strings.TrimSuffix(name, ".lock"), strings.TrimSpace(string(whose)), ErrInUse)
	}
	_ = f.Truncate(0)
	_, _ = f.WriteAt([]byte(strconv.Itoa(os.Getpid())+"\n"), 0)
	return func() { _ = f.Close() }, nil
}

// stopLeftover ends a server that a killed run left behind on this folder. Its
// lock names a process, whose number may be another's by now: only one that
// works in this very folder is stopped. A lock without its server is taken away.
func (c *Cluster) stopLeftover() error {
	name := filepath.Join(c.dir, "postmaster.pid")
	content, err := os.ReadFile(name)
	if err != nil {
		return nil
	}
	first, _, _ := strings.Cut(string(content), "\n")
	pid, err := strconv.Atoi(strings.TrimSpace(first))
	if err != nil || !c.serves(pid) {
		return os.Remove(name)
	}
	if err := syscall.Kill(pid, syscall.SIGINT); err != nil && !errors.Is(err, syscall.ESRCH) {
		return fmt.Errorf("stopping the PostgreSQL that an earlier run left in %s: %w", c.dir, err)
	}
	for range 600 {
		if !c.serves(pid) {
			return nil
		}
		time.Sleep(50 * time.Millisecond)
	}
	return fmt.Errorf("the PostgreSQL that an earlier run left in %s (process %d) does not stop", c.dir, pid)
}

// serves tells whether a process is a PostgreSQL server on this folder: that is
// where such a server works.
func (c *Cluster) serves(pid int) bool {
	at, err := os.Readlink(fmt.Sprintf("/proc/%d/cwd", pid))
	if err != nil {
		return false
	}
	own, err := filepath.EvalSymlinks(c.dir)
	if err != nil {
		return false
	}
	own, _ = filepath.Abs(own)
	name, _ := os.ReadFile(fmt.Sprintf("/proc/%d/comm", pid))
	return at == own && strings.HasPrefix(string(name), "postgres")
}
