package kit

import (
	"net/http"
	"slices"

	"corpulan/core/message"
	"corpulan/store"

	"github.com/gin-gonic/gin"
)

// here is told by a page that somebody looks at, again and again, and says who else is in the
// study: a line of text, empty for nobody.
func (s *Kit) here(c *gin.Context) {
	place := s.stepOf(c.PostForm("place"))
	if place == nil {
		c.String(http.StatusUnprocessableEntity, "%s\n", s.Tongue(c).Say("There is no such place."))
		return
	}
	others, err := s.Commands(c).Look(c.Request.Context(), StudyOf(c).ID, s.Scope(c).Person(), AuthorOf(c), place.Name, place.Step.Sees)
	if err != nil {
		s.Fail(c, err)
		return
	}
	c.String(http.StatusOK, "%s", s.Tongue(c).Say(s.together(others)))
}

// stepOf is the place that a page is of: one of the steps of a study, by what the page says it is; nil for none.
func (s *Kit) stepOf(page string) *Place {
	i := slices.IndexFunc(s.places, func(p Place) bool {
		return p.Step != nil && (p.Name == page || slices.Contains(p.Step.Holds, page))
	})
	if i < 0 {
		return nil
	}
	return &s.places[i]
}

// together says who is there, and where.
func (s *Kit) together(others []store.Look) message.Message {
	var list []message.Message
	for _, l := range others {
		if p := s.stepOf(l.Place); p != nil {
			list = append(list, message.Of("%s is in %s", l.Name, message.Message(p.Title)))
		}
	}
	return message.Joined(" · ", list...)
}
