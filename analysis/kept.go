package analysis

import (
	"context"
	"crypto/sha256"
	"fmt"
	"io"
	"os"
	"slices"
	"strings"
	"sync"
	"time"

	"corpulan/core/evidence"
	"corpulan/core/house"
	"corpulan/store"
)

// programDigest is of the program that runs: what another build has computed counts for nothing.
var programDigest = sync.OnceValues(func() ([]byte, error) {
	path, err := os.Executable()
	if err != nil {
		return nil, fmt.Errorf("finding the program's own file: %w", err)
	}
	f, err := os.Open(path)
	if err != nil {
		return nil, fmt.Errorf("reading the program's own file: %w", err)
	}
	defer f.Close()
	h := sha256.New()
	if _, err := io.Copy(h, f); err != nil {
		return nil, fmt.Errorf("reading the program's own file: %w", err)
	}
	return h.Sum(nil), nil
})

// digest is of what evidence is computed from, and of the program that does.
func (a *Analyst) digest(signature string) []byte {
	h := sha256.New()
	h.Write(a.program)
	io.WriteString(h, signature)
	return h.Sum(nil)
}

// basis names all that the evidence of a study is computed from, but for its pages.
func (an *Analysis) basis() string {
	var sig strings.Builder
	fmt.Fprintf(&sig, "%d %s %q %d %q %q %d", an.Study.ID, an.Study.Language, an.Study.Keyword, an.Gathering.ID, an.Gathering.Asked, an.Gathering.Related, an.Study.Leaders)
	for _, e := range an.Lexicon {
		if e.Kind == house.Spell {
			continue
		}
		fmt.Fprintf(&sig, " %s %q %q", e.Kind, e.Term, e.Other)
	}
	return sig.String()
}

// signature names all that the evidence of a study is computed from.
func (an *Analysis) signature() string {
	var sig strings.Builder
	sig.WriteString(an.basis())
	for _, r := range an.Results {
		if Counts(r) {
			fmt.Fprintf(&sig, " %d/%d", r.Rank, *r.ReadingID)
		} else if r.IsBeside() && r.ReadingID != nil {
			fmt.Fprintf(&sig, " beside %d/%d", r.Rank, *r.ReadingID)
		}
	}
	return sig.String()
}

// taught is what the house has taught, as the core takes it.
func (an *Analysis) taught() []house.Entry {
	taught := make([]house.Entry, len(an.Lexicon))
	for i, e := range an.Lexicon {
		taught[i] = e.Entry()
	}
	return taught
}

// exact is the evidence of all pages that count now: at hand, kept by whoever computed it before,
// or computed. first, if any, is given the terms as soon as they are counted, where it is this call that has them counted.
func (a *Analyst) exact(ctx context.Context, sc store.Scope, an *Analysis, first func(*evidence.Evidence)) (*evidence.Evidence, error) {
	return a.evidence.Get(ctx, an.signature(), func(ctx context.Context, signature string) (*evidence.Evidence, error) {
		ctx, cancel := context.WithTimeout(context.WithoutCancel(ctx), longestCompute) // others may wait for it too
		defer cancel()
		digest := a.digest(signature)
		if e := a.kept(ctx, sc, an, digest); e != nil {
			return e, nil
		}
		began := time.Now()
		read, err := a.read(ctx, sc, an)
		if err != nil {
			return nil, err
		}
		a.computed()
		e, err := evidence.Compute(ctx, evidence.Input{Keyword: an.Study.Keyword, Language: an.Study.Language, Pages: read.Pages, Beside: read.Beside,
			Asked: slices.Clone(an.Gathering.Asked), Related: slices.Clone(an.Gathering.Related), House: an.taught(), Leaders: an.Study.Leaders, First: first})
		if err != nil {
			return nil, err
		}
		if body, err := e.Encode(); err == nil && len(e.Sources) > 0 {
			// Where it cannot be kept it is computed again: on a full disk, say.
			_ = sc.KeepEvidence(ctx, store.Evidence{GatheringID: an.Gathering.ID, Digest: digest, Basis: a.digest(an.basis()), Took: time.Since(began), Body: body})
		}
		return e, nil
	})
}

// kept is evidence that was computed from just this before; nil where there is none.
func (a *Analyst) kept(ctx context.Context, sc store.Scope, an *Analysis, digest []byte) *evidence.Evidence {
	row, err := sc.Evidence(ctx, an.Gathering.ID, digest)
	if err != nil {
		return nil
	}
	e, err := evidence.Decode(row.Body)
	if err != nil {
		return nil
	}
	return e
}

// Ahead computes the evidence of a gathering for those who will look for it, and keeps it; again
// where its last pages came in meanwhile. There is nothing to do where the study has a newer one.
func (a *Analyst) Ahead(ctx context.Context, st *store.Store, gathering int64) error {
	for before := ""; ; {
		g, study, err := st.Gathering(ctx, gathering)
		if err != nil {
			return err
		}
		sc := st.In(g.PublicationID)
		an := &Analysis{Study: study, Gathering: g}
		if newest, err := sc.LatestGathering(ctx, study.ID); err != nil || newest.ID != gathering {
			return err
		}
		if an.Results, err = sc.Results(ctx, gathering); err != nil {
			return err
		}
		if an.Lexicon, err = sc.Lexicon(ctx, study.ID); err != nil {
			return err
		}
		if an.Counting() == 0 || an.signature() == before || before != "" && g.Running() {
			return nil
		}
		before = an.signature()
		if _, err := a.exact(ctx, sc, an, nil); err != nil {
			return err
		}
	}
}
