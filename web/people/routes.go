package people

import (
	"embed"
	"fmt"

	"corpulan/account"
	"corpulan/store"
	"corpulan/web/kit"

	"golang.org/x/sync/semaphore"
)

//go:embed templates
var files embed.FS

// handlers answer the requests of the place.
type handlers struct {
	*kit.Kit
	openID  *openID // nil for none
	hashing *semaphore.Weighted
}

// Routes hangs the place up: what needs nobody signed in, and what does.
func Routes(k *kit.Kit) error {
	s := &handlers{Kit: k, hashing: semaphore.NewWeighted(maxHashing)}
	if k.OpenID != nil {
		if k.Sealer == nil {
			return fmt.Errorf("web: Options.OpenID needs a Sealer: %w", account.ErrNoSecret)
		}
		s.openID = &openID{OpenID: *k.OpenID}
	}
	s.Add(kit.Place{Name: "people", Files: files,
		Needs: []kit.Need{{Route: "/people", Role: store.Owner, Look: true}, {Route: "/account", Role: store.Reader}, {Route: "/sign-out", Role: store.Reader}, {Route: "/publications", Role: store.Reader}},
	})
	r := s.Public
	r.GET("/sign-in", s.signInPage)
	r.POST("/sign-in", s.signIn)
	r.POST("/sign-in/code", s.signInCode)
	if s.openID != nil {
		r.GET(openIDPath, s.toIssuer)
		r.GET(openIDPath+"/back", s.fromIssuer)
	}
	r.GET("/join/:ticket", s.joinPage)
	r.POST("/join/:ticket", s.join)
	m := s.Member
	m.POST("/sign-out", s.signOut)
	m.GET("/account", s.account)
	m.POST("/account/name", s.setName)
	m.POST("/account/password", s.changePassword)
	m.POST("/account/reading", s.setReading)
	m.POST("/account/factor", s.offerFactor)
	m.POST("/account/factor/take", s.takeFactor)
	m.POST("/account/factor/drop", s.dropFactor)
	m.POST("/account/sessions/:session/end", s.endSession)
	m.POST("/account/sign-out-elsewhere", s.signOutElsewhere)
	m.POST("/publications", s.createPublication)
	m.POST("/publications/:publication/open", s.openPublication)
	m.POST("/publications/:publication/bring-back", s.bringBackPublication)
	m.GET("/people", s.people)
	m.POST("/people/invite", s.invite)
	m.POST("/people/withdraw", s.withdraw)
	m.POST("/people/:person/role", s.setRole)
	m.POST("/people/:person/remove", s.removeMember)
	m.POST("/people/:person/reset", s.resetMember)
	m.POST("/people/rename", s.renamePublication)
	m.POST("/people/factor", s.askFactor)
	m.POST("/people/archive", s.archivePublication)
	return nil
}
