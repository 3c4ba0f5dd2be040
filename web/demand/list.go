package demand

import (
	"fmt"

	"corpulan/web/kit"
	"corpulan/web/parts"

	"github.com/gin-gonic/gin"
)

// inList is the layout's data for a place of a list.
func (s *handlers) inList(c *gin.Context, place string, body any) kit.PageData {
	l := parts.ListOf(c)
	return kit.PageData{Title: l.Name(), Place: place, Publication: kit.PublicationOf(c).Name, Plan: fmt.Sprintf("/demand/%d", l.ID), Body: body}
}
