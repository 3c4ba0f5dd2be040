package render

import (
	_ "embed"
	"html/template"
	"io"

	"corpulan/core/brief"
)

//go:embed brief.html
var page string

var pageTemplate = template.Must(template.New("brief").Funcs(template.FuncMap{
	"ranks": Ranks, "times": Times, "pages": Pages, "written": written,
	"sectionNote": sectionNote, "questionNote": questionNote,
	"percent": func(x float64) int { return int(100*x + 0.5) },
	"add":     func(a, b int) int { return a + b },
}).Parse(page))

// HTML writes the brief as one HTML file that needs nothing beside it.
func HTML(w io.Writer, b brief.Brief) error { return pageTemplate.Execute(w, b) }
