package draft

import (
	"embed"

	"corpulan/core/brief"
	"corpulan/core/message"
	"corpulan/store"
	"corpulan/web/kit"

	"github.com/gin-gonic/gin"
)

//go:embed templates static
var files embed.FS

// handlers answer the requests of the place.
type handlers struct{ *kit.Kit }

// Routes hangs the place up twice: for those of the publication, and for who has a link.
func Routes(k *kit.Kit) error {
	s := &handlers{k}
	place := []string{"draft", "draft-versions"}
	s.Add(kit.Place{Name: "draft", Title: "Draft", Files: files,
		Step:    &kit.Step{Title: "Draft", Path: "/draft", Key: "w", Holds: place, Sees: true, Stands: stands},
		Styles:  []kit.Asset{{File: "draft/draft.css", In: append(place, kit.SheetPage)}},
		Scripts: []kit.Asset{{File: "kit/dist/draft.js", In: place[:1], Needs: "editor"}},
		Keys:    []kit.Key{{Keys: "Ctrl Alt o", Does: "put in the outline of the brief"}, {Keys: "Ctrl Alt 0 … 4", Does: "a paragraph, a heading of level 1 to 4"}, {Keys: "Ctrl b i k", Does: "bold, italic, link"}, {Keys: "Ctrl Shift 7 8 9", Does: "numbers, points, quotation"}, {Keys: "Ctrl s", Does: "keep a version"}},
		Needs:   []kit.Need{{Route: "/studies/:study/draft", Role: store.Editor}, {Route: "/studies/:study" + teaches, Role: store.Strategist}},
		Takes:   takes(),
	})
	s.hang(s.Study.Group("/draft", s.ourDesk))
	s.hang(s.Link.Group("/draft", s.linkDesk))
	return nil
}

// stands is how far the writing is.
func stands(l store.LedgerLine, _ int) message.Message {
	switch l.Stage {
	case brief.Handed, brief.Drafted, brief.Published:
		return message.Message(l.Stage)
	}
	return "not handed over"
}

// takes are the sizes of what is sent to the place, wherever it hangs.
func takes() map[string]int64 {
	all := map[string]int64{}
	for _, at := range []string{"/studies/:study/draft", "/w/:token/draft"} {
		for _, route := range []string{"/steps", "/fit", "/versions", "/import"} {
			all[at+route] = kit.LargestText
		}
	}
	return all
}

func (s *handlers) hang(r gin.IRouter) {
	r.GET("", s.draft)
	r.GET("/state", s.draftState)
	r.POST("/steps", s.saveDraft)
	r.POST("/fit", s.draftFit)
	r.POST("/versions", s.keepVersion)
	r.GET("/versions/:version", s.draftVersion)
	r.GET("/compare", s.compareDrafts)
	r.POST("/import", s.importDraft)
	r.POST("/own", s.takeOwn)
	r.POST("/judge", s.judge)
	r.GET("/sentences", s.draftSentences)
	r.POST("/right", s.spelledRight)
	r.GET("/as/:format", s.draftAs)
}
