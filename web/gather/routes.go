package gather

import (
	"embed"

	"corpulan/cache"
	"corpulan/core/message"
	"corpulan/store"
	"corpulan/web/kit"
)

//go:embed templates static
var files embed.FS

// handlers answer the requests of the place.
type handlers struct {
	*kit.Kit
	boards *cache.Cache[boardKey, *board]
}

// Routes hangs the place up.
func Routes(k *kit.Kit) error {
	s := &handlers{Kit: k}
	var err error
	if s.boards, err = newBoards(); err != nil {
		return err
	}
	s.Add(kit.Place{Name: "gather", Title: "Gather", Files: files,
		Step:    &kit.Step{First: "The ranked pages come in here; set aside what is no article like yours, and go on with Evidence.", Stands: stands, Title: "Gather", Path: "/gather", Key: "g", Holds: []string{"movement"}},
		Scripts: []kit.Asset{{File: "gather/stream.js"}},
		Keys:    []kit.Key{{Keys: "space", Does: "keep a page or set it aside, or all that are picked"}, {Keys: "J K x", Does: "pick pages one after another, pick one (or shift and click)"}, {Keys: "A", Does: "accept all proposed set-asides"}, {Keys: "r p", Does: "try a failed page again, paste its source"}},
		Redraws: map[string]kit.Redraw{"gather": s.gatherChanged},
		Takes:   map[string]int64{"/studies/:study/hand-in": kit.LargestHandIn, "/studies/:study/results/:result/hand-in": kit.LargestHandIn, "/studies/:study/extras": kit.LargestHandIn},
	})
	st := s.Study
	st.GET("/gather", s.gather)
	st.GET("/list", s.list)
	st.GET("/events", s.events)
	st.POST("/gather", s.gatherAgain)
	st.POST("/gather/stop", s.stopGathering)
	st.POST("/gather/resume", s.resumeGathering)
	st.POST("/gather/deeper", s.deeper)
	st.POST("/results/:result/kept", s.setKept)
	st.POST("/kept", s.setManyKept)
	st.POST("/proposals", s.acceptProposals)
	st.POST("/results/:result/retry", s.retry)
	st.POST("/results/:result/not-competitor", s.notCompetitor)
	st.POST("/results/:result/hand-in", s.handIn)
	st.POST("/hand-in", s.handIn)
	st.POST("/pages", s.addPages)
	st.POST("/extras", s.addExtras)
	st.GET("/captures.warc.gz", s.captures)
	st.GET("/receive", s.receive)
	return nil
}

// stands is what of a study is gathered.
func stands(l store.LedgerLine, _ int) message.Message {
	if l.State != "" && (l.State == store.Searching || l.State == store.Fetching) {
		return "gathering"
	}
	return message.Of("%d kept", l.KeptPages)
}
