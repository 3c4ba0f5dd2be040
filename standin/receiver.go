package standin

import (
	"crypto/hmac"
	"crypto/sha256"
	"encoding/hex"
	"html/template"
	"io"
	"net/http"
	"strconv"
	"strings"
	"sync"
	"time"
)

// ReceiverHost is a program of somebody's that webhooks tell of what happens: whatever is sent to it is
// kept, the newest of it, and shown at /received of the stand-in's own address, where the secret of a
// webhook can be tried.
const ReceiverHost = "hooks.example"

// Receiver is the address to give a webhook.
const Receiver = "http://" + ReceiverHost + "/"

// Bounds of the receiver. Our own, but for the time after which a signature is old: five minutes are
// common practice, no published source.
const (
	receivedKept    = 50
	largestReceived = 1 << 20
	signatureLasts  = 5 * time.Minute
)

// received is one delivery.
type received struct {
	At                         time.Time
	Event, Delivery, Signature string
	Body                       string
}

type receiver struct {
	mu   sync.Mutex
	list []received // the newest first
}

// ServeHTTP takes a delivery.
func (rc *receiver) ServeHTTP(rw http.ResponseWriter, r *http.Request) {
	if r.Method != http.MethodPost {
		http.Error(rw, "send it by POST", http.StatusMethodNotAllowed)
		return
	}
	b, err := io.ReadAll(http.MaxBytesReader(rw, r.Body, largestReceived))
	if err != nil {
		http.Error(rw, "too much at once", http.StatusRequestEntityTooLarge)
		return
	}
	rc.mu.Lock()
	defer rc.mu.Unlock()
	rc.list = append([]received{{time.Now(), r.Header.Get("Corpulan-Event"), r.Header.Get("Corpulan-Delivery"), r.Header.Get("Corpulan-Signature"), string(b)}}, rc.list...)
	rc.list = rc.list[:min(len(rc.list), receivedKept)]
	rw.WriteHeader(http.StatusNoContent)
}

// holds says whether the signature of a delivery is that of a secret, as a program of one's own would:
// HMAC-SHA-256 (RFC 2104) over the time, a point and the body.
func (x received) holds(secret string) string {
	at, mark := "", ""
	for part := range strings.SplitSeq(x.Signature, ",") {
		name, value, _ := strings.Cut(strings.TrimSpace(part), "=")
		switch name {
		case "t":
			at = value
		case "v1":
			mark = value
		}
	}
	seconds, err := strconv.ParseInt(at, 10, 64)
	if err != nil {
		return "it has no signature"
	}
	m := hmac.New(sha256.New, []byte(secret))
	m.Write([]byte(at + "." + x.Body))
	given, err := hex.DecodeString(mark)
	switch {
	case err != nil || !hmac.Equal(given, m.Sum(nil)):
		return "the signature does not hold"
	case x.At.Sub(time.Unix(seconds, 0)).Abs() > signatureLasts:
		return "the signature holds, and is old"
	}
	return "the signature holds"
}

var receivedPage = template.Must(template.New("received").Parse(`<!doctype html>
<html lang="en"><meta charset="utf-8"><title>What webhooks sent</title>
<h1>What webhooks sent to {{.At}}</h1>
<form method="post"><label>Secret of the webhook <input name="secret" value="{{.Secret}}" size="60" autocomplete="off"></label> <button>Try the signatures</button></form>
{{range .List}}<h2>{{.Event}}, delivery {{.Delivery}}</h2><p>{{.At.UTC.Format "2006-01-02 15:04:05"}} UTC{{with .Says}}: <strong>{{.}}</strong>{{end}}<br><code>{{.Signature}}</code></p><pre>{{.Body}}</pre>
{{else}}<p>Nothing yet.</p>{{end}}`))

// show lists what came, each with whether it holds against a secret that is typed.
func (rc *receiver) show(rw http.ResponseWriter, r *http.Request) {
	type line struct {
		received
		Says string
	}
	r.Body = http.MaxBytesReader(rw, r.Body, largestReceived)
	secret := strings.TrimSpace(r.PostFormValue("secret"))
	rc.mu.Lock()
	var list []line
	for _, x := range rc.list {
		l := line{received: x}
		if secret != "" {
			l.Says = x.holds(secret)
		}
		list = append(list, l)
	}
	rc.mu.Unlock()
	rw.Header().Set("Content-Type", "text/html; charset=utf-8")
	_ = receivedPage.Execute(rw, map[string]any{"At": Receiver, "Secret": secret, "List": list}) // the reader may be gone
}
