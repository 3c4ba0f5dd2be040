package people

import (
	"errors"
	"net/http"
	"slices"
	"strconv"
	"strings"

	"corpulan/account"
	"corpulan/core/message"
	"corpulan/store"
	"corpulan/web/kit"

	"github.com/gin-gonic/gin"
)

// peopleBody is the members of a publication.
type peopleBody struct {
	Members []store.Member
	Invited []store.Ticket // and not come yet
	Me      int64
	Roles   []store.Role
	Name    string // of the publication
	Factor  bool   // its owners have to have a second factor
	Link    string // that was just made
	For     string
	Email   string
	Wrong   message.Message
}

func (s *handlers) people(c *gin.Context) { s.showPeople(c, http.StatusOK, peopleBody{}) }

func (s *handlers) showPeople(c *gin.Context, status int, b peopleBody) {
	v := kit.VisitorOf(c)
	b.Me, b.Roles, b.Name = v.Person.ID, store.Roles(), v.Publication.Name
	b.Factor = v.Publication.Settings.Data().Factor
	var err error
	if b.Members, err = s.Scope(c).Members(c.Request.Context()); err != nil {
		s.Fail(c, err)
		return
	}
	if b.Invited, err = s.Scope(c).OpenInvitations(c.Request.Context()); err != nil {
		s.Fail(c, err)
		return
	}
	c.Header("Cache-Control", "no-store") // it may show a link that opens something
	s.Page(c, status, "people", s.InPublication(c, "people", "People", b))
}

func (s *handlers) invite(c *gin.Context) {
	v, role := kit.VisitorOf(c), store.Role(c.PostForm("role"))
	b := peopleBody{Email: strings.TrimSpace(c.PostForm("email"))}
	if !slices.Contains(store.Roles(), role) || !account.IsEmail(b.Email) {
		b.Wrong = "Give an e-mail address and a role."
		s.showPeople(c, http.StatusUnprocessableEntity, b)
		return
	}
	token, err := account.Invite(c.Request.Context(), s.Store, b.Email, v.Publication.ID, role, v.Person.ID)
	if err != nil {
		s.Fail(c, err)
		return
	}
	s.showPeople(c, http.StatusOK, peopleBody{Link: kit.Origin(c.Request) + "/join/" + token, For: b.Email})
}

// withdraw takes an invitation back that nobody has accepted.
func (s *handlers) withdraw(c *gin.Context) {
	err := account.Withdraw(c.Request.Context(), s.Store, kit.VisitorOf(c).Publication.ID, c.PostForm("email"))
	if err != nil && !errors.Is(err, store.ErrNotFound) { // accepted meanwhile, or withdrawn
		s.Fail(c, err)
		return
	}
	c.Redirect(http.StatusSeeOther, "/people")
}

// personIn is the member that an address names.
func (s *handlers) personIn(c *gin.Context) (store.Member, error) {
	id, err := strconv.ParseInt(c.Param("person"), 10, 64)
	if err != nil {
		return store.Member{}, store.ErrNotFound
	}
	members, err := s.Scope(c).Members(c.Request.Context())
	if err != nil {
		return store.Member{}, err
	}
	i := slices.IndexFunc(members, func(m store.Member) bool { return m.ID == id })
	if i < 0 {
		return store.Member{}, store.ErrNotFound
	}
	return members[i], nil
}

// changedPeople answers a change of members.
func (s *handlers) changedPeople(c *gin.Context, err error) {
	switch {
	case errors.Is(err, store.ErrLastOwner):
		s.showPeople(c, http.StatusUnprocessableEntity, peopleBody{Wrong: "A publication needs an owner: make somebody else one first."})
	case err != nil:
		s.Fail(c, err)
	default:
		c.Redirect(http.StatusSeeOther, "/people")
	}
}

func (s *handlers) setRole(c *gin.Context) {
	m, err := s.personIn(c)
	if err == nil {
		err = account.SetRole(c.Request.Context(), s.Store, kit.VisitorOf(c), m.ID, store.Role(c.PostForm("role")))
	}
	s.changedPeople(c, err)
}

func (s *handlers) removeMember(c *gin.Context) {
	m, err := s.personIn(c)
	if err == nil {
		err = account.RemoveMember(c.Request.Context(), s.Store, kit.VisitorOf(c), m.ID)
	}
	s.changedPeople(c, err)
}

// resetMember makes a link by which a member sets a new password. It opens all that the member
// can open, so it is made only by who owns all of that.
func (s *handlers) resetMember(c *gin.Context) {
	ctx, v := c.Request.Context(), kit.VisitorOf(c)
	m, err := s.personIn(c)
	if err != nil {
		s.Fail(c, err)
		return
	}
	theirs, err := s.Store.AllMemberships(ctx, m.ID)
	if err != nil {
		s.Fail(c, err)
		return
	}
	for _, t := range theirs {
		if !slices.ContainsFunc(v.Others, func(o store.Membership) bool { return o.ID == t && o.Role == store.Owner }) {
			s.showPeople(c, http.StatusForbidden, peopleBody{Wrong: message.Of("%s is a member of publications that you do not own: whoever runs the program makes this link (corpulan user reset).", m.Name)})
			return
		}
	}
	token, err := account.Invite(ctx, s.Store, m.Email, 0, "", v.Person.ID)
	if err != nil {
		s.Fail(c, err)
		return
	}
	s.showPeople(c, http.StatusOK, peopleBody{Link: kit.Origin(c.Request) + "/join/" + token, For: m.Email})
}

func (s *handlers) renamePublication(c *gin.Context) {
	name := strings.Join(strings.Fields(c.PostForm("name")), " ")
	if name == "" || len([]rune(name)) > kit.LongestName {
		s.showPeople(c, http.StatusUnprocessableEntity, peopleBody{Wrong: message.Of("A publication has a name of at most %d characters.", kit.LongestName)})
		return
	}
	err := s.Commands(c).RenamePublication(c.Request.Context(), name)
	if errors.Is(err, store.ErrTaken) {
		s.showPeople(c, http.StatusUnprocessableEntity, peopleBody{Wrong: "Another publication is called so."})
		return
	}
	s.changedPeople(c, err)
}

// askFactor says whether owners of the publication have to have a second factor. Only who has one says
// so: nobody shuts themselves out.
func (s *handlers) askFactor(c *gin.Context) {
	v, ask := kit.VisitorOf(c), c.PostForm("factor") == "true"
	if ask && v.Person.Totp == nil {
		s.showPeople(c, http.StatusUnprocessableEntity, peopleBody{Wrong: "Set up a second factor of your own first, under Account."})
		return
	}
	_, err := s.Commands(c).SetUp(c.Request.Context(), func(x *store.Settings) error { x.Factor = ask; return nil })
	s.changedPeople(c, err)
}

// archivePublication puts a publication away; its owners bring it back from their account.
func (s *handlers) archivePublication(c *gin.Context) {
	if len(kit.VisitorOf(c).Others) < 2 {
		s.showPeople(c, http.StatusUnprocessableEntity, peopleBody{Wrong: "This is your only publication: make another before you archive it."})
		return
	}
	if err := s.Commands(c).ArchivePublication(c.Request.Context()); err != nil {
		s.Fail(c, err)
		return
	}
	c.Redirect(http.StatusSeeOther, "/account")
}
