package kit

import (
	_ "embed"

	"corpulan/account"
	"corpulan/store"
	"corpulan/study"

	"github.com/gin-gonic/gin"
)

// PublicationKey is where the publication of a request stands in its context.
const PublicationKey = "publication"

func PublicationOf(c *gin.Context) store.Publication {
	return c.MustGet(PublicationKey).(store.Publication)
}

// Scope is the store as who asks sees it.
func (s *Kit) Scope(c *gin.Context) store.Scope {
	var person int64
	if v, ok := c.Get(visitorKey); ok {
		person = v.(*account.Visitor).Person.ID
	}
	return s.Store.In(PublicationOf(c).ID).By(person)
}

// Commands are what the person who asks can do.
func (s *Kit) Commands(c *gin.Context) study.Commands {
	return study.For(s.Scope(c), s.Queue, c.GetString(ActorKey)).Named(nameOf(c)).With(s.Analyst).Reading(s.Reader)
}

const StudyKey = "study"

func StudyOf(c *gin.Context) store.Study { return c.MustGet(StudyKey).(store.Study) }

// VisitorOf is who asks.
func VisitorOf(c *gin.Context) *account.Visitor { return c.MustGet(visitorKey).(*account.Visitor) }

// AuthorOf names who asks, for what they write: the publication where nobody is signed in by name.
func AuthorOf(c *gin.Context) string {
	if name := VisitorOf(c).Person.Name; name != "" {
		return name
	}
	return PublicationOf(c).Name
}

// nameOf is how others see who asks: by name, or a program by what its token is called.
func nameOf(c *gin.Context) string {
	if t, ok := c.Get(TokenKey); ok {
		return t.(store.Token).Name
	}
	return AuthorOf(c)
}

const TokenKey = "token"

const (
	SessionCookie = "corpulan_session"
	knownCookie   = "corpulan_known"
)

const linkKey = "link"

func LinkOf(c *gin.Context) store.ShareLink { return c.MustGet(linkKey).(store.ShareLink) }
