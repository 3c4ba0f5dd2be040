package store

import (
	"context"
	"errors"
	"time"

	"corpulan/core/message"

	"gorm.io/gorm"
)

// A gathering is a state machine. Every step from one state to the next is
// made with the gathering's row locked, and ranks are given out under the same
// lock, so that a search that comes in, a page that is added, one that is
// handed in and a stop never undo one another:
//
//	searching          --results--> fetching, or done if all of them are at hand
//	searching          --no results--> failed, or as the pages that were added say
//	searching, fetching --stop--> stopped
//	stopped            --go on--> searching if that was not answered, else fetching or done
//	fetching           --last page in--> done
//	done, failed       --a page added or tried again--> fetching
//
// Locks are taken in one order: gathering, result, brief, study.

// LatestGathering is the newest run of a study.
func (s Scope) LatestGathering(ctx context.Context, study int64) (Gathering, error) {
	return take[Gathering](s.db(ctx).Where("study_id = ?", study).Order("id desc"))
}

// Running tells whether a gathering will still change by itself.
func (g Gathering) Running() bool { return g.State == Searching || g.State == Fetching }

// change locks the newest gathering of a study, lets f change it, brings it to
// the state that its pages put it in, and tells those who watch.
func (s Scope) change(ctx context.Context, study int64, f func(tx Scope, g *Gathering) error) (Gathering, error) {
	var g Gathering
	err := s.store.db.WithContext(ctx).Transaction(func(db *gorm.DB) error {
		tx := s.on(&Store{db: db, sql: s.store.sql})
		err := tx.db(ctx).Clauses(forChange).Where("study_id = ?", study).Order("id desc").Take(&g).Error
		if err != nil {
			return found(err)
		}
		if err := f(tx, &g); err != nil {
			return err
		}
		return tx.store.settle(ctx, &g)
	})
	return g, err
}

// settle brings a locked gathering to the state that its pages put it in, and
// keeps it. In the step that ends it pages that say the same are looked for:
// whoever sees it done sees it all.
func (s *Store) settle(ctx context.Context, g *Gathering) error {
	n, err := s.count(ctx, g.ID)
	if err != nil {
		return err
	}
	to := Done
	switch {
	case !g.Searched && g.State != Stopped:
		to = Searching
	case g.State == Stopped && (!g.Searched || n.Open > 0):
		to = Stopped
	case n.Open > 0:
		to = Fetching
	case n.Listed == 0:
		to = Failed
	}
	ended := (to == Done || to == Failed) && g.State != to
	g.State = to
	set := map[string]any{"state": g.State, "searched": g.Searched, "failure": g.Failure, "brought": g.Brought, "asked": g.Asked, "related": g.Related, "suggestions": g.Suggestions,
		"listed": n.Listed, "pages_read": n.Read, "pages_failed": n.Failed, "pages_kept": n.Kept}
	if ended {
		now := time.Now()
		g.FinishedAt = &now
		set["finished_at"] = &now
	}
	if err := s.db.WithContext(ctx).Model(&Gathering{}).Where("id = ?", g.ID).Updates(set).Error; err != nil {
		return err
	}
	if ended {
		if err := s.noteMovement(ctx, g); err != nil {
			return err
		}
		if err := s.emit(ctx, g.StudyID, EventGathered, map[string]any{"state": to, "failure": g.Failure.Message()}); err != nil {
			return err
		}
	}
	if to == Done && ended {
		if err := s.ProposeDuplicates(ctx, g.ID); err != nil {
			return err
		}
	}
	return s.touch(ctx, g.StudyID)
}

// counts are how many pages a gathering has, and what became of them.
type counts struct{ Listed, Open, Read, Failed, Kept int64 }

func (s *Store) count(ctx context.Context, gathering int64) (counts, error) {
	var n counts
	err := s.db.WithContext(ctx).Model(&Result{}).Where("gathering_id = ?", gathering).
		Select(`count(*) as listed, count(*) filter (where state in ('waiting', 'fetching')) as open, count(*) filter (where state = 'read') as read,
			count(*) filter (where state = 'failed') as failed, count(*) filter (where state = 'read' and kept and not own) as kept`).Scan(&n).Error
	return n, err
}

// recount keeps the counts of a gathering whose pages changed after it was settled.
func (s *Store) recount(ctx context.Context, gathering int64) error {
	n, err := s.count(ctx, gathering)
	if err != nil {
		return err
	}
	return s.db.WithContext(ctx).Model(&Gathering{}).Where("id = ?", gathering).
		Updates(map[string]any{"listed": n.Listed, "pages_read": n.Read, "pages_failed": n.Failed, "pages_kept": n.Kept}).Error
}

// lockGathering reads a gathering for changing.
func (s *Store) lockGathering(ctx context.Context, id int64) (Gathering, error) {
	return take[Gathering](s.db.WithContext(ctx).Clauses(forChange), id)
}

// StartGathering opens a new run of collecting for a study. While one is under
// way it is that one: pressed twice, the button means the same.
func (s Scope) StartGathering(ctx context.Context, study int64) (g *Gathering, fresh bool, err error) {
	if err := s.lockStudy(ctx, study); err != nil {
		return nil, false, err
	}
	last, err := s.LatestGathering(ctx, study)
	if err == nil && last.Running() {
		return &last, false, nil
	}
	if err != nil && !errors.Is(err, ErrNotFound) {
		return nil, false, err
	}
	g = &Gathering{PublicationID: s.publication, StudyID: study, State: Searching, StartedAt: time.Now()}
	if err := s.store.db.WithContext(ctx).Create(g).Error; err != nil {
		return nil, false, err
	}
	return g, true, s.store.touch(ctx, study)
}

// StopGathering halts a run: pages not yet asked for stay waiting, and a search
// that is under way asks for none.
func (s Scope) StopGathering(ctx context.Context, study int64) error {
	_, err := s.change(ctx, study, func(_ Scope, g *Gathering) error {
		if !g.Running() {
			return ErrConflict
		}
		g.State = Stopped
		return nil
	})
	return err
}

// ResumeGathering lets a stopped run go on: with the search, if its state is
// then Searching, else with the hosts whose pages are still to be had.
func (s Scope) ResumeGathering(ctx context.Context, study int64) (Gathering, []string, error) {
	var hosts []string
	g, err := s.change(ctx, study, func(tx Scope, g *Gathering) error {
		if g.State != Stopped {
			return ErrConflict
		}
		g.State = Fetching
		var err error
		hosts, err = tx.store.openHosts(ctx, g.ID)
		return err
	})
	return g, hosts, err
}

// Brought records the results that a person brought; see Store.Found.
func (s Scope) Brought(ctx context.Context, g Gathering, results []Result, asked, related []string) (hosts []string, err error) {
	_, err = s.change(ctx, g.StudyID, func(tx Scope, now *Gathering) error {
		if now.ID != g.ID {
			return ErrConflict
		}
		now.Brought = true
		hosts, err = tx.store.merge(ctx, now, results, asked, related, nil)
		return err
	})
	return hosts, err
}

// What follows is for workers, who are given the number of a gathering by the
// queue and act for its publication.

// Gathering finds a run by its number, with its study.
func (s *Store) Gathering(ctx context.Context, id int64) (Gathering, Study, error) {
	var g Gathering
	if err := s.db.WithContext(ctx).Take(&g, id).Error; err != nil {
		return g, Study{}, found(err)
	}
	var st Study
	err := found(s.db.WithContext(ctx).Take(&st, g.StudyID).Error)
	return g, st, err
}

// Found records what a search gave: the ranked pages, and what the results
// page offered besides. Pages that people added or handed in while it ran stay
// and come after those that rank; what people did in the gathering before is
// carried over. It lists the hosts with pages to be had, none if the gathering
// was stopped. A gathering that has its results already keeps them.
func (s *Store) Found(ctx context.Context, g Gathering, results []Result, asked, related, suggestions []string) (hosts []string, err error) {
	err = s.db.WithContext(ctx).Transaction(func(db *gorm.DB) error {
		tx := &Store{db: db, sql: s.sql}
		now, err := tx.lockGathering(ctx, g.ID)
		if err != nil {
			return err
		}
		if hosts, err = tx.merge(ctx, &now, results, asked, related, suggestions); err != nil {
			return err
		}
		if now.State == Stopped {
			hosts = nil
		}
		return tx.settle(ctx, &now)
	})
	return hosts, err
}

// beyondRanks is above all ranks; see merge.
const beyondRanks = 1_000_000

// merge puts the results of a search into a locked gathering.
func (s *Store) merge(ctx context.Context, g *Gathering, results []Result, asked, related, suggestions []string) ([]string, error) {
	if g.Searched {
		return s.openHosts(ctx, g.ID)
	}
	g.Searched, g.Failure = true, ""
	g.Asked, g.Related, g.Suggestions = NewJSONSlice(most(asked)), NewJSONSlice(most(related)), NewJSONSlice(most(suggestions))
	db := s.db.WithContext(ctx)
	var early []Result // added while the search ran
	if err := db.Where("gathering_id = ?", g.ID).Order("rank").Find(&early).Error; err != nil {
		return nil, err
	}
	// Out of the way first: a rank stands once in a gathering.
	if len(early) > 0 {
		if err := db.Model(&Result{}).Where("gathering_id = ?", g.ID).Update("rank", gorm.Expr("rank + ?", beyondRanks)).Error; err != nil {
			return nil, err
		}
	}
	at := map[string]int64{}
	for _, r := range early {
		at[r.URL] = r.ID
	}
	last := 0
	var fresh []Result
	taken := map[string]bool{}
	ranks := map[int]bool{}
	for _, r := range results {
		if taken[r.URL] || ranks[r.Rank] || len(fresh)+len(early) >= MaxResults {
			continue
		}
		taken[r.URL], ranks[r.Rank] = true, true
		last = max(last, r.Rank)
		if id, ok := at[r.URL]; ok {
			if err := db.Model(&Result{}).Where("id = ?", id).Updates(map[string]any{"rank": r.Rank, "title": r.Title, "snippet": r.Snippet}).Error; err != nil {
				return nil, err
			}
			continue
		}
		fresh = append(fresh, r)
	}
	for _, r := range early {
		if taken[r.URL] {
			continue
		}
		last++
		if err := db.Model(&Result{}).Where("id = ?", r.ID).Update("rank", last).Error; err != nil {
			return nil, err
		}
	}
	if len(fresh) > 0 {
		if err := db.Create(&fresh).Error; err != nil {
			return nil, err
		}
	}
	if err := s.carry(ctx, *g); err != nil {
		return nil, err
	}
	return s.openHosts(ctx, g.ID)
}

// maxOffered is how many questions, related searches or suggestions of a
// results page are kept; none shows more.
const maxOffered = 200

func most(list []string) []string { return append([]string{}, list[:min(len(list), maxOffered)]...) }

// openHosts lists the hosts with pages still to be had.
func (s *Store) openHosts(ctx context.Context, gathering int64) (hosts []string, err error) {
	err = s.db.WithContext(ctx).Model(&Result{}).Where("gathering_id = ? and state in ?", gathering, []State{Waiting, Fetching}).
		Distinct("host").Order("host").Pluck("host", &hosts).Error
	return hosts, err
}

// FailSearch ends a search that gave nothing. The gathering fails with it,
// unless people added pages while it ran.
func (s *Store) FailSearch(ctx context.Context, g Gathering, why message.Message) error {
	return s.db.WithContext(ctx).Transaction(func(db *gorm.DB) error {
		tx := &Store{db: db, sql: s.sql}
		now, err := tx.lockGathering(ctx, g.ID)
		if err != nil || now.Searched {
			return err
		}
		now.Searched, now.Failure = true, why.Keep()
		return tx.settle(ctx, &now)
	})
}
