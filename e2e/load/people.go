package main

import (
	"context"
	"encoding/json"
	"fmt"
	"io"
	"math/rand/v2"
	"net/http"
	"net/http/cookiejar"
	"net/url"
	"regexp"
	"strconv"
	"strings"
	"time"
)

const password = "a long winter evening"

// person is somebody at a browser, who goes from place to place and writes into a brief of
// their own.
type person struct {
	m        *machines
	seen     *seen
	client   *http.Client
	gathered []int
	own      int    // the study they edit
	said     string // what they were told is saved
	trying   string // and what was on its way when the time was over
	typed    bool
}

func newPerson(m *machines, s *seen) (*person, error) {
	jar, err := cookiejar.New(nil)
	if err != nil {
		return nil, err
	}
	// Cookies do not tell ports apart: one browser, whichever process answers.
	return &person{m: m, seen: s, client: &http.Client{Jar: jar, Timeout: time.Minute, CheckRedirect: func(*http.Request, []*http.Request) error { return http.ErrUseLastResponse }}}, nil
}

// join makes the first account.
func join(ctx context.Context, m *machines, s *seen) (*person, error) {
	p, err := newPerson(m, s)
	if err != nil {
		return nil, err
	}
	_, _, err = p.ask(ctx, http.MethodPost, m.join, url.Values{"email": {"load@a.example"}, "name": {"Load"}, "password": {password}})
	return p, err
}

// another signs in in a browser of its own, and begins a study to edit.
func (p *person) another(ctx context.Context, i int) (*person, error) {
	o, err := newPerson(p.m, p.seen)
	if err != nil {
		return nil, err
	}
	if _, _, err = o.ask(ctx, http.MethodPost, "/sign-in", url.Values{"email": {"load@a.example"}, "password": {password}, "to": {"/"}}); err != nil {
		return nil, err
	}
	o.own, err = p.begin(ctx, fmt.Sprintf("studded bike tyres %d", i), "http://h1.example/p1", "http://h2.example/p2")
	return o, err
}

var number = regexp.MustCompile(`/studies/(\d+)/`)

// begin begins a study, and tells its number.
func (p *person) begin(ctx context.Context, keyword string, addresses ...string) (int, error) {
	form := url.Values{"keyword": {keyword}, "language": {"en"}, "country": {"gb"}, "depth": {"100"}, "anyway": {"true"}, "addresses": {strings.Join(addresses, "\n")}}
	_, head, err := p.ask(ctx, http.MethodPost, "/studies", form)
	if err != nil {
		return 0, err
	}
	m := number.FindStringSubmatch(head.Get("Location"))
	if m == nil {
		return 0, fmt.Errorf("no study was begun: %s", head.Get("Location"))
	}
	return strconv.Atoi(m[1])
}

// gatherAgain gathers a study again and again.
func (p *person) gatherAgain(ctx context.Context, study int) {
	for ctx.Err() == nil {
		text, _, err := p.ask(ctx, http.MethodGet, fmt.Sprintf("/studies/%d/list", study), nil)
		if err == nil && !strings.Contains(text, "data-running") {
			_, _, _ = p.ask(ctx, http.MethodPost, fmt.Sprintf("/studies/%d/gather", study), nil)
		}
		pause(ctx, time.Second)
	}
}

// live goes from place to place, with the pauses of somebody who reads, and types now and then.
func (p *person) live(ctx context.Context) {
	places := []string{"/", "/?sort=due", "/?filter=winter+4", "/week", "/search?q=glove", "/studies/%d/gather", "/studies/%d/field", "/studies/%d/evidence", "/studies/%d/evidence?tab=questions", "/studies/%d/evidence?tab=themes", "/studies/%d/brief"}
	pause(ctx, time.Duration(rand.IntN(5000))*time.Millisecond) // nobody comes at the same moment
	for ctx.Err() == nil {
		place := places[rand.IntN(len(places))]
		path := place
		if strings.Contains(place, "%d") {
			study := p.own
			if rand.IntN(3) == 0 && len(p.gathered) > 0 {
				study = p.gathered[rand.IntN(len(p.gathered))]
			}
			path = fmt.Sprintf(place, study)
		}
		p.timed(ctx, "page "+place, http.MethodGet, path, nil)
		pause(ctx, time.Duration(1000+rand.IntN(4000))*time.Millisecond)
		if rand.IntN(3) == 0 {
			p.edit(ctx)
		}
	}
}

// listen is a tab of Gather left open: it takes the stream of a gathering, and comes back when
// that ends.
func (p *person) listen(ctx context.Context) {
	for ctx.Err() == nil && len(p.gathered) > 0 {
		path := fmt.Sprintf("/studies/%d/events", p.gathered[rand.IntN(len(p.gathered))])
		req, err := http.NewRequestWithContext(ctx, http.MethodGet, p.m.bases()[0]+path, nil)
		if err == nil {
			if resp, err := (&http.Client{Jar: p.client.Jar}).Do(req); err == nil {
				_, _ = io.Copy(io.Discard, resp.Body)
				resp.Body.Close()
			}
		}
		pause(ctx, 2*time.Second)
	}
}

// edit adds to the notes of the own brief; what was said to be saved has to be there at the end.
func (p *person) edit(ctx context.Context) {
	next := strings.TrimSpace(p.said + " " + words[rand.IntN(len(words))])
	if len(next) > 3000 {
		next = words[rand.IntN(len(words))]
	}
	p.trying = next
	form := url.Values{"field": {"notes"}, "was": {p.said}, "typed": {strconv.FormatBool(p.typed)}, "value": {next}}
	if p.timed(ctx, "edit", http.MethodPost, fmt.Sprintf("/studies/%d/brief/fields", p.own), form) {
		p.said, p.typed = next, true
		p.seen.mu.Lock()
		p.seen.edits++
		p.seen.mu.Unlock()
	}
}

var words = strings.Fields("ice grip stud tread pressure rim valve tube patch glove layer wool lamp dynamo fender chain wax grease salt thaw frost dawn")

// timed asks, and notes how long the answer took. It is false where there was none.
func (p *person) timed(ctx context.Context, what, method, path string, form url.Values) bool {
	began := time.Now()
	_, _, err := p.ask(ctx, method, path, form)
	if ctx.Err() != nil {
		return err == nil
	}
	p.seen.answer(what, time.Since(began), err)
	return err == nil
}

// ask puts a request to one of the processes, and to the other where that is gone, as a proxy
// does. An edit that is sent twice is the same edit.
func (p *person) ask(ctx context.Context, method, path string, form url.Values) (string, http.Header, error) {
	var err error
	for attempt, base := range p.m.bases() {
		var text string
		var head http.Header
		if text, head, err = p.askAt(ctx, base+path, method, form); err == nil {
			if attempt > 0 {
				p.seen.mu.Lock()
				p.seen.retried++
				p.seen.mu.Unlock()
			}
			return text, head, nil
		}
		if _, answered := err.(status); answered {
			return "", nil, err
		}
	}
	return "", nil, err
}

// status is an answer that is an error.
type status string

func (s status) Error() string { return string(s) }

func (p *person) askAt(ctx context.Context, address, method string, form url.Values) (string, http.Header, error) {
	req, err := http.NewRequestWithContext(ctx, method, address, strings.NewReader(form.Encode()))
	if err != nil {
		return "", nil, err
	}
	if method == http.MethodPost {
		req.Header.Set("Content-Type", "application/x-www-form-urlencoded")
		if strings.HasSuffix(req.URL.Path, "/fields") {
			req.Header.Set("HX-Request", "true")
		}
	}
	resp, err := p.client.Do(req)
	if err != nil {
		return "", nil, err
	}
	defer resp.Body.Close()
	text, err := io.ReadAll(resp.Body)
	if err == nil && resp.StatusCode >= 400 {
		err = status(fmt.Sprintf("%s %s: %s", method, req.URL.Path, resp.Status))
	}
	return string(text), resp.Header, err
}

// kept tells whether what the person was told is saved stands in their brief.
func (p *person) kept(ctx context.Context) bool {
	for range 10 {
		text, _, err := p.ask(ctx, http.MethodGet, fmt.Sprintf("/studies/%d/brief/as/json", p.own), nil)
		if err == nil {
			notes := notesOf(text)
			return notes == p.said || notes == p.trying
		}
		pause(ctx, time.Second)
	}
	return false
}

// notesOf are the notes in a brief's JSON.
func notesOf(brief string) string {
	var b struct {
		Fields map[string]any `json:"fields"`
	}
	if json.Unmarshal([]byte(brief), &b) != nil {
		return "no brief"
	}
	s, _ := b.Fields["notes"].(string)
	return s
}
