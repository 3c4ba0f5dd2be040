package render

import (
	_ "embed"
	"html/template"
	"io"

	"corpulan/core/brief"
)

//go:embed brief.html
var page string

var pageTemplate = template.Must(template.New("brief").Funcs(template.FuncMap{"sectionNote": sectionNote, "items": ItemsOf}).Parse(page))

// HTML writes the brief as one HTML file that needs nothing beside it.
func HTML(w io.Writer, b brief.Brief) error {
	return pageTemplate.Execute(w, struct {
		Keyword string
		Blocks  []Block
	}{b.Keyword, Filled(b)})
}
