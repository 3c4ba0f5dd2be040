package field

import (
	"embed"

	"corpulan/web/kit"
)

//go:embed templates static
var files embed.FS

// handlers answer the requests of the place.
type handlers struct{ *kit.Kit }

// Routes hangs the place up.
func Routes(k *kit.Kit) error {
	s := &handlers{k}
	s.Add(kit.Place{Name: "field", Title: "Field", Files: files,
		Step:    &kit.Step{First: "The kept pages side by side: how long they are, how they are built, and which themes they share.", Title: "Field", Path: "/field", Key: "f", Holds: []string{"two", "beat", "behind"}},
		Styles:  []kit.Asset{{File: "field/network.css", In: []string{"network"}}},
		Scripts: []kit.Asset{{File: "field/field.js"}},
		Keys:    []kit.Key{{Keys: "← → ↑ ↓", Does: "from section to section; Enter shows its text"}},
		Redraws: map[string]kit.Redraw{"network": s.networkChanged},
	})
	st := s.Study
	st.GET("/field", s.field)
	st.POST("/leaders", s.lead)
	st.GET("/network", s.networkPlace)
	st.GET("/beside", s.two)
	st.GET("/pages", s.toBeat)
	st.GET("/pages/:result", s.readPage)
	st.GET("/pages/:result/counted/:measure", s.countedOf)
	st.GET("/pages/:result/sections/:section", s.readPage)
	return nil
}
