package brief

import (
	"embed"
	"html/template"

	"corpulan/core/message"
	"corpulan/store"
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
	editor := func(route string) kit.Need { return kit.Need{Route: "/studies/:study" + route, Role: store.Editor} }
	s.Add(kit.Place{Name: "brief", Title: "Brief", Files: files,
		Step: &kit.Step{First: "The brief as it is proposed: click on any line to change it, then hand it over.", Title: "Brief", Path: "/brief", Key: "b", Holds: []string{"share", "revisions", "history", "drawer"}, Sees: true, Stands: func(_ store.LedgerLine, sections int) message.Message {
			if sections < 0 {
				return ""
			}
			return message.Counted(sections, "section")
		}},
		Styles:  []kit.Asset{{File: "brief/brief.css"}},
		Scripts: []kit.Asset{{File: "kit/dist/sortable.min.js", In: []string{"brief"}}, {File: "brief/outline.js", In: []string{"brief"}, Needs: "editor"}, {File: "brief/brief.js"}, {File: "brief/brief.js", In: []string{kit.SheetPage}}, {File: "brief/cut.js"}},
		Keys:    []kit.Key{{Keys: "Alt ← → ↑ ↓", Does: "in the outline: a section higher, deeper, up, down"}, {Keys: "c", Does: "keep what is selected in a captured text as a cutting"}},
		Redraws: map[string]kit.Redraw{"brief": s.briefChanged},
		Funcs: func(*words.Words) template.FuncMap {
			return template.FuncMap{"editpath": editPath}
		},
		Needs: []kit.Need{editor("/brief"), editor("/outline"), editor("/picks"), editor("/parts"), editor("/cuttings"), editor("/share"), editor("/handover"), editor("/remarks")},
	})
	st := s.Study
	st.GET("/brief", s.brief)
	st.GET("/brief/counted", s.counted)
	st.GET("/brief/dossier", s.dossier)
	st.POST("/brief/fields", s.typeField)
	st.GET("/brief/as/:format", s.download)
	st.GET("/brief/faq.json", s.faqData)
	st.GET("/brief/revisions", s.revisions)
	st.POST("/brief/restore", s.restore)
	st.POST("/outline", s.editOutline)
	st.GET("/outline/edit", s.sectionForms)
	st.GET("/outline/bring", s.bringable)
	st.POST("/picks", s.movePick)
	st.POST("/parts", s.editParts)
	st.GET("/drawer", s.drawer)
	st.POST("/cuttings", s.cut)
	st.POST("/cuttings/:cutting", s.editCutting)
	st.POST("/template", s.useTemplate)
	st.GET("/history", s.history)
	st.GET("/share", s.share)
	st.POST("/share", s.makeLink)
	st.POST("/handover", s.handOver)
	st.POST("/share/:link/again", s.handAgain)
	st.POST("/share/:link/back", s.handBack)
	st.POST("/share/:link/revoke", s.revokeLink)
	st.POST("/remarks/:remark", s.answerRemark)
	return nil
}
