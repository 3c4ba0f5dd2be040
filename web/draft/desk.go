package draft

import (
	"fmt"
	"slices"

	"corpulan/core/language"
	"corpulan/store"
	"corpulan/study"
	"corpulan/web/kit"

	"github.com/gin-gonic/gin"
)

// desk is whose hands a draft is in.
type desk struct {
	Base     string // address of the place
	Author   string // as versions name them
	ByLink   bool
	who      string // as looks name them
	scope    store.Scope
	commands study.Commands
	study    store.Study
}

const deskKey = "desk"

func deskOf(c *gin.Context) desk { return c.MustGet(deskKey).(desk) }

// ourDesk is that of the publication.
func (s *handlers) ourDesk(c *gin.Context) {
	st := kit.StudyOf(c)
	c.Set(deskKey, desk{Base: fmt.Sprintf("/studies/%d/draft", st.ID), Author: kit.AuthorOf(c), scope: s.Scope(c), commands: s.Commands(c), study: st})
}

// linkDesk is that of somebody with a link; one that does not allow writing leads nowhere.
func (s *handlers) linkDesk(c *gin.Context) {
	l := kit.LinkOf(c)
	sc := s.Store.In(l.PublicationID)
	st, err := sc.Study(c.Request.Context(), l.StudyID)
	if !l.Drafts {
		err = store.ErrNotFound
	}
	if err != nil {
		s.Shut(c, err)
		c.Abort()
		return
	}
	c.Set(deskKey, desk{Base: "/w/" + c.Param("token") + "/draft", Author: l.Name, ByLink: true, who: fmt.Sprintf("link %d", l.ID), scope: sc, commands: study.For(sc, s.Queue, fmt.Sprintf("link %d", l.ID)).With(s.Analyst), study: st})
}

// dictionaryOf names the dictionary of a study's market; empty where none ships.
func dictionaryOf(st store.Study) string {
	switch st.Language {
	case "en":
		if st.Country == "us" {
			return "en"
		}
		return "en-gb"
	case "pt":
		if st.Country == "pt" {
			return "pt-pt"
		}
		return "pt"
	}
	if slices.Contains(language.Codes(), st.Language) {
		return st.Language
	}
	return ""
}
