package store

import (
	"context"
	"time"

	"corpulan/core/message"
)

// Event is something that happened to a study.
type Event struct {
	At       time.Time
	Kind     string // where it is from: "change", "gathering", "remark", "link", "draft"
	PersonID *int64
	Actor    string // browser it was done in; empty where that is not kept
	Author   string // name they gave themselves; empty for a member
	Said     message.Kept
	Undone   bool
}

// History lists what happened to a study, the newest first: at most so many, from a time
// backwards; the zero time for the newest.
func (s Scope) History(ctx context.Context, study int64, before time.Time, most int) ([]Event, error) {
	if before.IsZero() {
		before = time.Now().Add(time.Hour) // clocks of several machines
	}
	var rows []struct {
		Event
		About string // what a remark is about
	}
	err := s.store.db.WithContext(ctx).Raw(`
		select * from (
			select made_at as at, 'change' as kind, person_id, actor, '' as author, said, '' as about, undone_at is not null as undone
			from changes where publication_id = @publication and study_id = @study
			union all
			select started_at, 'gathering', null, '', '', brought::text, '', false
			from gatherings where publication_id = @publication and study_id = @study
			union all
			select made_at, 'remark', null, '', author, left(body, 200), said_of, false
			from remarks where publication_id = @publication and study_id = @study
			union all
			select made_at, 'link', made_by, '', '', name, '', revoked_at is not null
			from share_links where publication_id = @publication and study_id = @study
			union all
			select v.made_at, 'draft', null, '', v.author, v.said, '', false
			from draft_versions v join drafts d on d.id = v.draft_id where v.publication_id = @publication and d.study_id = @study
		) events where at < @before order by at desc limit @most`,
		map[string]any{"publication": s.publication, "study": study, "before": before, "most": most}).Scan(&rows).Error
	list := make([]Event, len(rows))
	for i, r := range rows {
		list[i] = r.Event
		list[i].Said = r.Event.says(r.About).Keep()
	}
	return list, err
}

// says is what happened, of what the tables have of it.
func (e Event) says(about string) message.Message {
	switch e.Kind {
	case "remark":
		return message.Of("Remark on “%s”: %s", about, string(e.Said))
	case "gathering":
		if string(e.Said) == "true" {
			return "Brought results"
		}
		return "Gathered"
	case "link":
		return message.Of("Made a link for %s", string(e.Said))
	case "draft":
		if e.Said == "" {
			return "Wrote the draft"
		}
		return message.Of("Draft: %v", e.Said.Message())
	}
	return e.Said.Message()
}
