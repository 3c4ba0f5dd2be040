package web

import (
	"corpulan/study"

	"github.com/gin-gonic/gin"
)

// analysis is a study as it now is, with what the places show of it.
type analysis struct{ *study.Analysis }

// analyse is the study of a request as it now is. It is shared, and not for changing.
func (s *Server) analyse(c *gin.Context) (*analysis, error) {
	an, err := s.analyst.Analyse(c.Request.Context(), s.scope(c), studyOf(c))
	if err != nil {
		return nil, err
	}
	return &analysis{an}, nil
}
