package main

import (
	"io"
	"net"
	"net/url"
	"sync"
)

// way is the one address of the database, wherever it is at the moment: a cluster that is
// started anew listens at another port.
type way struct {
	net.Listener
	mu sync.Mutex
	to string
}

// newWay leads to the database of a cluster, and gives the address with the way's own port.
func newWay(database string) (*way, string, error) {
	u, err := url.Parse(database)
	if err != nil {
		return nil, "", err
	}
	l, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		return nil, "", err
	}
	w := &way{Listener: l, to: u.Host}
	u.Host = l.Addr().String()
	go w.lead() // ends when it is closed
	return w, u.String(), nil
}

// leads says where the database is now.
func (w *way) leads(database string) {
	if u, err := url.Parse(database); err == nil {
		w.mu.Lock()
		w.to = u.Host
		w.mu.Unlock()
	}
}

func (w *way) lead() {
	for {
		from, err := w.Accept()
		if err != nil {
			return
		}
		w.mu.Lock()
		at := w.to
		w.mu.Unlock()
		go func() {
			defer from.Close()
			to, err := net.Dial("tcp", at)
			if err != nil {
				return
			}
			defer to.Close()
			go func() {
				_, _ = io.Copy(to, from)
				to.Close()
			}()
			_, _ = io.Copy(from, to)
		}()
	}
}
