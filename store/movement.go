package store

import (
	"context"
	"database/sql"
	"math/rand/v2"
	"strings"
	"time"

	"corpulan/core/address"

	"gorm.io/gorm/clause"
)

// Moved is how the ranked pages of a gathering stand against those of the one before.
type Moved struct {
	New  int `json:"new"`
	Gone int `json:"gone"`
	Up   int `json:"up"`
	Down int `json:"down"`
}

// Any tells that something moved.
func (m Moved) Any() bool { return m.New+m.Gone+m.Up+m.Down > 0 }

// noteMovement keeps with a gathering that has ended where the publication's own site stands in
// it, and how the ranks moved; and with the study, how its newest two compare. Pages that people added did not rank.
func (s *Store) noteMovement(ctx context.Context, g *Gathering) error {
	own, err := s.ownHost(ctx, g.PublicationID)
	if err != nil {
		return err
	}
	args := map[string]any{"g": g.ID, "study": g.StudyID, "host": own}
	err = s.db.WithContext(ctx).Exec(`
		with was as (select url, rank from results where not added and gathering_id = (select max(id) from gatherings where study_id = @study and id < @g and state = 'done')),
		     now as (select url, rank, own, host from results where not added and gathering_id = @g)
		update gatherings set
		  place = (select min(rank) from now where own or @host <> '' and (host = @host or host = 'www.' || @host)),
		  moved = case when exists (select 1 from was) then (
		    select jsonb_build_object('new', count(*) filter (where was.url is null), 'gone', count(*) filter (where now.url is null),
		                              'up', count(*) filter (where now.rank < was.rank), 'down', count(*) filter (where now.rank > was.rank))
		    from was full join now on now.url = was.url) end
		where id = @g`, args).Error
	if err != nil {
		return err
	}
	return s.db.WithContext(ctx).Exec(`
		update studies set place = coalesce(two.place[1], 0), place_was = coalesce(two.place[2], 0), compared = coalesce(two.n, 0) > 1, moved = coalesce(two.moved, '{}')
		from (select array_agg(place order by id desc) as place, count(*) as n, (array_agg(moved order by id desc))[1] as moved
		      from (select id, place, moved from gatherings where study_id = @study and state = 'done' order by id desc limit 2) g) two
		where studies.id = @study`, args).Error
}

// Gatherings lists the runs of a study, the oldest first.
func (s Scope) Gatherings(ctx context.Context, study int64) ([]Gathering, error) {
	return find[Gathering](s.db(ctx).Where("study_id = ?", study).Order("id"))
}

// Deepen lets the newest gathering of a study, once it has ended, go on with more results: the
// search is asked anew for so many, and pages that are there already stay as they are. It returns
// what that changed.
func (s Scope) Deepen(ctx context.Context, st Study, depth int) (Gathering, Patch, error) {
	var e DepthEdit
	g, err := s.change(ctx, st.ID, func(tx Scope, g *Gathering) error {
		if g.Running() || g.Brought {
			return ErrConflict
		}
		e = DepthEdit{Gathering: g.ID, Before: st.Depth, After: depth}
		if err := tx.db(ctx).Model(&Result{}).Where("gathering_id = ?", g.ID).Select("coalesce(max(id), 0)").Scan(&e.Last).Error; err != nil {
			return err
		}
		return tx.setDepth(ctx, g, e)
	})
	return g, Patch{Depth: &e}, err
}

// setDepth brings a study from one depth to another within a locked gathering. Going deeper it is to
// be searched anew; going back the pages go that came by it, but for those that a person has decided
// about. ErrStale if it was gathered again, or has another depth by now.
func (s Scope) setDepth(ctx context.Context, g *Gathering, e DepthEdit) error {
	if g.ID != e.Gathering {
		return ErrStale
	}
	res := s.db(ctx).Model(&Study{}).Where("id = ? and depth = ?", g.StudyID, e.Before).Update("depth", e.After)
	if res.Error != nil {
		return res.Error
	}
	if res.RowsAffected == 0 {
		return ErrStale
	}
	if e.After > e.Before {
		g.Searched, g.State = false, Searching
		return nil
	}
	g.Searched = true // a search that is under way keeps nothing
	if g.State == Searching {
		g.State = Fetching // or as its pages say
	}
	return s.db(ctx).Where("gathering_id = ? and id > ? and not added and not decided", g.ID, e.Last).Delete(&Result{}).Error
}

// Position is where the publication's own site stood for a study on a day.
type Position struct {
	StudyID int64
	Keyword string
	At      time.Time
	Place   int // 0 for none
	Depth   int // results that were asked for
}

// Positions lists where the own site stood over all ended gatherings of the publication's
// studies that are not deleted, study by study, the oldest first.
func (s Scope) Positions(ctx context.Context) ([]Position, error) {
	var list []Position
	err := s.store.db.WithContext(ctx).Raw(`
		select st.id as study_id, st.keyword, st.depth, coalesce(g.finished_at, g.started_at) as at, coalesce(g.place, 0) as place
		from gatherings g join studies st on st.id = g.study_id
		where st.publication_id = ? and st.deleted_at is null and g.state = 'done'
		order by st.id, g.id`, s.publication).Scan(&list).Error
	return list, err
}

// The ways a study is gathered again by itself.
const (
	Weekly  = "weekly"
	Monthly = "monthly"
)

// After is when a study is gathered next, that was gathered at a time: the same a week or a
// month later, moved by up to an hour either way so that not all come at once.
func After(again string, at time.Time) *time.Time {
	var next time.Time
	switch again {
	case Weekly:
		next = at.AddDate(0, 0, 7)
	case Monthly:
		next = at.AddDate(0, 1, 0)
	default:
		return nil
	}
	next = next.Add(time.Duration((rand.Float64()*2 - 1) * float64(time.Hour)))
	return &next
}

// ScheduledADay is how many gatherings a publication begins by itself in a day at most: what
// search engines are asked costs. Our own.
const ScheduledADay = 200

// TakeDue takes the studies whose time has come to be gathered again, within the budget of
// their publications, and gives them their next time. What the budget does not allow waits.
func (s *Store) TakeDue(ctx context.Context, now time.Time, most int) ([]Study, error) {
	var due []Study
	err := s.InTx(ctx, func(tx *Store, _ *sql.Tx) error {
		err := tx.db.WithContext(ctx).Clauses(clause.Locking{Strength: forChange.Strength, Options: "SKIP LOCKED"}).
			Where(`again_at <= ? and archived_at is null and deleted_at is null and
			       (select count(*) from gatherings g where g.publication_id = studies.publication_id and g.scheduled and g.started_at > ?) < ?`,
				now, now.Add(-24*time.Hour), ScheduledADay).
			Order("again_at").Limit(most).Find(&due).Error
		if err != nil {
			return err
		}
		for _, st := range due {
			if err := tx.db.WithContext(ctx).Model(&Study{}).Where("id = ?", st.ID).Update("again_at", After(st.Again, now)).Error; err != nil {
				return err
			}
		}
		return nil
	})
	return due, err
}

// MarkScheduled notes that a gathering was begun by the program itself.
func (s Scope) MarkScheduled(ctx context.Context, gathering int64) error {
	return s.db(ctx).Model(&Gathering{}).Where("id = ?", gathering).Update("scheduled", true).Error
}

// ownHost is the host of a publication's own site, without "www."; empty where it is not said.
func (s *Store) ownHost(ctx context.Context, publication int64) (string, error) {
	var own string
	err := s.db.WithContext(ctx).Model(&Publication{}).Where("id = ?", publication).Select("address").Scan(&own).Error
	return strings.TrimPrefix(address.Parse(own).Authority(), "www."), err
}
