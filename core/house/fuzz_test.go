package house

import (
	"bytes"
	"testing"
)

// Whatever is handed in as CSV gives entries that can be handed out and read again, or
// an error.
func FuzzRead(f *testing.F) {
	f.Add("kind,term,other\nignore,tyre,\nprefer,tire,tyre\n")
	f.Add("\ufeffignore;\"a;b\"\n\n")
	f.Add("merge\ta\tb\n=1+1")
	f.Fuzz(func(t *testing.T, s string) {
		entries, err := Read(bytes.NewBufferString(s))
		if err != nil {
			return
		}
		for _, e := range entries {
			if _, err := Check(e); err != nil {
				t.Fatalf("%+v: %v", e, err)
			}
		}
		var out bytes.Buffer
		if err := Write(&out, entries); err != nil {
			t.Fatal(err)
		}
		if again, err := Read(&out); err != nil || len(again) != len(entries) {
			t.Fatalf("%d entries became %d: %v", len(entries), len(again), err)
		}
	})
}
