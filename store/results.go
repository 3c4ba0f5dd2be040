package store

import (
	"cmp"
	"context"
	"slices"
	"strings"
	"time"

	"corpulan/core/address"
	"corpulan/core/message"
	"corpulan/core/reading"

	"gorm.io/gorm"
)

// MaxResults is how many pages one gathering may hold.
const MaxResults = 150

// Results lists a gathering's pages in rank order.
func (s Scope) Results(ctx context.Context, gathering int64) ([]Result, error) {
	return find[Result](s.db(ctx).Where("gathering_id = ?", gathering).Order("rank"))
}

// Result finds one page of a study.
func (s Scope) Result(ctx context.Context, study, id int64) (Result, error) {
	return take[Result](s.db(ctx).Where("study_id = ?", study), id)
}

// Retry puts a failed page back in line and returns the gathering as it then is.
func (s Scope) Retry(ctx context.Context, study, id int64) (Gathering, Result, error) {
	var r Result
	g, err := s.change(ctx, study, func(tx Scope, g *Gathering) error {
		err := tx.db(ctx).Where("gathering_id = ? and state = ?", g.ID, Failed).Take(&r, id).Error
		if err != nil {
			return found(err)
		}
		return tx.db(ctx).Model(&Result{}).Where("id = ?", id).
			Updates(map[string]any{"state": Waiting, "failure": "", "failure_code": "", "losses": 0}).Error
	})
	return g, r, err
}

// Adding is as what a page is added that did not rank.
type Adding string

// The ways: into the field, as if it had ranked; a page of ours, compared with the field; an extra
// source, read beside it and counted only if it is kept.
const (
	InField Adding = "field"
	Ours    Adding = "ours"
	Beside  Adding = "beside"
)

// BesideReason is why an extra source does not count.
const BesideReason message.Kept = "An extra source: counted only if you keep it"

// IsBeside tells an extra source that is not counted. What somebody brought without an address
// stays one, kept for a while or not.
func (r Result) IsBeside() bool {
	return r.Added && !r.Own && !r.Kept && (r.Reason == BesideReason || strings.HasPrefix(r.URL, address.Brought))
}

// AddPages puts further addresses at the end of the newest gathering and
// returns those that were not in it already, with the gathering as it then is.
// Own pages are compared with the field and never counted into it; extra sources are the field where
// it has no page.
func (s Scope) AddPages(ctx context.Context, study int64, urls []string, as Adding) (Gathering, []Result, error) {
	var added []Result
	g, err := s.change(ctx, study, func(tx Scope, g *Gathering) error {
		have, err := tx.Results(ctx, g.ID)
		if err != nil {
			return err
		}
		known := map[string]bool{}
		rank := 0
		if as == Beside && g.State != Searching && !slices.ContainsFunc(have, func(r Result) bool { return !r.Added || r.Kept && !r.Own }) {
			as = InField // nothing ranks: what is brought is the field
		}
		for _, r := range have {
			known[cmp.Or(address.Parse(r.URL).Key(), r.URL)] = true
			rank = max(rank, r.Rank)
		}
		for _, u := range urls {
			a := address.Parse(u)
			key := cmp.Or(a.Key(), u) // what is no address of the web is itself
			if known[key] {
				continue
			}
			known[key] = true
			rank++
			reason := message.Kept("")
			if as == Beside {
				reason = BesideReason
			}
			added = append(added, Result{PublicationID: s.publication, StudyID: study, GatheringID: g.ID, Rank: rank, URL: u, Host: a.Authority(), State: Waiting, Kept: as != Beside, Reason: reason, Decided: as != InField, Own: as == Ours, Added: true})
		}
		if len(have)+len(added) > MaxResults {
			return &TooManyError{Have: len(have), Adding: len(added), Most: MaxResults}
		}
		if len(added) == 0 {
			return nil
		}
		return tx.store.db.WithContext(ctx).Create(&added).Error
	})
	if err != nil {
		return g, nil, err
	}
	return g, added, nil
}

// HandIn keeps a page that a person handed in for a result: it takes the place
// of what was fetched, or of the failure to. The name is what the person's file
// is called. It returns what that changed.
func (s Scope) HandIn(ctx context.Context, study, result int64, name string, c *Capture, doc *reading.Reading, setAside message.Message) (Patch, error) {
	var p Patch
	_, err := s.change(ctx, study, func(tx Scope, g *Gathering) error {
		db := tx.store.db.WithContext(ctx)
		var r Result
		if err := tx.db(ctx).Clauses(forChange).Where("gathering_id = ?", g.ID).Take(&r, result).Error; err != nil {
			return found(err)
		}
		c.PublicationID, c.StudyID = s.publication, study
		c.Headers = NewJSONType(map[string][]string{handedIn: {name}})
		rd, err := tx.store.keepReading(ctx, c, doc)
		if err != nil {
			return err
		}
		if err := db.Model(&Result{}).Where("id = ?", r.ID).Updates(readAs(r, c.ID, rd, setAside)).Error; err != nil {
			return err
		}
		if g.State == Done { // else they are looked for when the last page is in
			if err := tx.store.ProposeDuplicates(ctx, g.ID); err != nil {
				return err
			}
		}
		return tx.noteResults(ctx, &p, []Result{r})
	})
	return p, err
}

// keepReading keeps a capture and what was read out of it, and returns the
// reading's number.
func (s *Store) keepReading(ctx context.Context, c *Capture, doc *reading.Reading) (int64, error) {
	if err := s.keepBody(ctx, c); err != nil {
		return 0, err
	}
	if err := s.db.WithContext(ctx).Create(c).Error; err != nil {
		return 0, err
	}
	rd := &Reading{PublicationID: c.PublicationID, CaptureID: c.ID, Engine: doc.Engine, Document: NewJSONType(doc)}
	err := s.db.WithContext(ctx).Create(rd).Error
	return rd.ID, err
}

// Readings loads readings by their numbers.
func (s Scope) Readings(ctx context.Context, ids []int64) (map[int64]*reading.Reading, error) {
	var rows []Reading
	if err := s.db(ctx).Select("id", "document").Where("id in ?", ids).Find(&rows).Error; err != nil {
		return nil, err
	}
	all := make(map[int64]*reading.Reading, len(rows))
	for _, r := range rows {
		all[r.ID] = r.Document.Data()
	}
	return all, nil
}

// Summary is what lists of pages show of a reading.
type Summary struct {
	ID               int64
	Title, Published string
	Kind             reading.Kind
	KindSignals      JSONSlice[message.Kept]
	Flags            JSONSlice[message.Kept]
	Words            int
	Headings, Struck int
}

// Summaries are the summaries of readings by their numbers: a hundredth of what Readings loads.
// Each document is taken apart once: with every document->'name' it would be unpacked again.
func (s Scope) Summaries(ctx context.Context, ids []int64) ([]Summary, error) {
	var list []Summary
	if len(ids) == 0 {
		return nil, nil
	}
	err := s.store.db.WithContext(ctx).Raw(`
		select r.id, d.title, d.published, d.kind, d.kind_signals, d.flags, (d.counts->>'words')::int as words,
			case jsonb_typeof(d.headings) when 'array' then jsonb_array_length(d.headings) else 0 end as headings,
			case jsonb_typeof(d.struck) when 'array' then jsonb_array_length(d.struck) else 0 end as struck
		from readings r, jsonb_to_record(r.document) as d(title text, published text, kind text, kind_signals jsonb, flags jsonb, counts jsonb, headings jsonb, struck jsonb)
		where r.publication_id = @publication and r.id in @ids`, map[string]any{"publication": s.publication, "ids": ids}).Scan(&list).Error
	return list, err
}

// Outlines are readings without their texts, by their numbers: titles, figures, and the sections
// with their headings and lengths.
func (s Scope) Outlines(ctx context.Context, ids []int64) (map[int64]*reading.Reading, error) {
	var rows []Reading
	if len(ids) == 0 {
		return nil, nil
	}
	err := s.store.db.WithContext(ctx).Raw(`
		select r.id, jsonb_build_object('engine', d.engine, 'title', d.title, 'kind', d.kind, 'counts', d.counts,
			'sections', (select jsonb_agg(s - 'text' - 'lines' order by at) from jsonb_array_elements(case jsonb_typeof(d.sections) when 'array' then d.sections else '[]' end) with ordinality x(s, at))) as document
		from readings r, jsonb_to_record(r.document) as d(engine jsonb, title jsonb, kind jsonb, counts jsonb, sections jsonb)
		where r.publication_id = @publication and r.id in @ids`, map[string]any{"publication": s.publication, "ids": ids}).Scan(&rows).Error
	if err != nil {
		return nil, err
	}
	all := make(map[int64]*reading.Reading, len(rows))
	for _, r := range rows {
		all[r.ID] = r.Document.Data()
	}
	return all, nil
}

// Capture loads a page as it was fetched.
func (s Scope) Capture(ctx context.Context, id int64) (Capture, error) {
	var c Capture
	if err := found(s.db(ctx).Take(&c, id).Error); err != nil {
		return c, err
	}
	err := s.store.withBody(ctx, &c)
	return c, err
}

// CapturedAt is when a capture was made.
func (s Scope) CapturedAt(ctx context.Context, id int64) (time.Time, error) {
	var c Capture
	err := found(s.db(ctx).Select("captured_at").Take(&c, id).Error)
	return c.CapturedAt, err
}

// CaptureIDs lists the captures of a study's newest gathering in rank order,
// and tells when the newest of them was made.
func (s Scope) CaptureIDs(ctx context.Context, study int64) (ids []int64, newest time.Time, err error) {
	g, err := s.LatestGathering(ctx, study)
	if err != nil {
		return nil, newest, err
	}
	var rows []struct {
		ID         int64
		CapturedAt time.Time
	}
	err = s.store.db.WithContext(ctx).Model(&Capture{}).Where("captures.publication_id = ?", s.publication).Select("captures.id, captures.captured_at").
		Joins("join results r on r.capture_id = captures.id and r.gathering_id = ?", g.ID).Order("r.rank").Scan(&rows).Error
	for _, r := range rows {
		ids = append(ids, r.ID)
		if r.CapturedAt.After(newest) {
			newest = r.CapturedAt
		}
	}
	return ids, newest, err
}

// readAs is what a result becomes when its page has been read. A person's
// decision about it stays.
func readAs(r Result, capture, reading int64, setAside message.Message) map[string]any {
	set := map[string]any{"state": Read, "failure": "", "failure_code": "", "losses": 0, "capture_id": capture, "reading_id": reading}
	if !r.Decided && !r.Own {
		set["kept"], set["reason"] = setAside == "", setAside.Keep()
	}
	return set
}

// lockResult reads a result for changing, and tells whether it has been read
// already. Its gathering must be locked.
func lockResult(ctx context.Context, tx *gorm.DB, id int64) (Result, bool, error) {
	var r Result
	err := tx.WithContext(ctx).Clauses(forChange).Take(&r, id).Error
	return r, r.State == Read, found(err)
}
