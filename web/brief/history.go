package brief

import (
	"net/http"
	"time"

	"corpulan/store"
	"corpulan/web/kit"

	"github.com/gin-gonic/gin"
)

// maxEvents is how many events a page lists.
const maxEvents = 100

// historyBody is what happened to a study, and who did it.
type historyBody struct {
	Study store.Study
	List  []store.Event
	Older string // where the next page begins; empty where there is none
	Names map[int64]string
	Me    int64
	Actor string
}

// Who says who did something; nobody for what the program did.
func (b historyBody) Who(e store.Event) string {
	if e.Author != "" {
		return e.Author
	}
	return whoDid(e.PersonID, e.Actor, b.Me, b.Actor, b.Names)
}

// whoDid names a person. What is from before people signed in is told by its browser alone.
func whoDid(person *int64, actor string, me int64, myActor string, names map[int64]string) string {
	switch {
	case person != nil && *person == me:
		return "you"
	case person != nil:
		return names[*person]
	case actor == "":
		return ""
	case actor == myActor:
		return "you"
	}
	return "somebody else"
}

func (s *handlers) history(c *gin.Context) {
	st, ctx := kit.StudyOf(c), c.Request.Context()
	before, _ := time.Parse(time.RFC3339Nano, c.Query("before")) // none is the zero time
	body := historyBody{Study: st, Me: kit.VisitorOf(c).Person.ID, Actor: c.GetString(kit.ActorKey)}
	var err error
	if body.List, err = s.Scope(c).History(ctx, st.ID, before, maxEvents+1); err != nil {
		s.Fail(c, err)
		return
	}
	if len(body.List) > maxEvents {
		body.List = body.List[:maxEvents]
		body.Older = body.List[maxEvents-1].At.UTC().Format(time.RFC3339Nano)
	}
	var people []int64
	for _, e := range body.List {
		if e.PersonID != nil {
			people = append(people, *e.PersonID)
		}
	}
	if body.Names, err = s.Store.Names(ctx, people); err != nil {
		s.Fail(c, err)
		return
	}
	s.Page(c, http.StatusOK, "history", s.InStudy(c, "history", body))
}
