package render

import (
	_ "embed"
	"html/template"
	"io"

	"corpulan/core/brief"
)

//go:embed brief.html
var page string

var pageTemplate = template.Must(template.New("brief").Funcs(template.FuncMap{"sectionNote": sectionNote, "items": ItemsOf, "run": run}).Parse(page))

// HTML writes the brief as one HTML file that needs nothing beside it.
func HTML(w io.Writer, b brief.Brief) error {
	return pageTemplate.Execute(w, struct {
		Title, Kicker, Language string
		Blocks                  []Block
	}{b.In().Put("Brief: %s", b.Keyword), b.In().Put("Content brief"), b.In().Code(), Blocks(b)})
}
