package web

import (
	"net/http"

	"corpulan/store"

	"github.com/gin-gonic/gin"
)

// Routes are all routes of the interface, for tests that walk them.
func Routes() gin.RoutesInfo {
	s, r := &Server{}, gin.New()
	s.linkRoutes(r)
	s.accountRoutes(r)
	s.apiRoutes(r)
	s.memberRoutes(r)
	s.routes(r)
	return r.Routes()
}

// LeastRole and OurPath are what they are within.
var (
	LeastRole = leastRole
	OurPath   = ourPath
)

// MaySend tells whether a role may post to an address.
func MaySend(role store.Role, to string) bool {
	return role.May(leastRole(http.MethodPost, routeLike(to)))
}
