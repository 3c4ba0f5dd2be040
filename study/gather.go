package study

import (
	"context"
	"database/sql"
	"errors"
	"slices"

	"corpulan/core/message"
	"corpulan/search"
	"corpulan/store"
)

// Begin keeps a new study and asks for its gathering: of what the search engine
// gives, or of the results that a person brought.
func (c Commands) Begin(ctx context.Context, study *store.Study, brought *search.Results) error {
	return c.scope.InTx(ctx, func(tx store.Scope, sqlTx *sql.Tx) error {
		g, err := tx.CreateStudy(ctx, study)
		if err != nil {
			return err
		}
		if brought == nil {
			return c.queue.Search(ctx, sqlTx, g.ID)
		}
		hosts, err := tx.Brought(ctx, *g, ResultsOf(*g, brought), brought.Asked, brought.Related)
		if err != nil {
			return err
		}
		return c.queue.Fetch(ctx, sqlTx, g.ID, hosts...)
	})
}

// Again starts a new gathering of the same study: from the search engine, or
// from the results that a person brought. While one is under way it goes on. A brief that
// somebody has worked on stands from now on.
func (c Commands) Again(ctx context.Context, study int64) error {
	if err := c.stand(ctx, study); err != nil {
		return err
	}
	return c.scope.InTx(ctx, func(tx store.Scope, sqlTx *sql.Tx) error {
		before, err := tx.LatestGathering(ctx, study)
		if err != nil {
			return err
		}
		g, fresh, err := tx.StartGathering(ctx, study)
		if err != nil || !fresh {
			return err
		}
		if !before.Brought {
			return c.queue.Search(ctx, sqlTx, g.ID)
		}
		results, err := tx.ResultsAgain(ctx, before, *g)
		if err != nil {
			return err
		}
		hosts, err := tx.Brought(ctx, *g, results, before.Asked, before.Related)
		if err != nil {
			return err
		}
		return c.queue.Fetch(ctx, sqlTx, g.ID, hosts...)
	})
}

// MaxResults is how many results a study goes down at most, and DeeperBy how many at a time.
const (
	MaxResults = 100
	DeeperBy   = 10
)

// Deeper lets the newest gathering of a study go on with the next results, in tens.
func (c Commands) Deeper(ctx context.Context, st store.Study) (Done, error) {
	if st.Depth >= MaxResults {
		return Done{}, store.ErrConflict
	}
	var done Done
	err := c.scope.InTx(ctx, func(tx store.Scope, sqlTx *sql.Tx) error {
		depth := min(st.Depth+DeeperBy, MaxResults)
		g, p, err := tx.Deepen(ctx, st, depth)
		if err != nil {
			return err
		}
		if done, err = c.record(ctx, tx, st.ID, message.Of("The first %d results are read", depth), p); err != nil {
			return err
		}
		return c.queue.Search(ctx, sqlTx, g.ID)
	})
	return done, err
}

// Stop halts a gathering where it is; what has arrived stays. One that has
// ended meanwhile is none the worse.
func (c Commands) Stop(ctx context.Context, study int64) error {
	return unless(store.ErrConflict, c.scope.StopGathering(ctx, study))
}

// GoOn lets a stopped gathering go on with what is still to be had.
func (c Commands) GoOn(ctx context.Context, study int64) error {
	return unless(store.ErrConflict, c.scope.InTx(ctx, func(tx store.Scope, sqlTx *sql.Tx) error {
		g, hosts, err := tx.ResumeGathering(ctx, study)
		if err != nil {
			return err
		}
		if g.State == store.Searching {
			if err := c.queue.Search(ctx, sqlTx, g.ID); err != nil {
				return err
			}
		}
		return c.queue.Fetch(ctx, sqlTx, g.ID, hosts...)
	}))
}

func unless(known, err error) error {
	if errors.Is(err, known) {
		return nil
	}
	return err
}

// TryAgain puts a page that failed back in line.
func (c Commands) TryAgain(ctx context.Context, study, result int64) error {
	return c.scope.InTx(ctx, func(tx store.Scope, sqlTx *sql.Tx) error {
		g, r, err := tx.Retry(ctx, study, result)
		if err != nil || !g.Running() {
			return err
		}
		return c.queue.Fetch(ctx, sqlTx, g.ID, r.Host)
	})
}

// AddPages puts addresses to the list that did not rank, our own above all.
// While a gathering is stopped they wait until it goes on.
func (c Commands) AddPages(ctx context.Context, study int64, addresses []string, as store.Adding) (Done, error) {
	var done Done
	err := c.scope.InTx(ctx, func(tx store.Scope, sqlTx *sql.Tx) error {
		g, added, err := tx.AddPages(ctx, study, addresses, as)
		if err != nil {
			return err
		}
		said := message.Of("%d of %d addresses added.", len(added), len(addresses))
		if len(added) < len(addresses) {
			said = message.Joined(" ", said, "The others are in the list already.")
		}
		if len(added) > 0 && g.State == store.Stopped {
			said = message.Joined(" ", said, "They are fetched when the gathering goes on.")
		}
		if done, err = c.record(ctx, tx, study, said, store.Added(added)); err != nil || !g.Running() {
			return err
		}
		return c.queue.Fetch(ctx, sqlTx, g.ID, hostsOf(added)...)
	})
	return done, err
}

func hostsOf(results []store.Result) (hosts []string) {
	for _, r := range results {
		if !slices.Contains(hosts, r.Host) {
			hosts = append(hosts, r.Host)
		}
	}
	return hosts
}
