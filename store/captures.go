package store

import (
	"context"
	"time"

	"corpulan/core/message"

	"gorm.io/gorm/clause"
)

// The bytes of captures. They are compressed, and stored once however often the same bytes were
// captured, in whichever study; they go when no capture needs them any more.

// ErrPruned says that the bytes of a capture were given up; what was read of them stays.
var ErrPruned = message.Errorf("the bytes of this capture are not kept any more")

// body is what was captured.
type body struct {
	Digest []byte `gorm:"primaryKey"` // SHA-256 of the bytes before compression
	Body   []byte // gzip
	Size   int64  // before compression
}

// keepBody stores the bytes of a capture, unless they are there; then it holds on to their row,
// so that Prune waits for the capture that is about to need them.
func (s *Store) keepBody(ctx context.Context, c *Capture) error {
	return s.db.WithContext(ctx).Clauses(clause.OnConflict{Columns: []clause.Column{{Name: "digest"}}, DoUpdates: clause.AssignmentColumns([]string{"size"})}).Create(&body{c.Digest, c.Body, c.Size}).Error
}

// withBody loads the bytes of a capture.
func (s *Store) withBody(ctx context.Context, c *Capture) error {
	if c.PrunedAt != nil {
		return ErrPruned
	}
	var kept body
	err := found(s.db.WithContext(ctx).Where("digest = ?", c.Digest).Take(&kept).Error)
	c.Body = kept.Body
	return err
}

// maxPruned is how many rows one statement of pruning touches, so that none holds locks for long.
const maxPruned = 2000

// Prune gives up the bytes of captures that are older than kept and that no newest gathering
// shows, 0 for none of them, and then all bytes that no capture needs. It returns how many
// captures and how many stored bodies that were.
func (s *Store) Prune(ctx context.Context, kept time.Duration) (captures, bodies int64, err error) {
	for kept > 0 {
		res := s.db.WithContext(ctx).Exec(`update captures set digest = null, pruned_at = now() where id in (
			select c.id from captures c where c.pruned_at is null and c.captured_at < now() - make_interval(secs => ?) and not exists (
				select 1 from results r where r.capture_id = c.id and r.gathering_id = (select max(g.id) from gatherings g where g.study_id = c.study_id))
			order by c.id limit ?)`, kept.Seconds(), maxPruned)
		captures += res.RowsAffected
		if res.Error != nil || res.RowsAffected < maxPruned {
			err = res.Error
			break
		}
	}
	for err == nil {
		// Bytes that a capture comes to need at this moment are held by it; once it is there
		// the foreign key refuses to let them go, and this is tried again an hour later.
		res := s.db.WithContext(ctx).Exec(`delete from bodies where digest in (
			select b.digest from bodies b where not exists (select 1 from captures c where c.digest = b.digest) limit ?)`, maxPruned)
		bodies += res.RowsAffected
		if err = res.Error; res.RowsAffected < maxPruned {
			break
		}
	}
	return captures, bodies, err
}

// CaptureSizes is what the captures of a publication take.
type CaptureSizes struct {
	Captures, Pruned int64
	Bytes            int64 // as they came
	Stored           int64 // compressed, each once
}

// CaptureSizes adds up what the captures of the publication take.
func (s Scope) CaptureSizes(ctx context.Context) (CaptureSizes, error) {
	var x CaptureSizes
	err := s.store.db.WithContext(ctx).Raw(`
		select (select count(*) from captures where publication_id = @p) as captures, (select count(*) from captures where publication_id = @p and pruned_at is not null) as pruned,
		       coalesce((select sum(size) from captures where publication_id = @p and pruned_at is null), 0) as bytes,
		       coalesce((select sum(octet_length(b.body)) from bodies b where b.digest in (select digest from captures where publication_id = @p)), 0) as stored`,
		map[string]any{"p": s.publication}).Scan(&x).Error
	return x, err
}
