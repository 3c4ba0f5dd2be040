// Package subtitles reads transcripts: what is said, with its times, as WebVTT (W3C) or SubRip has it.
package subtitles

import (
	"bytes"
	"fmt"
	"html"
	"io"
	"sort"
	"strings"
	"time"
	"unicode/utf8"

	"corpulan/core/draft"
	"corpulan/core/message"
	"corpulan/core/text"
	"corpulan/formats/manuscript"

	"github.com/asticode/go-astisub"
)

// Read reads a transcript, by its ending and its first lines; is tells whether it is one at all.
func Read(ending string, file []byte) (n *draft.Node, is bool, err error) {
	switch {
	case bytes.HasPrefix(bytes.TrimPrefix(file, []byte("\xef\xbb\xbf")), []byte("WEBVTT")) || ending == ".vtt":
		n, err = transcript(file, astisub.ReadFromWebVTT)
	case ending == ".srt" || looksLikeSRT(file):
		n, err = transcript(file, astisub.ReadFromSRT)
	default:
		return nil, false, nil
	}
	return n, true, err
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

// unharmed reads a file; a fault of the library that makes it panic is one of the file.
func unharmed(read func(io.Reader) (*astisub.Subtitles, error), file []byte) (subs *astisub.Subtitles, err error) {
	defer func() {
		if p := recover(); p != nil {
			err = fmt.Errorf("it is read to no end: %v", p)
		}
	}()
	return read(bytes.NewReader(file))
}

// transcript makes paragraphs of what is said, by speakers, pauses and sentences, and parts by time.
func transcript(file []byte, read func(io.Reader) (*astisub.Subtitles, error)) (*draft.Node, error) {
	if !utf8.Valid(file) {
		file = bytes.ToValidUTF8(file, []byte("\uFFFD"))
	}
	subs, err := unharmed(read, bytes.ReplaceAll(file, []byte("\x00"), nil))
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
