package account

import (
	"context"
	"database/sql"
	"errors"
	"net/url"
	"strings"
	"time"
	"unicode/utf8"

	"corpulan/core/message"
	"corpulan/store"
)

// Identity is what an OpenID Connect issuer says of somebody.
type Identity struct {
	Issuer, Subject string
	Email, Name     string
	Verified        bool // the issuer has seen that the address is theirs
	Factors         bool // the issuer has asked for more than one factor
}

// ErrUninvited says that an issuer knows somebody whom nobody here has invited.
var ErrUninvited = message.Errorf("nobody here has invited this address")

// ErrUnproven says that an issuer has not seen whose an address is.
var ErrUnproven = message.Errorf("the issuer has not made sure whose address this is")

// SignInBy begins a session of somebody whom an issuer knows: who came so before, who has an
// account under the address that the issuer has verified, or who was invited to it. Who has a second
// factor here is asked for it, as by SignIn, unless the issuer has asked for one.
func SignInBy(ctx context.Context, st *store.Store, s *Sealer, id Identity, by Asker, now time.Time) (session, pending string, err error) {
	err = st.InTx(ctx, func(tx *store.Store, _ *sql.Tx) error {
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
		if p.Totp != nil && !id.Factors {
			pending, err = s.pending(p, now)
			return err
		}
		session, err = enter(ctx, tx, p, into, by)
		return err
	})
	return session, pending, err
}

// hostOf is the name by which people know an issuer.
func hostOf(issuer string) string {
	if u, err := url.Parse(issuer); err == nil && u.Host != "" {
		return u.Host
	}
	return issuer
}

// meet finds whom an identity belongs to that comes for the first time.
func meet(ctx context.Context, tx *store.Store, id Identity) (p store.Person, into *int64, err error) {
	if !id.Verified {
		return p, nil, ErrUnproven
	}
	if !IsEmail(id.Email) {
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
		p = store.Person{Email: id.Email, Name: name, ProvenAt: justNow()}
		if err := tx.CreatePerson(ctx, &p); err != nil {
			return p, nil, err
		}
	}
	if p.ProvenAt == nil {
		// Somebody may have made it with a link that was meant for this address, and wait in it.
		if err := tx.Prove(ctx, p.ID); err != nil {
			return p, nil, err
		}
		if err := tx.Tell(ctx, p.ID, store.Proven, hostOf(id.Issuer), ""); err != nil {
			return p, nil, err
		}
		if p, err = tx.Person(ctx, p.ID); err != nil {
			return p, nil, err
		}
	}
	if known {
		if err := tx.Tell(ctx, p.ID, store.IssuerJoined, hostOf(id.Issuer), ""); err != nil {
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
