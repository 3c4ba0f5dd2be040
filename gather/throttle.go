package gather

import (
	"context"
	"sync"
	"time"
)

// throttle is the gate of one process.
type throttle struct {
	mu    sync.Mutex
	hosts map[string]*turn
}

// turn is a host's; it is forgotten when nobody waits for it any more.
type turn struct {
	token   chan struct{}
	free    time.Time // when the next may begin
	waiting int       // who has it included
}

// maxIdle is how many hosts are remembered for their delay alone.
const maxIdle = 256

// Enter implements Gate.
func (t *throttle) Enter(ctx context.Context, host string, _, delay time.Duration) (leave func(), err error) {
	h := t.join(host)
	select {
	case h.token <- struct{}{}:
	case <-ctx.Done():
		t.part(h)
		return nil, ctx.Err()
	}
	t.mu.Lock()
	wait := time.Until(h.free)
	t.mu.Unlock()
	if wait > 0 {
		select {
		case <-time.After(wait):
		case <-ctx.Done():
			<-h.token
			t.part(h)
			return nil, ctx.Err()
		}
	}
	return func() {
		t.mu.Lock()
		h.free = time.Now().Add(delay)
		t.mu.Unlock()
		<-h.token
		t.part(h)
	}, nil
}

func (t *throttle) join(host string) *turn {
	t.mu.Lock()
	defer t.mu.Unlock()
	h := t.hosts[host]
	if h == nil {
		h = &turn{token: make(chan struct{}, 1)}
		t.hosts[host] = h
	}
	h.waiting++
	if len(t.hosts) > maxIdle {
		for name, other := range t.hosts {
			if other.waiting == 0 && time.Now().After(other.free) {
				delete(t.hosts, name)
			}
		}
	}
	return h
}

func (t *throttle) part(h *turn) {
	t.mu.Lock()
	defer t.mu.Unlock()
	h.waiting--
}
