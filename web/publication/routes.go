package publication

import (
	"embed"

	"corpulan/store"
	"corpulan/web/kit"

	"github.com/gin-gonic/gin"
)

//go:embed templates
var files embed.FS

// handlers answer the requests of the place.
type handlers struct{ *kit.Kit }

// Routes hangs the place up.
func Routes(k *kit.Kit) error {
	s := &handlers{k}
	s.Add(kit.Place{Name: "publication", Files: files,
		Needs: []kit.Need{{Route: "/publication/set-up", Role: store.Owner, Look: true}},
		Takes: map[string]int64{"/publication/pages": kit.LargestHandIn},
	})
	r := s.Member
	r.GET("/publication", s.publicationPlace)
	r.POST("/publication/fields", s.typeDefault)
	r.POST("/publication/sitemap", s.readSitemap)
	r.POST("/publication/pages", s.addOwnPages)
	r.POST("/publication/again", s.readOwnAgain)
	r.POST("/publication/pages/remove", s.removeOwn)
	r.POST("/publication/templates/forget", s.forgetTemplate)
	s.Study.POST("/template/save", s.saveTemplate)
	s.setupRoutes(r)
	return nil
}

func (s *handlers) setupRoutes(r gin.IRouter) {
	r.GET("/publication/set-up", s.setup)
	r.POST("/publication/set-up/market", s.setMarket)
	r.POST("/publication/set-up/stages", s.setStages)
	r.POST("/publication/set-up/aside", s.setAside)
	r.POST("/publication/set-up/services", s.setServices)
	r.POST("/publication/set-up/services/back", s.swapServices)
	r.POST("/publication/set-up/tokens", s.makeToken)
	r.POST("/publication/set-up/tokens/:token_id/revoke", s.revokeToken)
	r.POST("/publication/set-up/tokens/:token_id/back", s.bringTokenBack)
	r.POST("/publication/set-up/webhooks", s.makeWebhook)
	r.POST("/publication/set-up/webhooks/:webhook/remove", s.removeWebhook)
	r.POST("/publication/set-up/webhooks/:webhook/back", s.bringWebhookBack)
}
