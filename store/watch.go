package store

import "context"

// What an operator watches.

// QueueCount is how many jobs of a kind are in a state.
type QueueCount struct {
	Kind, State string
	Jobs        int64
}

// QueueCounts are the jobs that are not done, by kind and state.
func (s *Store) QueueCounts(ctx context.Context) ([]QueueCount, error) {
	var list []QueueCount
	err := s.db.WithContext(ctx).Raw("select kind, state::text as state, count(*) as jobs from river_job where state not in ('completed', 'cancelled') group by 1, 2").Scan(&list).Error
	return list, err
}

// Sizes are the bytes that the tables take on disk, with their indexes.
func (s *Store) Sizes(ctx context.Context) (map[string]int64, error) {
	var rows []struct {
		Name  string
		Bytes int64
	}
	err := s.db.WithContext(ctx).Raw("select relname as name, pg_total_relation_size(relid) as bytes from pg_stat_user_tables where schemaname = current_schema()").Scan(&rows).Error
	sizes := map[string]int64{}
	for _, r := range rows {
		sizes[r.Name] = r.Bytes
	}
	return sizes, err
}
