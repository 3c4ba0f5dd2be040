package account

import (
	"context"
	"database/sql"
	"errors"
	"strings"
	"unicode/utf8"

	"corpulan/core/message"
	"corpulan/store"
)

// Identity is what an OpenID Connect issuer says of somebody.
type Identity struct {
	Issuer, Subject string
	Email, Name     string
	Verified        bool // the issuer has seen that the address is theirs
}

// ErrUninvited says that an issuer knows somebody whom nobody here has invited.
var ErrUninvited = message.Errorf("nobody here has invited this address")

// SignInBy begins a session of somebody whom an issuer knows: who came so before, who has an
// account under the address that the issuer has verified, or who was invited to it. had is the
// session that the browser had.
func SignInBy(ctx context.Context, st *store.Store, id Identity, agent, had string) (string, error) {
	var session string
	err := st.InTx(ctx, func(tx *store.Store, _ *sql.Tx) error {
		p, err := tx.PersonByIdentity(ctx, id.Issuer, id.Subject)
		var into *int64
		if errors.Is(err, store.ErrNotFound) {
			p, into, err = meet(ctx, tx, id)
		}
		if err != nil {
			return err
		}
		if p.DisabledAt != nil {
			return ErrUninvited
		}
		if err := SignOut(ctx, tx, had); err != nil {
			return err
		}
		session, err = begin(ctx, tx, p.ID, into, agent)
		return err
	})
	return session, err
}

// meet finds whom an identity belongs to that comes for the first time.
func meet(ctx context.Context, tx *store.Store, id Identity) (p store.Person, into *int64, err error) {
	if !id.Verified || !IsEmail(id.Email) {
		return p, nil, ErrUninvited
	}
	p, err = tx.PersonBy(ctx, id.Email)
	known := err == nil
	if err != nil && !errors.Is(err, store.ErrNotFound) {
		return p, nil, err
	}
	tickets, err := tx.TicketsFor(ctx, id.Email)
	if err != nil {
		return p, nil, err
	}
	if !known {
		if len(tickets) == 0 {
			return p, nil, ErrUninvited
		}
		name := strings.Join(strings.Fields(id.Name), " ")
		if name == "" || utf8.RuneCountInString(name) > LongestName {
			name, _, _ = strings.Cut(id.Email, "@")
		}
		p = store.Person{Email: id.Email, Name: name}
		if err := tx.CreatePerson(ctx, &p); err != nil {
			return p, nil, err
		}
	}
	for _, t := range tickets {
		if err := tx.UseTicket(ctx, t.Digest); err != nil {
			return p, nil, err
		}
		if err := tx.SetMember(ctx, *t.PublicationID, p.ID, t.Role); err != nil && !errors.Is(err, store.ErrLastOwner) {
			return p, nil, err
		}
		into = t.PublicationID
	}
	return p, into, tx.AddIdentity(ctx, id.Issuer, id.Subject, p.ID)
}
