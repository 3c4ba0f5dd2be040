// Package parts is what several places show: rows of findings, passages, fields of a brief, figures,
// coverage, openings, remarks, and what lists and slates share (lists.go).
package parts

import (
	"embed"
	"html/template"

	"corpulan/core/brief"
	"corpulan/core/fit"
	"corpulan/web/kit"
	"corpulan/words"
)

//go:embed templates
var files embed.FS

// Routes makes the templates known that several places use.
func Routes(k *kit.Kit) error {
	k.Add(kit.Place{Name: "parts", Files: files, Funcs: func(*words.Words) template.FuncMap {
		return template.FuncMap{"saidby": saidBy, "tiers": tiersOf, "groups": groupsOf, "scale": scaleOf, "fieldlabel": brief.FieldLabel, "headfields": brief.FieldsOfHead, "partname": fit.PartName}
	}})
	return nil
}
