package desk

import (
	"embed"

	"corpulan/store"
	"corpulan/web/kit"
)

//go:embed templates
var files embed.FS

// handlers answer the requests of the place.
type handlers struct{ *kit.Kit }

// Routes hangs the place up.
func Routes(k *kit.Kit) error {
	s := &handlers{k}
	s.Add(kit.Place{Name: "desk", Title: "Desk", Files: files,
		Links:   []kit.Link{{Title: "Search", Path: "/search"}},
		Keys:    []kit.Key{{Keys: "e", Does: "archive a study"}, {Keys: "x", Does: "pick a study"}},
		Redraws: map[string]kit.Redraw{"desk": s.deskChanged},
		Needs:   []kit.Need{{Route: "/account/notices", Role: store.Reader}},
		Takes:   map[string]int64{"/studies": kit.LargestHandIn},
	})
	r := s.Member
	r.GET("/", s.desk)
	r.POST("/studies", s.createStudy)
	r.POST("/desk/many", s.deskMany)
	r.POST("/account/notices", s.seeNotices)
	r.GET("/week", s.week)
	r.GET("/search", s.search)
	return nil
}
