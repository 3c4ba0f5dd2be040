package store

import (
	"context"
	"time"

	"gorm.io/gorm/clause"
)

// Worker is a worker process that says it is alive.
type Worker struct {
	ID     string
	SeenAt time.Time
}

// Beat says that a worker process is alive. The database's clock counts, since
// the machines' own may differ.
func (s *Store) Beat(ctx context.Context, id string) error {
	return s.db.WithContext(ctx).Exec("insert into workers (id, seen_at) values (?, now()) on conflict (id) do update set seen_at = now()", id).Error
}

// Leave takes a worker process off the list as it stops.
func (s *Store) Leave(ctx context.Context, id string) error {
	return s.db.WithContext(ctx).Delete(&Worker{}, "id = ?", id).Error
}

// FreeOrphans gives the jobs of worker processes that have been silent for
// longer than the given time back to the queue, and returns how many. A job
// may come to be run twice by this; what jobs record they record only once.
// The queue's own rescue would wait for an hour.
func (s *Store) FreeOrphans(ctx context.Context, silent time.Duration) (int64, error) {
	res := s.db.WithContext(ctx).Exec(`
		update river_job set state = 'available', scheduled_at = now(), attempt = greatest(attempt - 1, 0)
		where state = 'running' and kind in ('search', 'fetch')
		  and not exists (select 1 from workers w where w.id = attempted_by[array_upper(attempted_by, 1)]
		                  and w.seen_at > now() - make_interval(secs => ?))`, silent.Seconds())
	return res.RowsAffected, res.Error
}

// lockResult reads a result for changing, and tells whether it has been read already.
func (s *Store) lockResult(ctx context.Context, id int64) (Result, bool, error) {
	var r Result
	err := s.db.WithContext(ctx).Clauses(clause.Locking{Strength: "UPDATE"}).Take(&r, id).Error
	return r, r.State == Read, found(err)
}
