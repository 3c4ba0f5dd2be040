package desk

import (
	"corpulan/core/message"
	"corpulan/search"
	"corpulan/store"
	"corpulan/study"
	"corpulan/web/kit"

	"github.com/gin-gonic/gin"
)

// newStudy is the line that begins a study, as it was filled in.
type newStudy struct {
	Keyword   string                     `form:"keyword"`
	Language  string                     `form:"language,default=en"`
	Country   string                     `form:"country,default=gb"`
	Depth     int                        `form:"depth,default=20"`
	Addresses string                     `form:"addresses"` // pasted
	Column    string                     `form:"column"`    // that holds the addresses of a file of ranks
	Anyway    bool                       `form:"anyway"`    // begin another all the same
	Columns   []string                   `form:"-"`         // to choose from
	Wrong     map[string]message.Message `form:"-"`         // by field
	Like      *store.Study               `form:"-"`         // the study of the same keyword and market that exists

	NoEngine bool `form:"-"` // there is no search engine to ask

	own   *search.Results // the results a person brought; nil to ask the engine
	pages []study.Handed  // or pages, in the order of their ranks
}

// study is what is to begin.
func (n *newStudy) study() store.Study {
	return store.Study{Keyword: n.Keyword, Language: n.Language, Country: n.Country, Depth: n.Depth}
}

// bound refuses more results than a gathering holds.
func (n *newStudy) bound(field string) {
	if n.own != nil && len(n.own.Items) > store.MaxResults {
		n.Wrong[field] = message.Of("A gathering holds at most %d pages; these are %d. Bring the first ranks.", store.MaxResults, len(n.own.Items))
	}
}

// freshStudy is a study that begins as the publication is read.
func (s *handlers) freshStudy(c *gin.Context) newStudy {
	st := study.Fresh(kit.PublicationOf(c).Settings.Data())
	return newStudy{Language: st.Language, Country: st.Country, Depth: st.Depth}
}

// searches tells whether there is a search engine to ask: the installation's, or the publication's own.
func (s *handlers) searches(c *gin.Context) bool {
	if !s.NoEngine {
		return true
	}
	own, err := study.ServicesOf(s.Sealer, kit.PublicationOf(c))
	return err != nil || own != nil && own.Search != "" // what cannot be read is told by the search
}
