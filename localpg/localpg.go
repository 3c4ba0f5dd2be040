// Package localpg runs a private PostgreSQL cluster on loopback, for the demo
// and the tests. A real installation has its own server and never uses this.
//
// The program is no superuser of it: its role owns its databases and nothing
// more, and logs in with a password that only the starting user can read. The
// superuser has no password, so nobody can log in as that over TCP, and there
// is no socket; it was needed once, in single-user mode, to make the role.
package localpg

import (
	"context"
	"errors"
	"fmt"
	"os"
	"os/exec"
	"os/user"
	"path/filepath"
	"strconv"
	"strings"
	"sync"
	"syscall"
	"time"
)

// Cluster is a running server. Stop it when done.
type Cluster struct {
	dir      string
	port     int
	tools    string
	password string
	cred     *syscall.Credential
	with     []string // settings as the server takes them, "name=value"
	unlock   func()

	mu  sync.Mutex
	run *running // nil while it is stopped
}

// running is one run of the server.
type running struct {
	cmd  *exec.Cmd
	done chan struct{} // closed when the server has ended
	err  error         // then why
	log  lastLines
}

// Errors that callers tell apart; test with errors.Is.
var (
	// ErrNoPostgres says that Debian's server package is missing.
	ErrNoPostgres = errors.New("PostgreSQL's server programs are not installed; `make deps` installs Debian's package postgresql, or set DATABASE_URL to a server of your own")
	// ErrInUse says that another program runs the cluster.
	ErrInUse = errors.New("it is in use")
	// ErrForeign says that a folder holds something that this package did not make.
	ErrForeign = errors.New("it was not made by this program")
)

// role is what the program logs in as.
const role = "corpulan"

// Beside the folder of the server lie a lock and the password. They have their
// names from it.
func (c *Cluster) beside(what string) string { return c.dir + "." + what }

// Start makes a cluster in dir if there is none, and starts it on a free
// loopback port. As root it runs the server as the user postgres, since
// PostgreSQL refuses to run as root; dir must then be reachable for that user.
// One program at a time has a cluster: a second gets ErrInUse. A server that a
// killed run left behind on dir is stopped first. Settings are given as
// "name=value", for example "fsync=off" for data nobody will miss.
func Start(ctx context.Context, dir string, settings ...string) (*Cluster, error) {
	tools, err := BinFolder()
	if err != nil {
		return nil, err
	}
	c := &Cluster{dir: dir, tools: tools, with: settings}
	if err := c.prepareOwner(); err != nil {
		return nil, err
	}
	if c.unlock, err = lock(c.beside("lock")); err != nil {
		return nil, err
	}
	if err := c.bring(ctx); err != nil {
		c.unlock()
		return nil, err
	}
	return c, nil
}

func (c *Cluster) bring(ctx context.Context) error {
	made, err := os.ReadFile(c.beside("password"))
	switch _, there := os.Stat(filepath.Join(c.dir, "PG_VERSION")); {
	case there != nil:
		if err := c.initialise(ctx); err != nil {
			return err
		}
	case err != nil:
		return fmt.Errorf("there is a PostgreSQL cluster in %s, but no %s beside it: %w; move it away, or name another folder", c.dir, c.beside("password"), ErrForeign)
	default:
		c.password = strings.TrimSpace(string(made))
	}
	if err := c.stopLeftover(); err != nil {
		return err
	}
	return c.launch(ctx)
}

// Remove deletes the cluster in dir with what lies beside it, and nothing else.
// It fails with ErrInUse or ErrForeign; where there is none it does nothing.
func Remove(dir string) error {
	c := &Cluster{dir: dir}
	if _, err := os.Stat(dir); errors.Is(err, os.ErrNotExist) {
		return nil
	}
	if _, err := os.Stat(c.beside("password")); err != nil {
		return fmt.Errorf("%s cannot be deleted: %w", dir, ErrForeign)
	}
	unlock, err := lock(c.beside("lock"))
	if err != nil {
		return err
	}
	defer unlock()
	if err := c.stopLeftover(); err != nil {
		return err
	}
	if err := os.RemoveAll(dir); err != nil {
		return fmt.Errorf("deleting %s: %w", dir, err)
	}
	return os.Remove(c.beside("password"))
}

// URL is the address of a database of the cluster.
func (c *Cluster) URL(database string) string {
	return fmt.Sprintf("postgres://%s:%s@127.0.0.1:%d/%s?sslmode=disable", role, c.password, c.port, database)
}

// Died is closed when the server ends without having been stopped; Why then
// says what it said last.
func (c *Cluster) Died() <-chan struct{} {
	c.mu.Lock()
	defer c.mu.Unlock()
	if c.run == nil {
		return nil
	}
	return c.run.done
}

// Why is what a server that died said last.
func (c *Cluster) Why() string {
	c.mu.Lock()
	defer c.mu.Unlock()
	if c.run == nil {
		return ""
	}
	return strings.TrimSpace(fmt.Sprintf("%v %s", c.run.err, c.run.log.String()))
}

// Stop shuts the server down and waits until it has ended. Stopping twice is
// no error.
func (c *Cluster) Stop() error {
	err := c.halt()
	if c.unlock != nil {
		c.unlock()
		c.unlock = nil
	}
	return err
}

func (c *Cluster) halt() error {
	c.mu.Lock()
	run := c.run
	c.run = nil
	c.mu.Unlock()
	if run == nil {
		return nil
	}
	// SIGINT is PostgreSQL's fast shutdown: open sessions are ended, nothing is lost.
	if err := run.cmd.Process.Signal(syscall.SIGINT); err != nil && !errors.Is(err, os.ErrProcessDone) {
		return fmt.Errorf("stopping PostgreSQL: %w", err)
	}
	select {
	case <-run.done:
		return nil
	case <-time.After(20 * time.Second):
		_ = run.cmd.Process.Signal(syscall.SIGQUIT)
		<-run.done
		return errors.New("PostgreSQL did not stop within 20 seconds and was ended at once; it recovers at the next start")
	}
}

// Restart stops the server and starts it again at the same address, after a
// pause in which it is away.
func (c *Cluster) Restart(ctx context.Context, away time.Duration) error {
	if err := c.halt(); err != nil {
		return err
	}
	select {
	case <-time.After(away):
	case <-ctx.Done():
		return ctx.Err()
	}
	return c.launchOnce(ctx)
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
	if !c.reachable() {
		return fmt.Errorf("the user postgres cannot reach %s: %w", c.dir, ErrUnreachable)
	}
	return nil
}

// ErrUnreachable says that the user postgres, as whom root runs the server,
// cannot reach a folder; see Reachable.
var ErrUnreachable = errors.New("a folder above it is closed to others")

func (c *Cluster) reachable() bool {
	return c.command(context.Background(), "/usr/bin/test", "-w", c.dir).Run() == nil
}

// Reachable tells whether the server could keep its data below a folder: always,
// but for root, where the user postgres must be able to get there.
func Reachable(dir string) bool {
	if os.Geteuid() != 0 {
		return true
	}
	u, err := user.Lookup("postgres")
	if err != nil {
		return false
	}
	uid, _ := strconv.Atoi(u.Uid)
	gid, _ := strconv.Atoi(u.Gid)
	c := &Cluster{cred: &syscall.Credential{Uid: uint32(uid), Gid: uint32(gid)}}
	return c.command(context.Background(), "/usr/bin/test", "-x", dir).Run() == nil
}
