package store

import (
	"context"
	"database/sql"

	"gorm.io/gorm/clause"
)

// Publication is the scope's own.
func (s Scope) Publication(ctx context.Context) (Publication, error) {
	return take[Publication](s.store.db.WithContext(ctx), s.publication)
}

// EditPublication changes a publication under its lock, so that two people in different
// fields do not get in each other's way. All its studies show it from then on. An error of
// change leaves it as it was.
func (s Scope) EditPublication(ctx context.Context, change func(address *string, settings *Settings) error) (Publication, error) {
	var p Publication
	err := s.InTx(ctx, func(tx Scope, _ *sql.Tx) error {
		if err := tx.store.db.WithContext(ctx).Clauses(forChange).Take(&p, s.publication).Error; err != nil {
			return found(err)
		}
		settings := p.Settings.Data()
		if err := change(&p.Address, &settings); err != nil {
			return err
		}
		p.Settings = NewJSONType(settings)
		if err := tx.store.db.WithContext(ctx).Save(&p).Error; err != nil {
			return err
		}
		return tx.TouchAll(ctx)
	})
	return p, err
}

// EnsurePublication finds the publication of a name, or makes it; two
// processes that begin at once make one.
func (s *Store) EnsurePublication(ctx context.Context, name, address string) (Publication, error) {
	p := Publication{Name: name, Address: address}
	err := s.db.WithContext(ctx).Clauses(clause.OnConflict{DoNothing: true}).Create(&p).Error
	if err != nil {
		return p, err
	}
	p = Publication{}
	err = found(s.db.WithContext(ctx).Where("name = ?", name).Take(&p).Error)
	return p, err
}

// PublicationNames are those of all publications, in their order.
func (s *Store) PublicationNames(ctx context.Context) (names []string, err error) {
	err = s.db.WithContext(ctx).Model(&Publication{}).Order("name").Pluck("name", &names).Error
	return names, err
}
