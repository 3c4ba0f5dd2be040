package gather

import (
	"bytes"
	"errors"
	"fmt"
	"html"
	"io"
	"path"
	"sort"
	"strings"
	"time"
	"unicode/utf8"

	"corpulan/core/address"
	"corpulan/core/draft"
	"corpulan/core/message"
	"corpulan/core/text"
	"corpulan/formats/manuscript"
	"corpulan/formats/pdf"

	"github.com/asticode/go-astisub"
)

// ExtraScheme begins the address of an extra source that has none of its own.
const ExtraScheme = address.Brought

// Errors of extra sources; test with errors.Is.
var (
	ErrNoExtra = message.Errorf("this is nothing that can be read as a source: a transcript (SRT, WebVTT), PDF, DOCX, Markdown, HTML or plain text is wanted")
)

// Extra reads a text that did not rank — a transcript, a PDF with a text layer, DOCX, Markdown,
// HTML, plain text — by its file's name and what is in it. A file must not take the program with
// it, whatever is in it.
func Extra(name string, file []byte) (n *draft.Node, err error) {
	defer func() {
		if p := recover(); p != nil {
			n, err = nil, message.Errorf("this file is damaged: %v", p)
		}
	}()
	switch ending := strings.ToLower(path.Ext(name)); {
	case len(file) > manuscript.LargestExtra:
		return nil, message.Errorf("the file is larger than %d MiB", manuscript.LargestExtra>>20)
	case bytes.HasPrefix(bytes.TrimLeft(file[:min(len(file), 1024)], "\x00 \r\n\t\xef\xbb\xbf"), []byte("%PDF-")):
		html, err := pdf.Apart(file)
		if err != nil {
			return nil, err
		}
		return manuscript.Fragment(html)
	case ending == ".pdf":
		return nil, message.Errorf("this file is called a PDF and is none")
	case bytes.HasPrefix(bytes.TrimPrefix(file, []byte("\xef\xbb\xbf")), []byte("WEBVTT")) || ending == ".vtt":
		return transcript(file, astisub.ReadFromWebVTT)
	case ending == ".srt" || looksLikeSRT(file):
		return transcript(file, astisub.ReadFromSRT)
	default:
		n, err := Draft(name, bytes.NewReader(file))
		if errors.Is(err, manuscript.ErrNoDraft) {
			return nil, ErrNoExtra
		}
		if err == nil && n.Empty() {
			return nil, message.Errorf("there is no text in this file")
		}
		return n, err
	}
}

// looksLikeSRT tells a SubRip file by its first lines: a number, then a span of time.
func looksLikeSRT(file []byte) bool {
	lines := strings.SplitN(strings.TrimLeft(string(file[:min(len(file), 200)]), "\xef\xbb\xbf\r\n "), "\n", 3)
	return len(lines) > 1 && strings.Contains(lines[1], "-->") && strings.Trim(strings.TrimSpace(lines[0]), "0123456789") == ""
}

// How speech becomes paragraphs and parts. Our own.
const (
	pauseEnds   = 2 * time.Second  // a paragraph ends where nobody speaks for so long
	longEnough  = 80               // words from which it ends with the next sentence
	partOf      = 10 * time.Minute // of a transcript stand under one heading
	longestTape = 60 * time.Minute // beyond it parts are half an hour long
)

// transcript makes paragraphs of what is said, by speakers, pauses and sentences, and parts by time.
func transcript(file []byte, read func(io.Reader) (*astisub.Subtitles, error)) (*draft.Node, error) {
	if !utf8.Valid(file) {
		file = bytes.ToValidUTF8(file, []byte("\uFFFD"))
	}
	subs, err := read(bytes.NewReader(bytes.ReplaceAll(file, []byte("\x00"), nil)))
	if err != nil {
		return nil, message.Errorf("this transcript is damaged: %v", err)
	}
	items := subs.Items
	sort.SliceStable(items, func(i, j int) bool { return items[i].StartAt < items[j].StartAt })
	part := partOf
	if len(items) > 0 && items[len(items)-1].EndAt > longestTape {
		part = 3 * partOf
	}
	var b, paragraph strings.Builder
	speaker, from, last := "", time.Duration(-1), ""
	words := 0
	var end time.Duration
	flush := func() {
		if s := strings.TrimSpace(paragraph.String()); s != "" {
			if speaker != "" {
				s = speaker + ": " + s
			}
			fmt.Fprintf(&b, "<p>%s</p>", html.EscapeString(s))
		}
		paragraph.Reset()
		words = 0
	}
	for _, it := range items {
		for _, line := range it.Lines {
			said := strings.TrimSpace(lineText(line))
			if said == "" || said == last { // captions that roll repeat the line before
				continue
			}
			last = said
			if start := it.StartAt.Truncate(part); start != from {
				flush()
				from = start
				if len(items) > 1 && items[len(items)-1].EndAt > part {
					fmt.Fprintf(&b, "<h2>%s–%s</h2>", clock(start), clock(start+part))
				}
			}
			if line.VoiceName != speaker && line.VoiceName != "" || it.StartAt-end > pauseEnds {
				flush()
			}
			if line.VoiceName != "" {
				speaker = line.VoiceName
			}
			if paragraph.Len() > 0 {
				paragraph.WriteByte(' ')
			}
			paragraph.WriteString(said)
			words += text.CountWords(said)
			end = it.EndAt
			if words >= longEnough && text.Ends(said, ".?!…") {
				flush()
			}
		}
	}
	flush()
	if b.Len() == 0 {
		return nil, message.Errorf("nobody says anything in this transcript")
	}
	return manuscript.Fragment(b.String())
}

func lineText(l astisub.Line) string {
	var parts []string
	for _, it := range l.Items {
		if t := strings.TrimSpace(it.Text); t != "" {
			parts = append(parts, t)
		}
	}
	return strings.Join(parts, " ")
}

func clock(d time.Duration) string {
	return fmt.Sprintf("%d:%02d", int(d.Hours()), int(d.Minutes())%60)
}
