package store

import (
	"context"
	"strings"
	"time"
)

// The desk: studies of one publication or of all that somebody is a member of, as one ledger.

// LedgerLine is a study as the desk lists it.
type LedgerLine struct {
	Study
	Publication string
	State       State // of the newest gathering
	Results     int
	Pages       int // read
	Failures    int
	KeptPages   int
	Revision    int    // of the brief; 0 for the untouched proposal
	Stage       string // of the brief: as typed, or composed once somebody has, or proposed
	Owner       string
	Writer      string
	DueOn       string // YYYY-MM-DD
	Stands      bool   // the brief, on an older gathering
	Place       int    // of the own site in the newest gathering that has ended, 0 for none
	PlaceWas    int    // and in the one before
	Compared    bool   // there is one before
	Moved       JSONType[Moved]
}

// Lost tells that a page of ours has lost places, or all of them.
func (l LedgerLine) Lost() bool { return l.PlaceWas > 0 && (l.Place == 0 || l.Place > l.PlaceWas) }

// Shelf is where a study lies.
type Shelf string

// The shelves of the ledger.
const (
	OnDesk   Shelf = ""
	Archived Shelf = "archived"
	Deleted  Shelf = "deleted"
)

// LedgerQuery is which studies are asked for, and in which order.
type LedgerQuery struct {
	Shelf  Shelf
	Filter string // part of the keyword
	Owner  string
	Writer string
	Stage  string
	Due    string    // "late", "week", "later", "none"; empty for all
	Today  time.Time // what due is measured by
	Moved  string    // "lost", "stale", "any"; empty for all
	Sort   string    // "keyword", "publication", "owner", "writer", "stage", "due"; empty for the newest first
	Down   bool      // the other way round
	From   int       // how many are passed over
	Most   int
}

// Across is the store as somebody sees it who is a member of several publications.
type Across struct {
	store        *Store
	publications []int64
}

// Across sees the studies of some publications.
func (s *Store) Across(publications []int64) Across { return Across{s, publications} }

// Ledger lists the publication's studies, the newest first, and tells how many there are on
// each shelf.
func (s Scope) Ledger(ctx context.Context, q LedgerQuery) ([]LedgerLine, map[Shelf]int, error) {
	return s.store.Across([]int64{s.publication}).Ledger(ctx, q)
}

// due are the conditions on when a brief is due; dates are compared as they are written.
func (q LedgerQuery) due() (string, bool) {
	c, ok := map[string]string{
		"late":  "b.due <> '' and b.due < @today and b.stage <> 'published'",
		"week":  "b.due >= @today and b.due < @week",
		"later": "b.due >= @week",
		"none":  "coalesce(b.due, '') = ''",
	}[q.Due]
	return c, ok
}

const lostPlaces = "st.place_was > 0 and (st.place = 0 or st.place > st.place_was)"

// moves are the conditions on how a study moved.
var moves = map[string]string{
	"lost":  lostPlaces,
	"stale": "b.stands",
	"any":   "st.moved <> '{}' and (st.moved->>'new')::int + (st.moved->>'gone')::int + (st.moved->>'up')::int + (st.moved->>'down')::int > 0",
}

// orders are the columns that the ledger can be sorted by. What has none stands last, both ways.
var orders = map[string]string{"keyword": "lower(st.keyword)", "publication": "lower(p.name)", "owner": "nullif(lower(b.owner), '')", "writer": "nullif(lower(b.writer), '')",
	"due":   "nullif(b.due, '')",
	"stage": "array_position(array['proposed', 'composed', 'approved', 'handed over', 'drafted', 'published'], b.stage)"}

// Ledger lists studies of the publications, the newest first or as asked, and tells how many of
// those that fit the query there are on each shelf.
func (a Across) Ledger(ctx context.Context, q LedgerQuery) ([]LedgerLine, map[Shelf]int, error) {
	if q.Today.IsZero() {
		q.Today = time.Now()
	}
	args := map[string]any{"publications": append([]int64{0}, a.publications...), "like": "%" + likePattern(q.Filter) + "%", "owner": q.Owner, "writer": q.Writer, "stage": q.Stage,
		"today": q.Today.Format(time.DateOnly), "week": q.Today.AddDate(0, 0, 7).Format(time.DateOnly), "most": q.Most, "from": q.From}
	where := "st.publication_id in @publications"
	if q.Filter != "" {
		where += " and lower(st.keyword) like @like"
	}
	for _, c := range []struct {
		asked bool
		sql   string
	}{{q.Owner != "", "lower(b.owner) = lower(@owner)"}, {q.Writer != "", "lower(b.writer) = lower(@writer)"}, {q.Stage != "", "b.stage = @stage"}} {
		if c.asked {
			where += " and " + c.sql
		}
	}
	if c, ok := q.due(); ok {
		where += " and " + c
	}
	if c, ok := moves[q.Moved]; ok {
		where += " and " + c
	}
	order := "st.created_at desc, st.id desc"
	if q.Sort == "" && !q.Down { // what was published and lost places comes first
		order = "(" + lostPlaces + " and exists (select 1 from briefs where study_id = st.id and stage = 'published')) desc, " + order
	}
	if by := orders[q.Sort]; by != "" {
		way := " asc"
		if q.Down {
			way = " desc"
		}
		order = by + way + " nulls last, " + order
	}
	// Briefs and publications are joined only where something is asked of them.
	from := " from studies st"
	if strings.Contains(where+order, "b.") {
		from += " left join briefs b on b.study_id = st.id"
	}
	if strings.Contains(order, "p.") {
		from += " join publications p on p.id = st.publication_id"
	}
	from += " where " + where
	var count struct{ Desk, Archived, Deleted int }
	err := a.store.db.WithContext(ctx).Raw(`
		select count(*) filter (where st.archived_at is null and st.deleted_at is null) as desk,
		       count(*) filter (where st.archived_at is not null and st.deleted_at is null) as archived,
		       count(*) filter (where st.deleted_at is not null) as deleted`+from, args).Scan(&count).Error
	if err != nil {
		return nil, nil, err
	}
	on := map[Shelf]string{OnDesk: "st.archived_at is null and st.deleted_at is null", Archived: "st.archived_at is not null and st.deleted_at is null", Deleted: "st.deleted_at is not null"}[q.Shelf]
	var lines []LedgerLine
	err = a.store.db.WithContext(ctx).Raw(linesOf("select st.*, row_number() over (order by "+order+") as spot"+from+" and "+on+" order by spot limit @most offset @from"), args).Scan(&lines).Error
	return lines, map[Shelf]int{OnDesk: count.Desk, Archived: count.Archived, Deleted: count.Deleted}, err
}

// likePattern is a text as a pattern of LIKE that stands for itself, in small letters.
func likePattern(text string) string {
	return strings.NewReplacer(`\`, `\\`, `%`, `\%`, `_`, `\_`).Replace(strings.ToLower(text))
}

// StudiesOf are the desk's lines of some studies, by their number.
func (s Scope) StudiesOf(ctx context.Context, ids []int64) (map[int64]LedgerLine, error) {
	out := map[int64]LedgerLine{}
	if len(ids) == 0 {
		return out, nil
	}
	var lines []LedgerLine
	err := s.store.db.WithContext(ctx).Raw(linesOf("select *, 1 as spot from studies where publication_id = @publication and id in @ids"), map[string]any{"publication": s.publication, "ids": ids}).Scan(&lines).Error
	for _, l := range lines {
		out[l.ID] = l
	}
	return out, err
}

// linesOf is the query for the desk's lines of the studies that another query gives, by their place.
func linesOf(studies string) string {
	return `
		select st.*, p.name as publication, g.state, coalesce(g.listed, 0) as results, coalesce(g.pages_read, 0) as pages,
		       coalesce(g.pages_failed, 0) as failures, coalesce(g.pages_kept, 0) as kept_pages, coalesce(b.revision, 0) as revision,
		       coalesce(b.stage, 'proposed') as stage, coalesce(b.owner, '') as owner, coalesce(b.writer, '') as writer, coalesce(b.due, '') as due_on,
		       coalesce(b.stands, false) as stands
		from (` + studies + `) st
		join publications p on p.id = st.publication_id
		left join lateral (select state, listed, pages_read, pages_failed, pages_kept from gatherings where study_id = st.id order by id desc limit 1) g on true
		left join briefs b on b.study_id = st.id
		order by st.spot, st.id desc`
}

// Hands are the names that stand as owners or writers in the publications' briefs, by name.
func (a Across) Hands(ctx context.Context) ([]string, error) {
	var names []string
	err := a.store.db.WithContext(ctx).Raw(`
		select distinct name from (
			select b.owner as name from briefs b where b.publication_id in @publications
			union all select b.writer from briefs b where b.publication_id in @publications
			union all select p.name from people p join memberships m on m.person_id = p.id where m.publication_id in @publications
		) names where name <> '' order by name limit 500`, map[string]any{"publications": append([]int64{0}, a.publications...)}).Scan(&names).Error
	return names, err
}

// Due lists the studies that are due on days of a span, by day, and those that were due before
// and are not published.
func (a Across) Due(ctx context.Context, from, to time.Time, most int) ([]LedgerLine, error) {
	var lines []LedgerLine
	err := a.store.db.WithContext(ctx).Raw(linesOf(`
		select st.*, row_number() over (order by b.due, lower(st.keyword)) as spot from studies st join briefs b on b.study_id = st.id
		where st.publication_id in @publications and st.archived_at is null and st.deleted_at is null
		and b.due <> '' and b.due < @to and (b.due >= @from or b.stage <> 'published')
		order by spot limit @most`), map[string]any{"publications": append([]int64{0}, a.publications...), "from": from.Format(time.DateOnly), "to": to.Format(time.DateOnly), "most": most}).Scan(&lines).Error
	return lines, err
}

// PublicationOfStudy is the one of some publications that a study belongs to; ErrNotFound for none.
func (a Across) PublicationOfStudy(ctx context.Context, study int64) (int64, error) {
	var id int64
	res := a.store.db.WithContext(ctx).Raw("select publication_id from studies where id = @study and publication_id in @publications", map[string]any{"study": study, "publications": append([]int64{0}, a.publications...)}).Scan(&id)
	if res.Error == nil && res.RowsAffected == 0 {
		return 0, ErrNotFound
	}
	return id, res.Error
}
