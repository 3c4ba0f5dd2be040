package store

import (
	"context"
	"errors"
	"time"

	"corpulan/core/message"
	"corpulan/core/reading"

	"gorm.io/gorm"
)

// NextUnfetched is the next page of a host that a gathering still has to fetch;
// ErrNotFound when there is none, or the gathering has been stopped. One being
// fetched may be it: only the worker that holds the host's job asks, so whoever
// had begun it is gone.
func (s *Store) NextUnfetched(ctx context.Context, gathering int64, host string, after int) (Result, error) {
	var r Result
	err := s.db.WithContext(ctx).Joins("join gatherings g on g.id = results.gathering_id and g.state in ('searching', 'fetching')").
		Where("results.gathering_id = ? and results.host = ? and results.rank > ? and results.state in ?", gathering, host, after, []State{Waiting, Fetching}).
		Order("results.rank").Take(&r).Error
	return r, found(err)
}

// BeginFetch shows that a page is being fetched. Only one that is still to be
// had: it may have been handed in, or taken out again.
func (s *Store) BeginFetch(ctx context.Context, r Result) error {
	res := s.db.WithContext(ctx).Model(&Result{}).Where("id = ? and state in ?", r.ID, []State{Waiting, Fetching}).Update("state", Fetching)
	if res.Error != nil {
		return res.Error
	}
	if res.RowsAffected == 0 {
		return ErrNotFound
	}
	return s.touch(ctx, r.StudyID)
}

// KeepPage records a fetched and read page in one step: the capture, its
// reading, the result's state, and the proposal whether to keep it. Two
// workers may have fetched it, or a person handed it in or taken it out
// meanwhile: the first counts, and for the second it is no error.
func (s *Store) KeepPage(ctx context.Context, r Result, c *Capture, doc *reading.Reading, setAside message.Message) error {
	return s.arrive(ctx, r, func(tx *Store) (func(now Result) map[string]any, error) {
		c.PublicationID, c.StudyID = r.PublicationID, r.StudyID
		rd, err := tx.keepReading(ctx, c, doc)
		return func(now Result) map[string]any { return readAs(now, c.ID, rd, setAside) }, err
	})
}

// Earlier is the newest capture of an address in the same study that a page
// may still be like, with its reading by the given engine; ErrNotFound if there
// is none. Captures that were handed in are not asked for again by their headers.
func (s *Store) Earlier(ctx context.Context, r Result, engine int) (Capture, Reading, error) {
	var c Capture
	err := s.db.WithContext(ctx).Where("pruned_at is null and study_id = ? and url = ? and status = 200", r.StudyID, r.URL).Order("id desc").Take(&c).Error
	if err != nil {
		return c, Reading{}, found(err)
	}
	var rd Reading
	err = found(s.db.WithContext(ctx).Where("capture_id = ? and engine = ?", c.ID, engine).Take(&rd).Error)
	return c, rd, err
}

// KeptFor is how long a page that one study has captured serves other studies of the publication
// that come to it, unless somebody asks for it anew by gathering again. Our own.
const KeptFor = 7 * 24 * time.Hour

// Recent is a capture of an address that another study of the publication made lately, bytes
// included, with its reading by the given engine; ErrNotFound if there is none.
func (s *Store) Recent(ctx context.Context, r Result, engine int, now time.Time) (Capture, Reading, error) {
	var c Capture
	err := s.db.WithContext(ctx).Where(`url = ? and publication_id = ? and study_id <> ? and status = 200 and pruned_at is null and captured_at > ? and not jsonb_exists(headers, ?)`,
		r.URL, r.PublicationID, r.StudyID, now.Add(-KeptFor), handedIn).Order("id desc").Take(&c).Error
	if err != nil {
		return c, Reading{}, found(err)
	}
	var rd Reading
	if err := found(s.db.WithContext(ctx).Where("capture_id = ? and engine = ?", c.ID, engine).Take(&rd).Error); err != nil {
		return c, rd, err
	}
	err = s.withBody(ctx, &c)
	return c, rd, err
}

// KeepEarlier records that a page is as it was in an earlier capture.
func (s *Store) KeepEarlier(ctx context.Context, r Result, c Capture, rd Reading, setAside message.Message) error {
	return s.arrive(ctx, r, func(*Store) (func(now Result) map[string]any, error) {
		return func(now Result) map[string]any { return readAs(now, c.ID, rd.ID, setAside) }, nil
	})
}

// FailPage records why a page could not be had.
func (s *Store) FailPage(ctx context.Context, r Result, code string, why message.Message) error {
	return s.arrive(ctx, r, func(*Store) (func(now Result) map[string]any, error) {
		return func(Result) map[string]any {
			return map[string]any{"state": Failed, "failure_code": code, "failure": why.Keep()}
		}, nil
	})
}

// errLate undoes the work of a page whose place was taken meanwhile.
var errLate = errors.New("the page had arrived already")

// arrive records what became of a page. What prepare keeps is kept before
// anything is locked, since a page may be large.
func (s *Store) arrive(ctx context.Context, r Result, prepare func(tx *Store) (func(now Result) map[string]any, error)) error {
	err := s.db.WithContext(ctx).Transaction(func(db *gorm.DB) error {
		tx := &Store{db: db, sql: s.sql}
		become, err := prepare(tx)
		if err != nil {
			return err
		}
		g, err := tx.lockGathering(ctx, r.GatheringID)
		if err != nil {
			return err
		}
		now, done, err := lockResult(ctx, db, r.ID)
		if err != nil {
			return err
		}
		if done {
			return errLate
		}
		if err := db.Model(&Result{}).Where("id = ?", r.ID).Updates(become(now)).Error; err != nil {
			return err
		}
		return tx.settle(ctx, &g)
	})
	if errors.Is(err, errLate) || errors.Is(err, ErrNotFound) {
		return nil
	}
	return err
}
