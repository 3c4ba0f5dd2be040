package store

import (
	"context"

	"corpulan/core/message"
)

// handedIn marks the captures that a person handed in; see HandIn.
const handedIn = "X-Handed-In"

// NotCompetitor is why a page is set aside whose host is no competitor of the publication.
const NotCompetitor message.Kept = "Not our competitor"

// carry takes over into a new gathering what people did in the one before it:
// their decisions, the pages they added, and the sources they handed in, which
// are not fetched anew. Everything else is asked for afresh. And it tells which
// results are of the own site. It is the same whether it runs once or again.
func (s *Store) carry(ctx context.Context, g Gathering) error {
	own, err := s.ownHost(ctx, g.PublicationID)
	if err != nil {
		return err
	}
	const before = `p.gathering_id = (select max(id) from gatherings where study_id = @study and id < @gathering)`
	for _, step := range []string{
		`update results r set kept = p.kept, reason = p.reason, decided = true, own = p.own, added = p.added
		 from results p where r.gathering_id = @gathering and p.url = r.url and p.decided and not r.decided and ` + before,

		`insert into results (publication_id, study_id, gathering_id, rank, url, host, title, snippet, state, kept, reason, decided, own, added)
		 select p.publication_id, p.study_id, @gathering,
		        (select coalesce(max(rank), 0) from results where gathering_id = @gathering) + row_number() over (order by p.rank),
		        p.url, p.host, p.title, p.snippet, 'waiting', p.kept, p.reason, p.decided, p.own, true
		 from results p
		 where p.added and ` + before + ` and not exists (select 1 from results r where r.gathering_id = @gathering and r.url = p.url)`,

		`update results r set state = 'read', capture_id = p.capture_id, reading_id = p.reading_id, kept = p.kept, reason = p.reason
		 from results p join captures c on c.id = p.capture_id
		 where r.gathering_id = @gathering and r.state = 'waiting' and p.url = r.url and p.state = 'read'
		   and jsonb_exists(c.headers, @handedin) and ` + before,

		// Hosts that a person has said are no competitors.
		`update results r set kept = false, decided = true, reason = @notcompetitor from publications p
		 where r.gathering_id = @gathering and not r.added and not r.decided and p.id = r.publication_id
		   and exists (select 1 from jsonb_array_elements_text(coalesce(p.settings->'aside', '[]')) h where r.host = h or r.host like '%.' || h)`,
		// Pages of the publication's own site are compared with the field, and not counted into it.
		`update results set own = true where gathering_id = @gathering and not added and not own and not decided and @host <> '' and host in (@host, 'www.' || @host)`,
	} {
		err := s.db.WithContext(ctx).Exec(step, map[string]any{"gathering": g.ID, "study": g.StudyID, "handedin": handedIn, "host": own, "notcompetitor": NotCompetitor}).Error
		if err != nil {
			return err
		}
	}
	return nil
}

// ResultsAgain are the results that a person brought to one gathering, as a
// later one begins with them. What was added beside them is carried by itself.
func (s Scope) ResultsAgain(ctx context.Context, before, again Gathering) ([]Result, error) {
	var list []Result
	err := s.db(ctx).Where("gathering_id = ? and not added", before.ID).Order("rank").Find(&list).Error
	for i, r := range list {
		list[i] = Result{PublicationID: r.PublicationID, StudyID: r.StudyID, GatheringID: again.ID, Rank: r.Rank, URL: r.URL, Host: r.Host,
			Title: r.Title, Snippet: r.Snippet, State: Waiting, Kept: true}
	}
	return list, err
}
