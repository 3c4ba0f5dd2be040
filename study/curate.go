package study

import (
	"context"
	"database/sql"
	"slices"
	"strings"

	"corpulan/core/message"
	"corpulan/store"
)

// Keep keeps pages or sets them aside, with the reason for it.
func (c Commands) Keep(ctx context.Context, study int64, results []int64, kept bool, reason message.Message) (Done, error) {
	return c.curate(ctx, study, func(tx store.Scope) (store.Patch, message.Message, error) {
		p, err := tx.SetKept(ctx, study, results, kept, reason)
		what := message.Format("Set aside: %v")
		if kept {
			what = "Kept: %v"
		}
		return p, message.Of(what, pagesOf(p)), err
	})
}

// AcceptProposals makes all proposed set-asides decisions.
func (c Commands) AcceptProposals(ctx context.Context, study int64) (Done, error) {
	return c.curate(ctx, study, func(tx store.Scope) (store.Patch, message.Message, error) {
		p, err := tx.AcceptProposals(ctx, study)
		return p, message.Of("Proposals accepted: %v", pagesOf(p)), err
	})
}

func (c Commands) curate(ctx context.Context, study int64, change func(tx store.Scope) (store.Patch, message.Message, error)) (Done, error) {
	var done Done
	err := c.scope.InTx(ctx, func(tx store.Scope, _ *sql.Tx) error {
		p, said, err := change(tx)
		if err != nil {
			return err
		}
		done, err = c.record(ctx, tx, study, said, p)
		return err
	})
	return done, err
}

// pagesOf names the pages a patch is about: "rank 3", "4 pages".
func pagesOf(p store.Patch) message.Message {
	if len(p.Results) == 1 && p.Results[0].After != nil {
		return message.Of("rank %d, %s", p.Results[0].After.Rank, p.Results[0].After.Host)
	}
	return message.Of("%d pages", len(p.Results))
}

// maxAside is how many hosts a publication remembers as no competitors. Our own.
const maxAside = 1000

// NotCompetitor remembers for the publication that the host of a page is no competitor, and sets
// its pages aside: those of this study at once, those of later gatherings as they come.
func (c Commands) NotCompetitor(ctx context.Context, study, result int64) (Done, error) {
	r, err := c.scope.Result(ctx, study, result)
	if err != nil {
		return Done{}, err
	}
	host := strings.TrimPrefix(r.Host, "www.")
	if host == "" {
		return Done{}, store.ErrNotFound
	}
	_, err = c.scope.EditPublication(ctx, func(_ *string, s *store.Settings) error {
		if !slices.Contains(s.Aside, host) {
			if len(s.Aside) >= maxAside {
				return store.ErrTooMany
			}
			s.Aside = append(slices.Clone(s.Aside), host)
		}
		return nil
	})
	if err != nil {
		return Done{}, err
	}
	g, err := c.scope.LatestGathering(ctx, study)
	if err != nil {
		return Done{}, err
	}
	results, err := c.scope.Results(ctx, g.ID)
	if err != nil {
		return Done{}, err
	}
	var ids []int64
	for _, x := range results {
		if h := strings.TrimPrefix(x.Host, "www."); !x.Own && !x.Added && x.State == store.Read && (h == host || strings.HasSuffix(h, "."+host)) {
			ids = append(ids, x.ID)
		}
	}
	return c.Keep(ctx, study, ids, false, store.NotCompetitor.Message())
}
