package movement

import (
	"embed"
	"html/template"

	"corpulan/web/kit"
	"corpulan/words"
)

//go:embed templates static
var files embed.FS

// handlers answer the requests of the place.
type handlers struct{ *kit.Kit }

// Routes hangs the place up.
func Routes(k *kit.Kit) error {
	s := &handlers{k}
	s.Add(kit.Place{Name: "movement", Files: files,
		Styles:  []kit.Asset{{File: "movement/movement.css"}},
		Redraws: map[string]kit.Redraw{"movement": s.movementChanged},
		Funcs: func(*words.Words) template.FuncMap {
			return template.FuncMap{"movedpath": pagePath}
		},
	})
	s.Member.GET("/movement", s.positions)
	st := s.Study
	st.GET("/movement", s.movement)
	st.GET("/movement/line", s.movementLine)
	st.GET("/movement/page", s.pageMovement)
	st.POST("/gather/again", s.gatherBy)
	st.POST("/brief/settle", s.settle)
	st.POST("/brief/follow", s.followEvidence)
	return nil
}
