package account

import (
	"context"
	"database/sql"
	"slices"
	"strings"

	"corpulan/store"
)

// What people do about themselves, and about the publications they are members of.

// SetName keeps what somebody is called; it fails with ErrName.
func SetName(ctx context.Context, st *store.Store, person int64, name string) error {
	name = strings.Join(strings.Fields(name), " ")
	if name == "" || len([]rune(name)) > LongestName {
		return ErrName
	}
	return st.SetName(ctx, person, name)
}

// SetReading keeps the language of the interface for somebody, and whether notices are mailed.
func SetReading(ctx context.Context, st *store.Store, person int64, language string, mail bool) error {
	if err := st.SetLanguage(ctx, person, language); err != nil {
		return err
	}
	return st.SetMail(ctx, person, mail)
}

// EndOtherSessions signs somebody out everywhere but where they are.
func EndOtherSessions(ctx context.Context, st *store.Store, v *Visitor) error {
	return st.RevokeSessions(ctx, v.Person.ID, v.Session.ID)
}

// EndSession signs somebody out elsewhere.
func EndSession(ctx context.Context, st *store.Store, person, session int64) error {
	return st.RevokeSession(ctx, person, session)
}

// SeeNotices says that somebody has seen notices up to one.
func SeeNotices(ctx context.Context, st *store.Store, person, upTo int64) error {
	return st.SeeNotices(ctx, person, upTo)
}

// Enter goes over to another publication, in one session.
func Enter(ctx context.Context, st *store.Store, session, publication int64) error {
	return st.Enter(ctx, session, publication)
}

// CreatePublication makes a publication of which the visitor is the owner, and enters it.
func CreatePublication(ctx context.Context, st *store.Store, v *Visitor, name string) error {
	p, err := st.CreatePublication(ctx, name, v.Person.ID)
	if err != nil {
		return err
	}
	return st.Enter(ctx, v.Session.ID, p.ID)
}

// BringPublicationBack takes a publication out of the archive, for one of its owners, and enters it.
// It fails with store.ErrNotFound for anybody else.
func BringPublicationBack(ctx context.Context, st *store.Store, v *Visitor, publication int64) error {
	archived, err := st.ArchivedOf(ctx, v.Person.ID)
	if err != nil {
		return err
	}
	if !slices.ContainsFunc(archived, func(m store.Membership) bool { return m.ID == publication }) {
		return store.ErrNotFound
	}
	if err := st.In(publication).ArchivePublication(ctx, true); err != nil {
		return err
	}
	return st.Enter(ctx, v.Session.ID, publication)
}

// SetRole makes a member of the visitor's publication another role's, and tells them; it fails with
// store.ErrNotFound for a role that there is not, and with store.ErrLastOwner.
func SetRole(ctx context.Context, st *store.Store, v *Visitor, person int64, role store.Role) error {
	if !slices.Contains(store.Roles(), role) {
		return store.ErrNotFound
	}
	return st.InTx(ctx, func(tx *store.Store, _ *sql.Tx) error {
		if err := tx.SetMember(ctx, v.Publication.ID, person, role); err != nil || person == v.Person.ID {
			return err
		}
		return tx.Tell(ctx, person, store.RoleGiven, string(role)+"\n"+v.Publication.Name, v.Person.Name)
	})
}

// Withdraw takes back what an address was invited by.
func Withdraw(ctx context.Context, st *store.Store, publication int64, email string) error {
	return st.In(publication).WithdrawInvitations(ctx, email)
}

// RemoveMember takes somebody out of the visitor's publication, and tells them; it fails with
// store.ErrLastOwner.
func RemoveMember(ctx context.Context, st *store.Store, v *Visitor, person int64) error {
	return st.InTx(ctx, func(tx *store.Store, _ *sql.Tx) error {
		if err := tx.RemoveMember(ctx, v.Publication.ID, person); err != nil || person == v.Person.ID {
			return err
		}
		return tx.Tell(ctx, person, store.Removed, v.Publication.Name, v.Person.Name)
	})
}
