package api

import (
	_ "embed"
	"net/http"

	"corpulan/cache"
	"corpulan/web/kit"

	"github.com/gin-gonic/gin"
	"golang.org/x/time/rate"
)

// handlers answer the requests of the place.
type handlers struct {
	*kit.Kit
	limits *cache.Cache[int64, *rate.Limiter] // of tokens
}

// Routes hangs the place up.
func Routes(k *kit.Kit) error {
	s := &handlers{Kit: k}
	var err error
	if s.limits, err = cache.New(cache.Options[int64, *rate.Limiter]{MaximumSize: maxLimits}); err != nil {
		return err
	}
	s.Add(kit.Place{Name: "api", Under: kit.ApiBase, Missing: missing, Takes: map[string]int64{kit.ApiBase + "/studies/:study/pages": kit.LargestHandIn, kit.ApiBase + "/studies/:study/check": kit.LargestText}})
	r := s.Public
	r.GET(kit.ApiBase+"/openapi.json", func(c *gin.Context) { c.Data(http.StatusOK, "application/vnd.oai.openapi+json;version=3.1", openAPI) })
	r.GET(kit.ApiBase+"/schema/:name", s.apiSchema)
	g := r.Group(kit.ApiBase, s.byToken)
	g.GET("/studies", s.apiStudies)
	g.POST("/studies", s.mayWrite, s.apiBegin)
	st := g.Group("/studies/:study", s.apiStudy)
	st.GET("", s.apiShow)
	st.GET("/pages", s.apiPages)
	st.POST("/pages", s.mayWrite, s.apiHandIn)
	st.GET("/evidence", s.apiEvidence)
	st.GET("/brief", s.apiBrief)
	st.POST("/check", s.apiCheck)
	return nil
}
