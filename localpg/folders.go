package localpg

import (
	"crypto/sha256"
	"fmt"
	"os"
	"path/filepath"
)

// TempDir makes a temporary folder that the server can reach, which the usual
// place for those need not be. The caller deletes it.
func TempDir() (string, error) {
	var last error
	for _, place := range []string{os.TempDir(), "/tmp", "/var/tmp", "/dev/shm"} {
		if !Reachable(place) {
			last = fmt.Errorf("%s: %w", place, ErrUnreachable)
			continue
		}
		dir, err := os.MkdirTemp(place, "corpulan-pg-")
		if err == nil {
			err = os.Chmod(dir, 0o755) // the server's own folder in it is closed
		}
		if err == nil {
			return dir, nil
		}
		last = err
	}
	return "", fmt.Errorf("making a temporary folder for the database: %w", last)
}

// Fallback is where data that belong into a folder can lie instead, where the
// server cannot reach that: always the same place for the same folder. Only
// root needs it, and only root can write there.
func Fallback(folder string) string {
	h := sha256.Sum256([]byte(folder))
	return filepath.Join("/var/lib/corpulan", fmt.Sprintf("%s-%x", filepath.Base(filepath.Dir(folder)), h[:4]))
}
