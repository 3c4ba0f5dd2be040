package words_test

import (
	"fmt"
	"go/ast"
	"go/constant"
	"go/types"
	"maps"
	"regexp"
	"slices"
	"strings"
	"testing"

	"corpulan/core/message"
	"corpulan/words"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"golang.org/x/tools/go/packages"
)

// messageTypes are the types whose constants are what the program says: messages, and kinds of
// things that are shown by their names.
var messageTypes = map[string]bool{
	"corpulan/core/message.Message": true, "corpulan/core/message.Kept": true, "corpulan/core/message.Format": true,
	"corpulan/core/reading.Kind": true, "corpulan/core/evidence.OpeningKind": true, "corpulan/core/entities.EntityType": true,
	"corpulan/core/vocabulary.Tier": true, "corpulan/core/language.QuestionKind": true, "corpulan/core/says.Form": true,
	"corpulan/core/change.What": true, "corpulan/core/change.How": true, "corpulan/core/evidence.Stand": true, "corpulan/core/evidence.FigureKind": true,
	"corpulan/core/demand.Field": true, "corpulan/core/themes.How": true, "corpulan/store.Role": true,
}

// said is where in the program something is said, by what is said.
func said(t *testing.T) map[string]string {
	t.Helper()
	pkgs, err := packages.Load(&packages.Config{Mode: packages.NeedName | packages.NeedTypes | packages.NeedTypesInfo | packages.NeedSyntax | packages.NeedFiles, Dir: "..", BuildFlags: []string{"-tags=nomsgpack"}}, "./...")
	require.NoError(t, err)
	list := map[string]string{}
	for _, p := range pkgs {
		require.Empty(t, p.Errors, p.PkgPath)
		if p.PkgPath == "corpulan/web/api" || strings.HasPrefix(p.PkgPath, "corpulan/evaluate") || strings.HasPrefix(p.PkgPath, "corpulan/e2e") || strings.HasSuffix(p.PkgPath, "core/message") || strings.HasSuffix(p.PkgPath, "web/webtest") {
			continue
		}
		note := func(e ast.Expr, v constant.Value) {
			if v != nil && v.Kind() == constant.String && constant.StringVal(v) != "" {
				list[constant.StringVal(v)] = p.Fset.Position(e.Pos()).String()
			}
		}
		for e, v := range p.TypesInfo.Types {
			if v.Type != nil && messageTypes[types.TypeString(v.Type, nil)] {
				note(e, v.Value)
			}
		}
		// And what is looked up as a word.
		for _, f := range p.Syntax {
			ast.Inspect(f, func(n ast.Node) bool {
				call, ok := n.(*ast.CallExpr)
				if !ok || len(call.Args) == 0 {
					return true
				}
				if s, ok := call.Fun.(*ast.SelectorExpr); ok && s.Sel.Name == "Look" {
					note(call.Args[0], p.TypesInfo.Types[call.Args[0]].Value)
				}
				return true
			})
		}
	}
	require.Greater(t, len(list), 500)
	return list
}

// inEnglish are words that hardly stand in a text of another language of the interface.
var inEnglish = regexp.MustCompile(`(?i)\b(the|of|and|is|with|which|on|by|from|to|has|have|are|it|its|pages?|as|or|for|that|this|not|you|your|every|other|section|headings?|words|reader|saved|nothing|there)\b`)

// Everything that the program says stands in every catalogue, and nothing of it is left in
// English, whatever goes into it.
func TestMessagesAreTranslated(t *testing.T) {
	all, err := words.All()
	require.NoError(t, err)
	list := said(t)
	for code, w := range all {
		if w.IsEnglish() {
			continue
		}
		for _, text := range slices.Sorted(maps.Keys(list)) {
			if !saysWords(text) {
				continue
			}
			if !assert.True(t, w.Has(text), "%s lacks %q of %s", code, text, list[text]) {
				continue
			}
			sentence := sample(text).In(w)
			assert.NotContains(t, sentence, "%!", "%q as %q", text, sentence)
			assert.NotRegexp(t, inEnglish, inQuotes.ReplaceAllString(sentence, ""), "%q of %s", text, list[text])
		}
		for _, text := range w.Formats() {
			if _, said := list[text]; len(message.Verbs(message.Format(text))) > 0 {
				assert.True(t, said, "nothing says %q", text)
			}
		}
	}
}

// saysWords tells a format that holds more than places, marks and names that are the same
// everywhere.
func saysWords(text string) bool {
	for _, v := range message.Verbs(message.Format(text)) {
		text = strings.ReplaceAll(text, v, "")
	}
	return regexp.MustCompile(`\pL{2}`).MatchString(text)
}

// sample is a format with something in each of its places.
func sample(text string) message.Message {
	var args []any
	for _, v := range message.Verbs(message.Format(text)) {
		switch v[len(v)-1] {
		case 'd':
			args = append(args, 3)
		case 'f':
			args = append(args, 0.5)
		case 'v':
			args = append(args, message.Message("Nothing is picked."))
		default:
			args = append(args, fmt.Sprint("§", len(args)))
		}
	}
	return message.Of(message.Format(text), args...)
}
