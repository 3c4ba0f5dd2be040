// Command corpulan reads pages, proposes content briefs, and serves the
// application. Run it without arguments for the list of its subcommands.
package main

import (
	"context"
	"errors"
	"flag"
	"fmt"
	"io"
	"os"
	"os/signal"
	"runtime/debug"
	"syscall"

	"corpulan/formats/handed"
)

// Exit codes of every subcommand.
const (
	exitDone     = 0
	exitFailed   = 1
	exitWrongUse = 2
)

// readsIn is the memory in bytes from which on a command that reads files looks harder for what it needs
// no more. Our own: below the 700 MB that any file of 8 MB may take.
const readsIn = 560 << 20

// errUse marks a call that cannot be taken; its text is for the person.
var errUse = errors.New("wrong use")

type command struct {
	name, synopsis, about string
	run                   func(ctx context.Context, args []string, io stdio) error
	reads                 bool // pages: it needs the word lists beside the program; serve and work find them by their settings
}

type stdio struct {
	in       io.Reader
	out, err io.Writer
}

func commands() []command {
	return []command{
		{"demo", "[--listen ADDRESS] [--data FOLDER] [--reset] [--database URL] [--delay DURATION]", "everything at once: a private PostgreSQL, a simulated web, the interface", runDemo, true},
		{"serve", "[--SETTING VALUE ...]", "the interface and its workers, on the database named in DATABASE_URL", runServe, false},
		{"work", "[--SETTING VALUE ...]", "workers alone, sharing the queue of DATABASE_URL with other processes", runWork, false},
		{"migrate", "", "bring the database in DATABASE_URL up to this program, and stop", runMigrate, false},
		{"settings", "", "the settings of serve, work, migrate and user, as a table", runSettings, false},
		{"user", "add EMAIL [--publication NAME] [--role owner|strategist|editor|reader] | reset EMAIL [--without-factor]  [--address URL]", "a link, good once, by which somebody becomes a member or sets a new password; on DATABASE_URL", runUser, false},
		{"read", "[--url ADDRESS] FILE...", "one JSON reading per line, for saved pages or - for standard input", runRead, true},
		{"brief", "--keyword K [--language en] [--format json|md|html|docx|pdf|xlsx|opml|prompt] [--out F] FILE... | --from BRIEF.json [--format ...]", "the brief the engine proposes by itself, FILES in rank order; or one handed over as JSON, in another form", runBrief, true},
		{"evidence", "--keyword K [--language en] [--results R.json] [--addresses F] FILE...", "the whole evidence as JSON; R.json is {\"asked\": [], \"related\": []}, F the files' addresses, one a line", runEvidence, true},
		{"check", "--brief BRIEF.json [--min N] DRAFT [--pages FILE...]", "the fit of a draft (.md, .html, .txt, .docx) and its closeness to pages, as JSON; with --min exit 1 below N", runCheck, true},
		{"group", "[--width 0..1] [--language en] [--results DIR] [--year YYYY] KEYWORDS", "keywords (CSV, TSV, XLSX) grouped into pages' worth, as JSON; DIR holds saved results pages named after their keywords", runGroup, true},
		{"compare", "--keyword K [--language en] [--results-before R.json] [--results-after R.json] OLD.warc NEW.warc", "what moved between two gatherings, their pages in rank order, as JSON; R.json is as with evidence", runCompare, true},
		{handed.Command, "", "what a file holds that was handed in, from standard input: the program calls it for itself, apart", runReadApart, true},
		{"version", "", "the version of this program", runVersion, false},
	}
}

func main() {
	ctx, stop := signal.NotifyContext(context.Background(), os.Interrupt, syscall.SIGTERM)
	context.AfterFunc(ctx, stop) // a second Ctrl-C ends the program at once
	code := run(ctx, os.Args[1:], stdio{os.Stdin, os.Stdout, os.Stderr})
	stop()
	os.Exit(code)
}

func run(ctx context.Context, args []string, std stdio) int {
	if len(args) == 0 || args[0] == "help" || args[0] == "--help" || args[0] == "-h" {
		if len(args) == 0 {
			usage(std.err)
			return exitWrongUse
		}
		usage(std.out)
		return exitDone
	}
	for _, c := range commands() {
		if c.name != args[0] {
			continue
		}
		var err error
		if c.reads {
			_, err = listsBeside("")
		}
		if c.reads && c.name != "demo" {
			debug.SetMemoryLimit(readsIn)
		}
		if err == nil {
			err = c.run(ctx, args[1:], std)
		}
		switch {
		case err == nil:
			return exitDone
		case errors.Is(err, flag.ErrHelp):
			fmt.Fprintf(std.out, "usage: corpulan %s %s\n%s\n", c.name, c.synopsis, c.about)
			return exitDone
		case errors.Is(err, errUse):
			fmt.Fprintf(std.err, "corpulan %s: %v\nusage: corpulan %s %s\n", c.name, err, c.name, c.synopsis)
			return exitWrongUse
		default:
			fmt.Fprintf(std.err, "corpulan %s: %v\n", c.name, err)
			return exitFailed
		}
	}
	fmt.Fprintf(std.err, "corpulan: there is no subcommand %q\n", args[0])
	usage(std.err)
	return exitWrongUse
}

// newFlags makes the flags of a subcommand; what they find wrong is said by run.
func newFlags(name string) *flag.FlagSet {
	flags := flag.NewFlagSet(name, flag.ContinueOnError)
	flags.SetOutput(io.Discard)
	return flags
}

// parse reads the flags; its error is wrong use, or flag.ErrHelp.
func parse(flags *flag.FlagSet, args []string) error {
	err := flags.Parse(args)
	if err == nil || errors.Is(err, flag.ErrHelp) {
		return err
	}
	return fmt.Errorf("%w: %v", errUse, err)
}

// interruptible runs f and returns when it does, or at once when ctx ends: f
// may wait for a pipe, or be deep in one page, and the program ends then anyway.
func interruptible(ctx context.Context, f func() error) error {
	done := make(chan error, 1)
	go func() { done <- f() }()
	select {
	case err := <-done:
		return err
	case <-ctx.Done():
		return errors.New("interrupted")
	}
}

func usage(w io.Writer) {
	fmt.Fprintln(w, "usage: corpulan SUBCOMMAND [arguments]")
	for _, c := range commands() {
		fmt.Fprintf(w, "  %-8s %s\n           %s\n", c.name, c.synopsis, c.about)
	}
}
