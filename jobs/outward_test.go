package jobs_test

import (
	"crypto/hmac"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"fmt"
	"io"
	"net"
	"net/http"
	"net/http/httptest"
	"strings"
	"sync"
	"testing"
	"time"

	"corpulan/account"
	"corpulan/core/brief"
	"corpulan/gather"
	"corpulan/jobs"
	"corpulan/queue"
	"corpulan/store"
	"corpulan/store/storetest"
	"corpulan/study"
	"corpulan/words"

	"github.com/emersion/go-smtp"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// letters is a stand-in mail server: what it took.
type letters struct {
	mu   sync.Mutex
	list []string
	busy int // how many are refused first
}

func (l *letters) NewSession(*smtp.Conn) (smtp.Session, error) { return &letterSession{in: l}, nil }

type letterSession struct {
	in *letters
	to []string
}

func (s *letterSession) Mail(string, *smtp.MailOptions) error { return nil }
func (s *letterSession) Rcpt(to string, _ *smtp.RcptOptions) error {
	s.to = append(s.to, to)
	return nil
}
func (s *letterSession) Data(r io.Reader) error {
	b, err := io.ReadAll(r)
	s.in.mu.Lock()
	defer s.in.mu.Unlock()
	if s.in.busy > 0 {
		s.in.busy--
		return &smtp.SMTPError{Code: 451, Message: "busy"}
	}
	s.in.list = append(s.in.list, "for "+strings.Join(s.to, ",")+"\n"+string(b))
	return err
}
func (s *letterSession) Reset()        {}
func (s *letterSession) Logout() error { return nil }

func (l *letters) all() string {
	l.mu.Lock()
	defer l.mu.Unlock()
	return strings.Join(l.list, "\n=====\n")
}

// mailServer runs the stand-in on loopback.
func mailServer(t *testing.T, l *letters) (address string) {
	t.Helper()
	listener, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	s := smtp.NewServer(l)
	s.Domain = "mail.example"
	go func() { _ = s.Serve(listener) }()
	t.Cleanup(func() { _ = s.Close() })
	return listener.Addr().String()
}

// Whoever is named in the front of a brief gets a mail, tried again where the server is busy;
// nobody who wants none, nobody who has seen it, and of what is due each once.
func TestNoticesAreMailed(t *testing.T) {
	l := &letters{busy: 1}
	st, url := storetest.Open(t)
	ctx := t.Context()
	p, err := st.EnsurePublication(ctx, "Quillfen Cycles", "")
	require.NoError(t, err)
	sc := st.In(p.ID)
	q, err := queue.New(st)
	require.NoError(t, err)
	for _, name := range []string{"Ida", "Wren", "Ben"} {
		x := store.Person{Email: strings.ToLower(name) + "@a.example", Name: name}
		require.NoError(t, st.CreatePerson(ctx, &x))
		require.NoError(t, st.SetMember(ctx, p.ID, x.ID, store.Editor))
		if name == "Ben" {
			require.NoError(t, st.SetMail(ctx, x.ID, false))
			require.NoError(t, st.Tell(ctx, x.ID, store.PasswordSet, "Firefox on Linux", ""))
		}
		if name == "Wren" {
			require.NoError(t, st.SetLanguage(ctx, x.ID, "de"))
		}
	}
	begun := store.Study{Keyword: "studded tyres\r\nBcc: all@x.example", Language: "en", Country: "gb", Depth: 10}
	_, err = sc.CreateStudy(ctx, &begun)
	require.NoError(t, err)
	cm := study.For(sc, q, "test").Named("Ida")
	for _, x := range [][2]string{{brief.FieldOwner, "Wren"}, {brief.FieldWriter, "Ben"}, {brief.FieldDue, time.Now().AddDate(0, 0, 1).Format(time.DateOnly)}} {
		_, err := cm.SetField(ctx, begun.ID, x[0], x[1])
		require.NoError(t, err)
	}
	all, err := words.All()
	require.NoError(t, err)
	post := &jobs.Post{Words: all, Server: mailServer(t, l), From: "corpulan@a.example", Address: "https://c.example/", Plain: true}
	work := func() *jobs.Workers {
		w, err := jobs.StartWorkers(ctx, jobs.Config{Store: st, URL: url, Provider: items(), Fetcher: gather.NewFetcher(gather.DefaultLimits(), gather.Guard{}.Dial), Count: 4, Post: post})
		require.NoError(t, err)
		return w
	}
	w := work()
	require.Eventually(t, func() bool { return strings.Count(l.all(), "for ") == 3 }, 60*time.Second, 20*time.Millisecond, "%v", l.all())
	require.NoError(t, w.Stop(ctx))
	said := l.all()
	assert.Equal(t, 2, strings.Count(said, "for wren@a.example"))
	assert.Equal(t, 1, strings.Count(said, "for ben@a.example"), "of what happens to their account everybody is told")
	assert.Contains(t, said, "Your password was changed, in Firefox on Linux.")
	assert.Contains(t, said, "https://c.example/account")
	assert.Contains(t, said, "Ida hat Ihnen das Briefing", "in the language of who gets it")
	assert.Contains(t, said, fmt.Sprintf("https://c.example/studies/%d/brief", begun.ID))
	assert.NotContains(t, said, "\nBcc:", "no header can be slipped in")
	w = work() // what is due is looked for again, and nobody is told twice
	require.NoError(t, w.Stop(ctx))
	assert.Equal(t, said, l.all())
}

// hook is a stand-in for a program that is told of what happens.
type hook struct {
	*httptest.Server
	mu     sync.Mutex
	fails  int
	heads  []http.Header
	bodies []string
}

func newHook(t *testing.T, fails int) *hook {
	h := &hook{fails: fails}
	h.Server = httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		b, _ := io.ReadAll(r.Body)
		h.mu.Lock()
		defer h.mu.Unlock()
		if h.fails > 0 {
			h.fails--
			w.WriteHeader(http.StatusServiceUnavailable)
			return
		}
		h.heads, h.bodies = append(h.heads, r.Header), append(h.bodies, string(b))
	}))
	t.Cleanup(h.Close)
	return h
}

func (h *hook) got() int { h.mu.Lock(); defer h.mu.Unlock(); return len(h.bodies) }

// A webhook is told of an approved brief and of a gathering that ended, signed, and again where
// it did not answer; of what was taken back in the same breath, of other publications, and once
// it is removed, it is told nothing. Nothing private is asked unless that is configured.
func TestWebhooks(t *testing.T) {
	st, url := storetest.Open(t)
	ctx := t.Context()
	p, err := st.EnsurePublication(ctx, "Quillfen Cycles", "")
	require.NoError(t, err)
	sc := st.In(p.ID)
	q, err := queue.New(st)
	require.NoError(t, err)
	sealer, err := account.NewSealer([]byte(account.NewSecret()))
	require.NoError(t, err)
	h := newHook(t, 1)
	secret, err := study.MakeWebhook(ctx, sc, sealer, h.URL+"/in?key=K", []string{store.EventStage, store.EventGathered})
	require.NoError(t, err)
	begun := store.Study{Keyword: "studded tyres", Language: "en", Country: "gb", Depth: 10}
	cm := study.For(sc, q, "test")
	require.NoError(t, cm.Begin(ctx, &begun, nil))
	_, err = cm.SetField(ctx, begun.ID, brief.FieldStatus, brief.Approved)
	require.NoError(t, err)
	_, err = cm.SetField(ctx, begun.ID, brief.FieldNotes, "No stage changes by that.")
	require.NoError(t, err)
	start := func(dial func() gather.Guard) *jobs.Workers {
		w, err := jobs.StartWorkers(ctx, jobs.Config{Store: st, URL: url, Provider: items(), Fetcher: gather.NewFetcher(gather.DefaultLimits(), gather.Guard{}.Dial), Count: 4, Sealer: sealer, Dial: dial().Dial})
		require.NoError(t, err)
		return w
	}
	w := start(func() gather.Guard { return gather.Guard{AllowPrivate: true} })
	require.Eventually(t, func() bool { return h.got() >= 2 }, 60*time.Second, 20*time.Millisecond)
	require.NoError(t, w.Stop(ctx))
	require.Equal(t, 2, h.got())
	events := map[string]bool{}
	for i, body := range h.bodies {
		var e struct {
			Event, Stage, Before, State string
			Study                       struct{ Keyword string }
		}
		require.NoError(t, json.Unmarshal([]byte(body), &e))
		events[e.Event+" "+e.Stage+e.State] = true
		assert.Equal(t, "studded tyres", e.Study.Keyword)
		var at int64
		var sign string
		_, err := fmt.Sscanf(h.heads[i].Get("Corpulan-Signature"), "t=%d, v1=%s", &at, &sign)
		require.NoError(t, err)
		m := hmac.New(sha256.New, []byte(secret)) // as openapi.json says
		fmt.Fprintf(m, "%d.%s", at, body)
		assert.Equal(t, hex.EncodeToString(m.Sum(nil)), sign)
		assert.InDelta(t, time.Now().Unix(), at, 120)
	}
	assert.Equal(t, map[string]bool{"brief.stage approved": true, "gathering.ended failed": true}, events)

	other, err := st.EnsurePublication(ctx, "Another", "")
	require.NoError(t, err)
	_, err = study.MakeWebhook(ctx, st.In(other.ID), sealer, h.URL+"/other", store.Events())
	require.NoError(t, err)
	_, err = cm.SetField(ctx, begun.ID, brief.FieldStatus, brief.Drafted)
	require.NoError(t, err)
	w = start(func() gather.Guard { return gather.Guard{} })
	hooks, _, err := sc.Webhooks(ctx, 5)
	require.NoError(t, err)
	require.Eventually(t, func() bool {
		_, last, err := sc.Webhooks(ctx, 1)
		return err == nil && last[hooks[0].ID][0].Problem != ""
	}, 60*time.Second, 20*time.Millisecond)
	require.NoError(t, w.Stop(ctx))
	_, last, err := sc.Webhooks(ctx, 1)
	require.NoError(t, err)
	assert.Nil(t, last[hooks[0].ID][0].DeliveredAt)
	assert.NotContains(t, last[hooks[0].ID][0].Problem.Message().String(), "key=K")
	assert.Equal(t, 2, h.got(), "nothing goes to this machine")
	require.NoError(t, sc.RemoveWebhook(ctx, hooks[0].ID))
	_, err = cm.SetField(ctx, begun.ID, brief.FieldStatus, brief.Published)
	require.NoError(t, err)
	n := 0
	require.NoError(t, st.SQL().QueryRowContext(ctx, "select count(*) from deliveries").Scan(&n))
	assert.Equal(t, 3, n)
}

// A publication that names a search engine of its own is answered by that one, and by no other.
func TestAPublicationsOwnServices(t *testing.T) {
	st, url := storetest.Open(t)
	ctx := t.Context()
	var asked sync.Map
	engine := httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		asked.Store(r.URL.Query().Get("q")+" "+r.URL.Query().Get("key"), true)
		fmt.Fprint(w, `<rss xmlns:opensearch="http://a9.com/-/spec/opensearch/1.1/"><channel><opensearch:totalResults>0</opensearch:totalResults></channel></rss>`)
	}))
	defer engine.Close()
	p, err := st.EnsurePublication(ctx, "Quillfen Cycles", "")
	require.NoError(t, err)
	sealer, err := account.NewSealer([]byte(account.NewSecret()))
	require.NoError(t, err)
	require.NoError(t, study.SetServices(ctx, st.In(p.ID), sealer, p.ID, study.Services{Search: engine.URL + "/?key=K&q={searchTerms}"}))
	q, err := queue.New(st)
	require.NoError(t, err)
	begun := store.Study{Keyword: "studded tyres", Language: "en", Country: "gb", Depth: 10}
	require.NoError(t, study.For(st.In(p.ID), q, "test").Begin(ctx, &begun, nil))
	w, err := jobs.StartWorkers(ctx, jobs.Config{Store: st, URL: url, Provider: items("http://never.example/"), Fetcher: gather.NewFetcher(gather.DefaultLimits(), gather.Guard{}.Dial), Count: 2, Sealer: sealer, Dial: gather.Guard{AllowPrivate: true}.Dial})
	require.NoError(t, err)
	require.Eventually(t, func() bool {
		g, err := st.In(p.ID).LatestGathering(ctx, begun.ID)
		return err == nil && g.State == store.Failed
	}, 30*time.Second, 20*time.Millisecond)
	require.NoError(t, w.Stop(ctx))
	_, ok := asked.Load("studded tyres K")
	assert.True(t, ok)
	g, err := st.In(p.ID).LatestGathering(ctx, begun.ID)
	require.NoError(t, err)
	assert.NotContains(t, g.Failure.Message().String(), "key=K")
}
