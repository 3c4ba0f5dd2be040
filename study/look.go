package study

import (
	"context"

	"corpulan/store"
)

// Look keeps that somebody is at a place of a study, and tells who else is there. sees tells that the
// place shows what others say and write of it.
func (c Commands) Look(ctx context.Context, study int64, who, name, place string, sees bool) ([]store.Look, error) {
	return c.scope.Look(ctx, store.Look{StudyID: study, Who: who, Name: name, Place: place}, sees)
}
