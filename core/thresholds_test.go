package core_test

import (
	"go/ast"
	"go/parser"
	"go/token"
	"path/filepath"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// named is how a comment says where a figure comes from: a published source with
// its year, a standard, a measurement, or that it is ours.
var named = regexp.MustCompile(`(?i)our own|measured|common practice|from memory|\b(19|20)\d\d\b|\bRFC \d+|\bsection \d|UAX|set on|fixed against|standard|version of`)

// Every figure that a rule turns on says where it comes from, in the comment of
// the constant or of the function it stands in.
func TestEveryThresholdHasASource(t *testing.T) {
	figures := 0
	for _, u := range units(t) {
		if room(u.ImportPath) != "core" {
			continue
		}
		for _, f := range u.GoFiles {
			set := token.NewFileSet()
			file, err := parser.ParseFile(set, filepath.Join(u.Dir, f), nil, parser.ParseComments)
			require.NoError(t, err)
			comments := ast.NewCommentMap(set, file, file.Comments)
			for _, d := range file.Decls {
				switch d := d.(type) {
				case *ast.GenDecl:
					if d.Tok != token.CONST {
						continue
					}
					for _, spec := range d.Specs {
						v := spec.(*ast.ValueSpec)
						for i, name := range v.Names {
							if i >= len(v.Values) || !isFigure(v.Values[i], "0", "1", "2") {
								continue
							}
							figures++
							said := d.Doc.Text() + v.Doc.Text() + v.Comment.Text()
							assert.True(t, named.MatchString(said), "%s: %s does not say where its figure comes from", set.Position(v.Pos()), name.Name)
						}
					}
				case *ast.FuncDecl:
					var said strings.Builder
					said.WriteString(d.Doc.Text())
					for _, groups := range comments.Filter(d) {
						for _, g := range groups {
							said.WriteString(g.Text())
						}
					}
					ast.Inspect(d, func(n ast.Node) bool {
						lit, ok := n.(*ast.BasicLit)
						if !ok || lit.Kind != token.FLOAT || !isFigure(lit, "0.0", "0.5", "1.0", "-1.0") {
							return true
						}
						figures++
						assert.True(t, named.MatchString(said.String()), "%s: %s does not say where its %s comes from", set.Position(lit.Pos()), d.Name.Name, lit.Value)
						return true
					})
				}
			}
		}
	}
	assert.Greater(t, figures, 80, "figures were looked at")
}

// isFigure tells a number written out, but for those that mean no more than
// none, one, a half.
func isFigure(e ast.Expr, but ...string) bool {
	lit, ok := e.(*ast.BasicLit)
	if !ok || lit.Kind != token.INT && lit.Kind != token.FLOAT {
		return false
	}
	for _, b := range but {
		if lit.Value == b {
			return false
		}
	}
	return true
}
