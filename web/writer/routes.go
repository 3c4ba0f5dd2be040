package writer

import (
	"embed"

	"corpulan/web/kit"
)

//go:embed templates static
var files embed.FS

// handlers answer the requests of the place.
type handlers struct{ *kit.Kit }

// Routes hangs the place up. It knows no publication but the link's.
func Routes(k *kit.Kit) error {
	s := &handlers{k}
	s.Add(kit.Place{Name: "writer", Files: files, Styles: []kit.Asset{{File: "writer/writer.css", In: []string{kit.SheetPage}}}})
	s.Shared.GET("", s.writer)
	in := s.Link
	in.GET("/as/:format", s.writerFile)
	in.POST("/remarks", s.makeRemark)
	in.POST("/ticks", s.tick)
	return nil
}
