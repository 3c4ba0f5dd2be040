package people

import (
	"errors"
	"net/http"
	"time"

	"corpulan/account"
	"corpulan/core/message"
	"corpulan/store"
	"corpulan/web/kit"

	"github.com/gin-gonic/gin"
)

// The second factor: asked for at signing in, taken and put off in the account.

func (s *handlers) signInCode(c *gin.Context) {
	b := codeBody{Pending: c.PostForm("pending"), To: ourPath(c.PostForm("to"))}
	token, err := account.FinishSignIn(c.Request.Context(), s.Store, s.Sealer, b.Pending, c.PostForm("code"), askerOf(c), time.Now())
	switch {
	case errors.Is(err, account.ErrCode), errors.Is(err, account.ErrTooSoon):
		b.Wrong = "This code is not right, or was used already."
		if errors.Is(err, account.ErrTooSoon) {
			b.Wrong = "Too many wrong codes. Wait half a minute."
		}
		s.refused(c, "code")
		s.askCode(c, http.StatusUnprocessableEntity, b)
	case errors.Is(err, account.ErrStale), errors.Is(err, account.ErrSealed), errors.Is(err, account.ErrNoSecret), errors.Is(err, store.ErrNotFound):
		s.showSignIn(c, http.StatusUnprocessableEntity, signInBody{To: b.To, Wrong: "That took too long. Sign in once more."})
	case err != nil:
		s.Fail(c, err)
	default:
		s.letIn(c, token, b.To)
	}
}

// offerFactor shows the secret of a second factor to take.
func (s *handlers) offerFactor(c *gin.Context) {
	offer, err := account.OfferFactor(s.Sealer, kit.VisitorOf(c).Person, time.Now())
	if errors.Is(err, account.ErrNoSecret) {
		s.showAccount(c, http.StatusUnprocessableEntity, accountBody{Wrong: "This installation has no secret to keep codes with; whoever runs the program gives it one."})
		return
	}
	if err != nil {
		s.Fail(c, err)
		return
	}
	c.Header("Cache-Control", "no-store")
	s.showAccount(c, http.StatusOK, accountBody{Offer: &offer})
}

// takeFactor keeps a second factor by its first code.
func (s *handlers) takeFactor(c *gin.Context) {
	ctx, v, now := c.Request.Context(), kit.VisitorOf(c), time.Now()
	c.Header("Cache-Control", "no-store")
	code, wrong := c.PostForm("code"), account.Confirm(ctx, s.Store, v.Person, c.PostForm("password"), now)
	if wrong != nil {
		code = "" // the same offer comes back
	}
	codes, again, err := account.TakeFactor(ctx, s.Store, s.Sealer, v, c.PostForm("offer"), code, c.PostForm("old"), now)
	switch {
	case errors.Is(err, account.ErrOldCode):
		s.showAccount(c, http.StatusUnprocessableEntity, accountBody{Offer: &again, Wrong: message.Fault(account.ErrOldCode)})
	case errors.Is(err, account.ErrCode) && errors.Is(wrong, account.ErrSignIn):
		s.showAccount(c, http.StatusUnprocessableEntity, accountBody{Offer: &again, Wrong: "This is not the password you have now. Nothing was changed."})
	case errors.Is(err, account.ErrCode) && errors.Is(wrong, account.ErrTooSoon):
		s.showAccount(c, http.StatusUnprocessableEntity, accountBody{Offer: &again, Wrong: "Too many wrong passwords; wait a moment."})
	case errors.Is(err, account.ErrCode):
		s.showAccount(c, http.StatusUnprocessableEntity, accountBody{Offer: &again, Wrong: "This code is not right. It changes every 30 seconds: look again."})
	case errors.Is(err, account.ErrStale), errors.Is(err, account.ErrSealed), errors.Is(err, account.ErrNoSecret):
		s.showAccount(c, http.StatusUnprocessableEntity, accountBody{Wrong: "That took too long. Begin again."})
	case err != nil:
		s.Fail(c, err)
	default:
		s.showAccount(c, http.StatusOK, accountBody{Codes: codes, Said: "From now on signing in asks for a code. You are signed out everywhere but here."})
	}
}

func (s *handlers) dropFactor(c *gin.Context) {
	err := account.DropFactor(c.Request.Context(), s.Store, s.Sealer, kit.VisitorOf(c), c.PostForm("code"), time.Now())
	switch {
	case errors.Is(err, account.ErrCode), errors.Is(err, account.ErrTooSoon):
		s.showAccount(c, http.StatusUnprocessableEntity, accountBody{Wrong: message.Fault(err)})
	case err != nil:
		s.Fail(c, err)
	default:
		s.showAccount(c, http.StatusOK, accountBody{Said: "Signing in asks for no code any more. You are signed out everywhere but here."})
	}
}
