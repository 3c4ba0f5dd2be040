package study

import (
	"cmp"
	"context"
	"database/sql"
	"maps"
	"slices"
	"strings"
	"time"

	"corpulan/core/brief"
	"corpulan/core/language"
	"corpulan/store"
)

// ReadSitemap asks for the list of a site's own pages, and for those that are new or changed.
func (c Commands) ReadSitemap(ctx context.Context, publication int64, address string) error {
	return c.scope.InTx(ctx, func(tx store.Scope, sqlTx *sql.Tx) error {
		_, err := tx.EditPublication(ctx, func(site *string, s *store.Settings) error {
			s.Sitemap = &store.SitemapRead{Address: address, At: time.Now()}
			return nil
		})
		if err != nil {
			return err
		}
		return c.queue.Sitemap(ctx, sqlTx, publication, address)
	})
}

// AddOwnPages adds own pages from a list, and asks for them. It tells how many were new, and
// how many there was no room for.
func (c Commands) AddOwnPages(ctx context.Context, publication int64, pages []store.OwnPage) (fresh, left int, err error) {
	err = c.scope.InTx(ctx, func(tx store.Scope, sqlTx *sql.Tx) error {
		if fresh, left, err = tx.AddOwn(ctx, pages); err != nil || fresh == 0 {
			return err
		}
		return c.queue.Own(ctx, sqlTx, publication)
	})
	return fresh, left, err
}

// ReadOwnAgain asks for own pages that failed, or were read by an older program.
func (c Commands) ReadOwnAgain(ctx context.Context, publication int64) (n int64, err error) {
	err = c.scope.InTx(ctx, func(tx store.Scope, sqlTx *sql.Tx) error {
		if n, err = tx.ReadOwnAgain(ctx); err != nil || n == 0 {
			return err
		}
		return c.queue.Own(ctx, sqlTx, publication)
	})
	return n, err
}

// SetDefault keeps what a publication says in a field of all its briefs; an empty text takes
// it back. was is what stood there when the page was made: a *Conflict says that somebody
// else has changed it since.
func (c Commands) SetDefault(ctx context.Context, field, was, text string) error {
	_, err := c.scope.EditPublication(ctx, func(address *string, s *store.Settings) error {
		if field == AddressField {
			if *address != was && *address != text {
				return &Conflict{Theirs: address}
			}
			*address = text
			return nil
		}
		if now := s.Fields[field]; now != was && now != text {
			return &Conflict{Theirs: &now}
		}
		fields := maps.Clone(s.Fields)
		if fields == nil {
			fields = map[string]string{}
		}
		if fields[field] = text; text == "" {
			delete(fields, field)
		}
		s.Fields = fields
		return nil
	})
	return err
}

// AddressField is the name by which the address of a publication's site is set.
const AddressField = "site"

// SaveTemplate keeps the brief of a study as a template of the publication; one of the same name is
// replaced.
func (c Commands) SaveTemplate(ctx context.Context, study int64, name string) error {
	an, err := c.exactly(ctx, study)
	if err != nil {
		return err
	}
	_, err = c.scope.EditPublication(ctx, func(_ *string, s *store.Settings) error {
		key := language.Dictionary().PhraseKey(name)
		t := an.Brief.Template(cmp.Or(key, strings.ToLower(name)), name)
		list := slices.DeleteFunc(slices.Clone(s.Templates), func(x brief.Template) bool { return x.Key == t.Key })
		if len(list) >= MaxTemplates {
			return store.ErrTooMany
		}
		s.Templates = append(list, t)
		return nil
	})
	return err
}

// MaxTemplates is how many templates a publication keeps. Our own.
const MaxTemplates = 100

// maxForgotten is how many templates that were taken away can be brought back. Our own.
const maxForgotten = 20

// ForgetTemplate takes a template away; it can be brought back. Briefs that were made by it
// keep what they have.
func (c Commands) ForgetTemplate(ctx context.Context, key string) error {
	return c.moveTemplate(ctx, key, false)
}

// BringTemplateBack is ForgetTemplate turned round.
func (c Commands) BringTemplateBack(ctx context.Context, key string) error {
	return c.moveTemplate(ctx, key, true)
}

func (c Commands) moveTemplate(ctx context.Context, key string, back bool) error {
	_, err := c.scope.EditPublication(ctx, func(_ *string, s *store.Settings) error {
		from, to := &s.Templates, &s.Forgotten
		if back {
			from, to = to, from
		}
		i := slices.IndexFunc(*from, func(x brief.Template) bool { return x.Key == key })
		if i < 0 {
			return store.ErrNotFound
		}
		t := (*from)[i]
		*from = slices.Delete(slices.Clone(*from), i, i+1)
		*to = append([]brief.Template{t}, slices.DeleteFunc(slices.Clone(*to), func(x brief.Template) bool { return x.Key == key })...)
		s.Forgotten = s.Forgotten[:min(len(s.Forgotten), maxForgotten)]
		return nil
	})
	return err
}
