package web

import (
	"go/ast"
	"go/types"
	"path/filepath"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"golang.org/x/tools/go/packages"
)

// Calls between the files of a place run one way: routes to handlers, handlers to what they share.
// A file that calls one which calls it is two rooms with one door too many.
func TestFilesOfAPlaceCallOneWay(t *testing.T) {
	places, err := packages.Load(&packages.Config{
		Mode:       packages.NeedName | packages.NeedFiles | packages.NeedSyntax | packages.NeedTypes | packages.NeedTypesInfo,
		BuildFlags: []string{"-tags=nomsgpack"},
	}, "./...")
	require.NoError(t, err)
	require.Greater(t, len(places), 10)
	ties := 0
	for _, p := range places {
		require.Empty(t, p.Errors, p.PkgPath)
		calls := callsBetweenFiles(p)
		for from, to := range calls {
			ties += len(to)
			for _, f := range to {
				assert.False(t, leads(calls, f, from), "%s: %s calls %s, from where a way leads back", p.PkgPath, from, f)
			}
		}
	}
	assert.Greater(t, ties, 50, "that were looked at")
}

// callsBetweenFiles are the files of whose functions each file of a package makes use.
func callsBetweenFiles(p *packages.Package) map[string][]string {
	calls := map[string][]string{}
	for _, f := range p.Syntax {
		from := filepath.Base(p.Fset.Position(f.Pos()).Filename)
		for n := range ast.Preorder(f) {
			name, ok := n.(*ast.Ident)
			if !ok {
				continue
			}
			fn, ok := p.TypesInfo.Uses[name].(*types.Func)
			if !ok || fn.Pkg() != p.Types {
				continue
			}
			if to := filepath.Base(p.Fset.Position(fn.Pos()).Filename); to != from && !slices.Contains(calls[from], to) {
				calls[from] = append(calls[from], to)
			}
		}
	}
	return calls
}

// leads tells whether calls lead from a file to another, by others or not.
func leads(calls map[string][]string, from, to string) bool {
	seen := []string{from}
	for i := 0; i < len(seen); i++ {
		if seen[i] == to {
			return true
		}
		for _, next := range calls[seen[i]] {
			if !slices.Contains(seen, next) {
				seen = append(seen, next)
			}
		}
	}
	return false
}

// What would be found: two files that call each other, directly or by a third.
func TestAWayBackIsFound(t *testing.T) {
	calls := map[string][]string{"a": {"b"}, "b": {"c"}, "c": {"a"}, "d": {"a"}}
	assert.True(t, leads(calls, "b", "a"))
	assert.False(t, leads(calls, "a", "d"))
}
