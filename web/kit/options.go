package kit

import (
	"context"
	"errors"
	"fmt"
	"io/fs"
	"log/slog"
	"net/http"
	"time"

	"corpulan/account"
	"corpulan/analysis"
	"corpulan/formats/handed"
	"corpulan/queue"
	"corpulan/store"
)

// Sample is a list of keywords that ships with the program, to try it with.
type Sample struct {
	Name string // of the file
	Data []byte
}

// OpenID is an OpenID Connect issuer by which people may sign in.
type OpenID struct {
	Issuer   string // its address, as discovery has it
	ClientID string
	Secret   string
	Name     string // what the button calls it
	Address  string // our own, as browsers see it
}

// Options are what a server needs.
type Options struct {
	Store *store.Store
	Queue *queue.Queue
	// Visitor tells who asks, without any sign-in; nil for sessions.
	Visitor func(*http.Request) (*account.Visitor, error)
	// SignInAs is the number of the person as whom everybody is signed in at once: the demo's
	// visitor. 0 for nobody.
	SignInAs int64
	// Sealer keeps what must not be read in the database; nil for nothing of the kind.
	Sealer *account.Sealer
	// NoEngine tells that the installation has no search engine; publications may have their own.
	NoEngine bool
	// OpenID is an issuer by which people may sign in; nil for none.
	OpenID  *OpenID
	Proxies []string // whose word on where a request comes from is taken; networks in CIDR notation

	// Reader reads what is handed in; nil reads it in this process.
	Reader *handed.Reader
	// Lists is what lies beside the program: the spelling check finds its dictionaries there. nil
	// for none.
	Lists fs.FS

	Log     *slog.Logger                                               // the store's where none is given
	Closing context.Context                                            // done when the program is about to stop
	Hosts   []string                                                   // names this server answers for; none means localhost
	Demo    bool                                                       // the search engine is the stand-in
	Again   func(keyword string)                                       // called before a study is gathered again; nil for nothing
	Extras  []Sample                                                   // texts to try reading beside a field
	Samples []Sample                                                   // lists of keywords to try the program with
	Observe func(route, method string, status int, took time.Duration) // called with each answer but event streams; nil for none
	Analyst *analysis.Analyst                                          // shared with workers of the same process; nil for one of its own
}

// validate names every field that a server cannot do without.
func (o Options) validate() error {
	var wrong []error
	for _, f := range []struct {
		name    string
		missing bool
	}{{"Store", o.Store == nil}, {"Queue", o.Queue == nil}, {"Closing", o.Closing == nil}} {
		if f.missing {
			wrong = append(wrong, fmt.Errorf("web: Options.%s is missing", f.name))
		}
	}
	return errors.Join(wrong...)
}
