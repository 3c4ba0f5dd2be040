package study

import (
	"context"
	"database/sql"
	"errors"
	"slices"
	"strings"
	"time"

	"corpulan/analysis"
	"corpulan/core/brief"
	"corpulan/core/demand"
	"corpulan/core/message"
	"corpulan/store"
)

// MaxPages is how many pages a slate has. As the trade's largest clusters: common practice, no
// published source.
const MaxPages = 150

// MakeSlate keeps a new slate of some groups of a list, as the rules propose it.
func (c Commands) MakeSlate(ctx context.Context, name string, g *analysis.Groups, keys []string) (store.Slate, error) {
	var chosen []demand.Group
	for _, x := range g.Groups {
		if slices.Contains(keys, x.Key) {
			chosen = append(chosen, x)
		}
	}
	if len(chosen) == 0 {
		return store.Slate{}, store.ErrNotFound
	}
	if len(chosen) > MaxPages {
		return store.Slate{}, store.ErrTooMany
	}
	slate := store.Slate{ListID: &g.List.ID, Language: g.List.Language, Country: g.List.Country}
	if err := c.scope.CreateSlate(ctx, &slate); err != nil {
		return slate, err
	}
	_, err := store.EditPlan(ctx, c.scope, store.Subject{Slate: slate.ID}, "", func(p *store.SlatePlan) (message.Message, error) {
		*p = planOf(demand.SlateOf(chosen, g.Options, "", g.Own), g.List.Language)
		if p.Name = name; name == "" {
			p.Name = p.Pages[0].Keyword
		}
		return "Begun", nil
	})
	return slate, err
}

// planOf is a proposal as a slate keeps it.
func planOf(p demand.Proposal, language string) store.SlatePlan {
	plan := store.SlatePlan{Redundant: p.Redundant, Notes: p.Notes, Links: demand.LinksOf(p.Pages, language)}
	for _, x := range p.Pages {
		plan.Pages = append(plan.Pages, store.SlatePage{Planned: x})
	}
	return plan
}

// AddToSlate puts further groups of its list into a slate: all is weighed anew, and what people
// said of the pages it has stays.
func (c Commands) AddToSlate(ctx context.Context, slate store.Slate, g *analysis.Groups, keys []string) (Done, error) {
	if slate.Language != g.List.Language || slate.Country != g.List.Country {
		return Done{}, ErrMarket
	}
	said := message.Message("")
	change, err := store.EditPlan(ctx, c.scope, store.Subject{Slate: slate.ID}, c.actor, func(p *store.SlatePlan) (message.Message, error) {
		want, pillar := slices.Clone(keys), ""
		for _, x := range p.Pages {
			want = append(want, x.Key)
			if x.Pillar {
				pillar = x.Key
			}
		}
		var chosen []demand.Group
		for _, x := range g.Groups {
			if slices.Contains(want, x.Key) {
				chosen = append(chosen, x)
			}
		}
		if len(chosen) > MaxPages {
			return "", store.ErrTooMany
		}
		fresh := planOf(demand.SlateOf(chosen, g.Options, pillar, g.Own), slate.Language)
		before := len(p.Pages)
		for _, x := range fresh.Pages {
			if x.Pillar && pillar != "" && x.Key != pillar { // the slate's is of another list
				x.Pillar, x.Kind, x.KindWhy = false, "supporting", "another page is the pillar"
			}
			if !slices.ContainsFunc(p.Pages, func(y store.SlatePage) bool { return y.Key == x.Key }) {
				p.Pages = append(p.Pages, x)
			}
		}
		for _, r := range fresh.Redundant {
			if !slices.ContainsFunc(p.Redundant, func(y demand.Redundant) bool { return y.Key == r.Key }) && !slices.ContainsFunc(p.Pages, func(y store.SlatePage) bool { return y.Key == r.Key }) {
				p.Redundant = append(p.Redundant, r)
			}
		}
		relink(p, slate.Language)
		said = message.Of("%d pages put into the slate", len(p.Pages)-before)
		return said, nil
	})
	return Done{Said: said, Change: change.ID}, err
}

// ErrMarket says that groups are of another market than a slate.
var ErrMarket = message.Errorf("this slate is for another market than the list")

// relink proposes the links of a slate anew: pages have come or gone.
func relink(p *store.SlatePlan, language string) {
	pages := make([]demand.Planned, len(p.Pages))
	for i, x := range p.Pages {
		pages[i] = x.Planned
	}
	p.Links = demand.LinksOf(pages, language)
	p.Notes = demand.SlateNotes(pages)
}

// ErrNoPage says that a page is not in the slate any more.
var ErrNoPage = message.Errorf("this page is not in the slate any more")

// EditSlate changes one page of a slate.
func (c Commands) EditSlate(ctx context.Context, slate store.Slate, key string, edit func(p *store.SlatePlan, at int) (said message.Message, err error)) (Done, error) {
	said := message.Message("")
	change, err := store.EditPlan(ctx, c.scope, store.Subject{Slate: slate.ID}, c.actor, func(p *store.SlatePlan) (_ message.Message, err error) {
		at := slices.IndexFunc(p.Pages, func(x store.SlatePage) bool { return x.Key == key })
		if at < 0 {
			return "", ErrNoPage
		}
		said, err = edit(p, at)
		return said, err
	})
	return Done{Said: said, Change: change.ID}, err
}

// SetPage sets what a person says of a page: its "title", "kind", "owner", "due" or "note".
// was is what stood there when the page was made, nil where nobody knows: a *Conflict says that
// somebody else has changed it since.
func (c Commands) SetPage(ctx context.Context, slate store.Slate, key, field string, was *string, value string) (Done, error) {
	publication, err := c.scope.Publication(ctx)
	if err != nil {
		return Done{}, err
	}
	kinds := append(brief.Templates(), publication.Settings.Data().Templates...)
	return c.EditSlate(ctx, slate, key, func(p *store.SlatePlan, at int) (message.Message, error) {
		x := &p.Pages[at]
		now, known := map[string]string{"title": x.Title, "kind": x.Kind, "owner": x.Owner, "due": x.Due, "note": x.Note}[field]
		if known && was != nil && now != *was && now != value {
			return "", &Conflict{Theirs: &now}
		}
		switch field {
		case "title":
			x.Title = value
		case "kind":
			if !slices.ContainsFunc(kinds, func(t brief.Template) bool { return t.Key == value }) {
				return "", ErrNoKind
			}
			x.Kind, x.KindWhy = value, "you chose it"
		case "owner":
			x.Owner = value
		case "due":
			if value != "" {
				if _, err := time.Parse(time.DateOnly, value); err != nil {
					return "", ErrNoDate
				}
			}
			x.Due = value
		case "note":
			x.Note = value
		default:
			return "", ErrNoPage
		}
		return message.Of("%s: %v is “%s”", x.Name(), message.Message(field), value), nil
	})
}

// ErrNoKind says that what was chosen is no kind of page.
var ErrNoKind = message.Errorf("there is no such kind of page")

// ErrNoDate says that what was typed is no day.
var ErrNoDate = message.Errorf("a day is written as 2026-11-30")

// MovePage moves a page up or down; TakePage out; MakePillar makes it the pillar page.
func (c Commands) MovePage(ctx context.Context, slate store.Slate, key string, by int) (Done, error) {
	return c.EditSlate(ctx, slate, key, func(p *store.SlatePlan, at int) (message.Message, error) {
		to := min(max(at+by, 0), len(p.Pages)-1)
		x := p.Pages[at]
		p.Pages = slices.Insert(slices.Delete(p.Pages, at, at+1), to, x)
		return message.Of("%s is now page %d", x.Name(), to+1), nil
	})
}

// TakePage is described at MovePage. A study that was begun for it stays.
func (c Commands) TakePage(ctx context.Context, slate store.Slate, key string) (Done, error) {
	return c.EditSlate(ctx, slate, key, func(p *store.SlatePlan, at int) (message.Message, error) {
		x := p.Pages[at]
		p.Pages = slices.Delete(p.Pages, at, at+1)
		relink(p, slate.Language)
		return message.Of("Taken out of the slate: %s", x.Name()), nil
	})
}

// MakePillar is described at MovePage.
func (c Commands) MakePillar(ctx context.Context, slate store.Slate, key string) (Done, error) {
	return c.EditSlate(ctx, slate, key, func(p *store.SlatePlan, at int) (message.Message, error) {
		for i := range p.Pages {
			if p.Pages[i].Pillar {
				p.Pages[i].Pillar, p.Pages[i].Kind, p.Pages[i].KindWhy = false, "supporting", "another page is the pillar"
			}
		}
		x := p.Pages[at]
		x.Pillar, x.Kind, x.KindWhy = true, "pillar", "you chose it"
		p.Pages = slices.Insert(slices.Delete(p.Pages, at, at+1), 0, x)
		relink(p, slate.Language)
		return message.Of("The pillar page is %s", x.Name()), nil
	})
}

// BringPage takes a group in as a page of its own that was found redundant.
func (c Commands) BringPage(ctx context.Context, slate store.Slate, g *analysis.Groups, key string) (Done, error) {
	at := slices.IndexFunc(g.Groups, func(x demand.Group) bool { return x.Key == key })
	if at < 0 {
		return Done{}, ErrNoPage
	}
	one := demand.SlateOf(g.Groups[at:at+1], g.Options, "", g.Own).Pages[0]
	one.Pillar, one.Kind, one.KindWhy = false, "supporting", "you took it in all the same"
	said := message.Of("Taken in all the same: %s", one.Keyword)
	change, err := store.EditPlan(ctx, c.scope, store.Subject{Slate: slate.ID}, c.actor, func(p *store.SlatePlan) (message.Message, error) {
		if slices.ContainsFunc(p.Pages, func(x store.SlatePage) bool { return x.Key == key }) {
			return said, nil
		}
		p.Redundant = slices.DeleteFunc(p.Redundant, func(r demand.Redundant) bool { return r.Key == key })
		p.Pages = append(p.Pages, store.SlatePage{Planned: one})
		relink(p, slate.Language)
		return said, nil
	})
	return Done{Said: said, Change: change.ID}, err
}

// BeginStudies begins the studies of pages of a slate that have none yet, with what the slate
// says of them in their briefs, and tells how many those are. Where a study of the keyword is there
// already the page has that one. No keys are all pages.
func (c Commands) BeginStudies(ctx context.Context, id int64, keys []string, depth int) (int, error) {
	begun := 0
	err := c.scope.InTx(ctx, func(tx store.Scope, sqlTx *sql.Tx) error {
		slate, err := tx.LockSlate(ctx, id)
		if err != nil {
			return err
		}
		have, err := tx.SlateStudies(ctx, id)
		if err != nil {
			return err
		}
		plan := slate.Plan.Data()
		for _, x := range plan.Pages {
			if have[x.Key] != 0 || len(keys) > 0 && !slices.Contains(keys, x.Key) {
				continue
			}
			like, err := tx.Like(ctx, x.Keyword, slate.Language, slate.Country)
			if err == nil { // somebody has begun it elsewhere: its brief is theirs
				if err := tx.KeepSlateStudy(ctx, store.SlateStudy{SlateID: id, Page: x.Key, StudyID: like.ID}); err != nil {
					return err
				}
				begun++
				continue
			}
			if !errors.Is(err, store.ErrNotFound) {
				return err
			}
			st := store.Study{Keyword: x.Keyword, Language: slate.Language, Country: slate.Country, Depth: depth}
			g, err := tx.CreateStudy(ctx, &st)
			if err != nil {
				return err
			}
			if err := c.queue.Search(ctx, sqlTx, g.ID); err != nil {
				return err
			}
			b, err := tx.EditBrief(ctx, st.ID, c.actor, func(ch brief.Choices) (message.Message, []brief.Edit, error) {
				return message.Of("From the slate “%s”", plan.Name), editsOf(x, ch), nil
			})
			if err != nil {
				return err
			}
			if err := c.tell(ctx, tx, sqlTx, st.ID, nil, b.Choices.Data()); err != nil {
				return err
			}
			if err := tx.KeepSlateStudy(ctx, store.SlateStudy{SlateID: id, Page: x.Key, StudyID: st.ID}); err != nil {
				return err
			}
			begun++
		}
		return nil
	})
	return begun, err
}

// editsOf is what a slate says of a page, as edits of its brief.
func editsOf(x store.SlatePage, ch brief.Choices) (edits []brief.Edit) {
	for field, text := range map[string]string{brief.FieldKind: x.Kind, brief.FieldSecondary: strings.Join(x.Secondary, "\n"), brief.FieldOwner: x.Owner, brief.FieldDue: x.Due, brief.FieldNotes: x.Note} {
		if text != "" {
			edits = append(edits, ch.Write(field, &text, nil))
		}
	}
	return edits
}
