package store

import (
	"context"
	"fmt"
	"time"
)

// Who looks at a study, and what is new in it since.

// Look is that somebody looked at a study.
type Look struct {
	PublicationID int64
	StudyID       int64
	Who           string // 'person 3', 'link 5'
	Name          string // as others see them
	Place         string
	LookedAt      time.Time
	SeenAt        *time.Time // the brief or the draft
}

// lookLasts is how long somebody is taken to be there who has not said so again: two beats of a
// page that is looked at, and some. Our own.
const lookLasts = 50 * time.Second

// Person is a member as looks name them.
func (s Scope) Person() string { return fmt.Sprintf("person %d", s.person) }

// Look keeps that somebody looks at a study, and tells who else does just now, by name.
func (s Scope) Look(ctx context.Context, l Look, sees bool) ([]Look, error) {
	db := s.store.db.WithContext(ctx)
	err := db.Exec(`insert into looks (publication_id, study_id, who, name, place, seen_at) values (?, ?, ?, ?, ?, case when ? then now() end)
		on conflict (study_id, who) do update set name = excluded.name, place = excluded.place, looked_at = now(), seen_at = coalesce(excluded.seen_at, looks.seen_at)`,
		s.publication, l.StudyID, l.Who, l.Name, l.Place, sees).Error
	if err != nil {
		return nil, err
	}
	return find[Look](s.db(ctx).Where("study_id = ? and who <> ? and looked_at > ?", l.StudyID, l.Who, time.Now().Add(-lookLasts)).Order("name, who"))
}

// News is what is said and written of a study, and how much of that is new to somebody.
type News struct {
	StudyID    int64
	Remarks    int // that are not settled
	NewRemarks int // settled or not
	Words      int // of the draft; 0 for none
	Fit        *int
	NewDraft   bool
}

// News are the news of some studies for a person whom others know by a name; what they said and
// wrote themselves is none.
func (a Across) News(ctx context.Context, person int64, name string, studies []int64) (map[int64]News, error) {
	var list []News
	err := a.store.db.WithContext(ctx).Raw(`
		select st.id as study_id, coalesce(d.words, 0) as words, d.fit, coalesce(d.words > 0 and d.author <> @name and d.changed_at > coalesce(l.seen_at, '-infinity'), false) as new_draft,
		       r.open as remarks, r.new as new_remarks
		from studies st
		left join drafts d on d.study_id = st.id
		left join looks l on l.study_id = st.id and l.who = @who
		left join lateral (select count(*) filter (where settled_at is null and answers is null) as open,
			count(*) filter (where author <> @name and made_at > coalesce(l.seen_at, '-infinity')) as new from remarks where study_id = st.id) r on true
		where st.id in @studies and st.publication_id in @publications`,
		map[string]any{"publications": append([]int64{0}, a.publications...), "studies": append([]int64{0}, studies...), "who": fmt.Sprintf("person %d", person), "name": name}).Scan(&list).Error
	news := map[int64]News{}
	for _, n := range list {
		news[n.StudyID] = n
	}
	return news, err
}
