package brief

import (
	"fmt"
	"net/http"
	"slices"
	"strings"
	"unicode/utf8"

	"corpulan/core/brief"
	"corpulan/core/message"
	"corpulan/web/kit"

	"github.com/gin-gonic/gin"
)

// maxOwnParts is how many parts of their own a person may add. Our own.
const maxOwnParts = 30

// editParts hides, shows, moves, adds or renames parts of the document.
func (s *handlers) editParts(c *gin.Context) {
	an, err := s.Findings(c)
	if err != nil {
		s.Fail(c, err)
		return
	}
	name, title := c.PostForm("part"), strings.Join(strings.Fields(c.PostForm("title")), " ")
	parts := slices.Clone(an.Brief.Parts)
	at := slices.IndexFunc(parts, func(p brief.Part) bool { return p.Name == name })
	does := c.PostForm("do")
	if at < 0 && does != "add" {
		s.Say(c, http.StatusUnprocessableEntity, "The brief has no such part; reload the page and try again.")
		return
	}
	said := message.Message("")
	fields := map[string]*string{}
	switch does {
	case "hide", "show":
		parts[at].Hidden = does == "hide"
		said = message.Of(map[bool]message.Format{true: "Hidden: %v", false: "Shown: %v"}[parts[at].Hidden], titleOf(parts[at]))
	case "up", "down":
		to := beside(parts, at, does == "up")
		parts[at], parts[to] = parts[to], parts[at]
		said = message.Of("Moved %v: %v", message.Message(does), titleOf(parts[to]))
	case "remove":
		if !parts[at].Own {
			s.Say(c, http.StatusUnprocessableEntity, "Only parts of your own can be removed; this one can be hidden.")
			return
		}
		said = message.Of("Removed: %s", parts[at].Title)
		number := strings.TrimPrefix(name, brief.OwnPrefix)
		fields[brief.PartPrefix+number], fields[brief.PartTitlePrefix+number] = nil, nil
		parts = slices.Delete(parts, at, at+1)
	case "add":
		own := slices.DeleteFunc(slices.Clone(parts), func(p brief.Part) bool { return !p.Own })
		switch {
		case title == "" || utf8.RuneCountInString(title) > kit.LongestOwn:
			s.Say(c, http.StatusUnprocessableEntity, message.Of("A part has a title of at most %d characters.", kit.LongestOwn))
			return
		case len(own) >= maxOwnParts:
			s.Say(c, http.StatusUnprocessableEntity, message.Of("At most %d parts of your own fit into a brief.", maxOwnParts))
			return
		}
		number := 1
		for slices.ContainsFunc(own, func(p brief.Part) bool { return p.Name == fmt.Sprint(brief.OwnPrefix, number) }) {
			number++
		}
		fields[fmt.Sprint(brief.PartTitlePrefix, number)] = &title
		last := max(len(parts)-1, 0) // before the pages it was made from
		parts = slices.Insert(parts, last, brief.Part{Name: fmt.Sprint(brief.OwnPrefix, number), Title: title, Own: true})
		said = message.Of("Added: %s", title)
	default:
		s.Say(c, http.StatusUnprocessableEntity, "This cannot be done to a part; reload the page and try again.")
		return
	}
	text := brief.PartsText(parts)
	fields[brief.FieldParts] = &text
	done, err := s.Commands(c).SetParts(c.Request.Context(), kit.StudyOf(c).ID, said, fields)
	s.Done(c, done, err)
}

// beside is the number of the part shown before or behind one; its own where there is none.
func beside(parts []brief.Part, at int, before bool) int {
	step := 1
	if before {
		step = -1
	}
	for to := at + step; to >= 0 && to < len(parts); to += step {
		if !parts[to].Hidden {
			return to
		}
	}
	return at
}

// useTemplate makes the brief one of a kind of page.
func (s *handlers) useTemplate(c *gin.Context) {
	an, err := s.Findings(c)
	if err != nil {
		s.Fail(c, err)
		return
	}
	all := document{an}.Templates()
	i := slices.IndexFunc(all, func(t brief.Template) bool { return t.Key == c.PostForm("template") })
	if i < 0 {
		s.Say(c, http.StatusUnprocessableEntity, "There is no such kind of page any more; reload the page and try again.")
		return
	}
	done, err := s.Commands(c).UseTemplate(c.Request.Context(), kit.StudyOf(c).ID, all[i].In(an.Setting.Words))
	s.Done(c, done, err)
}

// titleOf is what a part is called: by a person, or by the program.
func titleOf(p brief.Part) message.Message {
	if p.Own {
		return message.Text(p.Title)
	}
	return message.Message(p.Title)
}
