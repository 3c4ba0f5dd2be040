package jobs

import (
	"os"

	"github.com/jackc/pgx/v5"
)

// pgxTx is the transaction type of the workers' driver.
type pgxTx = pgx.Tx

// logWriter writes to standard error as it is at the time of the message.
type logWriter struct{}

func (logWriter) Write(p []byte) (int, error) { return os.Stderr.Write(p) }
