package slate

import (
	"embed"

	"corpulan/web/kit"
	"corpulan/web/parts"
)

//go:embed templates
var files embed.FS

// handlers answer the requests of the place.
type handlers struct{ parts.Lists }

// Routes hangs the place up.
func Routes(k *kit.Kit) error {
	s := &handlers{parts.Lists{Kit: k}}
	s.Add(kit.Place{Name: "slate", Title: "Slate", Files: files,
		Keys: []kit.Key{{Keys: "b", Does: "begin the studies of all its pages"}, {Keys: "p", Does: "make a page the pillar"}, {Keys: "d", Does: "take a page out"}},
	})
	r := s.Member
	r.POST("/demand/:list/slate", s.WithList, s.makeSlate)
	l := r.Group("/slates/:slate", s.withSlate)
	l.GET("", s.slatePlace)
	l.GET("/as/:format", s.downloadSlate)
	l.POST("/page", s.setPage)
	l.POST("/move", s.movePage)
	l.POST("/take", s.takeSlatePage)
	l.POST("/pillar", s.makePillar)
	l.POST("/bring", s.bringPage)
	l.POST("/studies", s.beginStudies)
	l.POST("/delete", s.deleteSlate)
	l.POST("/bring-back", s.deleteSlate)
	l.POST("/undo", s.turnSlate)
	l.POST("/redo", s.turnSlate)
	return nil
}
