package web

import (
	"corpulan/core/demand"
	"corpulan/store"
	"corpulan/study"
	"corpulan/words"

	"github.com/gin-gonic/gin"
)

// analysis is a study as it now is, with what the places show of it.
type analysis struct {
	*study.Analysis
	Figures map[string]demand.Keyword // what lists know of terms and questions, by their keys; nil where nobody asked, or no list is there

	says store.Settings // of its publication
	in   *words.Words   // of who looks
}

// StageName is what the publication calls a stage.
func (an *analysis) StageName(stage string) string { return an.says.StageName(stage) }

// analyse is the study of a request as it now is. It is shared, and not for changing.
func (s *Server) analyse(c *gin.Context) (*analysis, error) {
	an, err := s.analyst.Analyse(c.Request.Context(), s.scope(c), studyOf(c))
	return s.analysisOf(c, an, err)
}

// findings is analyse without the pages of the study.
func (s *Server) findings(c *gin.Context) (*analysis, error) {
	an, err := s.analyst.Findings(c.Request.Context(), s.scope(c), studyOf(c))
	return s.analysisOf(c, an, err)
}

func (s *Server) analysisOf(c *gin.Context, an *study.Analysis, err error) (*analysis, error) {
	if err != nil {
		return nil, err
	}
	return &analysis{Analysis: an, says: publicationOf(c).Settings.Data(), in: s.views.of(c).Words}, nil
}

// withFigures adds what lists of keywords know of the terms and questions.
func (s *Server) withFigures(c *gin.Context, an *analysis) (err error) {
	an.Figures, err = study.FiguresFor(c.Request.Context(), s.scope(c), an.Study, an.Evidence)
	return err
}
