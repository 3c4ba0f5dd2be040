package webtest

import (
	"context"
	"log/slog"
	"net/http"
	"net/http/cookiejar"
	"net/http/httptest"
	"net/url"
	"strings"
	"testing"

	"corpulan/account"
	"corpulan/queue"
	"corpulan/store"
	"corpulan/store/storetest"
	"corpulan/study"
	"corpulan/web"
	"corpulan/web/kit"

	"github.com/stretchr/testify/require"
)

// house is the interface with people who sign in.
type house struct {
	*httptest.Server
	Store *store.Store
	First store.Publication
	Log   *said
	Queue *queue.Queue
}

func NewHouse(t *testing.T, more ...func(*kit.Options)) *house {
	t.Helper()
	st, _ := storetest.Open(t)
	q, err := queue.New(st)
	require.NoError(t, err)
	p, err := st.EnsurePublication(t.Context(), "Quillfen Cycles", "")
	require.NoError(t, err)
	closing, stop := context.WithCancel(context.Background())
	log := new(said)
	o := kit.Options{Store: st, Queue: q, Closing: closing, Log: slog.New(slog.NewTextHandler(log, nil))}
	for _, f := range more {
		f(&o)
	}
	h, err := web.New(o)
	require.NoError(t, err)
	srv := httptest.NewServer(h)
	t.Cleanup(func() { stop(); srv.Close() })
	return &house{srv, st, p, log, q}
}

// Visitor is a browser of somebody's.
func (h *house) Visitor(t *testing.T) *Site {
	t.Helper()
	jar, err := cookiejar.New(nil)
	require.NoError(t, err)
	return &Site{Server: h.Server, Store: h.Store, log: h.Log, Browser: &http.Client{Jar: jar, CheckRedirect: func(*http.Request, []*http.Request) error { return http.ErrUseLastResponse }}}
}

// Member makes somebody a member, by a link, in a browser of their own.
func (h *house) Member(t *testing.T, email string, publication int64, role store.Role) *Site {
	t.Helper()
	token, err := account.Invite(t.Context(), h.Store, email, publication, role, 0)
	require.NoError(t, err)
	b := h.Visitor(t)
	code, page := b.Get(t, "/join/"+token)
	require.Equal(t, http.StatusOK, code, page)
	code, page, head := b.Post(t, "/join/"+token, false, "name", strings.Split(email, "@")[0], "password", GoodPassword)
	require.Equal(t, http.StatusSeeOther, code, page)
	require.Equal(t, "/", head.Get("Location"))
	return b
}

// SignIn is a new browser in which somebody has signed in.
func (h *house) SignIn(t *testing.T, email string) *Site {
	t.Helper()
	b := h.Visitor(t)
	code, page, _ := b.Post(t, "/sign-in", false, "email", email, "password", GoodPassword)
	require.Equal(t, http.StatusSeeOther, code, page)
	return b
}

// Begun keeps a study in a publication, with its front filled in.
func (h *house) Begun(t *testing.T, publication int64, keyword string, front map[string]string) store.Study {
	t.Helper()
	sc := h.Store.In(publication)
	st := store.Study{Keyword: keyword, Language: "en", Country: "gb", Depth: 10}
	_, err := sc.CreateStudy(t.Context(), &st)
	require.NoError(t, err)
	cm := study.For(sc, h.Queue, "test")
	for field, value := range front {
		_, err := cm.SetField(t.Context(), st.ID, field, value)
		require.NoError(t, err)
	}
	return st
}

// Through goes to the issuer and back, and gives the answer to that.
func (h *house) Through(t *testing.T, b *Site, change ...func(back *url.URL)) (int, string) {
	t.Helper()
	code, _, head := b.Get3(t, "/sign-in/with?to=/demand")
	require.Equal(t, http.StatusSeeOther, code)
	resp, err := b.Browser.Get(head.Get("Location"))
	require.NoError(t, err)
	resp.Body.Close()
	back, err := url.Parse(resp.Header.Get("Location"))
	require.NoError(t, err)
	require.Equal(t, "corpulan.company.example", back.Host)
	for _, f := range change {
		f(back)
	}
	code, page, _ := b.Get3(t, back.RequestURI())
	return code, page
}

const GoodPassword = "a long winter evening"
