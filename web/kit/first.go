package kit

import (
	"net/http"
	"slices"
	"strings"

	"corpulan/core/message"

	"github.com/gin-gonic/gin"
)

// shownCookie has the places whose line was shown, with dots between.
const shownCookie = "corpulan_shown"

// first is what one does at the place of a page, shown once in each browser.
func (s *Kit) first(c *gin.Context, data PageData) message.Message {
	i := slices.IndexFunc(s.places, func(p Place) bool { return p.Step != nil && p.Step.First != "" && p.Name == data.Place })
	if i < 0 || data.Study == nil {
		return ""
	}
	var shown []string
	if kept, _ := c.Cookie(shownCookie); kept != "" {
		shown = strings.Split(kept, ".")
	}
	if slices.Contains(shown, data.Place) {
		return ""
	}
	kept := []string{}
	for _, p := range s.places { // nothing but names of ours is sent back
		if p.Step != nil && (p.Name == data.Place || slices.Contains(shown, p.Name)) {
			kept = append(kept, p.Name)
		}
	}
	http.SetCookie(c.Writer, &http.Cookie{Name: shownCookie, Value: strings.Join(kept, "."), Path: "/", MaxAge: 365 * 24 * 3600, HttpOnly: true, SameSite: http.SameSiteLaxMode, Secure: Secure(c.Request)})
	return s.places[i].Step.First
}
