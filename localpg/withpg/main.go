// Command withpg runs another command with a private PostgreSQL beside it: one
// cluster for a whole run of the tests, named in CORPULAN_TEST_PG. Its exit
// code is the command's.
package main

import (
	"context"
	"errors"
	"fmt"
	"os"
	"os/exec"
	"os/signal"
	"syscall"

	"corpulan/localpg"
)

func main() {
	if len(os.Args) < 2 {
		fmt.Fprintln(os.Stderr, "usage: withpg COMMAND [argument...]")
		os.Exit(2)
	}
	code, err := run(os.Args[1:])
	if err != nil {
		fmt.Fprintln(os.Stderr, "withpg:", err)
	}
	os.Exit(code)
}

func run(args []string) (int, error) {
	ctx, stop := signal.NotifyContext(context.Background(), os.Interrupt, syscall.SIGTERM)
	defer stop()
	dir, err := localpg.TempDir()
	if err != nil {
		return 1, err
	}
	defer os.RemoveAll(dir)
	cluster, err := localpg.Start(ctx, dir+"/data", "fsync=off")
	if err != nil {
		return 1, err
	}
	cmd := exec.CommandContext(ctx, args[0], args[1:]...)
	cmd.Cancel = func() error { return cmd.Process.Signal(syscall.SIGTERM) }
	cmd.Stdin, cmd.Stdout, cmd.Stderr = os.Stdin, os.Stdout, os.Stderr
	cmd.Env = append(os.Environ(), "CORPULAN_TEST_PG="+cluster.URL("postgres"))
	runErr := cmd.Run()
	if err := cluster.Stop(); err != nil {
		fmt.Fprintln(os.Stderr, "withpg:", err)
	}
	var exit *exec.ExitError
	switch {
	case runErr == nil:
		return 0, nil
	case errors.As(runErr, &exit):
		return max(exit.ExitCode(), 1), nil
	}
	return 1, runErr
}
