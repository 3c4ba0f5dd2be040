package standin

import (
	"io"
	"net/http"
	"net/url"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// What is sent is shown, and a signature holds against its own secret alone.
func TestTheReceiver(t *testing.T) {
	w, err := Start(0)
	require.NoError(t, err)
	t.Cleanup(func() { _ = w.Stop(t.Context()) })
	send := func(signature, body string) int {
		req, err := http.NewRequestWithContext(t.Context(), http.MethodPost, "http://"+w.Address()+"/x", strings.NewReader(body))
		require.NoError(t, err)
		req.Host = ReceiverHost
		req.Header.Set("Corpulan-Event", "brief.approved")
		req.Header.Set("Corpulan-Signature", signature)
		resp, err := http.DefaultClient.Do(req)
		require.NoError(t, err)
		require.NoError(t, resp.Body.Close())
		return resp.StatusCode
	}
	shown := func(secret string) string {
		resp, err := http.PostForm("http://"+w.Address()+"/received", url.Values{"secret": {secret}})
		require.NoError(t, err)
		defer resp.Body.Close()
		b, err := io.ReadAll(resp.Body)
		require.NoError(t, err)
		return string(b)
	}
	assert.Contains(t, shown(""), "Nothing yet")
	// The figures are those that Python's hmac module gives.
	const body, mark = `{"event":"brief.approved"}`, "76995939580d000b732c5cfef8c161952cf185979d5e50f2e37a14155b67de51"
	assert.Equal(t, http.StatusNoContent, send("t=1790000000, v1="+mark, body))
	assert.Contains(t, shown("quillfen"), "the signature holds")
	assert.Contains(t, shown("another"), "does not hold")
	assert.Contains(t, shown(""), "brief.approved")
	send("", "<script>alert(1)</script>")
	page := shown("quillfen")
	assert.Contains(t, page, "it has no signature")
	assert.NotContains(t, page, "<script>")
	x := received{At: time.Unix(1790000000, 0), Signature: "t=1790000000, v1=" + mark, Body: body}
	assert.Equal(t, "the signature holds", x.holds("quillfen"))
	x.At = x.At.Add(time.Hour)
	assert.Equal(t, "the signature holds, and is old", x.holds("quillfen"))
	assert.Equal(t, http.StatusRequestEntityTooLarge, send("", strings.Repeat("x", largestReceived+1)))
	for range receivedKept + 5 {
		send("", "x")
	}
	assert.Len(t, w.receiver.list, receivedKept)
}
