package store

import (
	"context"
	"database/sql"
	"errors"
	"strings"
	"time"

	"gorm.io/gorm"
)

// Person is somebody who signs in.
type Person struct {
	ID         int64
	Email      string
	Name       string
	Password   string // argon2id, encoded; empty for none yet
	MadeAt     time.Time
	DisabledAt *time.Time

	Totp     []byte            // sealed secret of the second factor; nil for none
	TotpStep int64             // the newest step of it that was used
	Recovery JSONSlice[string] `gorm:"default:'[]'"` // digests of codes that are good once
	Language string            // of the interface; empty for what the browser asks for
	Mail     bool              `gorm:"default:true"` // notices come by mail too

	ProvenAt *time.Time // when it was made sure that the address is theirs; nil while an owner's link is all there is
}

// Role is what a member may do in a publication.
type Role string

// The roles. Each may do what those behind it may.
const (
	Owner      Role = "owner"      // who is a member, what the publication says
	Strategist Role = "strategist" // studies, demand
	Editor     Role = "editor"     // briefs and drafts
	Reader     Role = "reader"     // to look
)

// Roles lists them, the one that may most first.
func Roles() []Role { return []Role{Owner, Strategist, Editor, Reader} }

// May tells whether a role is at least another.
func (r Role) May(least Role) bool {
	at := map[Role]int{Owner: 4, Strategist: 3, Editor: 2, Reader: 1}
	return at[least] > 0 && at[r] >= at[least]
}

// Member is a person with their role in one publication.
type Member struct {
	Person
	Role Role
}

// Membership is a publication with the role somebody has in it.
type Membership struct {
	Publication
	Role Role
}

// Session is a browser in which somebody is signed in.
type Session struct {
	ID            int64
	Digest        []byte // SHA-256 of what the browser keeps
	PersonID      int64
	PublicationID *int64 // the one they are in
	Agent         string // what the browser calls itself
	MadeAt        time.Time
	SeenAt        time.Time
	ExpiresAt     time.Time
	RevokedAt     *time.Time
}

// Ticket is a link that is good once: to become a member, or to set a new password.
type Ticket struct {
	Digest        []byte `gorm:"primaryKey"` // SHA-256 of what stands in its address
	Email         string
	PublicationID *int64 // to become a member of; nil for a new password alone
	Role          Role
	MadeBy        *int64 // nil: the one who runs the program
	MadeAt        time.Time
	ExpiresAt     time.Time
	UsedAt        *time.Time
}

// ErrTaken says that somebody has this already.
var ErrTaken = errors.New("somebody has this already")

// ErrLastOwner says that a publication would be left without an owner.
var ErrLastOwner = errors.New("a publication needs an owner")

// AnyPeople tells whether anybody has an account.
func (s *Store) AnyPeople(ctx context.Context) (bool, error) {
	var n int64
	err := s.db.WithContext(ctx).Model(&Person{}).Limit(1).Count(&n).Error
	return n > 0, err
}

// PersonBy finds somebody by their address; ErrNotFound where nobody has it.
func (s *Store) PersonBy(ctx context.Context, email string) (Person, error) {
	return take[Person](s.db.WithContext(ctx).Where("lower(email) = lower(?)", email))
}

// Person finds somebody by their number.
func (s *Store) Person(ctx context.Context, id int64) (Person, error) {
	return take[Person](s.db.WithContext(ctx), id)
}

// CreatePerson keeps a new account; ErrTaken where the address has one.
func (s *Store) CreatePerson(ctx context.Context, p *Person) error {
	p.MadeAt = time.Now()
	err := s.db.WithContext(ctx).Create(p).Error
	if errors.Is(err, gorm.ErrDuplicatedKey) {
		return ErrTaken
	}
	return err
}

// Prove says that the address of an account is that of whoever comes now. What was set before by
// whoever had a link is void: its password and its sessions.
func (s *Store) Prove(ctx context.Context, person int64) error {
	return s.InTx(ctx, func(tx *Store, _ *sql.Tx) error {
		if err := affected(tx.db.WithContext(ctx).Model(&Person{}).Where("id = ?", person).Updates(map[string]any{"password": "", "proven_at": time.Now()})); err != nil {
			return err
		}
		return tx.RevokeSessions(ctx, person, 0)
	})
}

// SetPassword keeps a new password, and ends all sessions but one; 0 for all of them.
func (s *Store) SetPassword(ctx context.Context, person int64, password string, but int64) error {
	return s.InTx(ctx, func(tx *Store, _ *sql.Tx) error {
		if err := affected(tx.db.WithContext(ctx).Model(&Person{}).Where("id = ?", person).Update("password", password)); err != nil {
			return err
		}
		return tx.RevokeSessions(ctx, person, but)
	})
}

// RevokeSessions ends all sessions of somebody but one; 0 for all.
func (s *Store) RevokeSessions(ctx context.Context, person, but int64) error {
	return s.db.WithContext(ctx).Model(&Session{}).Where("person_id = ? and id <> ? and revoked_at is null", person, but).Update("revoked_at", time.Now()).Error
}

// SetFactor keeps a sealed second factor and the digests of its recovery codes, nil takes it away;
// and ends all sessions but one.
func (s *Store) SetFactor(ctx context.Context, person int64, sealed []byte, step int64, recovery []string, but int64) error {
	return s.InTx(ctx, func(tx *Store, _ *sql.Tx) error {
		if err := affected(tx.db.WithContext(ctx).Model(&Person{}).Where("id = ?", person).
			Updates(map[string]any{"totp": sealed, "totp_step": step, "recovery": JSONSlice[string](recovery)})); err != nil {
			return err
		}
		return tx.RevokeSessions(ctx, person, but)
	})
}

// UseStep says that a step of somebody's second factor was used; false where it or a later one
// was before (RFC 6238, section 5.2).
func (s *Store) UseStep(ctx context.Context, person, step int64) (bool, error) {
	res := s.db.WithContext(ctx).Model(&Person{}).Where("id = ? and totp_step < ?", person, step).Update("totp_step", step)
	return res.RowsAffected > 0, res.Error
}

// UseRecovery uses up a recovery code by its digest; false where there is none.
func (s *Store) UseRecovery(ctx context.Context, person int64, digest string) (bool, error) {
	res := s.db.WithContext(ctx).Exec("update people set recovery = recovery - @digest where id = @person and jsonb_exists(recovery, @digest)",
		map[string]any{"person": person, "digest": digest})
	return res.RowsAffected > 0, res.Error
}

// PersonByIdentity finds somebody by what an issuer calls them.
func (s *Store) PersonByIdentity(ctx context.Context, issuer, subject string) (Person, error) {
	return take[Person](s.db.WithContext(ctx).Where("id = (select person_id from identities where issuer = ? and subject = ?)", issuer, subject))
}

// AddIdentity says what an issuer calls somebody.
func (s *Store) AddIdentity(ctx context.Context, issuer, subject string, person int64) error {
	return s.db.WithContext(ctx).Exec("insert into identities (issuer, subject, person_id) values (?, ?, ?)", issuer, subject, person).Error
}

// TicketsFor are the open invitations to an address, the oldest first.
func (s *Store) TicketsFor(ctx context.Context, email string) ([]Ticket, error) {
	return find[Ticket](s.db.WithContext(ctx).Where("lower(email) = lower(?) and publication_id is not null and used_at is null and expires_at > now()", email).Order("made_at"))
}

// OpenInvitations are those to become a member of the publication that are still good, the newest
// first.
func (s Scope) OpenInvitations(ctx context.Context) ([]Ticket, error) {
	return find[Ticket](s.db(ctx).Where("used_at is null and expires_at > now()").Order("made_at desc"))
}

// WithdrawInvitations makes those of an address void; ErrNotFound where there are none.
func (s Scope) WithdrawInvitations(ctx context.Context, email string) error {
	return affected(s.db(ctx).Where("lower(email) = lower(?) and used_at is null", email).Delete(&Ticket{}))
}

// SetLanguage keeps the language of the interface for somebody.
func (s *Store) SetLanguage(ctx context.Context, person int64, language string) error {
	return affected(s.db.WithContext(ctx).Model(&Person{}).Where("id = ?", person).Update("language", language))
}

// SetMail says whether somebody gets notices by mail too.
func (s *Store) SetMail(ctx context.Context, person int64, mail bool) error {
	return affected(s.db.WithContext(ctx).Model(&Person{}).Where("id = ?", person).Update("mail", mail))
}

// SetName keeps how somebody is called.
func (s *Store) SetName(ctx context.Context, person int64, name string) error {
	return affected(s.db.WithContext(ctx).Model(&Person{}).Where("id = ?", person).Update("name", name))
}

// Memberships are the publications of somebody that are not archived, by name.
func (s *Store) Memberships(ctx context.Context, person int64) ([]Membership, error) {
	return find[Membership](s.db.WithContext(ctx).Table("memberships m").Select("p.*, m.role").Joins("join publications p on p.id = m.publication_id").
		Where("m.person_id = ? and p.archived_at is null", person).Order("lower(p.name), p.id"))
}

// ArchivedOf are the archived publications of which somebody is an owner, by name.
func (s *Store) ArchivedOf(ctx context.Context, person int64) ([]Membership, error) {
	return find[Membership](s.db.WithContext(ctx).Table("memberships m").Select("p.*, m.role").Joins("join publications p on p.id = m.publication_id").
		Where("m.person_id = ? and m.role = ? and p.archived_at is not null", person, Owner).Order("lower(p.name), p.id"))
}

// Names are how some people are called, by their numbers.
func (s *Store) Names(ctx context.Context, people []int64) (map[int64]string, error) {
	names := map[int64]string{}
	if len(people) == 0 {
		return names, nil
	}
	var rows []Person
	err := s.db.WithContext(ctx).Select("id", "name").Where("id in ?", people).Find(&rows).Error
	for _, p := range rows {
		names[p.ID] = p.Name
	}
	return names, err
}

// AllMemberships are the numbers of all publications of somebody, archived ones too.
func (s *Store) AllMemberships(ctx context.Context, person int64) ([]int64, error) {
	var ids []int64
	err := s.db.WithContext(ctx).Table("memberships").Where("person_id = ?", person).Order("publication_id").Pluck("publication_id", &ids).Error
	return ids, err
}

// SetMember makes somebody a member of a publication, or gives them another role. The last owner
// stays one: ErrLastOwner.
func (s *Store) SetMember(ctx context.Context, publication, person int64, role Role) error {
	return s.keepsOwner(ctx, publication, func(tx *Store) error {
		return tx.db.WithContext(ctx).Exec(`insert into memberships (publication_id, person_id, role) values (?, ?, ?)
			on conflict (publication_id, person_id) do update set role = excluded.role`, publication, person, role).Error
	})
}

// RemoveMember takes somebody out of a publication; not its last owner.
func (s *Store) RemoveMember(ctx context.Context, publication, person int64) error {
	return s.keepsOwner(ctx, publication, func(tx *Store) error {
		return affected(tx.db.WithContext(ctx).Exec("delete from memberships where publication_id = ? and person_id = ?", publication, person))
	})
}

// keepsOwner makes a change of members, unless it would take the last owner.
func (s *Store) keepsOwner(ctx context.Context, publication int64, change func(tx *Store) error) error {
	return s.InTx(ctx, func(tx *Store, _ *sql.Tx) error {
		// One after another: two owners who leave at once would each see the other.
		var p Publication
		if err := tx.db.WithContext(ctx).Clauses(forChange).Take(&p, publication).Error; err != nil {
			return found(err)
		}
		owners := func() (n int64, err error) {
			err = tx.db.WithContext(ctx).Table("memberships").Where("publication_id = ? and role = 'owner'", publication).Count(&n).Error
			return n, err
		}
		before, err := owners()
		if err != nil {
			return err
		}
		if err := change(tx); err != nil {
			return err
		}
		after, err := owners()
		if err == nil && before > 0 && after == 0 {
			err = ErrLastOwner
		}
		return err
	})
}

// Members are the members of the publication, owners first.
func (s Scope) Members(ctx context.Context) ([]Member, error) {
	return find[Member](s.store.db.WithContext(ctx).Table("memberships m").Select("p.*, m.role").Joins("join people p on p.id = m.person_id").
		Where("m.publication_id = ?", s.publication).Order("array_position(array['owner', 'strategist', 'editor', 'reader'], m.role), lower(p.name)"))
}

// CreatePublication keeps a new publication with its first owner; ErrTaken where the name is.
func (s *Store) CreatePublication(ctx context.Context, name string, owner int64) (Publication, error) {
	p := Publication{Name: name}
	err := s.InTx(ctx, func(tx *Store, _ *sql.Tx) error {
		if err := tx.db.WithContext(ctx).Create(&p).Error; err != nil {
			if errors.Is(err, gorm.ErrDuplicatedKey) {
				return ErrTaken
			}
			return err
		}
		return tx.SetMember(ctx, p.ID, owner, Owner)
	})
	return p, err
}

// RenamePublication gives the publication another name; ErrTaken where it has an owner.
func (s Scope) RenamePublication(ctx context.Context, name string) error {
	err := affected(s.store.db.WithContext(ctx).Model(&Publication{}).Where("id = ?", s.publication).Update("name", name))
	if errors.Is(err, gorm.ErrDuplicatedKey) {
		return ErrTaken
	}
	return err
}

// ArchivePublication puts the publication away, or brings it back. Nothing of it is lost.
func (s Scope) ArchivePublication(ctx context.Context, back bool) error {
	var at *time.Time
	if !back {
		now := time.Now()
		at = &now
	}
	return affected(s.store.db.WithContext(ctx).Model(&Publication{}).Where("id = ?", s.publication).Update("archived_at", at))
}

// CreateSession keeps a new session.
func (s *Store) CreateSession(ctx context.Context, x *Session) error {
	x.MadeAt = time.Now()
	x.SeenAt = x.MadeAt
	return s.db.WithContext(ctx).Create(x).Error
}

// SessionBy finds an open session by its digest, with who is signed in; ErrNotFound where it was
// revoked, has expired, or its person has been shut out.
func (s *Store) SessionBy(ctx context.Context, digest []byte) (Session, Person, error) {
	// One question, since every request asks it.
	var row struct {
		Session
		Email, Name, Password, Language string
		Mail                            bool
		Totp                            []byte
		JoinedAt                        time.Time
	}
	res := s.db.WithContext(ctx).Raw(`select s.*, p.email, p.name, p.password, p.language, p.mail, p.totp, p.made_at as joined_at from sessions s join people p on p.id = s.person_id and p.disabled_at is null
		where s.digest = ? and s.revoked_at is null and s.expires_at > now()`, digest).Scan(&row)
	if res.Error == nil && res.RowsAffected == 0 {
		return Session{}, Person{}, ErrNotFound
	}
	p := Person{ID: row.PersonID, Email: row.Email, Name: row.Name, Password: row.Password, Language: row.Language, Mail: row.Mail, Totp: row.Totp, MadeAt: row.JoinedAt}
	return row.Session, p, res.Error
}

// SeeSession says that a session is still used, and until when it then lasts.
func (s *Store) SeeSession(ctx context.Context, id int64, until time.Time) error {
	return s.db.WithContext(ctx).Model(&Session{}).Where("id = ?", id).Updates(map[string]any{"seen_at": time.Now(), "expires_at": until}).Error
}

// Enter says in which publication somebody is.
func (s *Store) Enter(ctx context.Context, session, publication int64) error {
	return affected(s.db.WithContext(ctx).Model(&Session{}).Where("id = ?", session).Update("publication_id", publication))
}

// SignedInBefore tells whether somebody was signed in with a browser that calls itself so, and with
// another, as far back as sessions are kept.
func (s *Store) SignedInBefore(ctx context.Context, person int64, agent string) (been, elsewhere bool, err error) {
	var row struct{ Been, Elsewhere bool }
	err = s.db.WithContext(ctx).Raw("select coalesce(bool_or(agent = @agent), false) as been, coalesce(bool_or(agent <> @agent), false) as elsewhere from sessions where person_id = @person",
		map[string]any{"person": person, "agent": agent}).Scan(&row).Error
	return row.Been, row.Elsewhere, err
}

// Sessions are the open sessions of somebody, the one used last first.
func (s *Store) Sessions(ctx context.Context, person int64) ([]Session, error) {
	return find[Session](s.db.WithContext(ctx).Where("person_id = ? and revoked_at is null and expires_at > now()", person).Order("seen_at desc"))
}

// RevokeSession ends a session of somebody.
func (s *Store) RevokeSession(ctx context.Context, person, id int64) error {
	return affected(s.db.WithContext(ctx).Model(&Session{}).Where("person_id = ? and id = ? and revoked_at is null", person, id).Update("revoked_at", time.Now()))
}

// CreateTicket keeps a link that is good once. Earlier ones for the same address and
// publication are void from then on.
func (s *Store) CreateTicket(ctx context.Context, t *Ticket) error {
	return s.InTx(ctx, func(tx *Store, _ *sql.Tx) error {
		t.MadeAt = time.Now()
		if err := tx.db.WithContext(ctx).Exec("delete from tickets where lower(email) = lower(?) and publication_id is not distinct from ? and used_at is null", t.Email, t.PublicationID).Error; err != nil {
			return err
		}
		return tx.db.WithContext(ctx).Create(t).Error
	})
}

// Ticket finds a link that is still good.
func (s *Store) Ticket(ctx context.Context, digest []byte) (Ticket, error) {
	return take[Ticket](s.db.WithContext(ctx).Where("digest = ? and used_at is null and expires_at > now()", digest))
}

// UseTicket makes a link void; ErrNotFound where it was used meanwhile.
func (s *Store) UseTicket(ctx context.Context, digest []byte) error {
	return affected(s.db.WithContext(ctx).Model(&Ticket{}).Where("digest = ? and used_at is null and expires_at > now()", digest).Update("used_at", time.Now()))
}

// Try counts a password that is about to be looked at as a wrong one, which Passed takes back.
// It is false, and counts nothing, where so many were wrong before that it is too soon: from the
// free ones on a pause of a second, doubled each time up to the longest.
func (s *Store) Try(ctx context.Context, key string, now time.Time, free int, longest time.Duration) (bool, error) {
	res := s.db.WithContext(ctx).Exec(`insert into wrong_passwords as w (key, wrong, wrong_at) values (@key, 1, @now)
		on conflict (key) do update set wrong = w.wrong + 1, wrong_at = @now
		where w.wrong < @free or w.wrong_at + make_interval(secs => least(power(2, least(w.wrong - @free, 20)), @longest)) <= @now`,
		map[string]any{"key": strings.ToLower(key), "now": now, "free": free, "longest": longest.Seconds()})
	return res.RowsAffected > 0, res.Error
}

// TakeBack takes back one that Try counted.
func (s *Store) TakeBack(ctx context.Context, key string) error {
	return s.db.WithContext(ctx).Exec("update wrong_passwords set wrong = greatest(wrong - 1, 0) where key = ?", strings.ToLower(key)).Error
}

// Passed forgets the wrong passwords of a key.
func (s *Store) Passed(ctx context.Context, key string) error {
	return s.db.WithContext(ctx).Exec("delete from wrong_passwords where key = ?", strings.ToLower(key)).Error
}
