package demand

import (
	"embed"
	"html/template"

	"corpulan/web/kit"
	"corpulan/web/parts"
	"corpulan/words"
)

//go:embed templates static
var files embed.FS

// handlers answer the requests of the place.
type handlers struct{ parts.Lists }

// Routes hangs the place up.
func Routes(k *kit.Kit) error {
	s := &handlers{parts.Lists{Kit: k}}
	s.Add(kit.Place{Name: "demand", Files: files,
		Links:   []kit.Link{{Title: "Demand", Path: "/demand", Key: "k"}},
		Styles:  []kit.Asset{{File: "demand/demand.css"}},
		Scripts: []kit.Asset{{File: "demand/demand.js"}},
		Takes:   map[string]int64{"/demand": kit.LargestHandIn, "/demand/:list/add": kit.LargestHandIn},
		Funcs: func(*words.Words) template.FuncMap {
			return template.FuncMap{"grouppath": groupPath}
		},
	})
	r := s.Member
	r.GET("/demand", s.demandPlace)
	r.POST("/demand", s.createList)
	r.POST("/demand/curve", s.setCurve)
	l := r.Group("/demand/:list", s.WithList)
	l.GET("", s.groupsPlace)
	l.GET("/work", s.listWork)
	l.GET("/group", s.groupPane)
	l.GET("/names", s.groupNames)
	l.GET("/as/:format", s.downloadGroups)
	l.GET("/columns", s.columnsPlace)
	l.POST("/columns", s.nameColumns)
	l.POST("/add", s.addKeywords)
	l.POST("/seeds", s.askSeeds)
	l.POST("/results", s.askResults)
	l.POST("/figures", s.askFigures)
	l.POST("/stop", s.stopWork)
	l.POST("/width", s.setWidth)
	l.POST("/hand", s.editHand)
	l.POST("/rename", s.renameList)
	l.POST("/delete", s.deleteList)
	l.POST("/bring-back", s.deleteList)
	l.POST("/undo", s.turnList)
	l.POST("/redo", s.turnList)
	return nil
}
