package parts

import (
	"fmt"
	"hash/fnv"

	"corpulan/store"
)

// Thread is a remark with its answers.
type Thread struct {
	store.Remark
	Answers []store.Remark
}

// Threads are the remarks of a brief, by line.
func Threads(list []store.Remark) map[string][]Thread {
	by := map[string][]Thread{}
	for _, r := range list {
		if r.Answers == nil {
			by[r.Line] = append(by[r.Line], Thread{Remark: r})
		}
	}
	for _, r := range list {
		if r.Answers == nil {
			continue
		}
		for _, of := range by {
			for i := range of {
				if of[i].ID == *r.Answers {
					of[i].Answers = append(of[i].Answers, r)
				}
			}
		}
	}
	return by
}

// LineID names a line within a page.
func LineID(line string) string {
	h := fnv.New64a()
	_, _ = h.Write([]byte(line)) // never fails
	return fmt.Sprintf("l%x", h.Sum64())
}
