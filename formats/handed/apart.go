package handed

import (
	"bufio"
	"bytes"
	"cmp"
	"context"
	"encoding/gob"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"os"
	"os/exec"
	"runtime/debug"
	"slices"
	"strings"
	"time"

	"corpulan/core/draft"
	"corpulan/core/message"
	"corpulan/formats/manuscript"
	"corpulan/formats/pdf"
	"corpulan/formats/saved"
	"corpulan/formats/sheet"
	"corpulan/formats/sitemap"
)

// Command is the subcommand by which the program reads a file for itself, apart.
const Command = "read-apart"

// Bounds of that process. Our own: a PDF of 2,000 full pages takes a fifth of each.
const (
	maxSeconds = 20        // of computing
	maxMemory  = 640 << 20 // bytes of data
	fullMemory = maxMemory * 3 / 4
	maxStack   = 128 << 20
	maxWaiting = 90 * time.Second // where the machine has much to do
)

// kind of what is handed in.
type kind string

const (
	pages       kind = "pages"
	manuscripts kind = "draft"
	sources     kind = "source"
	tables      kind = "table"
	sitemaps    kind = "sitemap"
)

// order is what such a process is to do: the first line it is sent, as JSON. The file follows.
type order struct {
	Kind kind
	Name string // of the file
	Most int64  // bytes that may come out of it, or rows
}

// answer is one of those that it sends back, by gob: pages or rows as they come, a text as JSON of
// its own. The last is Done.
type answer struct {
	Page  *saved.Saved
	Spent int64 // bytes of the budget since the answer before
	Rows  [][]string
	Text  *draft.Node
	Lists *sitemap.Listing
	Fault *fault
	Done  bool
}

// fault is an error on its way between two processes.
type fault struct {
	Says string // a message
	Is   int    // one of known, beginning with 1; 0 for none
}

// known are the errors that callers tell apart.
func known() []error {
	return []error{saved.ErrNoPages, saved.ErrTooMuch, manuscript.ErrNoDraft, ErrNoSource, pdf.ErrEncrypted, pdf.ErrNoText}
}

func faultOf(err error) *fault {
	return &fault{Says: string(message.OfError(err)), Is: 1 + slices.IndexFunc(known(), func(k error) bool { return errors.Is(err, k) })}
}

func (f *fault) error() error {
	says := message.Message(f.Says)
	if f.Is == 0 {
		return &message.Error{Says: says}
	}
	is := known()[f.Is-1]
	if message.OfError(is) == says {
		return is
	}
	return &message.Error{Says: says, Cause: is}
}

// Serve is that process: it reads one file, and writes what comes out.
func Serve(in io.Reader, out io.Writer) error {
	bound(maxMemory, maxSeconds)
	debug.SetMemoryLimit(fullMemory)
	debug.SetMaxStack(maxStack)
	r := bufio.NewReaderSize(in, 64<<10)
	line, err := r.ReadSlice('\n')
	if err != nil {
		return fmt.Errorf("no order came: %w", err)
	}
	var o order
	if err := json.Unmarshal(line, &o); err != nil {
		return fmt.Errorf("the order cannot be read: %w", err)
	}
	w := bufio.NewWriter(out)
	enc := gob.NewEncoder(w)
	last := answer{Done: true}
	if err := o.carryOut(r, &last, enc.Encode); err != nil {
		last.Fault = faultOf(err)
	}
	return cmp.Or(enc.Encode(last), w.Flush())
}

// carryOut reads a file; what comes last goes along with the end. A fault of a reader that makes it
// panic is one of the file.
func (o order) carryOut(in io.Reader, last *answer, send func(any) error) (err error) {
	defer func() {
		if p := recover(); p != nil {
			err = message.Errorf("this file is damaged: %v", fmt.Sprint(p))
		}
	}()
	switch o.Kind {
	case pages:
		var budget *saved.Budget
		if o.Most >= 0 {
			budget = saved.NewBudget(o.Most)
		}
		left := budget.Left()
		defer func() { last.Spent = left - budget.Left() }()
		return walk(o.Name, in, budget, func(p saved.Saved) error {
			spent := left - budget.Left()
			left = budget.Left()
			return send(answer{Page: &p, Spent: spent})
		})
	case tables:
		last.Rows, err = sheet.Read(o.Name, in, int(o.Most))
		return err
	case sitemaps:
		file, err := io.ReadAll(io.LimitReader(in, sitemap.Largest+1))
		if err != nil {
			return err
		}
		l, err := sitemap.Read(file)
		last.Lists = &l
		return err
	}
	file, err := io.ReadAll(io.LimitReader(in, manuscript.LargestExtra+1))
	if err != nil {
		return err
	}
	if o.Kind == sources {
		last.Text, err = source(o.Name, file)
	} else {
		last.Text, err = manuscriptOf(o.Name, file)
	}
	return err
}

// apart has a file read by a process of its own, and hands on its answers. An error of each ends it.
func (r *Reader) apart(ctx context.Context, o order, in io.Reader, each func(*answer) error) error {
	select {
	case r.turns <- struct{}{}:
		defer func() { <-r.turns }()
	case <-ctx.Done():
		return ctx.Err()
	}
	head, err := json.Marshal(o)
	if err != nil {
		return err
	}
	limited, cancel := context.WithTimeout(ctx, maxWaiting)
	defer cancel()
	cmd := exec.CommandContext(limited, r.program, Command)
	cmd.Env = []string{"GOMAXPROCS=1", "GOTRACEBACK=none"}
	if lists := cmp.Or(r.lists, os.Getenv("CORPULAN_LISTS")); lists != "" {
		cmd.Env = append(cmd.Env, "CORPULAN_LISTS="+lists)
	}
	cmd.Stdin = io.MultiReader(bytes.NewReader(append(head, '\n')), in)
	said := &beginning{}
	cmd.Stderr = said
	out, err := cmd.StdoutPipe()
	if err != nil {
		return err
	}
	if err := cmd.Start(); err != nil {
		return fmt.Errorf("reading what was handed in: %w", err)
	}
	last, err := follow(gob.NewDecoder(bufio.NewReader(out)), each)
	if err != nil {
		cancel() // nobody wants its further answers
	}
	ended := cmd.Wait()
	switch {
	case ctx.Err() != nil:
		return ctx.Err()
	case err != nil:
		return err
	case last != nil && last.Fault != nil:
		return last.Fault.error()
	case last != nil:
		return nil
	}
	return gaveUp(ended, limited, said.String())
}

// follow hands on answers up to the last, which it returns; nil where the process ended before.
func follow(in *gob.Decoder, each func(*answer) error) (*answer, error) {
	for {
		a := &answer{}
		if in.Decode(a) != nil {
			return nil, nil
		}
		if err := each(a); err != nil {
			return nil, err
		}
		if a.Done {
			return a, nil
		}
	}
}

// gaveUp is why a process ended before its last answer.
func gaveUp(ended error, limited context.Context, said string) error {
	switch {
	case strings.Contains(said, "out of memory") || strings.Contains(said, "cannot allocate memory"):
		return message.Errorf("this file is damaged, or made to do harm: reading it takes more than %d MB of memory", maxMemory>>20)
	case strings.Contains(said, "stack overflow") || strings.Contains(said, "stack exceeds"):
		return message.Errorf("this file is damaged, or made to do harm: it leads in a circle")
	case overtime(ended) || errors.Is(limited.Err(), context.DeadlineExceeded):
		return message.Errorf("this file is damaged, or made to do harm: reading it takes more than %d seconds", maxSeconds)
	}
	return message.Errorf("this file is damaged: reading it came to no end")
}

// beginning keeps the first of what a process says.
type beginning struct{ bytes.Buffer }

func (b *beginning) Write(p []byte) (int, error) {
	if room := 4096 - b.Len(); room > 0 {
		b.Buffer.Write(p[:min(len(p), room)])
	}
	return len(p), nil
}
