package localpg

import (
	"context"
	"crypto/rand"
	"errors"
	"fmt"
	"net"
	"os"
	"os/exec"
	"path/filepath"
	"runtime"
	"strconv"
	"strings"
	"sync"
	"syscall"
	"time"
)

// BinFolder looks for the folder with initdb and postgres: where Debian puts
// them, the newest version first, then on PATH.
func BinFolder() (string, error) {
	versions, _ := filepath.Glob("/usr/lib/postgresql/*/bin/postgres")
	best, bestVersion := "", -1
	for _, p := range versions {
		v, err := strconv.Atoi(filepath.Base(filepath.Dir(filepath.Dir(p))))
		if err == nil && v > bestVersion {
			best, bestVersion = filepath.Dir(p), v
		}
	}
	if best != "" {
		return best, nil
	}
	if p, err := exec.LookPath("postgres"); err == nil {
		return filepath.Dir(p), nil
	}
	return "", ErrNoPostgres
}

// command prepares a program to run as the cluster's owner.
func (c *Cluster) command(ctx context.Context, name string, args ...string) *exec.Cmd {
	cmd := exec.CommandContext(ctx, name, args...)
	cmd.Dir = "/"
	cmd.SysProcAttr = &syscall.SysProcAttr{Credential: c.cred}
	return cmd
}

// initialise makes the cluster and, in single-user mode, the program's role.
func (c *Cluster) initialise(ctx context.Context) error {
	out, err := c.command(ctx, filepath.Join(c.tools, "initdb"), "-D", c.dir, "-U", "postgres",
		"--auth-local=reject", "--auth-host=scram-sha-256", "--encoding=UTF8", "--locale=C.UTF-8", "--no-sync").CombinedOutput()
	if err != nil {
		return fmt.Errorf("making a PostgreSQL cluster in %s: %w\n%s", c.dir, err, out)
	}
	c.password = rand.Text()
	single := c.command(ctx, filepath.Join(c.tools, "postgres"), "--single", "-D", c.dir, "-c", "log_min_messages=fatal", "postgres")
	single.Stdin = strings.NewReader("create role " + role + " login createdb password '" + c.password + "'\n")
	if out, err := single.CombinedOutput(); err != nil || strings.Contains(string(out), "ERROR") {
		return fmt.Errorf("making the program's role in %s: %w\n%s", c.dir, err, out)
	}
	// Last, since the cluster counts as made when it is there.
	if err := os.WriteFile(c.beside("password"), []byte(c.password+"\n"), 0o600); err != nil {
		return fmt.Errorf("keeping the database's password: %w", err)
	}
	return nil
}

// launch starts the server and waits until it answers. Another program may
// take the free port between finding and using it, so a few are tried.
func (c *Cluster) launch(ctx context.Context) error {
	var err error
	for range 3 {
		if c.port, err = freePort(); err != nil {
			return err
		}
		if err = c.launchOnce(ctx); err == nil || ctx.Err() != nil {
			return err
		}
	}
	return err
}

func (c *Cluster) launchOnce(ctx context.Context) error {
	// The server is not bound to ctx: Stop ends it in good order.
	args := []string{"-D", c.dir}
	for _, s := range append([]string{"listen_addresses=127.0.0.1", "port=" + strconv.Itoa(c.port), "unix_socket_directories=",
		"max_connections=200", "shared_buffers=64MB", "log_min_messages=fatal", "logging_collector=off"}, c.with...) {
		args = append(args, "-c", s)
	}
	run := &running{cmd: c.command(context.WithoutCancel(ctx), filepath.Join(c.tools, "postgres"), args...), done: make(chan struct{})}
	run.cmd.SysProcAttr.Setpgid = true // a Ctrl-C at the terminal reaches us, and we stop the server
	run.cmd.SysProcAttr.Pdeathsig = syscall.SIGINT
	run.cmd.Stderr = &run.log
	started := make(chan error, 1)
	go func() {
		// Pdeathsig fires when the thread that started the child ends, so this one stays.
		runtime.LockOSThread()
		defer runtime.UnlockOSThread()
		if err := run.cmd.Start(); err != nil {
			started <- err
			return
		}
		started <- nil
		run.err = run.cmd.Wait()
		close(run.done)
	}()
	if err := <-started; err != nil {
		return fmt.Errorf("starting PostgreSQL: %w", err)
	}
	c.mu.Lock()
	c.run = run
	c.mu.Unlock()
	deadline := time.Now().Add(60 * time.Second)
	for {
		ready := c.command(ctx, filepath.Join(c.tools, "pg_isready"), "-q", "-h", "127.0.0.1", "-p", strconv.Itoa(c.port))
		if ready.Run() == nil {
			return nil
		}
		select {
		case <-run.done:
			why := c.Why()
			_ = c.halt()
			return fmt.Errorf("PostgreSQL ended at once: %s", why)
		case <-ctx.Done():
			_ = c.halt()
			return ctx.Err()
		case <-time.After(30 * time.Millisecond):
		}
		if time.Now().After(deadline) {
			_ = c.halt()
			return errors.New("PostgreSQL did not answer within 60 seconds")
		}
	}
}

// lastLines keeps the end of what a server says.
type lastLines struct {
	mu   sync.Mutex
	text string
}

// Write implements io.Writer.
func (l *lastLines) Write(p []byte) (int, error) {
	l.mu.Lock()
	defer l.mu.Unlock()
	l.text += string(p)
	if len(l.text) > 4000 {
		l.text = l.text[len(l.text)-4000:]
	}
	return len(p), nil
}

func (l *lastLines) String() string {
	l.mu.Lock()
	defer l.mu.Unlock()
	return l.text
}

func freePort() (int, error) {
	l, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		return 0, fmt.Errorf("finding a free port: %w", err)
	}
	defer l.Close()
	return l.Addr().(*net.TCPAddr).Port, nil
}
