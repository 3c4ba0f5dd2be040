package main

import (
	"context"
	"errors"
	"flag"
	"fmt"
	"log/slog"
	"os"
	"slices"
	"strings"

	"corpulan/store"
	"corpulan/study"
)

// runUser makes links by which people come in, for whoever runs the program.
func runUser(ctx context.Context, args []string, std stdio) error {
	flags := newFlags("user")
	publication := flags.String("publication", "Quillfen Cycles", "")
	role := flags.String("role", string(store.Owner), "")
	address := flags.String("address", "http://localhost:8080", "where the program is, for the link")
	if len(args) > 0 && slices.Contains([]string{"-h", "-help", "--help"}, args[0]) {
		return flag.ErrHelp
	}
	if len(args) < 2 {
		return fmt.Errorf("%w: say add or reset, and an e-mail address", errUse)
	}
	act, email := args[0], args[1]
	if err := parse(flags, args[2:]); err != nil {
		return err
	}
	database := os.Getenv("DATABASE_URL")
	switch {
	case act != "add" && act != "reset":
		return fmt.Errorf("%w: a person is added or reset, not %q", errUse, act)
	case !study.IsEmail(email):
		return fmt.Errorf("%w: %q is no e-mail address", errUse, email)
	case !slices.Contains(store.Roles(), store.Role(*role)):
		return fmt.Errorf("%w: there is no role %q", errUse, *role)
	case flags.NArg() > 0:
		return fmt.Errorf("%w: what is %q?", errUse, flags.Arg(0))
	case database == "":
		return fmt.Errorf("%w: DATABASE_URL names no database", errUse)
	}
	st, err := openStore(ctx, database, slog.New(slog.NewTextHandler(std.err, nil)))
	if err != nil {
		return err
	}
	defer st.Close()
	var to int64
	if act == "add" {
		p, err := st.EnsurePublication(ctx, *publication, "")
		if err != nil {
			return err
		}
		to = p.ID
	} else if _, err := st.PersonBy(ctx, email); errors.Is(err, store.ErrNotFound) {
		return fmt.Errorf("nobody has an account under %s", email)
	} else if err != nil {
		return err
	}
	token, err := study.Invite(ctx, st, email, to, store.Role(*role), 0)
	if err != nil {
		return err
	}
	_, err = fmt.Fprintf(std.out, "%s/join/%s\nThis link is good once and for a week.\n", strings.TrimRight(*address, "/"), token)
	return err
}
