package store

import (
	"context"
	"time"

	"gorm.io/gorm"
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

// MaxLosses is how many worker processes may be lost over one page before it
// is taken for the reason.
const MaxLosses = 3

// FreeOrphans gives the jobs of worker processes that have been silent for
// longer than the given time back to the queue, and returns how many. A job
// may come to be run twice by this; what jobs record they record only once. The
// page that such a job was at counts a loss. Attempts stay counted: a job that
// loses every worker it is given to ends. The queue's own rescue would wait for
// an hour.
func (s *Store) FreeOrphans(ctx context.Context, silent time.Duration) (int64, error) {
	var freed int64
	err := s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		err := tx.Raw(`
			with freed as (
				update river_job j set state = 'available', scheduled_at = now()
				where state = 'running'
				  and not exists (select 1 from workers w where w.id = attempted_by[array_upper(attempted_by, 1)]
				                  and w.seen_at > now() - make_interval(secs => ?))
				returning kind, args),
			lost as (
				update results r set losses = losses + 1 from freed f
				where f.kind = 'fetch' and r.gathering_id = (f.args->>'gathering')::bigint and r.host = f.args->>'host' and r.state = 'fetching')
			select count(*) from freed`, silent.Seconds()).Scan(&freed).Error
		if err != nil || freed == 0 {
			return err
		}
		return tx.Exec(`delete from hosts h where not exists (select 1 from workers w where w.id = split_part(h.holder, '/', 1)
			and w.seen_at > now() - make_interval(secs => ?))`, silent.Seconds()).Error
	})
	return freed, err
}

// HoldHost takes a host for a holder, for as long as one request may take at
// most, and tells how long to wait before it is worth another try: zero if it
// is held, and never else. The outer select sees the row as it was when the
// statement began: free, where another has taken it meanwhile.
//
// A holder is a worker process, a slash, and what tells its jobs apart.
func (s *Store) HoldHost(ctx context.Context, host, holder string, longest time.Duration) (wait time.Duration, err error) {
	var ms float64
	err = s.db.WithContext(ctx).Raw(`
		with held as (
			insert into hosts (host, holder, held_until) values (@host, @holder, now() + make_interval(secs => @longest))
			on conflict (host) do update set holder = @holder, held_until = now() + make_interval(secs => @longest)
				where (hosts.held_until < now() or hosts.holder = @holder) and hosts.free_from <= now()
			returning 1)
		select case when exists (select 1 from held) then 0
			else greatest(coalesce((select case when held_until < now() then extract(epoch from free_from - now()) else 0.1 end from hosts where host = @host), 0), 0.02) end * 1000`,
		map[string]any{"host": host, "holder": holder, "longest": longest.Seconds()}).Scan(&ms).Error
	return time.Duration(max(ms, 0) * float64(time.Millisecond)), err
}

// FreeHost gives a host back; nobody takes it before the delay is over.
func (s *Store) FreeHost(ctx context.Context, host, holder string, delay time.Duration) error {
	return s.db.WithContext(ctx).Exec(`update hosts set held_until = now() - interval '1 second', free_from = now() + make_interval(secs => ?)
		where host = ? and holder = ?`, delay.Seconds(), host, holder).Error
}
