package pdf

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"io"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"time"

	"corpulan/core/message"
	"corpulan/formats/manuscript"
)

// A PDF is a program of sorts: one that refers to itself keeps its reader busy for ever, or takes
// all of its stack, which nothing in a process can hold up. So it is read in a process of its own,
// bounded in time and memory: the program itself, called by another name.

// PDFCommand is the subcommand by which the program reads a PDF from standard input.
const PDFCommand = "read-pdf"

// Bounds of that process. Our own.
const (
	pdfTime   = 30 * time.Second
	pdfMemory = 3 << 30 // bytes of address space, of which Go reserves much and uses little
)

// readPDF is what such a process answers.
type readPDF struct {
	HTML  string `json:"html"`
	Error string `json:"error"`
}

// PDFChild is the process: it reads a PDF, and writes what it says as JSON.
func PDFChild(in io.Reader, out io.Writer) error {
	boundMemory(pdfMemory)
	file, err := io.ReadAll(io.LimitReader(in, manuscript.LargestExtra+1))
	if err != nil {
		return err
	}
	var answer readPDF
	if answer.HTML, err = pdfSource(file); err != nil {
		answer.Error = err.Error()
	}
	return json.NewEncoder(out).Encode(answer)
}

// Apart reads a PDF in a process of its own. A test, whose program is not ours, reads it itself.
func Apart(file []byte) (string, error) {
	program, err := os.Executable()
	if err != nil || !strings.HasPrefix(filepath.Base(program), "corpulan") {
		return pdfSource(file)
	}
	return PdfIn(context.Background(), program, file)
}

func PdfIn(ctx context.Context, program string, file []byte) (string, error) {
	ctx, cancel := context.WithTimeout(ctx, pdfTime)
	defer cancel()
	cmd := exec.CommandContext(ctx, program, PDFCommand)
	cmd.Env = []string{"GOMAXPROCS=1", "GOTRACEBACK=none"}
	cmd.Stdin = bytes.NewReader(file)
	out, err := cmd.Output()
	if ctx.Err() != nil {
		return "", message.Errorf("this PDF is damaged: reading it took more than %v", pdfTime)
	}
	var answer readPDF
	if err != nil || json.Unmarshal(out, &answer) != nil {
		return "", message.Errorf("this PDF is damaged: reading it came to no end")
	}
	switch answer.Error {
	case "":
		return answer.HTML, nil
	case ErrEncrypted.Error():
		return "", ErrEncrypted
	case ErrNoText.Error():
		return "", ErrNoText
	}
	return "", errors.New(answer.Error)
}
