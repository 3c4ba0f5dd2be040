package brief

import (
	"errors"
	"net/http"
	"strings"

	"corpulan/core/brief"
	"corpulan/core/language"
	"corpulan/core/message"
	"corpulan/core/text"
	"corpulan/render"
	"corpulan/study"
	"corpulan/web/kit"
	"corpulan/web/parts"

	"github.com/gin-gonic/gin"
)

// sectionNode is a section of the outline with those below it.
type sectionNode struct {
	render.Block
	Below []sectionNode
}

// sectionTree sets sections below those before them that are of a higher level.
func sectionTree(blocks []render.Block) []sectionNode {
	var list []sectionNode
	for i := 0; i < len(blocks); {
		if blocks[i].Form != render.SectionForm {
			i++
			continue
		}
		end := i + 1
		for end < len(blocks) && blocks[end].Form == render.SectionForm && blocks[end].Level > blocks[i].Level {
			end++
		}
		list = append(list, sectionNode{blocks[i], sectionTree(blocks[i+1 : end])})
		i = end
	}
	return list
}

// sectionView is a section as a template shows it.
type sectionView struct {
	An document
	S  sectionNode
}

// ID is what the section is called in addresses of the page.
func (v sectionView) ID() string { return parts.LineID("theme " + v.S.Key) }

// HeadingTyped tells whether a person has worded the heading.
func (v sectionView) HeadingTyped() bool {
	return v.An.Choices.TypedIn(brief.HeadingPrefix+v.S.Key) != nil
}

// Below are the sections below this one.
func (v sectionView) Below() []sectionView { return sectionViews(v.An, v.S.Below) }

func sectionViews(an document, nodes []sectionNode) []sectionView {
	list := make([]sectionView, len(nodes))
	for i, n := range nodes {
		list[i] = sectionView{an, n}
	}
	return list
}

// Sections are those of the outline, by what stands below what.
func (an document) Sections(blocks []render.Block) []sectionView {
	return sectionViews(an, sectionTree(blocks))
}

// ByHand tells whether the outline is the person's.
func (an document) ByHand() bool { return an.Choices.Outline != nil }

// sectionForms are the forms that edit a section, asked for when they are wanted: an outline
// may have hundreds.
func (s *handlers) sectionForms(c *gin.Context) {
	an, err := s.Findings(c)
	if err != nil {
		s.Fail(c, err)
		return
	}
	itself, _ := render.Place(an.Brief.Saying(an.In))
	for _, k := range itself {
		if k.Form == render.SectionForm && k.Key == c.Query("key") {
			s.Fragment(c, http.StatusOK, "outline-edit", sectionView{document{an}, sectionNode{Block: k}})
			return
		}
	}
	s.Done(c, study.Done{}, brief.ErrNoSection)
}

// bringRows is how many questions and terms are offered while one types.
const bringRows = 8

// bringBody is what may be put under a section.
type bringBody struct {
	StudyID int64
	Query   string
	Rows    []brief.Mark
}

// bringable finds, as one types, the questions and terms that can be put under a section.
func (s *handlers) bringable(c *gin.Context) {
	an, err := s.Findings(c)
	if err != nil {
		s.Fail(c, err)
		return
	}
	body := bringBody{StudyID: an.Study.ID, Query: strings.TrimSpace(c.Query("value"))}
	lang := language.For(an.Evidence.Language)
	folded, stems := text.Fold(body.Query), lang.ContentStems(body.Query)
	for _, m := range study.Bringable(an.Evidence, an.Brief) {
		if body.Query == "" || len(body.Rows) == bringRows {
			break
		}
		if strings.Contains(text.Fold(m.Text), folded) || hasAll(lang.ContentStems(m.Text), stems) {
			body.Rows = append(body.Rows, m)
		}
	}
	s.Fragment(c, http.StatusOK, "outline-bring", body)
}

// maxSections is how many sections an outline by hand may have. Our own.
const maxSections = 500

// editOutline makes one edit of the outline.
func (s *handlers) editOutline(c *gin.Context) {
	st, ctx := kit.StudyOf(c), c.Request.Context()
	an, err := s.Findings(c)
	if err != nil {
		s.Fail(c, err)
		return
	}
	key, value := c.PostForm("key"), strings.Join(strings.Fields(c.PostForm("value")), " ")
	heading, inOutline := sectionHeading(an.Brief.Outline, key)
	does := c.PostForm("do")
	refuse := func(what message.Message) { s.Say(c, http.StatusUnprocessableEntity, what) }
	switch {
	case !inOutline && does != "add" && does != "follow":
		s.Done(c, study.Done{}, brief.ErrNoSection)
		return
	case (does == "add" || does == "rename") && !kit.Sayable(value, an.Evidence.Language):
		refuse(message.Of("A heading has letters, and at most %d characters.", kit.LongestOwn))
		return
	case does == "add" && len(brief.LinesOf(an.Brief.Outline)) >= maxSections:
		refuse(message.Of("An outline has at most %d sections.", maxSections))
		return
	}
	commands := s.Commands(c)
	var done study.Done
	switch does {
	case "add":
		done, err = commands.AddSection(ctx, st.ID, value, key)
	case "rename":
		done, err = commands.Rename(ctx, st.ID, key, heading, &value)
	case "restore":
		done, err = commands.Rename(ctx, st.ID, key, heading, nil)
	case "words":
		words := &value
		if value == "" {
			words = nil
		} else if lower, upper, ok := brief.LengthIn(value); !ok || lower != upper {
			refuse("The length of a section is one number of words, such as 150.")
			return
		}
		done, err = commands.SetWords(ctx, st.ID, key, heading, words)
	case "fold", "unfold":
		done, err = commands.FoldSection(ctx, st.ID, key, heading, does == "fold")
	case "put":
		done, err = commands.PutSection(ctx, st.ID, key, heading, c.PostForm("parent"), c.PostForm("before"))
	case "bring":
		kind, item, _ := strings.Cut(c.PostForm("item"), " ")
		if done, err = commands.Bring(ctx, st.ID, key, heading, brief.Kind(kind), item, value); errors.Is(err, study.ErrNothingSo) {
			refuse("No question and no term is called so; add it to the brief first, then bring it here.")
			return
		}
	case "follow":
		done, err = commands.Follow(ctx, st.ID)
	case string(brief.Up), string(brief.Down), string(brief.In), string(brief.Out):
		done, err = commands.MoveSection(ctx, st.ID, key, heading, brief.Way(does))
	default:
		refuse("This cannot be done to an outline; reload the page and try again.")
		return
	}
	s.Done(c, done, err)
}

// movePick puts a thing that the page lists before or behind its neighbour.
func (s *handlers) movePick(c *gin.Context) {
	by := map[string]int{string(brief.Up): -1, string(brief.Down): 1}[c.PostForm("do")]
	if by == 0 {
		s.Say(c, http.StatusUnprocessableEntity, "This cannot be done to a list; reload the page and try again.")
		return
	}
	done, err := s.Commands(c).MovePick(c.Request.Context(), kit.StudyOf(c).ID, c.PostForm("key"), by)
	s.Done(c, done, err)
}

// sectionHeading is the heading of a section by its key.
func sectionHeading(outline []brief.Section, key string) (heading string, ok bool) {
	for _, x := range outline {
		if x.Key == key {
			return x.Heading, true
		}
		if heading, ok = sectionHeading(x.Children, key); ok {
			return heading, true
		}
	}
	return "", false
}
