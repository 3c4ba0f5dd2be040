package main

import (
	"bufio"
	"context"
	"errors"
	"fmt"
	"io"
	"net"
	"os"
	"os/exec"
	"path/filepath"
	"strconv"
	"strings"
	"sync"
	"syscall"
	"time"

	"corpulan/localpg"
)

// machines are the processes of an installation.
type machines struct {
	dir, bin, database, webAddress string
	join                           string // path of the link for the first account

	disk string // where the database lies; a small disk of its own, where one is to run full

	mu      sync.Mutex
	cluster *localpg.Cluster
	serves  []*process
	works   []*process
}

// process is one of them, started again where it ends.
type process struct {
	args []string
	base string // of a serve
	cmd  *exec.Cmd
}

func startMachines(ctx context.Context, webAddress string, small bool) (*machines, error) {
	dir, err := localpg.TempDir()
	if err != nil {
		return nil, err
	}
	m := &machines{dir: dir, bin: filepath.Join(dir, "corpulan"), webAddress: webAddress}
	if out, err := exec.CommandContext(ctx, "go", "build", "-o", m.bin, "./cmd/corpulan").CombinedOutput(); err != nil {
		return nil, fmt.Errorf("building: %w\n%s", err, out)
	}
	m.disk = filepath.Join(dir, "disk")
	if err := os.Mkdir(m.disk, 0o755); err != nil {
		return nil, err
	}
	if small { // as root only
		if out, err := exec.CommandContext(ctx, "mount", "-t", "tmpfs", "-o", "size=1500m,mode=0755", "tmpfs", m.disk).CombinedOutput(); err != nil {
			return nil, fmt.Errorf("a small disk: %w: %s", err, out)
		}
	}
	if m.cluster, err = localpg.Start(ctx, filepath.Join(m.disk, "data"), "shared_buffers=1GB"); err != nil {
		return nil, err
	}
	if m.database, err = m.cluster.EnsureDatabase(ctx, "load"); err != nil {
		return nil, err
	}
	for range 2 {
		port, err := freePort()
		if err != nil {
			return nil, err
		}
		profiles, err := freePort()
		if err != nil {
			return nil, err
		}
		at := "127.0.0.1:" + port
		fmt.Printf("a serve at http://%s, its profiles at http://127.0.0.1:%s/debug/pprof/\n", at, profiles)
		m.serves = append(m.serves, &process{args: []string{"serve", "--workers", "0", "--listen", at, "--pprof", "127.0.0.1:" + profiles}, base: "http://" + at})
	}
	for range 3 {
		m.works = append(m.works, &process{args: []string{"work", "--workers", "8"}})
	}
	for _, p := range append(append([]*process{}, m.serves...), m.works...) {
		out, err := m.start(p)
		if err != nil {
			return nil, err
		}
		if err := m.ready(out); err != nil {
			return nil, err
		}
	}
	return m, nil
}

func freePort() (string, error) {
	l, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		return "", err
	}
	defer l.Close()
	return strconv.Itoa(l.Addr().(*net.TCPAddr).Port), nil
}

// start starts a process.
func (m *machines) start(p *process) (io.Reader, error) {
	cmd := exec.Command(m.bin, p.args...)
	cmd.Env = append(os.Environ(), "DATABASE_URL="+m.database, "CORPULAN_SEARCH=http://"+m.webAddress+"/search?q={searchTerms}&count={count}", "CORPULAN_SIMULATED_WEB="+m.webAddress, "CORPULAN_LOG_LEVEL=error")
	log, err := os.OpenFile(filepath.Join(m.dir, "log"), os.O_CREATE|os.O_APPEND|os.O_WRONLY, 0o644)
	if err != nil {
		return nil, err
	}
	defer log.Close()
	cmd.Stderr = log                                     // much is said while the database is away; kept beside it, and thrown away with it
	cmd.SysProcAttr = &syscall.SysProcAttr{Setsid: true} // as a service manager does
	out, err := cmd.StdoutPipe()
	if err != nil {
		return nil, err
	}
	if err := cmd.Start(); err != nil {
		return nil, err
	}
	m.mu.Lock()
	p.cmd = cmd
	m.mu.Unlock()
	return out, nil
}

// ready waits until a process says that it is.
func (m *machines) ready(out io.Reader) error {
	lines := bufio.NewScanner(out)
	for lines.Scan() {
		line := strings.TrimSpace(lines.Text())
		if _, path, ok := strings.Cut(line, "/join/"); ok { // each start makes a new one, and voids the last
			m.join = "/join/" + path
		}
		if strings.Contains(line, "is at ") || strings.HasPrefix(line, "Working") {
			go func() { _, _ = io.Copy(io.Discard, out) }() // ends with the process
			return nil
		}
	}
	return errors.New("a process did not start")
}

// bases are the addresses of the interface, in turns.
func (m *machines) bases() []string {
	m.mu.Lock()
	defer m.mu.Unlock()
	a, b := m.serves[0].base, m.serves[1].base
	if time.Now().UnixNano()%2 == 0 {
		a, b = b, a
	}
	return []string{a, b, a, b} // a proxy tries for some seconds; one that was killed is back in two
}

// kill ends a process at once, and starts it anew.
func (m *machines) kill(p *process) error {
	m.mu.Lock()
	cmd := p.cmd
	m.mu.Unlock()
	if err := cmd.Process.Kill(); err != nil && !errors.Is(err, os.ErrProcessDone) { // it may have ended by itself: a full disk
		return err
	}
	_ = cmd.Wait()
	out, err := m.start(p)
	if err != nil {
		return err
	}
	return m.ready(out)
}

// faults kills a process by turns, every twentieth of the time, and takes the database away for
// half a minute in the middle.
func (m *machines) faults(ctx context.Context, length time.Duration, s *seen) {
	all := append(append([]*process{}, m.serves...), m.works...)
	began, away := time.Now(), false
	for i := 0; ctx.Err() == nil; i++ {
		pause(ctx, length/20)
		if ctx.Err() != nil {
			return
		}
		if !away && time.Since(began) > length/2 {
			away = true
			fmt.Println("the database is stopped for 30 s")
			s.set(true)
			if err := m.cluster.Restart(context.WithoutCancel(ctx), 30*time.Second); err != nil {
				fmt.Println("starting the database:", err)
				return
			}
			pause(ctx, 3*time.Second)
			s.set(false)
			continue
		}
		p := all[i%len(all)]
		if err := m.kill(p); err != nil {
			fmt.Println("starting a process anew:", err)
		}
	}
}

// fillDisk lets the database's disk run full for twenty seconds. PostgreSQL refuses to write, and
// where it cannot write its log any more it stops; once there is room it is started, and recovers.
func (m *machines) fillDisk(ctx context.Context, s *seen) error {
	fmt.Println("the disk is full for 20 s")
	s.set(true)
	ballast := filepath.Join(m.disk, "ballast")
	f, err := os.Create(ballast)
	if err != nil {
		return err
	}
	block := make([]byte, 1<<20)
	for end := time.Now().Add(20 * time.Second); time.Now().Before(end); {
		if _, err := f.Write(block); err != nil {
			pause(ctx, 200*time.Millisecond) // what is freed meanwhile is taken, too
		}
	}
	if err := errors.Join(f.Close(), os.Remove(ballast)); err != nil {
		return err
	}
	pause(ctx, 2*time.Second)
	if _, err := m.cluster.EnsureDatabase(ctx, "load"); err != nil {
		fmt.Println("the database had stopped, and is started")
		if err := m.cluster.Restart(ctx, 0); err != nil {
			return err
		}
	}
	pause(ctx, 3*time.Second)
	s.set(false)
	return nil
}

// watch notes the resident memory of the serve processes and of the work processes in MB, every
// twenty seconds.
func (m *machines) watch(ctx context.Context) (memory [][2]int) {
	for ctx.Err() == nil {
		pause(ctx, 20*time.Second)
		var total [2]int
		m.mu.Lock()
		for i, p := range append(append([]*process{}, m.serves...), m.works...) {
			kind := 0
			if i >= len(m.serves) {
				kind = 1
			}
			status, err := os.ReadFile(fmt.Sprintf("/proc/%d/status", p.cmd.Process.Pid))
			if err != nil {
				continue
			}
			for line := range strings.Lines(string(status)) {
				if f := strings.Fields(line); len(f) > 1 && f[0] == "VmRSS:" {
					kb, _ := strconv.Atoi(f[1])
					total[kind] += kb >> 10
				}
			}
		}
		m.mu.Unlock()
		memory = append(memory, total)
	}
	return memory
}

// restore dumps the database while everything runs, restores it under another name, starts a
// process on the copy, and looks there for what people wrote.
func (m *machines) restore(ctx context.Context, people []*person) error {
	bin, err := localpg.BinFolder()
	if err != nil {
		return err
	}
	began := time.Now()
	dump := filepath.Join(m.dir, "load.dump")
	if out, err := exec.CommandContext(ctx, filepath.Join(bin, "pg_dump"), "--format", "custom", "--compress", "1", "--file", dump, m.database).CombinedOutput(); err != nil {
		return fmt.Errorf("pg_dump: %w: %s", err, out)
	}
	copied, err := m.cluster.EnsureDatabase(ctx, "load_again")
	if err != nil {
		return err
	}
	if out, err := exec.CommandContext(ctx, filepath.Join(bin, "pg_restore"), "--no-owner", "--jobs", "2", "--dbname", copied, dump).CombinedOutput(); err != nil {
		return fmt.Errorf("pg_restore: %w: %s", err, out)
	}
	fmt.Printf("dumped and restored in %v\n", time.Since(began).Round(time.Second))
	m.mu.Lock()
	m.database = copied
	m.mu.Unlock()
	for _, p := range append(append([]*process{}, m.serves...), m.works...) {
		if err := m.kill(p); err != nil {
			return err
		}
	}
	for i, p := range people {
		if !p.kept(ctx) {
			return fmt.Errorf("what person %d wrote is not in it", i)
		}
	}
	return nil
}

func (m *machines) stop() {
	for _, p := range append(append([]*process{}, m.serves...), m.works...) {
		if p.cmd != nil {
			_ = p.cmd.Process.Signal(syscall.SIGTERM)
			_ = p.cmd.Wait()
		}
	}
	_ = m.cluster.Stop()
	_ = exec.Command("umount", m.disk).Run() // where it is a disk of its own
	_ = os.RemoveAll(m.dir)
}
