// Package web is the interface: one package for each place, over what they share.
//
//   - kit     the server, guards, roles, fragments, and what the shell knows of a place
//   - parts   what several places show: findings, passages, fields of a brief, lists
//   - draw    marks, ribbons, maps and networks
//   - desk, gather, movement, field, evidence, brief, draft, demand, slate, writer, people,
//     publication, api   the places: handlers, templates, styles, scripts and tests of each
//   - webtest the interface on a real database, for the tests of all
//
// Places do not know each other; architecture_test.go holds that.
package web

import (
	"corpulan/web/api"
	"corpulan/web/brief"
	"corpulan/web/demand"
	"corpulan/web/desk"
	"corpulan/web/draft"
	"corpulan/web/evidence"
	"corpulan/web/field"
	"corpulan/web/gather"
	"corpulan/web/kit"
	"corpulan/web/movement"
	"corpulan/web/parts"
	"corpulan/web/people"
	"corpulan/web/publication"
	"corpulan/web/slate"
	"corpulan/web/writer"
)

// New is the interface with all its places, in the order in which its head shows them.
func New(o kit.Options) (*kit.Kit, error) {
	k, err := kit.New(o)
	if err != nil {
		return nil, err
	}
	return k, k.Serve(parts.Routes, desk.Routes, gather.Routes, movement.Routes, field.Routes, evidence.Routes, brief.Routes, draft.Routes,
		demand.Routes, slate.Routes, writer.Routes, people.Routes, publication.Routes, api.Routes)
}
