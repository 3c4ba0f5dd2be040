package evidence

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
	editor := func(route string) kit.Need { return kit.Need{Route: "/studies/:study" + route, Role: store.Editor} }
	s.Add(kit.Place{Name: "evidence", Title: "Evidence", Files: files,
		Step:    &kit.Step{First: "What the kept pages share, the most important first; what has a lozenge goes into the brief, and every figure opens its sentences.", Title: "Evidence", Path: "/evidence", Key: "e", Holds: []string{"further", "network", "standing", "against", "searched", "lexicon", "sources"}},
		Keys:    []kit.Key{{Keys: "a d", Does: "adopt a finding, drop it"}, {Keys: "o", Does: "open the sentences behind a finding"}, {Keys: "s", Does: "join a question with the one it is perhaps the same as"}},
		Redraws: map[string]kit.Redraw{"evidence": s.evidenceChanged, "standing": s.standingChanged, "searched": s.Noted},
		Needs:   []kit.Need{editor("/choices"), editor("/own"), editor("/standing"), {Route: "/studies/:study/evidence/columns", Role: store.Reader}},
	})
	st := s.Study
	st.GET("/evidence", s.evidence)
	st.POST("/evidence/columns", s.chooseColumns)
	st.GET("/further", s.further)
	st.GET("/evidence/as/:table", s.downloadTable)
	st.GET("/counted", s.counted)
	st.GET("/sources", s.sources)
	st.POST("/choices", s.choose)
	st.POST("/choices/many", s.chooseMany)
	st.POST("/own", s.addOwn)
	st.GET("/against", s.against)
	st.GET("/standing", s.standing)
	st.GET("/standing/places", s.placed)
	st.POST("/standing", s.adoptKeyword)
	st.GET("/searched", s.searched)
	st.GET("/lexicon", s.lexicon)
	st.POST("/lexicon", s.teach)
	st.POST("/lexicon/forget", s.forget)
	st.POST("/lexicon/read", s.readLexicon)
	st.GET("/lexicon.csv", s.lexiconCSV)
	st.POST("/themes/join", s.joinThemes)
	return nil
}
