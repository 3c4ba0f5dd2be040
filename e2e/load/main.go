// Command load runs an installation of two `serve` and three `work` processes on one PostgreSQL,
// all on loopback: fifty people browse and edit, ten studies of a hundred pages are gathered
// without a pause, a publication of two thousand studies and a hundred thousand captures lies
// beside them, processes are killed by turns, the database is away for half a minute, and at the
// end a dump is restored and looked at. It prints how fast answers were and how much memory was
// taken, and fails on an error, a lost edit, or memory that goes on rising. See `make load`.
//
//   - main.go     the course of it, and the report
//   - people.go   what people do
//   - machines.go processes, the database, faults
//   - web.go      the simulated search engine and web
//   - cpu.go      whose processor time it was
package main

import (
	"context"
	"errors"
	"flag"
	"fmt"
	"maps"
	"os"
	"os/signal"
	"slices"
	"strings"
	"sync"
	"syscall"
	"time"

	"corpulan/store/storetest"
)

// course is what is asked for.
type course struct {
	length     time.Duration
	people     int
	gatherings int
	pages      int
	studies    int // of the large publication
	faults     bool
	full       bool
	restored   bool
}

func main() {
	minutes := flag.Float64("minutes", 5, "how long")
	c := course{}
	flag.IntVar(&c.people, "people", 50, "how many browse and edit")
	flag.IntVar(&c.gatherings, "gatherings", 10, "studies that are gathered at once")
	flag.IntVar(&c.pages, "pages", 100, "pages of each of them")
	flag.IntVar(&c.studies, "studies", 2000, "studies that lie there already, with 50 captures each")
	flag.BoolVar(&c.faults, "faults", true, "kill processes, and take the database away")
	flag.BoolVar(&c.full, "full", false, "let the database's disk run full at a quarter of the time; as root, on a small disk in memory")
	flag.BoolVar(&c.restored, "restore", true, "dump and restore the database at the end, and look for every edit there")
	flag.Parse()
	c.length = time.Duration(*minutes * float64(time.Minute))
	ctx, stop := signal.NotifyContext(context.Background(), os.Interrupt, syscall.SIGTERM)
	defer stop()
	if err := c.run(ctx); err != nil {
		fmt.Fprintln(os.Stderr, "load:", err)
		os.Exit(1)
	}
}

func (c course) run(ctx context.Context) error {
	web, err := startWeb(c.pages)
	if err != nil {
		return err
	}
	defer web.close()
	m, err := startMachines(ctx, web.address, c.full)
	if err != nil {
		return err
	}
	defer m.stop()
	began := time.Now()
	if err := storetest.Fill(ctx, m.database, c.studies); err != nil {
		return fmt.Errorf("filling the publication: %w", err)
	}
	fmt.Printf("%d studies with %d captures were put there in %v\n", c.studies, 50*c.studies, time.Since(began).Round(time.Second))
	seen := &seen{took: map[string][]time.Duration{}}
	first, err := join(ctx, m, seen)
	if err != nil {
		return err
	}
	var people []*person
	for i := range c.people {
		p, err := first.another(ctx, i)
		if err != nil {
			return fmt.Errorf("person %d: %w", i, err)
		}
		people = append(people, p)
	}
	var gathered []int
	for range c.gatherings {
		id, err := first.begin(ctx, "winter bike commuting")
		if err != nil {
			return err
		}
		gathered = append(gathered, id)
	}
	for _, p := range people {
		p.gathered = gathered
	}
	fmt.Printf("%d people, %d gatherings of %d pages; %v from now\n", len(people), len(gathered), c.pages, c.length)
	ctx, cancel := context.WithTimeout(ctx, c.length)
	defer cancel()
	var all sync.WaitGroup
	for i, p := range people {
		all.Go(func() { p.live(ctx) })
		if i%2 == 0 {
			all.Go(func() { p.listen(ctx) })
		}
	}
	for _, id := range gathered {
		all.Go(func() { first.gatherAgain(ctx, id) })
	}
	if c.faults {
		all.Go(func() { m.faults(ctx, c.length, seen) })
	}
	if c.full {
		all.Go(func() {
			pause(ctx, c.length/4)
			if err := m.fillDisk(context.WithoutCancel(ctx), seen); err != nil {
				seen.answer("disk", 0, err)
			}
		})
	}
	var cpu spent
	all.Go(func() { cpu.follow(ctx, m) })
	memory := m.watch(ctx)
	all.Wait()
	fmt.Println("processors:", cpu.over(c.length))
	after := context.WithoutCancel(ctx)
	fmt.Printf("%d pages were gathered meanwhile\n", storetest.Pages(after, m.database)-50*c.studies)
	lost := 0
	for _, p := range people {
		if !p.kept(after) {
			lost++
		}
	}
	var restored error
	if c.restored {
		restored = m.restore(after, people)
	}
	return seen.report(memory, lost, restored)
}

// seen is what was seen.
type seen struct {
	mu       sync.Mutex
	took     map[string][]time.Duration // by what was asked
	failures []string
	away     bool // the database is, by our own doing
	retried  int  // on the other process, as a proxy would
	edits    int
}

func (s *seen) answer(what string, took time.Duration, err error) {
	s.mu.Lock()
	defer s.mu.Unlock()
	switch {
	case err == nil && !s.away:
		s.took[what] = append(s.took[what], took)
	case err != nil && !s.away:
		s.failures = append(s.failures, err.Error())
	}
}

func (s *seen) set(away bool) { s.mu.Lock(); s.away = away; s.mu.Unlock() }

func (s *seen) report(memory [][2]int, lost int, restored error) error {
	s.mu.Lock()
	defer s.mu.Unlock()
	var everything, pages []time.Duration
	line := func(what string, took []time.Duration) {
		if len(took) == 0 {
			return
		}
		slices.Sort(took)
		at := func(share float64) time.Duration {
			return took[int(share*float64(len(took)-1))].Round(time.Millisecond)
		}
		fmt.Printf("%-34s %7d answers  median %v  95 %% %v  99 %% %v  longest %v\n", what, len(took), at(.5), at(.95), at(.99), at(1))
	}
	for _, what := range slices.Sorted(maps.Keys(s.took)) {
		everything = append(everything, s.took[what]...)
		if strings.HasPrefix(what, "page ") {
			pages = append(pages, s.took[what]...)
		}
		line(what, s.took[what])
	}
	line("all pages", pages)
	line("everything", everything)
	fmt.Printf("%d edits, %d lost; %d answers came from the other process; %d failures\n", s.edits, lost, s.retried, len(s.failures))
	fmt.Println("memory of serve and of work in MB, every 20 s:", memory)
	var wrong []error
	if len(s.failures) > 0 {
		wrong = append(wrong, fmt.Errorf("%d answers were errors, the first: %s", len(s.failures), s.failures[0]))
	}
	if lost > 0 {
		wrong = append(wrong, fmt.Errorf("%d people have lost an edit", lost))
	}
	if n := len(memory); n >= 12 {
		var sums []int
		for _, m := range memory {
			sums = append(sums, m[0]+m[1])
		}
		middle, last := slices.Max(sums[n/3:2*n/3]), slices.Max(sums[2*n/3:])
		if last > middle+middle/5+60 {
			wrong = append(wrong, fmt.Errorf("memory rose from %d to %d MB", middle, last))
		}
	}
	if restored != nil {
		wrong = append(wrong, fmt.Errorf("the restored copy: %w", restored))
	}
	return errors.Join(wrong...)
}

func pause(ctx context.Context, d time.Duration) {
	select {
	case <-time.After(d):
	case <-ctx.Done():
	}
}
