package kit

import (
	"html/template"
	"io/fs"
	"slices"
	"strings"

	"corpulan/core/message"
	"corpulan/store"
	"corpulan/words"

	"github.com/gin-gonic/gin"
)

// Place is all that the shell must know of a place of the interface, told by the place itself
// when it hangs up its routes.
type Place struct {
	Name    string            // its folder, and where its static files are
	Title   string            // what it is called where its keys are listed
	Files   fs.FS             // templates/*.html, templates/parts/*.html, static/*
	Step    *Step             // where it stands among the steps of a study; nil for none
	Links   []Link            // at the end of the head
	Styles  []Asset           // of its own; the kit's are always there
	Scripts []Asset           // likewise
	Keys    []Key             // of its own
	Redraws map[string]Redraw // by what a page says it is (data-place)
	Needs   []Need
	Takes   map[string]int64 // bytes of a body by route, where more than a form's

	// Missing answers what begins with an address of the place and is none; nil for the page that
	// says so. ErrMethod is what the address is there for, but not for this method.
	Under   string
	Missing func(c *gin.Context, err error)

	// Funcs are what its templates call beside the kit's, in one language; nil for none.
	Funcs func(*words.Words) template.FuncMap
}

// Redraw answers htmx with what has changed on a page, and a word on what was done.
type Redraw func(c *gin.Context, n Notice)

// Step is one of the steps of a study, in the order in which places are given.
type Step struct {
	Title string
	Path  string          // below the study
	Key   string          // after g
	Holds []string        // further pages of it, by what they say they are
	Sees  bool            // it shows what others say and write of the study
	First message.Message // what one does there, for who is there for the first time

	// Stands is what a study has of it by now, in a word or two; nil for nothing to say. sections is -1 where the page has no brief at hand.
	Stands func(l store.LedgerLine, sections int) message.Message
}

// Link is a place outside of studies, in the head.
type Link struct {
	Title, Path, Key string
	Holds            []string
}

// Asset is a style or a script, below /static.
type Asset struct {
	File  string
	In    []string // the pages that have it; empty for all
	Needs string   // a role that must be had for it to be sent
}

// Key is what a key does.
type Key struct {
	Keys string // parted by blanks
	Does string
}

// Each are the keys one by one.
func (k Key) Each() []string { return strings.Fields(k.Keys) }

// Need says who may use routes that begin so: by default who may look may look everywhere, and
// only strategists change things.
type Need struct {
	Route string
	Role  store.Role
	Look  bool // for looking, too
}

// Add makes a place known.
func (s *Kit) Add(p Place) { s.places = append(s.places, p) }

// MinRole is what somebody must be at least to use a route: what the longest beginning says
// that a place has given.
func (s *Kit) MinRole(looks bool, route string) store.Role {
	least, length := store.Strategist, -1
	if looks {
		least = store.Reader
	}
	for _, n := range s.needs() {
		if len(n.Route) > length && (n.Look || !looks) && isBelow(route, n.Route) {
			least, length = n.Role, len(n.Route)
		}
	}
	return least
}

// needs are those of the kit and of every place.
func (s *Kit) needs() []Need {
	all := slices.Clone(ownNeeds)
	for _, p := range s.places {
		all = append(all, p.Needs...)
	}
	return all
}

// isBelow tells whether a route is another or stands below it.
func isBelow(route, above string) bool {
	rest, ok := strings.CutPrefix(route, above)
	return ok && (rest == "" || rest[0] == '/')
}

// largestBody is what a route takes, in bytes.
func (s *Kit) largestBody(route string) int64 {
	for _, p := range s.places {
		if most, ok := p.Takes[route]; ok {
			return most
		}
	}
	return largestForm
}
