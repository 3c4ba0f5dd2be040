// Package storetest gives each test a database of its own, made from a
// migrated template on one private cluster. `make test` starts one cluster for
// the whole run and names it in CORPULAN_TEST_PG; a package tested by itself
// starts its own.
package storetest

import (
	"context"
	"fmt"
	"hash/fnv"
	"os"
	"path/filepath"
	"strings"
	"sync/atomic"
	"testing"

	"corpulan/localpg"
	"corpulan/store"

	"github.com/jackc/pgx/v5"
)

// Main runs the tests of a package with a cluster beside them: call it from TestMain.
func Main(m *testing.M) { os.Exit(Run(m)) }

// Run is Main for a TestMain that has something to do after its tests: it returns the exit code.
func Run(m *testing.M) int {
	if os.Getenv("CORPULAN_TEST_PG") != "" {
		return m.Run()
	}
	dir, err := localpg.TempDir()
	if err != nil {
		fmt.Fprintln(os.Stderr, "storetest:", err)
		return 1
	}
	defer os.RemoveAll(dir)
	cluster, err := localpg.Start(context.Background(), filepath.Join(dir, "data"), "fsync=off")
	if err != nil {
		fmt.Fprintln(os.Stderr, "storetest:", err)
		return 1
	}
	defer func() { _ = cluster.Stop() }()
	if err := os.Setenv("CORPULAN_TEST_PG", cluster.URL("postgres")); err != nil {
		return 1
	}
	return m.Run()
}

// template is the migrated database that the others are copied from.
const template = "corpulan_template"

// URL makes a fresh migrated database for one test and returns its address.
func URL(t testing.TB) string {
	t.Helper()
	return Copy(t, template, migrate)
}

func migrate(ctx context.Context, url string) error { return store.Migrate(ctx, url) }

// Copy makes a database for one test that is a copy of a template, and returns its address. The
// template is made first where there is none of its name: fill is given an empty database.
func Copy(t testing.TB, template string, fill func(ctx context.Context, url string) error) string {
	t.Helper()
	ctx := t.Context()
	admin := os.Getenv("CORPULAN_TEST_PG")
	if admin == "" {
		t.Fatal("storetest: call storetest.Main from TestMain")
	}
	conn, err := pgx.Connect(ctx, admin)
	if err != nil {
		t.Fatalf("storetest: %v", err)
	}
	defer conn.Close(ctx)
	// Packages are tested side by side: the first makes the template, the others wait.
	exec(t, conn, "select pg_advisory_lock(4711)")
	defer exec(t, conn, "select pg_advisory_unlock(4711)")
	var there bool
	if err := conn.QueryRow(ctx, "select exists(select 1 from pg_database where datname = $1)", template).Scan(&there); err != nil {
		t.Fatalf("storetest: %v", err)
	}
	if !there {
		exec(t, conn, "create database "+template)
		if err := fill(ctx, database(admin, template)); err != nil {
			exec(t, conn, "drop database "+template+" with (force)")
			t.Fatalf("storetest: %v", err)
		}
	}
	name := named(t, "t")
	exec(t, conn, "drop database if exists "+name+" with (force)")
	exec(t, conn, "create database "+name+" template "+template)
	return database(admin, name)
}

// made counts the databases of this process.
var made atomic.Int64

// named is a name that no other database of the run has, of the same test either: one that the server is just vacuuming
// can be dropped by its superuser alone.
func named(t testing.TB, kind string) string {
	h := fnv.New64a()
	fmt.Fprint(h, t.Name(), os.Getpid(), " ", made.Add(1))
	return fmt.Sprintf("%s%x", kind, h.Sum64())
}

// Empty makes a database without any table.
func Empty(t testing.TB) (url string) {
	t.Helper()
	ctx := context.Background()
	admin := os.Getenv("CORPULAN_TEST_PG")
	conn, err := pgx.Connect(ctx, admin)
	if err != nil {
		t.Fatalf("storetest: %v", err)
	}
	defer conn.Close(ctx)
	name := named(t, "e")
	exec(t, conn, "drop database if exists "+name+" with (force)")
	exec(t, conn, "create database "+name)
	return database(admin, name)
}

// Open makes a fresh database and opens it; it is closed when the test ends.
func Open(t testing.TB) (*store.Store, string) {
	t.Helper()
	url := URL(t)
	st, err := store.Open(t.Context(), url, nil, 0)
	if err != nil {
		t.Fatalf("storetest: %v", err)
	}
	t.Cleanup(func() { _ = st.Close() })
	return st, url
}

func database(url, name string) string { return strings.Replace(url, "/postgres?", "/"+name+"?", 1) }

func exec(t testing.TB, conn *pgx.Conn, sql string) {
	t.Helper()
	if _, err := conn.Exec(t.Context(), sql); err != nil {
		t.Fatalf("storetest: %s: %v", sql, err)
	}
}
