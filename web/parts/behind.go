package parts

import (
	"net/http"

	"corpulan/core/message"
	"corpulan/web/kit"

	"github.com/gin-gonic/gin"
)

// Behind is what one figure of one page was counted from, place by place.
type Behind struct {
	Title string
	Of    message.Message // which figure of which page
	About message.Message // what the figure is made of, where that wants saying
	Lines []BehindLine
	More  int // places that are not listed
}

// BehindLine is one place.
type BehindLine struct {
	Figure string          // what it adds
	What   message.Message // what it is
	Text   string          // of the page
	Href   string          // where it can be read; empty for nowhere
}

// mostBehind is how many places are listed of one figure. Our own.
const mostBehind = 300

// ShowBehind answers with the places: in the pane, or as a page of their own.
func ShowBehind(k *kit.Kit, c *gin.Context, b Behind) {
	if n := len(b.Lines); n > mostBehind {
		b.Lines, b.More = b.Lines[:mostBehind], n-mostBehind
	}
	if kit.FromHTMX(c) {
		k.Fragment(c, http.StatusOK, "behind", b)
		return
	}
	k.Page(c, http.StatusOK, "behind-page", k.InStudy(c, "behind", b))
}
