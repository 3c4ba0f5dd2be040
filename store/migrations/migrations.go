// Package migrations is how a database comes from one release to the next: the steps in SQL, and
// those that need Go, each frozen as it was when it was released.
//
//   - 000NN_….sql    a step in SQL
//   - sentences.go   00015: what was kept as English sentences is kept as messages
//   - sentences.txt  the formats by which it knows them
//   - choices.go     00016: the choices of a brief as values, not texts by name
package migrations

import (
	"database/sql"
	"embed"

	"github.com/pressly/goose/v3"
)

//go:embed *.sql
var files embed.FS

// Provider brings a database from any release to another.
func Provider(db *sql.DB, options ...goose.ProviderOption) (*goose.Provider, error) {
	options = append(options, goose.WithGoMigrations(
		goose.NewGoMigration(15, &goose.GoFunc{RunTx: toMessages}, &goose.GoFunc{RunTx: toSentences}),
		goose.NewGoMigration(16, &goose.GoFunc{RunTx: toValues}, &goose.GoFunc{RunTx: toTexts}),
	))
	return goose.NewProvider(goose.DialectPostgres, db, files, options...)
}
