package store

import (
	"context"
	"time"
)

// Notice is something that somebody should know of.
type Notice struct {
	ID            int64
	PublicationID int64
	PersonID      int64
	StudyID       int64
	Kind          string // one of the kinds below
	Ref           string // which of its kind: a notice is given once for each
	ByName        string // who did it; empty for the program
	Said          string // in their words
	MadeAt        time.Time
	SeenAt        *time.Time
	MailedAt      *time.Time
}

// The kinds of notices of studies.
const (
	OwnerNamed  = "owner"    // somebody owns a brief now
	WriterNamed = "writer"   // somebody writes it
	Remarked    = "remark"   // something was said of a brief
	Approved    = "approved" // a brief was approved
	DueSoon     = "due"      // a brief is due tomorrow, or was due
)

// The kinds of notices of an account: of these its person is told whatever they asked for. Said is
// the browser, the publication or the issuer that it is about.
const (
	PasswordSet   = "password"
	FactorSet     = "factor"
	FactorDropped = "factor dropped"
	NewPlace      = "place"   // signed in from where they never were
	IssuerJoined  = "issuer"  // an issuer signs them in from now on
	Proven        = "proven"  // their address is, and what was made before has ended
	RoleGiven     = "role"    // said: the role, a line end, the publication
	Removed       = "removed" // from a publication
)

// Tell keeps a notice of what happened to somebody's account.
func (s *Store) Tell(ctx context.Context, person int64, kind, said, by string) error {
	if r := []rune(said); len(r) > longestTold {
		said = string(r[:longestTold])
	}
	return s.db.WithContext(ctx).Exec("insert into notices (person_id, kind, said, by_name, made_at) values (?, ?, ?, ?, now())", person, kind, said, by).Error
}

// longestTold is how much such a notice says, in characters. Our own.
const longestTold = 300

// OfAccount tells a notice of an account.
func (n Notice) OfAccount() bool { return n.StudyID == 0 }

// AccountNotices are the newest of what happened to somebody's account, seen or not.
func (s *Store) AccountNotices(ctx context.Context, person int64, most int) ([]Notice, error) {
	return find[Notice](s.db.WithContext(ctx).Where("person_id = ? and study_id is null", person).Order("id desc").Limit(most))
}

// QueueAccountNotices are those that nobody has asked to be mailed yet; whoever calls it does.
func (s *Store) QueueAccountNotices(ctx context.Context, most int) (ids []int64, err error) {
	err = s.db.WithContext(ctx).Raw(`update notices set queued_at = now() where id in
		(select id from notices where study_id is null and queued_at is null order by id limit ? for update skip locked) returning id`, most).Scan(&ids).Error
	return ids, err
}

// NoticeLine is a notice as the desk shows it.
type NoticeLine struct {
	Notice
	Keyword     string
	Publication string
}

// Notify keeps notices for those members of the publication whose name or address is one of
// some, other than whoever does it. One that was given for the same matter before is not given
// again. It returns those that are new.
func (s Scope) Notify(ctx context.Context, n Notice, names ...string) ([]Notice, error) {
	var made []Notice
	err := s.store.db.WithContext(ctx).Raw(`
		insert into notices (publication_id, person_id, study_id, kind, ref, by_name, said, made_at)
		select @publication, p.id, @study, @kind, @ref, @by, @said, now()
		from memberships m join people p on p.id = m.person_id and p.disabled_at is null
		where m.publication_id = @publication and p.id <> @me and (lower(p.name) in (select lower(x) from unnest(string_to_array(@names, chr(31))) x) or lower(p.email) in (select lower(x) from unnest(string_to_array(@names, chr(31))) x))
		on conflict (person_id, study_id, kind, ref) do nothing returning *`,
		map[string]any{"publication": s.publication, "study": n.StudyID, "kind": n.Kind, "ref": n.Ref, "by": n.ByName, "said": n.Said, "me": s.person, "names": joined(names)}).Scan(&made).Error
	return made, err
}

// joined puts names together for string_to_array, without those that are empty.
func joined(names []string) string {
	out := ""
	for _, n := range names {
		if n == "" {
			continue
		}
		if out != "" {
			out += "\x1f"
		}
		out += n
	}
	return out
}

// Notices are those that somebody has not seen, the newest first, of publications they are
// still a member of.
func (s *Store) Notices(ctx context.Context, person int64, most int) ([]NoticeLine, error) {
	var list []NoticeLine
	err := s.db.WithContext(ctx).Raw(`
		select n.*, coalesce(st.keyword, '') as keyword, coalesce(p.name, '') as publication from notices n
		left join studies st on st.id = n.study_id and st.deleted_at is null
		left join publications p on p.id = n.publication_id and p.archived_at is null
		left join memberships m on m.publication_id = n.publication_id and m.person_id = n.person_id
		where n.person_id = ? and n.seen_at is null and (n.study_id is null or st.id is not null and p.id is not null and m.person_id is not null) order by n.id desc limit ?`, person, most).Scan(&list).Error
	return list, err
}

// SeeNotices says that somebody has seen notices up to a number.
func (s *Store) SeeNotices(ctx context.Context, person, upTo int64) error {
	return s.db.WithContext(ctx).Model(&Notice{}).Where("person_id = ? and id <= ? and seen_at is null", person, upTo).Update("seen_at", time.Now()).Error
}

// NoticeToMail is a notice that is to be mailed, with whom it is for; ErrNotFound where it was
// mailed already, and, but of an account, where it was seen or they want no mail.
func (s *Store) NoticeToMail(ctx context.Context, id int64) (NoticeLine, Person, error) {
	var n NoticeLine
	res := s.db.WithContext(ctx).Raw(`
		select n.*, coalesce(st.keyword, '') as keyword, coalesce(p.name, '') as publication from notices n
		left join studies st on st.id = n.study_id and st.deleted_at is null left join publications p on p.id = n.publication_id
		left join memberships m on m.publication_id = n.publication_id and m.person_id = n.person_id
		where n.id = ? and n.mailed_at is null and (n.study_id is null or n.seen_at is null and st.id is not null and m.person_id is not null)`, id).Scan(&n)
	if res.Error == nil && res.RowsAffected == 0 {
		res.Error = ErrNotFound
	}
	if res.Error != nil {
		return n, Person{}, res.Error
	}
	p, err := s.Person(ctx, n.PersonID)
	if err == nil && (!p.Mail && !n.OfAccount() || p.DisabledAt != nil) {
		err = ErrNotFound
	}
	return n, p, err
}

// Mailed says that a notice was mailed.
func (s *Store) Mailed(ctx context.Context, id int64) error {
	return s.db.WithContext(ctx).Model(&Notice{}).Where("id = ?", id).Update("mailed_at", time.Now()).Error
}

// DueBriefs are the briefs that are due on a day or before, and neither published nor put away.
func (s *Store) DueBriefs(ctx context.Context, day time.Time, most int) ([]DueBrief, error) {
	var list []DueBrief
	err := s.db.WithContext(ctx).Raw(`
		select b.publication_id, b.study_id, b.owner, b.writer, b.due from briefs b
		join studies s on s.id = b.study_id and s.archived_at is null and s.deleted_at is null
		where b.due <> '' and b.due <= ? and b.due > ? and b.stage <> 'published' and (b.owner <> '' or b.writer <> '')
		order by b.due desc limit ?`, day.Format(time.DateOnly), day.AddDate(0, 0, -31).Format(time.DateOnly), most).Scan(&list).Error
	return list, err
}

// DueBrief is a brief that is due, and in whose hands it is.
type DueBrief struct {
	PublicationID, StudyID int64
	Owner, Writer, Due     string
}
