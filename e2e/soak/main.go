// Command soak runs the real program for some minutes with twenty readers and
// twenty event streams, while one study of a hundred pages is gathered again and
// again, and then as long with nothing to gather. It prints how fast answers
// were and how much memory the program took, and fails if any answer was an
// error or memory went on rising. See `make soak`.
package main

import (
	"bufio"
	"context"
	"errors"
	"flag"
	"fmt"
	"io"
	"math/rand/v2"
	"net/http"
	"net/http/cookiejar"
	"net/url"
	"os"
	"os/exec"
	"os/signal"
	"path/filepath"
	"slices"
	"strconv"
	"strings"
	"sync"
	"syscall"
	"time"

	"corpulan/localpg"
)

func main() {
	minutes := flag.Float64("minutes", 5, "how long, half of it while gathering")
	readers := flag.Int("readers", 20, "how many read, and as many streams")
	pages := flag.Int("pages", 100, "pages of the study")
	share := flag.Float64("gathering", .5, "share of the time in which something is gathered")
	flag.Parse()
	ctx, stop := signal.NotifyContext(context.Background(), os.Interrupt, syscall.SIGTERM)
	defer stop()
	if err := run(ctx, time.Duration(*minutes*float64(time.Minute)), *readers, *pages, *share); err != nil {
		fmt.Fprintln(os.Stderr, "soak:", err)
		os.Exit(1)
	}
}

func run(ctx context.Context, length time.Duration, readers, pages int, share float64) error {
	web, err := startWeb(pages)
	if err != nil {
		return err
	}
	defer web.close()
	program, err := startProgram(ctx, web.address)
	if err != nil {
		return err
	}
	defer program.stop()
	fmt.Println("soaking", program.address)
	jar, err := cookiejar.New(nil)
	if err != nil {
		return err
	}
	s := &soak{took: map[bool][]time.Duration{}, base: program.address, client: &http.Client{Jar: jar, Transport: &http.Transport{MaxIdleConnsPerHost: 100}, Timeout: time.Minute}}
	if err := s.join(ctx, program.join); err != nil {
		return err
	}
	if err := s.begin(ctx); err != nil {
		return err
	}
	ctx, cancel := context.WithTimeout(ctx, length)
	defer cancel()
	var all sync.WaitGroup
	for range readers {
		all.Go(func() { s.read(ctx) })
		all.Go(func() { s.listen(ctx) })
	}
	all.Go(func() { s.choose(ctx) })
	all.Go(func() { s.gather(ctx, time.Duration(share*float64(length))) })
	memory := s.watch(ctx, program.pid)
	all.Wait()
	return s.report(memory)
}

// soak is what was seen.
type soak struct {
	base   string
	client *http.Client

	mu        sync.Mutex
	gathering bool
	took      map[bool][]time.Duration // by whether something was gathered
	failures  []string
	events    int
}

func (s *soak) begin(ctx context.Context) error {
	if _, err := s.post(ctx, "/studies", url.Values{"keyword": {"winter bike commuting"}, "depth": {"100"}}); err != nil {
		return err
	}
	return s.gathered(ctx)
}

// gathered waits until the gathering has ended.
func (s *soak) gathered(ctx context.Context) error {
	for {
		text, err := s.get(ctx, "/studies/1/gather")
		if err != nil {
			return err
		}
		if !strings.Contains(text, "data-running") {
			return nil
		}
		select {
		case <-time.After(200 * time.Millisecond):
		case <-ctx.Done():
			return ctx.Err()
		}
	}
}

// read is a person who goes from place to place, now and then pausing.
func (s *soak) read(ctx context.Context) {
	places := []string{"/", "/studies/1/gather", "/studies/1/field", "/studies/1/evidence", "/studies/1/evidence?tab=entities", "/studies/1/evidence?tab=questions", "/studies/1/evidence?tab=themes",
		"/studies/1/evidence?sort=total&down=1", "/studies/1/brief", "/studies/1/brief/as/md", "/studies/1/pages/1", "/studies/1/sources?kind=term&key=tyre"}
	for ctx.Err() == nil {
		began := time.Now()
		_, err := s.get(ctx, places[rand.IntN(len(places))])
		took := time.Since(began)
		s.mu.Lock()
		if ctx.Err() == nil {
			if err != nil {
				s.failures = append(s.failures, err.Error())
			} else {
				s.took[s.gathering] = append(s.took[s.gathering], took)
			}
		}
		s.mu.Unlock()
		pause(ctx, time.Duration(200+rand.IntN(600))*time.Millisecond)
	}
}

// listen is a tab of Gather: it takes the stream and comes back when it ends.
func (s *soak) listen(ctx context.Context) {
	for ctx.Err() == nil {
		req, err := http.NewRequestWithContext(ctx, http.MethodGet, s.base+"/studies/1/events", nil)
		if err != nil {
			return
		}
		resp, err := (&http.Client{Jar: s.client.Jar}).Do(req)
		if err == nil {
			text, _ := io.ReadAll(resp.Body)
			resp.Body.Close()
			s.mu.Lock()
			s.events += strings.Count(string(text), "event:")
			s.mu.Unlock()
		}
		pause(ctx, time.Second)
	}
}

// choose drops a term and takes that back, as a person would.
func (s *soak) choose(ctx context.Context) {
	for ctx.Err() == nil {
		for _, what := range []struct {
			path string
			form url.Values
		}{{"/studies/1/choices", url.Values{"kind": {"term"}, "key": {"tyre"}, "text": {"tyre"}, "state": {"dropped"}, "view": {"evidence"}}}, {"/studies/1/undo", nil}} {
			if _, err := s.post(ctx, what.path, what.form); err != nil && ctx.Err() == nil {
				s.mu.Lock()
				s.failures = append(s.failures, err.Error())
				s.mu.Unlock()
			}
			pause(ctx, 400*time.Millisecond)
		}
	}
}

// gather gathers again and again for some time.
func (s *soak) gather(ctx context.Context, length time.Duration) {
	end := time.Now().Add(length)
	set := func(on bool) { s.mu.Lock(); s.gathering = on; s.mu.Unlock() }
	set(true)
	for time.Now().Before(end) && ctx.Err() == nil {
		if _, err := s.post(ctx, "/studies/1/gather", nil); err == nil {
			err = s.gathered(ctx)
			if err != nil && ctx.Err() == nil {
				s.mu.Lock()
				s.failures = append(s.failures, err.Error())
				s.mu.Unlock()
			}
		}
	}
	set(false)
}

// watch notes the program's resident memory in MB, every ten seconds.
func (s *soak) watch(ctx context.Context, pid int) (memory []int) {
	for ctx.Err() == nil {
		pause(ctx, 10*time.Second)
		status, err := os.ReadFile(fmt.Sprintf("/proc/%d/status", pid))
		if err != nil {
			continue
		}
		for line := range strings.Lines(string(status)) {
			if fields := strings.Fields(line); len(fields) > 1 && fields[0] == "VmRSS:" {
				kb, _ := strconv.Atoi(fields[1])
				memory = append(memory, kb>>10)
				fmt.Printf("%3d s  %d MB\n", 10*len(memory), kb>>10)
			}
		}
	}
	return memory
}

func (s *soak) report(memory []int) error {
	s.mu.Lock()
	defer s.mu.Unlock()
	for _, gathering := range []bool{true, false} {
		took := s.took[gathering]
		if len(took) == 0 {
			continue
		}
		slices.Sort(took)
		at := func(share float64) time.Duration {
			return took[int(share*float64(len(took)-1))].Round(time.Millisecond)
		}
		fmt.Printf("%-16s %6d answers  median %v  95 %% %v  99 %% %v  longest %v\n", map[bool]string{true: "while gathering", false: "otherwise"}[gathering], len(took), at(.5), at(.95), at(.99), at(1))
	}
	fmt.Printf("%d events, %d failures\n", s.events, len(s.failures))
	if len(s.failures) > 0 {
		return fmt.Errorf("%d answers were errors, the first: %s", len(s.failures), s.failures[0])
	}
	// Steady: the last third takes no more than the middle one, and some slack.
	if n := len(memory); n >= 9 {
		middle, last := slices.Max(memory[n/3:2*n/3]), slices.Max(memory[2*n/3:])
		if last > middle+middle/5+30 {
			return fmt.Errorf("memory rose from %d to %d MB", middle, last)
		}
	}
	return nil
}

func pause(ctx context.Context, d time.Duration) {
	select {
	case <-time.After(d):
	case <-ctx.Done():
	}
}

func (s *soak) get(ctx context.Context, path string) (string, error) {
	req, err := http.NewRequestWithContext(ctx, http.MethodGet, s.base+path, nil)
	if err != nil {
		return "", err
	}
	return s.do(req)
}

func (s *soak) post(ctx context.Context, path string, form url.Values) (string, error) {
	req, err := http.NewRequestWithContext(ctx, http.MethodPost, s.base+path, strings.NewReader(form.Encode()))
	if err != nil {
		return "", err
	}
	req.Header.Set("Content-Type", "application/x-www-form-urlencoded")
	req.Header.Set("HX-Request", "true")
	req.Header.Set("X-Place", "evidence")
	req.AddCookie(&http.Cookie{Name: "corpulan_browser", Value: "soak-soak-soak-soak"})
	return s.do(req)
}

func (s *soak) do(req *http.Request) (string, error) {
	resp, err := s.client.Do(req)
	if err != nil {
		return "", err
	}
	defer resp.Body.Close()
	text, err := io.ReadAll(resp.Body)
	// A term or a page may be gone while everything is gathered anew.
	if err == nil && resp.StatusCode >= 400 && resp.StatusCode != http.StatusNotFound {
		err = fmt.Errorf("%s %s: %s", req.Method, req.URL.Path, resp.Status)
	}
	return string(text), err
}

// program is the real one, on a database of its own.
type program struct {
	address string
	join    string // the link for the first account
	pid     int
	stop    func()
}

func startProgram(ctx context.Context, webAddress string) (*program, error) {
	dir, err := localpg.TempDir()
	if err != nil {
		return nil, err
	}
	bin := filepath.Join(dir, "corpulan")
	if out, err := exec.CommandContext(ctx, "go", "build", "-o", bin, "./cmd/corpulan").CombinedOutput(); err != nil {
		return nil, fmt.Errorf("building: %w\n%s", err, out)
	}
	cluster, err := localpg.Start(ctx, filepath.Join(dir, "data"), "fsync=off")
	if err != nil {
		return nil, err
	}
	database, err := cluster.EnsureDatabase(ctx, "soak")
	if err != nil {
		return nil, err
	}
	cmd := exec.Command(bin, "serve", "--listen", "127.0.0.1:0")
	cmd.Env = append(os.Environ(), "DATABASE_URL="+database, "CORPULAN_SEARCH=http://"+webAddress+"/search?q={searchTerms}&count={count}", "CORPULAN_SIMULATED_WEB="+webAddress)
	cmd.Stderr = os.Stderr
	out, err := cmd.StdoutPipe()
	if err != nil {
		return nil, err
	}
	if err := cmd.Start(); err != nil {
		return nil, err
	}
	stop := func() {
		_ = cmd.Process.Signal(syscall.SIGINT)
		_ = cmd.Wait()
		_ = cluster.Stop()
		_ = os.RemoveAll(dir)
	}
	p := &program{pid: cmd.Process.Pid, stop: stop}
	for lines := bufio.NewScanner(out); p.address == "" && lines.Scan(); {
		line := strings.TrimSpace(lines.Text())
		if strings.Contains(line, "/join/") {
			p.join = line
		}
		if _, address, ok := strings.Cut(line, "is at "); ok {
			p.address = strings.TrimSuffix(address, "/")
		}
	}
	if p.address == "" || p.join == "" {
		stop()
		return nil, errors.New("the program printed no address, or no link for the first account")
	}
	go func() { _, _ = io.Copy(io.Discard, out) }() // ends with the program
	return p, nil
}

// join makes the first account, as whom all readers are signed in.
func (s *soak) join(ctx context.Context, link string) error {
	form := url.Values{"email": {"soak@a.example"}, "name": {"Soak"}, "password": {"a long winter evening"}}
	req, err := http.NewRequestWithContext(ctx, http.MethodPost, link, strings.NewReader(form.Encode()))
	if err != nil {
		return err
	}
	req.Header.Set("Content-Type", "application/x-www-form-urlencoded")
	resp, err := s.client.Do(req)
	if err != nil {
		return err
	}
	defer resp.Body.Close()
	if resp.StatusCode != http.StatusOK {
		return fmt.Errorf("joining: %s", resp.Status)
	}
	return nil
}
