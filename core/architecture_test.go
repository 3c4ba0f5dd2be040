// Package core_test holds the house to its rules: which way its arrows point,
// what the core may use, and who speaks SQL.
package core_test

import (
	"bytes"
	"encoding/json"
	"go/ast"
	"go/parser"
	"go/token"
	"go/types"
	"io"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"slices"
	"strings"
	"testing"

	"github.com/fzipp/gocyclo"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// unit is a package as `go list` tells it.
type unit struct {
	ImportPath, Dir string
	Imports         []string
	GoFiles         []string
}

func units(t *testing.T) []unit {
	t.Helper()
	out, err := exec.Command("go", "list", "-json=ImportPath,Dir,Imports,GoFiles", "corpulan/...").Output()
	require.NoError(t, err)
	var all []unit
	for in := json.NewDecoder(strings.NewReader(string(out))); ; {
		var u unit
		err := in.Decode(&u)
		if err == io.EOF {
			break
		}
		require.NoError(t, err)
		if !strings.HasSuffix(u.ImportPath, "test") && !strings.HasSuffix(u.ImportPath, "/withpg") { // they help tests
			all = append(all, u)
		}
	}
	require.NotEmpty(t, all)
	return all
}

// No function of the program has more than 25 ways through it, so that each can be read at one go
// (cyclomatic complexity, McCabe 1976).
func TestNoFunctionIsTangled(t *testing.T) {
	const most = 25 // our own
	stats := gocyclo.Analyze([]string{".."}, regexp.MustCompile(`_test\.go$|/node_modules/`))
	require.Greater(t, len(stats), 3000)
	for _, s := range stats {
		assert.LessOrEqual(t, s.Complexity, most, "%s: %s", s.Pos, s.FuncName)
	}
}

// Arrows point down: cmd -> web, jobs -> study -> account, analysis -> queue, store, gather, search, render -> formats -> core.
func TestArrowsPointDown(t *testing.T) {
	below := map[string][]string{
		"cache":    {},
		"words":    {"core"},
		"core":     {"core"},
		"evaluate": {"core", "lists", "standin"},
		"formats":  {"core"},
		"search":   {"core", "formats"},
		"render":   {"core", "formats"},
		"gather":   {"cache", "core", "formats", "search"},
		"localpg":  {},
		"standin":  {},
		"store":    {"core"},
		"queue":    {"core", "store"},
		"account":  {"core", "store"},
		"analysis": {"cache", "core", "formats", "gather", "search", "store", "words"},
		"study":    {"account", "analysis", "core", "formats", "gather", "search", "queue", "store", "words"},
		"jobs":     {"account", "analysis", "core", "formats", "gather", "search", "queue", "store", "study", "words"},
		"metrics":  {"core", "store"},
		"docs":     {},
		"lists":    {"core"},
		"notice":   {},
		"web":      {"account", "analysis", "cache", "docs", "core", "notice", "render", "formats", "gather", "search", "queue", "store", "study", "words"},
	}
	for _, u := range units(t) {
		from := room(u.ImportPath)
		allowed, ruled := below[from]
		if !ruled {
			continue
		}
		for _, to := range u.Imports {
			if strings.HasPrefix(to, "corpulan/") && room(to) != from {
				assert.Contains(t, allowed, room(to), "%s imports %s", u.ImportPath, to)
			}
		}
	}
}

// Places of the interface do not know each other: what two need is in the kit or in parts. Only
// web itself knows them all, and the tests' house.
func TestPlacesDoNotKnowEachOther(t *testing.T) {
	below := map[string][]string{"draw": {}, "kit": {"draw"}, "parts": {"draw", "kit"}}
	for _, u := range units(t) {
		from, ok := strings.CutPrefix(u.ImportPath, "corpulan/web/")
		if !ok {
			continue
		}
		allowed, shared := below[from]
		if !shared {
			allowed = []string{"draw", "kit", "parts"}
		}
		for _, to := range u.Imports {
			if to, ours := strings.CutPrefix(to, "corpulan/web/"); ours {
				assert.Contains(t, allowed, to, "%s imports %s", u.ImportPath, to)
			}
			assert.NotEqual(t, "corpulan/web", to, "%s imports the whole", u.ImportPath)
		}
		assert.Less(t, lines(t, u), 2500, "%s has grown beyond a place", u.ImportPath)
	}
}

// lines are those of a package without its tests.
func lines(t *testing.T, u unit) (n int) {
	t.Helper()
	for _, f := range u.GoFiles {
		b, err := os.ReadFile(filepath.Join(u.Dir, f))
		require.NoError(t, err)
		n += bytes.Count(b, []byte("\n"))
	}
	return n
}

// What people do is a command in study or account: the interface asks the store, and changes nothing
// there itself. Which methods of the store write is read off the store: those that call a writer of
// GORM's or hold SQL that writes, and those that call them.
func TestTheInterfaceOnlyReads(t *testing.T) {
	writers := storeWriters(t)
	require.Greater(t, len(writers), 60)
	for _, reads := range []string{"Study", "Results", "Ledger", "Brief", "Remarks", "Lexicon", "Publication"} {
		assert.NotContains(t, writers, reads)
	}
	ofStore := regexp.MustCompile(`(^|\.)(Scope\(c\)|Store|In\([^()]*\)|Across\([^()]*\)|sc|scope|across)$`)
	for _, u := range units(t) {
		if room(u.ImportPath) != "web" {
			continue
		}
		for _, f := range u.GoFiles {
			file, err := parser.ParseFile(token.NewFileSet(), filepath.Join(u.Dir, f), nil, 0)
			require.NoError(t, err)
			ast.Inspect(file, func(n ast.Node) bool {
				s, ok := n.(*ast.SelectorExpr)
				if ok && writers[s.Sel.Name] {
					assert.NotRegexp(t, ofStore, types.ExprString(s.X), "%s/%s writes: %s", u.ImportPath, f, s.Sel.Name)
				}
				return true
			})
		}
	}
}

// storeWriters are the methods of the store that change something.
func storeWriters(t *testing.T) map[string]bool {
	t.Helper()
	calls, writers := map[string][]string{}, map[string]bool{}
	ofGorm := []string{"Create", "Save", "Updates", "Update", "UpdateColumn", "UpdateColumns", "Delete", "CreateInBatches", "FirstOrCreate"}
	sql := regexp.MustCompile(`(?i)^[` + "`" + `"\s]*(with [^;]*)?\b(insert into|update|delete from|truncate)\b`)
	for _, u := range units(t) {
		if u.ImportPath != "corpulan/store" {
			continue
		}
		for _, f := range u.GoFiles {
			file, err := parser.ParseFile(token.NewFileSet(), filepath.Join(u.Dir, f), nil, 0)
			require.NoError(t, err)
			for _, d := range file.Decls {
				fn, ok := d.(*ast.FuncDecl)
				if !ok || fn.Body == nil || fn.Name.Name == "Migrate" {
					continue
				}
				name := fn.Name.Name
				ast.Inspect(fn.Body, func(n ast.Node) bool {
					switch n := n.(type) {
					case *ast.CallExpr:
						switch of := n.Fun.(type) {
						case *ast.SelectorExpr:
							writers[name] = writers[name] || slices.Contains(ofGorm, of.Sel.Name)
							calls[name] = append(calls[name], of.Sel.Name)
						case *ast.Ident:
							calls[name] = append(calls[name], of.Name)
						}
					case *ast.BasicLit:
						writers[name] = writers[name] || n.Kind == token.STRING && sql.MatchString(n.Value)
					}
					return true
				})
			}
		}
	}
	for grown := true; grown; { // until nobody calls a writer that is not one
		grown = false
		for name, list := range calls {
			if !writers[name] && slices.ContainsFunc(list, func(to string) bool { return writers[to] && to != "Scan" }) {
				writers[name], grown = true, true
			}
		}
	}
	for name := range writers {
		if !writers[name] {
			delete(writers, name)
		}
	}
	return writers
}

// The language does not say whether a variable that is returned is read before or after a call in
// the same statement that fills it.
func TestNothingIsReturnedWhileItIsFilled(t *testing.T) {
	for _, u := range units(t) {
		for _, f := range u.GoFiles {
			file, err := parser.ParseFile(token.NewFileSet(), filepath.Join(u.Dir, f), nil, 0)
			require.NoError(t, err)
			ast.Inspect(file, func(n ast.Node) bool {
				r, ok := n.(*ast.ReturnStmt)
				if !ok {
					return true
				}
				returned := map[string]bool{}
				for _, x := range r.Results {
					if id, ok := x.(*ast.Ident); ok {
						returned[id.Name] = true
					}
				}
				for _, x := range r.Results {
					ast.Inspect(x, func(n ast.Node) bool {
						if _, ok := n.(*ast.FuncLit); ok {
							return false // which is called later
						}
						if a, ok := n.(*ast.UnaryExpr); ok && a.Op == token.AND {
							id, ok := a.X.(*ast.Ident)
							assert.False(t, ok && returned[id.Name], "%s/%s fills %s while it is returned", u.ImportPath, f, types.ExprString(a.X))
						}
						return true
					})
				}
				return true
			})
		}
	}
}

// Inside the core, each package uses those before it in this list and no others;
// the finders stand side by side and do not know each other.
func TestTheCoreIsALadder(t *testing.T) {
	ladder := [][]string{{"message", "lexicon", "markup", "stats"}, {"address"}, {"text"}, {"language"}, {"reading", "house"}, {"corpus"}, {"draft", "listed", "says"},
		{"vocabulary", "entities", "questions", "themes", "points"}, {"evidence", "network"}, {"links"}, {"brief"}, {"fit"}, {"demand"}, {"change"}}
	rung := map[string]int{}
	for i, names := range ladder {
		for _, n := range names {
			rung[n] = i
		}
	}
	for _, u := range units(t) {
		name, ok := strings.CutPrefix(u.ImportPath, "corpulan/core/")
		if !ok {
			continue
		}
		at, known := rung[name]
		if !assert.True(t, known, "%s has no rung", name) {
			continue
		}
		for _, to := range u.Imports {
			if to, ours := strings.CutPrefix(to, "corpulan/core/"); ours {
				assert.Less(t, rung[to], at, "%s imports %s", name, to)
			}
		}
	}
}

// The core is pure: no network, files, processes, databases, templates, chance
// or clock. What time.Parse and its like make of text is no clock.
func TestTheCoreIsPure(t *testing.T) {
	forbidden := []string{"database/sql", "html/template", "text/template", "net", "net/http", "os", "os/exec", "io/ioutil", "math/rand", "math/rand/v2", "crypto/rand", "syscall", "log", "log/slog"}
	clock := []string{"Now", "Since", "Until", "After", "AfterFunc", "Tick", "NewTicker", "NewTimer", "Sleep", "Local"}
	for _, u := range units(t) {
		if room(u.ImportPath) != "core" {
			continue
		}
		for _, to := range u.Imports {
			assert.NotContains(t, forbidden, to, "%s imports %s", u.ImportPath, to)
			assert.False(t, strings.HasPrefix(to, "gorm.io/") || strings.Contains(to, "gin-gonic"), "%s imports %s", u.ImportPath, to)
		}
		for _, f := range u.GoFiles {
			file, err := parser.ParseFile(token.NewFileSet(), filepath.Join(u.Dir, f), nil, 0)
			require.NoError(t, err)
			ast.Inspect(file, func(n ast.Node) bool {
				s, ok := n.(*ast.SelectorExpr)
				if !ok {
					return true
				}
				if pkg, ok := s.X.(*ast.Ident); ok && pkg.Name == "time" {
					assert.False(t, slices.Contains(clock, s.Sel.Name), "%s/%s looks at the clock: time.%s", u.ImportPath, f, s.Sel.Name)
				}
				return true
			})
			for _, d := range file.Decls {
				fn, ok := d.(*ast.FuncDecl)
				assert.False(t, ok && fn.Recv == nil && fn.Name.Name == "init", "%s/%s has an init", u.ImportPath, f)
			}
		}
	}
}

// What depends on a language is asked of it, and stands in core/language: nowhere else does code of
// the core compare the code of a language, switch over it, or ask for one by its code.
func TestLanguagesAreCapabilities(t *testing.T) {
	codes := []string{`"en"`, `"de"`, `"fr"`, `"es"`, `"it"`, `"nl"`, `"pt"`, `"sv"`}
	isCode := func(e ast.Expr) bool {
		lit, ok := e.(*ast.BasicLit)
		return ok && slices.Contains(codes, lit.Value)
	}
	for _, u := range units(t) {
		if room(u.ImportPath) != "core" || strings.HasSuffix(u.ImportPath, "/language") {
			continue
		}
		for _, f := range u.GoFiles {
			file, err := parser.ParseFile(token.NewFileSet(), filepath.Join(u.Dir, f), nil, 0)
			require.NoError(t, err)
			ast.Inspect(file, func(n ast.Node) bool {
				found := false
				switch n := n.(type) {
				case *ast.BinaryExpr:
					if s, ok := n.X.(*ast.SelectorExpr); ok && (s.Sel.Name == "Code" || s.Sel.Name == "Language") {
						found = isCode(n.Y)
					}
				case *ast.CallExpr:
					if s, ok := n.Fun.(*ast.SelectorExpr); ok && s.Sel.Name == "For" {
						found = slices.ContainsFunc(n.Args, isCode)
					}
				case *ast.KeyValueExpr:
					found = isCode(n.Key)
				case *ast.IndexExpr:
					found = isCode(n.Index)
				case *ast.ReturnStmt:
					found = slices.ContainsFunc(n.Results, isCode)
				}
				assert.False(t, found, "%s/%s has the code of a language", u.ImportPath, f)
				return true
			})
		}
	}
}

// Only the store speaks SQL, and the private server's set-up.
func TestOnlyTheStoreSpeaksSQL(t *testing.T) {
	for _, u := range units(t) {
		if r := room(u.ImportPath); r == "store" || r == "localpg" {
			continue
		}
		for _, f := range u.GoFiles {
			file, err := parser.ParseFile(token.NewFileSet(), filepath.Join(u.Dir, f), nil, 0)
			require.NoError(t, err)
			ast.Inspect(file, func(n ast.Node) bool {
				lit, ok := n.(*ast.BasicLit)
				if !ok || lit.Kind != token.STRING {
					return true
				}
				s := strings.ToLower(strings.Trim(lit.Value, "`\" \n\t"))
				for _, verb := range []string{"select * ", "select count(", "insert into ", "delete from ", "alter table ", "create table "} {
					assert.False(t, strings.HasPrefix(s, verb), "%s/%s: %s", u.ImportPath, f, lit.Value)
				}
				return true
			})
		}
		for _, to := range u.Imports {
			assert.NotContains(t, []string{"gorm.io/gorm", "gorm.io/gorm/clause", "gorm.io/driver/postgres", "github.com/jackc/pgx/v5/stdlib"}, to, "%s imports %s", u.ImportPath, to)
		}
	}
}

func room(path string) string {
	return strings.Split(strings.TrimPrefix(path, "corpulan/"), "/")[0]
}
