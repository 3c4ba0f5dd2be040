package words

import (
	"regexp"
	"strings"
	"unicode"
)

// Templates are translated as they are read: what they say in English is looked up in the
// catalogue, run by run, and replaced in their source before html/template sees it. So a page in
// another language costs nothing when it is written, and no template is full of calls.
//
// A run is text between two tags, or the value of an attribute that people read; a placeholder
// {1}, {2} … stands for each action in it that writes something, so that a translation may put
// them in another order. Actions that decide (if, range, with …) end a run.

// read lists the attributes that people read, or hear.
var read = map[string]bool{"title": true, "aria-label": true, "placeholder": true, "alt": true}

// Messages are the runs of a template's source that hold words, in their order, each with its
// spaces folded and its actions as placeholders; and the texts in calls of word.
func Messages(source string) []string {
	var list []string
	walk(source, func(m string) string { list = append(list, m); return m })
	return list
}

// Template is a template's source with its runs in another language; look gives the translation
// of a message, or the message itself. What an action writes goes through the function said, which
// says messages in the language: in English they say themselves.
func Template(source string, look func(message string) string) string {
	return written.ReplaceAllString(walk(source, look), "{{${1}said ${2}${3}}}")
}

// written are actions that write a value as it is: {{.Text}}, {{$x.Why}}.
var written = regexp.MustCompile(`\{\{(-? *)([.$][\w.]*)( *-?)\}\}`)

// deciding tells an action that writes nothing itself.
func deciding(action string) bool {
	a := strings.TrimSpace(strings.Trim(strings.TrimSuffix(strings.TrimPrefix(action, "{{"), "}}"), "-"))
	first, _, _ := strings.Cut(a, " ")
	switch first {
	case "if", "else", "end", "range", "with", "define", "template", "block", "break", "continue":
		return true
	}
	return strings.HasPrefix(a, "/*") || strings.HasPrefix(a, "$") && strings.Contains(a, ":=") || strings.HasPrefix(a, "$") && strings.Contains(a, " = ")
}

// run is text with actions in it.
type run struct {
	text    strings.Builder // with placeholders
	actions []string
}

func (r *run) add(text string) { r.text.WriteString(text) }

func (r *run) action(a string) {
	r.actions = append(r.actions, a)
	r.text.WriteString("{" + string(rune('0'+len(r.actions))) + "}")
}

// done gives the run in the other language, with the spaces around it as they were.
func (r *run) done(look func(string) string) string {
	text := r.text.String()
	inner := strings.TrimFunc(text, unicode.IsSpace)
	if strings.IndexFunc(bare(inner), unicode.IsLetter) >= 0 {
		at := strings.Index(text, inner)
		text = text[:at] + look(strings.Join(strings.Fields(inner), " ")) + text[at+len(inner):]
	}
	for i, a := range r.actions {
		text = strings.Replace(text, "{"+string(rune('1'+i))+"}", a, 1)
	}
	return text
}

// bare is a text without its placeholders and entities.
func bare(text string) string {
	var b strings.Builder
	for i := 0; i < len(text); i++ {
		switch {
		case text[i] == '{' && i+2 < len(text) && text[i+2] == '}':
			i += 2
		case text[i] == '&' && strings.IndexByte(text[i:], ';') > 0 && strings.IndexByte(text[i:], ';') < 8:
			i += strings.IndexByte(text[i:], ';')
		default:
			b.WriteByte(text[i])
		}
	}
	return b.String()
}

// walk goes through a source and puts it together again, its runs as look has them.
func walk(source string, look func(string) string) string {
	var out strings.Builder
	var r run
	end := func() {
		out.WriteString(r.done(look))
		r = run{}
	}
	for i := 0; i < len(source); {
		rest := source[i:]
		switch {
		case strings.HasPrefix(rest, "{{"):
			n := actionEnd(rest)
			a := withWords(rest[:n], look)
			if deciding(rest[:n]) {
				end()
				out.WriteString(a)
			} else {
				r.action(a)
			}
			i += n
		case beginsTag(rest):
			end()
			n := tagEnd(rest)
			out.WriteString(tag(rest[:n], look))
			i += n
			if strings.HasPrefix(rest, "<script") && !strings.HasSuffix(rest[:n], "/>") { // no words of ours
				if close := strings.Index(source[i:], "</script>"); close >= 0 {
					out.WriteString(source[i : i+close])
					i += close
				}
			}
		default:
			n := strings.IndexAny(rest[1:], "<{") + 1
			if n == 0 {
				n = len(rest)
			}
			r.add(rest[:n])
			i += n
		}
	}
	end()
	return out.String()
}

func beginsTag(s string) bool {
	return len(s) > 1 && s[0] == '<' && (s[1] == '/' || s[1] == '!' || unicode.IsLetter(rune(s[1])))
}

// withWords translates the texts in calls of word within an action.
func withWords(action string, look func(string) string) string {
	const call = `word "`
	var out strings.Builder
	for {
		i := strings.Index(action, call)
		if i < 0 {
			out.WriteString(action)
			return out.String()
		}
		i += len(call)
		n := strings.IndexByte(action[i:], '"')
		if n < 0 { // no template: html/template says so
			out.WriteString(action)
			return out.String()
		}
		out.WriteString(action[:i] + look(action[i:i+n]))
		action = action[i+n:]
	}
}

// actionEnd is where an action ends, whatever stands in its strings.
func actionEnd(s string) int {
	in := byte(0)
	for i := 2; i < len(s); i++ {
		switch c := s[i]; {
		case in != 0 && c == '\\' && in == '"':
			i++
		case in != 0 && c == in:
			in = 0
		case in == 0 && (c == '"' || c == '`'):
			in = c
		case in == 0 && strings.HasPrefix(s[i:], "}}"):
			return i + 2
		}
	}
	return len(s)
}

// tagEnd is where a tag ends, whatever stands in its values and actions.
func tagEnd(s string) int {
	in := byte(0)
	for i := 1; i < len(s); i++ {
		switch c := s[i]; {
		case strings.HasPrefix(s[i:], "{{"):
			i += actionEnd(s[i:]) - 1
		case in != 0 && c == in:
			in = 0
		case in == 0 && (c == '"' || c == '\''):
			in = c
		case in == 0 && c == '>':
			return i + 1
		}
	}
	return len(s)
}

// tag translates the values of a tag's attributes that people read.
func tag(s string, look func(string) string) string {
	var out strings.Builder
	for i := 0; i < len(s); {
		if strings.HasPrefix(s[i:], "{{") {
			n := actionEnd(s[i:])
			out.WriteString(withWords(s[i:i+n], look))
			i += n
			continue
		}
		if s[i] == '"' && i > 0 && s[i-1] == '=' {
			n := valueEnd(s[i+1:])
			value := s[i+1 : i+1+n]
			if read[nameBefore(s[:i-1])] {
				value = walk(value, look)
			} else {
				value = inValue(value, look)
			}
			out.WriteString(`"` + value + `"`)
			i += n + 2
			continue
		}
		out.WriteByte(s[i])
		i++
	}
	return out.String()
}

// inValue translates calls of word in a value that people do not read as it stands.
func inValue(value string, look func(string) string) string {
	if !strings.Contains(value, `word "`) {
		return value
	}
	return withWords(value, look)
}

func valueEnd(s string) int {
	for i := 0; i < len(s); i++ {
		if strings.HasPrefix(s[i:], "{{") {
			i += actionEnd(s[i:]) - 1
		} else if s[i] == '"' {
			return i
		}
	}
	return len(s)
}

// nameBefore is the name of the attribute that ends a text.
func nameBefore(s string) string {
	i := strings.LastIndexFunc(s, func(r rune) bool { return r != '-' && !unicode.IsLetter(r) })
	return s[i+1:]
}

// Folded is a template's source with its spaces folded to one each, but in what browsers show or
// run as it stands: a template is laid out to be read, and a page is sent without its indentation.
func Folded(source string) string {
	var out strings.Builder
	for i := 0; i < len(source); {
		rest := source[i:]
		n := 0
		switch {
		case strings.HasPrefix(rest, "{{"):
			n = actionEnd(rest)
			out.WriteString(foldedAction(rest[:n]))
		case beginsTag(rest):
			n = tagEnd(rest)
			out.WriteString(foldedTag(rest[:n]))
			if kept := asItStands.FindStringSubmatch(rest[:n]); kept != nil {
				if end := strings.Index(rest[n:], "</"+kept[1]+">"); end > 0 {
					out.WriteString(rest[n : n+end])
					n += end
				}
			}
		case isSpace(rest[0]):
			n = len(rest) - len(strings.TrimLeft(rest, spaces))
			out.WriteByte(' ')
		default:
			n = 1
			out.WriteByte(rest[0])
		}
		i += n
	}
	return out.String()
}

// asItStands are the elements in which spaces count.
var asItStands = regexp.MustCompile(`^<(pre|textarea|script|style)\b`)

const spaces = " \t\r\n"

func isSpace(b byte) bool { return strings.IndexByte(spaces, b) >= 0 }

// foldedTag folds the spaces of a tag, in the values of its attributes those with a new line.
func foldedTag(tag string) string {
	var out strings.Builder
	in := byte(0) // the quote of the value that is being read
	for i := 0; i < len(tag); {
		c, n := tag[i], 1
		switch {
		case strings.HasPrefix(tag[i:], "{{"):
			n = actionEnd(tag[i:])
			out.WriteString(foldedAction(tag[i : i+n]))
		case isSpace(c):
			n = len(tag[i:]) - len(strings.TrimLeft(tag[i:], spaces))
			if run := tag[i : i+n]; in == 0 || strings.Contains(run, "\n") {
				out.WriteByte(' ')
			} else {
				out.WriteString(run)
			}
		default:
			if in == 0 && (c == '"' || c == '\'') {
				in = c
			} else if in == c {
				in = 0
			}
			out.WriteByte(c)
		}
		i += n
	}
	return out.String()
}

// foldedAction folds the spaces of an action outside its strings.
func foldedAction(action string) string {
	return actionSpaces.ReplaceAllStringFunc(action, func(s string) string {
		if isSpace(s[0]) {
			return " "
		}
		return s
	})
}

// actionSpaces are the strings of an action, and the spaces outside them.
var actionSpaces = regexp.MustCompile("\"(?:[^\"\\\\]|\\\\.)*\"|`[^`]*`|[ \t\r\n]+")
