package main

import (
	"context"
	"errors"
	"flag"
	"fmt"
	"slices"
	"strings"

	"corpulan/account"
	"corpulan/store"
)

// runUser makes links by which people come in, for whoever runs the program.
func runUser(ctx context.Context, args []string, std stdio) error {
	if len(args) > 0 && slices.Contains([]string{"-h", "-help", "--help"}, args[0]) {
		return flag.ErrHelp
	}
	if len(args) < 2 {
		return fmt.Errorf("%w: say add or reset, and an e-mail address", errUse)
	}
	act, email, role, without := args[0], args[1], string(store.Owner), false
	s, rest, err := parseSettings("user", args[2:], func(flags *flag.FlagSet) {
		flags.StringVar(&role, "role", role, "")
		flags.BoolVar(&without, "without-factor", false, "")
	})
	if err != nil {
		return err
	}
	switch {
	case act != "add" && act != "reset":
		return fmt.Errorf("%w: a person is added or reset, not %q", errUse, act)
	case !account.IsEmail(email):
		return fmt.Errorf("%w: %q is no e-mail address", errUse, email)
	case !slices.Contains(store.Roles(), store.Role(role)):
		return fmt.Errorf("%w: there is no role %q", errUse, role)
	case len(rest) > 0:
		return fmt.Errorf("%w: what is %q?", errUse, rest[0])
	}
	if s.address == "" {
		s.address = "http://localhost:8080"
	}
	st, err := openStore(ctx, s, s.logger(std.err))
	if err != nil {
		return err
	}
	defer st.Close()
	var to int64
	if act == "add" {
		if to, err = publicationNamed(ctx, st, s.publication); err != nil {
			return err
		}
	} else {
		p, err := st.PersonBy(ctx, email)
		if errors.Is(err, store.ErrNotFound) {
			return fmt.Errorf("nobody has an account under %s", email)
		}
		if err == nil && without { // whose telephone and codes are lost
			err = st.SetFactor(ctx, p.ID, nil, 0, []string{}, 0)
		}
		if err != nil {
			return err
		}
	}
	token, err := account.Invite(ctx, st, email, to, store.Role(role), 0)
	if err != nil {
		return err
	}
	_, err = fmt.Fprintf(std.out, "%s/join/%s\nThis link is good once and for a week.\n", strings.TrimRight(s.address, "/"), token)
	return err
}

// publicationNamed is the publication of a name; it is made where there is none at all yet.
func publicationNamed(ctx context.Context, st *store.Store, name string) (int64, error) {
	names, err := st.PublicationNames(ctx)
	if err != nil {
		return 0, err
	}
	if len(names) > 0 && !slices.Contains(names, name) {
		return 0, fmt.Errorf("there is no publication %q; there are %s", name, strings.Join(names, ", "))
	}
	p, err := st.EnsurePublication(ctx, name, "")
	return p.ID, err
}
