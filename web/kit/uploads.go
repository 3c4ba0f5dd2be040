package kit

import (
	"context"
	"mime/multipart"
	"path"
	"strconv"
	"strings"

	"corpulan/core/message"
	"corpulan/formats/handed"
	"corpulan/formats/saved"
	"corpulan/study"
)

// SavedPages reads the pages out of a form. For which row a file is the form
// may say: "to:NAME" is the number of the result.
func (s *Kit) SavedPages(ctx context.Context, form *multipart.Form, only int64) (pages []study.Handed, problems []message.Message) {
	if source := strings.TrimSpace(first(form.Value["source"])); source != "" {
		pages = append(pages, study.Handed{Saved: saved.Saved{URL: strings.TrimSpace(first(form.Value["url"])), Body: []byte(source)}, Name: "the pasted source", To: only, Of: 1})
	}
	budget := saved.NewBudget(LargestUnpacked)
	for _, file := range form.File["file"] {
		if file.Size == 0 && file.Filename == "" {
			continue
		}
		to := only
		if said, err := strconv.ParseInt(first(form.Value["to:"+file.Filename]), 10, 64); err == nil && to == 0 {
			to = said
		}
		found, err := openSaved(ctx, s.Reader, file, budget)
		if err != nil {
			problems = append(problems, message.Of("%s: %v", file.Filename, err))
		}
		for _, p := range found {
			pages = append(pages, study.Handed{Saved: p, Name: path.Base(file.Filename), To: to, Of: len(found)})
		}
	}
	return pages, problems
}

func openSaved(ctx context.Context, r *handed.Reader, file *multipart.FileHeader, budget *saved.Budget) ([]saved.Saved, error) {
	f, err := file.Open()
	if err != nil {
		return nil, err
	}
	defer f.Close()
	return r.Pages(ctx, file.Filename, f, budget)
}

// LargestUnpacked is how much may come out of the files of one upload, however
// they are packed, in bytes.
const LargestUnpacked = 256 << 20

func first(list []string) string {
	if len(list) == 0 {
		return ""
	}
	return list[0]
}
