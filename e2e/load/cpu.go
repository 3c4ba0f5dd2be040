package main

import (
	"context"
	"fmt"
	"os"
	"path/filepath"
	"strconv"
	"strings"
	"sync"
	"time"

	"github.com/jackc/pgx/v5"
)

// ticksPerSecond is the unit of /proc's times: USER_HZ, 100 on every Linux that Go runs on (from memory).
const ticksPerSecond = 100

// spent is the processor time that each kind of process took, in ticks: the program's processes,
// the database's on behalf of each of them and by itself, and the people and the web of this one.
type spent struct {
	mu   sync.Mutex
	by   map[string]int
	last map[int]int // by process
}

// follow adds up what is taken every second until ctx ends.
func (s *spent) follow(ctx context.Context, m *machines) {
	s.by, s.last = map[string]int{}, map[int]int{}
	for first := true; ctx.Err() == nil; first = false {
		s.look(ctx, m, first)
		pause(ctx, time.Second)
	}
}

func (s *spent) look(ctx context.Context, m *machines, first bool) {
	m.mu.Lock()
	kinds := map[int]string{os.Getpid(): "people and web"}
	for _, p := range m.serves {
		kinds[p.cmd.Process.Pid] = "serve"
	}
	for _, p := range m.works {
		kinds[p.cmd.Process.Pid] = "work"
	}
	database := m.database
	m.mu.Unlock()
	backends(ctx, database, kinds)
	s.mu.Lock()
	defer s.mu.Unlock()
	for pid, kind := range kinds {
		now, ok := ticks(pid)
		if !ok {
			continue
		}
		if before, known := s.last[pid]; known {
			s.by[kind] += now - before
		} else if !first {
			s.by[kind] += now // it began since
		}
		s.last[pid] = now
	}
}

// backends adds the database's processes by whom they work for. While it is away there are none.
func backends(ctx context.Context, database string, kinds map[int]string) {
	conn, err := pgx.Connect(ctx, database)
	if err != nil {
		return
	}
	defer conn.Close(context.WithoutCancel(ctx))
	rows, err := conn.Query(ctx, "select pid, case when application_name like 'corpulan%' then 'database for ' || application_name else 'database by itself' end from pg_stat_activity")
	if err != nil {
		return
	}
	var pid int
	var kind string
	_, _ = pgx.ForEachRow(rows, []any{&pid, &kind}, func() error { kinds[pid] = kind; return nil })
}

// ticks is the processor time of a process.
func ticks(pid int) (int, bool) {
	b, err := os.ReadFile(filepath.Join("/proc", strconv.Itoa(pid), "stat"))
	if err != nil {
		return 0, false
	}
	_, after, ok := strings.Cut(string(b), ") ") // its name may hold blanks
	f := strings.Fields(after)
	if !ok || len(f) < 13 {
		return 0, false
	}
	user, _ := strconv.Atoi(f[11]) // utime, field 14 of proc(5); the state, field 3, is the first here
	system, _ := strconv.Atoi(f[12])
	return user + system, true
}

// over tells the shares of one processor over so long.
func (s *spent) over(length time.Duration) string {
	s.mu.Lock()
	defer s.mu.Unlock()
	var parts []string
	for _, kind := range []string{"serve", "database for corpulan serve", "work", "database for corpulan work", "database by itself", "people and web"} {
		parts = append(parts, fmt.Sprintf("%s %.2f", kind, float64(s.by[kind])/ticksPerSecond/length.Seconds()))
	}
	return strings.Join(parts, ", ")
}
