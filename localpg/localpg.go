// Package localpg runs a private PostgreSQL cluster on loopback, for the demo
// and the tests. A real installation has its own server and never uses this.
package localpg

import (
	"context"
	"errors"
	"fmt"
	"net"
	"os"
	"os/exec"
	"os/user"
	"path/filepath"
	"runtime"
	"strconv"
	"strings"
	"syscall"
	"time"
)

// Cluster is a running server. Stop it when done.
type Cluster struct {
	dir    string
	port   int
	tools  string
	cred   *syscall.Credential
	with   []string // settings as the server takes them, "name=value"
	cmd    *exec.Cmd
	exited chan error
}

// ErrNoPostgres says that Debian's server package is missing.
var ErrNoPostgres = errors.New("PostgreSQL's server programs are not installed; `make deps` installs Debian's package postgresql, or set DATABASE_URL to a server of your own")

// Start makes a cluster in dir if there is none, and starts it on a free
// loopback port. As root it runs the server as the user postgres, since
// PostgreSQL refuses to run as root; dir must then be reachable for that user.
// A cluster in dir that a killed run left running is stopped first. Settings
// are given as "name=value", for example "fsync=off" for data nobody will miss.
func Start(ctx context.Context, dir string, settings ...string) (*Cluster, error) {
	tools, err := findTools()
	if err != nil {
		return nil, err
	}
	c := &Cluster{dir: dir, tools: tools, with: settings, exited: make(chan error, 1)}
	if err := c.prepareOwner(); err != nil {
		return nil, err
	}
	if _, err := os.Stat(filepath.Join(dir, "PG_VERSION")); err != nil {
		if err := c.initialise(ctx); err != nil {
			return nil, err
		}
	}
	if err := c.stopLeftover(ctx); err != nil {
		return nil, err
	}
	if err := c.launch(ctx); err != nil {
		return nil, err
	}
	return c, nil
}

// URL is the address of a database of the cluster.
func (c *Cluster) URL(database string) string {
	return fmt.Sprintf("postgres://corpulan@127.0.0.1:%d/%s?sslmode=disable", c.port, database)
}

// Dir is where the cluster's data lie.
func (c *Cluster) Dir() string { return c.dir }

// Stop shuts the server down and waits until it has ended. Stopping twice is
// no error.
func (c *Cluster) Stop() error {
	if c.cmd == nil {
		return nil
	}
	cmd := c.cmd
	c.cmd = nil
	// SIGINT is PostgreSQL's fast shutdown: open sessions are ended, nothing is lost.
	if err := cmd.Process.Signal(syscall.SIGINT); err != nil && !errors.Is(err, os.ErrProcessDone) {
		return fmt.Errorf("stopping PostgreSQL: %w", err)
	}
	select {
	case <-c.exited:
		return nil
	case <-time.After(20 * time.Second):
		_ = cmd.Process.Signal(syscall.SIGQUIT)
		<-c.exited
		return errors.New("PostgreSQL did not stop within 20 seconds and was ended at once; it recovers at the next start")
	}
}

// Restart stops the server and starts it again at the same address, after a
// pause in which it is away.
func (c *Cluster) Restart(ctx context.Context, away time.Duration) error {
	if err := c.Stop(); err != nil {
		return err
	}
	select {
	case <-time.After(away):
	case <-ctx.Done():
		return ctx.Err()
	}
	return c.launchOnce(ctx)
}

// findTools looks for the folder with initdb and postgres: where Debian puts
// them, the newest version first, then on PATH.
func findTools() (string, error) {
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

// prepareOwner makes the folder and, as root, gives it to the user postgres.
func (c *Cluster) prepareOwner() error {
	if err := os.MkdirAll(c.dir, 0o700); err != nil {
		return fmt.Errorf("making the database's folder: %w", err)
	}
	if os.Geteuid() != 0 {
		return nil
	}
	u, err := user.Lookup("postgres")
	if err != nil {
		return fmt.Errorf("started by root, PostgreSQL needs the user postgres: %w", err)
	}
	uid, _ := strconv.Atoi(u.Uid)
	gid, _ := strconv.Atoi(u.Gid)
	c.cred = &syscall.Credential{Uid: uint32(uid), Gid: uint32(gid)}
	if err := os.Chown(c.dir, uid, gid); err != nil {
		return fmt.Errorf("giving the database's folder to postgres: %w", err)
	}
	if err := c.command(context.Background(), "/usr/bin/test", "-w", c.dir).Run(); err != nil {
		return fmt.Errorf("the user postgres cannot reach %s; choose another folder with CORPULAN_DATA", c.dir)
	}
	return nil
}

// command prepares a program to run as the cluster's owner.
func (c *Cluster) command(ctx context.Context, name string, args ...string) *exec.Cmd {
	cmd := exec.CommandContext(ctx, name, args...)
	cmd.Dir = "/"
	cmd.SysProcAttr = &syscall.SysProcAttr{Credential: c.cred}
	return cmd
}

func (c *Cluster) initialise(ctx context.Context) error {
	out, err := c.command(ctx, filepath.Join(c.tools, "initdb"), "-D", c.dir, "-U", "corpulan",
		"--auth=trust", "--encoding=UTF8", "--locale=C.UTF-8", "--no-sync").CombinedOutput()
	if err != nil {
		return fmt.Errorf("making a PostgreSQL cluster in %s: %w\n%s", c.dir, err, out)
	}
	return nil
}

// stopLeftover ends a server that a killed run left behind on this folder. A
// stale lock without a server is PostgreSQL's own to recover.
func (c *Cluster) stopLeftover(ctx context.Context) error {
	if _, err := os.Stat(filepath.Join(c.dir, "postmaster.pid")); err != nil {
		return nil
	}
	pgctl := filepath.Join(c.tools, "pg_ctl")
	if c.command(ctx, pgctl, "-D", c.dir, "status").Run() != nil {
		return nil
	}
	if out, err := c.command(ctx, pgctl, "-D", c.dir, "-m", "fast", "-w", "-t", "30", "stop").CombinedOutput(); err != nil {
		return fmt.Errorf("stopping the PostgreSQL that an earlier run left in %s: %w\n%s", c.dir, err, out)
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
	var log strings.Builder
	// The server is not bound to ctx: Stop ends it in good order.
	args := []string{"-D", c.dir}
	for _, s := range append([]string{"listen_addresses=127.0.0.1", "port=" + strconv.Itoa(c.port), "unix_socket_directories=",
		"max_connections=200", "shared_buffers=64MB", "log_min_messages=fatal", "logging_collector=off"}, c.with...) {
		args = append(args, "-c", s)
	}
	cmd := c.command(context.WithoutCancel(ctx), filepath.Join(c.tools, "postgres"), args...)
	cmd.SysProcAttr.Setpgid = true // a Ctrl-C at the terminal reaches us, and we stop the server
	cmd.SysProcAttr.Pdeathsig = syscall.SIGINT
	cmd.Stderr = &log
	started := make(chan error, 1)
	go func() {
		// Pdeathsig fires when the thread that started the child ends, so this one stays.
		runtime.LockOSThread()
		defer runtime.UnlockOSThread()
		if err := cmd.Start(); err != nil {
			started <- err
			return
		}
		started <- nil
		c.exited <- cmd.Wait()
	}()
	if err := <-started; err != nil {
		return fmt.Errorf("starting PostgreSQL: %w", err)
	}
	c.cmd = cmd
	deadline := time.Now().Add(60 * time.Second)
	for {
		ready := c.command(ctx, filepath.Join(c.tools, "pg_isready"), "-q", "-h", "127.0.0.1", "-p", strconv.Itoa(c.port))
		if ready.Run() == nil {
			return nil
		}
		select {
		case err := <-c.exited:
			c.cmd = nil
			return fmt.Errorf("PostgreSQL ended at once: %v\n%s", err, log.String())
		case <-ctx.Done():
			_ = c.Stop()
			return ctx.Err()
		case <-time.After(30 * time.Millisecond):
		}
		if time.Now().After(deadline) {
			_ = c.Stop()
			return errors.New("PostgreSQL did not answer within 60 seconds")
		}
	}
}

func freePort() (int, error) {
	l, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		return 0, fmt.Errorf("finding a free port: %w", err)
	}
	defer l.Close()
	return l.Addr().(*net.TCPAddr).Port, nil
}
