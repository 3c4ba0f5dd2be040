package kit

import (
	"corpulan/analysis"
	"corpulan/core/demand"
	"corpulan/store"
	"corpulan/words"

	"github.com/gin-gonic/gin"
)

// Analysis is a study as it now is, with what the places show of it.
type Analysis struct {
	*analysis.Analysis
	Figures map[string]demand.Keyword // what lists know of terms and questions, by their keys; nil where nobody asked, or no list is there

	says store.Settings // of its publication
	In   *words.Words   // of who looks
}

// StageName is what the publication calls a stage.
func (an *Analysis) StageName(stage string) string { return an.says.StageName(stage) }

// OutlineSize is how many sections the brief has at the top.
func (an *Analysis) OutlineSize() (n int) {
	for i := range an.Brief.Outline {
		if !an.Brief.Outline[i].Folded {
			n++
		}
	}
	return n
}

// Analyse is the study of a request as it now is. It is shared, and not for changing.
func (s *Kit) Analyse(c *gin.Context) (*Analysis, error) {
	an, err := s.Analyst.Analyse(c.Request.Context(), s.Scope(c), StudyOf(c))
	return s.analysisOf(c, an, err)
}

// Findings is analyse without the pages of the study.
func (s *Kit) Findings(c *gin.Context) (*Analysis, error) {
	an, err := s.Analyst.Findings(c.Request.Context(), s.Scope(c), StudyOf(c))
	return s.analysisOf(c, an, err)
}

// First is Findings, but of the terms alone where the rest takes long.
func (s *Kit) First(c *gin.Context) (*Analysis, error) {
	an, err := s.Analyst.First(c.Request.Context(), s.Scope(c), StudyOf(c))
	return s.analysisOf(c, an, err)
}

func (s *Kit) analysisOf(c *gin.Context, an *analysis.Analysis, err error) (*Analysis, error) {
	if err != nil {
		return nil, err
	}
	return &Analysis{Analysis: an, says: PublicationOf(c).Settings.Data(), In: s.Tongue(c).Words}, nil
}

// WithFigures adds what lists of keywords know of the terms and questions.
func (s *Kit) WithFigures(c *gin.Context, an *Analysis) (err error) {
	an.Figures, err = analysis.FiguresFor(c.Request.Context(), s.Scope(c), an.Study, an.Evidence)
	return err
}
