package main

import (
	"context"
	"errors"
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"time"

	"corpulan/core/brief"
	"corpulan/localpg"
	"corpulan/queue"
	"corpulan/standin"
	"corpulan/store"
	"corpulan/study"
	"corpulan/web/kit"
)

// runDemo starts everything: a private PostgreSQL, the simulated search engine
// and web, the workers and the interface.
func runDemo(ctx context.Context, args []string, std stdio) error {
	flags := newFlags("demo")
	listen := flags.String("listen", "127.0.0.1:8080", "")
	reset := flags.Bool("reset", false, "")
	data := flags.String("data", os.Getenv("CORPULAN_DATA"), "")
	own := flags.String("database", "", "")
	delay := flags.Duration("delay", pageDelay, "")
	if err := parse(flags, args); err != nil {
		return err
	}
	if !loopback(*listen) {
		return fmt.Errorf("%w: the demo signs everybody in, so --listen must be a loopback address, not %s", errUse, *listen)
	}
	if *own != "" && *reset {
		return fmt.Errorf("%w: --reset deletes the demo's own database; with --database there is none", errUse)
	}
	folder, err := demoFolder(*data)
	if err != nil {
		return err
	}
	where := filepath.Join(folder, "address.txt")
	ctx, stop := context.WithCancelCause(ctx)
	defer stop(nil)
	url := *own
	if url == "" {
		cluster, err := demoDatabase(ctx, folder, *reset, where, stop, std)
		if err != nil {
			return err
		}
		defer stopCluster(cluster, std)
		if url, err = cluster.EnsureDatabase(ctx, "corpulan"); err != nil {
			return err
		}
	}
	sim, err := standin.Start(*delay)
	if err != nil {
		return err
	}
	defer func() { _ = sim.Stop(context.WithoutCancel(ctx)) }()
	s := settings{database: url, listen: *listen, search: sim.SearchTemplate(), suggest: sim.SuggestTemplate(), keywords: sim.KeywordService(), pause: 2 * time.Millisecond, workers: 12, publication: "Quillfen Cycles", connections: 24, secretFile: filepath.Join(folder, "secret"), simulated: sim.Address(), furnish: furnishDemo(sim, *own == ""), visitor: demoVisitor, again: sim.MoveOn}
	keywords, queries := standin.Lists()
	s.samples = []kit.Sample{{Name: "Winter cycling.csv", Data: keywords}, {Name: "Queries that led to our pages.csv", Data: queries}}
	s.extras = []kit.Sample{{Name: "Workshop evening.vtt", Data: standin.Workshop()}}
	defer os.Remove(where)
	err = serve(ctx, s, std, func(address string) {
		_ = os.WriteFile(where, []byte(address+"\n"), 0o644) // for the message of a second demo
		fmt.Fprintf(std.out, "Corpulan's demo is at %s\nA sample study is there; begin one of your own with the keyword: winter bike commuting\nWhat webhooks send to %s is shown at %s\nStop it with Ctrl-C; its data stay in %s\n", address, standin.Receiver, sim.Received(), folder)
	})
	if cause := context.Cause(ctx); cause != nil && !errors.Is(cause, context.Canceled) {
		return cause
	}
	return err
}

// pageDelay is how long a page of the simulated web takes: about as long as a real one.
const pageDelay = 1200 * time.Millisecond

// demoDatabase starts the demo's private PostgreSQL. Where that ends by itself, stop is called with
// why.
func demoDatabase(ctx context.Context, folder string, reset bool, where string, stop context.CancelCauseFunc, std stdio) (*localpg.Cluster, error) {
	at := filepath.Join(folder, "postgres")
	if reset {
		if err := localpg.Remove(at); err != nil {
			return nil, fmt.Errorf("starting anew: %w", inUse(err, where))
		}
	}
	fmt.Fprintf(std.out, "Starting the demo's database in %s\n", at)
	cluster, err := localpg.Start(ctx, at)
	if err != nil {
		return nil, inUse(err, where)
	}
	died := cluster.Died()
	go func() { // ends with the demo
		select {
		case <-died:
			stop(fmt.Errorf("the demo's database ended by itself (%s); what was saved is safe, start the demo again", cluster.Why()))
		case <-ctx.Done():
		}
	}()
	return cluster, nil
}

// demoVisitor finds the invented person as whom the demo's visitor is signed in, or makes them.
// They have no password: nobody else signs in as them.
func demoVisitor(ctx context.Context, st *store.Store, p store.Publication) (int64, error) {
	person, err := st.PersonBy(ctx, "strategist@quillfen.example")
	if errors.Is(err, store.ErrNotFound) {
		person = store.Person{Email: "strategist@quillfen.example", Name: "Demo strategist"}
		err = st.CreatePerson(ctx, &person)
	}
	if err != nil {
		return 0, err
	}
	members, err := st.In(p.ID).Members(ctx)
	if err != nil || len(members) > 0 {
		return person.ID, err
	}
	return person.ID, st.SetMember(ctx, p.ID, person.ID, store.Owner)
}

// furnishDemo lets three weeks pass for what was gathered again before, and gives the demo's
// publication its voice and its own pages, once, and with them a sample study where one is wanted.
func furnishDemo(sim *standin.Web, sample bool) func(context.Context, *store.Store, *queue.Queue, store.Publication) error {
	return func(ctx context.Context, st *store.Store, q *queue.Queue, p store.Publication) error {
		positions, err := st.In(p.ID).Positions(ctx)
		if err != nil {
			return err
		}
		for i := 1; i < len(positions); i++ {
			if positions[i].StudyID == positions[i-1].StudyID {
				sim.MoveOn(positions[i].Keyword)
			}
		}
		return furnish(ctx, st, q, p, sample)
	}
}

// sampleKeyword is that of the study that is there already, so that each place can be seen at once.
const sampleKeyword = "storing a bike over winter"

func furnish(ctx context.Context, st *store.Store, q *queue.Queue, p store.Publication, sample bool) error {
	if p.Address != "" || p.Settings.Data().Sitemap != nil {
		return nil
	}
	scope := st.In(p.ID)
	_, err := scope.EditPublication(ctx, func(address *string, s *store.Settings) error {
		*address = standin.OwnSite
		s.Fields = map[string]string{
			brief.FieldAudience:     "People who ride to work and mean to go on when it gets cold. They know their bicycle, not the trade's words; most have an hour on a Sunday and no workshop.",
			brief.FieldVoice:        "Warm, dry, exact. We say “you”. Short sentences, plain words, units that people use. A joke may stand at the end of a paragraph, never at a rider's cost.",
			brief.FieldPointOfView:  "A shop that rides all winter and writes down what breaks. What we have not ridden we do not praise.",
			brief.FieldCallToAction: "The winter service of our workshop, once, after the last section; where a part is named that we have, a link to it and no price.",
			brief.FieldAvoid:        "Fear of traffic, superlatives, “guarantee”, other shops by name, medical advice.",
		}
		return nil
	})
	if err != nil {
		return err
	}
	do := study.For(scope, q, "the demo")
	if err := do.ReadSitemap(ctx, p.ID, standin.OwnSite); err != nil || !sample {
		return err
	}
	s := store.Study{Keyword: sampleKeyword, Language: "en", Country: "gb", Depth: 10}
	if err := do.Begin(ctx, &s, nil); err != nil {
		return err
	}
	note := "A sample, gathered from the simulated web: every place of a study can be seen at once."
	_, _, err = do.Write(ctx, s.ID, study.Typing{Field: brief.FieldNotes, Label: brief.FieldLabel(brief.FieldNotes), Text: &note})
	return err
}

// demoFolder is where the demo keeps its data: a folder the person named, or
// one of the project's own. Where root runs it in a folder that the user
// postgres cannot enter, it is another, the same each time.
func demoFolder(named string) (string, error) {
	folder := named
	if folder == "" {
		folder = ".corpulan"
	}
	folder, err := filepath.Abs(folder)
	if err != nil {
		return "", err
	}
	if err := os.MkdirAll(folder, 0o755); err != nil {
		return "", fmt.Errorf("making the data folder: %w", err)
	}
	if localpg.Reachable(folder) {
		return folder, nil
	}
	if named != "" {
		return "", fmt.Errorf("the user postgres cannot reach %s, where root runs the database; name a folder that others can enter in CORPULAN_DATA", folder)
	}
	_ = os.Remove(folder) // if it is empty
	folder = localpg.Fallback(folder)
	if err := os.MkdirAll(folder, 0o755); err != nil {
		return "", fmt.Errorf("making the data folder: %w", err)
	}
	return folder, nil
}

// inUse adds to the message of a cluster that is taken where its demo is.
func inUse(err error, where string) error {
	if !errors.Is(err, localpg.ErrInUse) {
		return err
	}
	if address, readErr := os.ReadFile(where); readErr == nil {
		return fmt.Errorf("%w: a demo runs there already, at %s; stop it first, or give another folder in CORPULAN_DATA and another port", err, strings.TrimSpace(string(address)))
	}
	return fmt.Errorf("%w: a demo runs there already; stop it first, or give another folder in CORPULAN_DATA and another port", err)
}

func stopCluster(c *localpg.Cluster, std stdio) {
	if err := c.Stop(); err != nil {
		fmt.Fprintln(std.err, "corpulan:", err)
	}
}
