package kit

import (
	"bytes"
	"net/http"

	"corpulan/core/brief"
	"corpulan/render"
	"corpulan/store"

	"github.com/gin-gonic/gin"
)

// SendTable sends a table as a file: a workbook in the words of who asks, since people open it, and
// what programs read as it always is.
func (s *Kit) SendTable(c *gin.Context, format string, t render.Table, name string) {
	for _, f := range render.TableFormats() {
		if f.Name != format {
			continue
		}
		said := t
		if f.Name == "xlsx" {
			said = t.In(brief.Speech{Words: s.Tongue(c).Words})
		}
		var b bytes.Buffer
		if err := f.Write(&b, said); err != nil {
			s.Fail(c, err)
			return
		}
		Attach(c, t.Name, name, f.Name)
		c.Data(http.StatusOK, f.MediaType, b.Bytes())
		return
	}
	s.Fail(c, store.ErrNotFound)
}
