package publication

import (
	"context"
	"errors"
	"fmt"
	"net/http"
	"net/url"
	"slices"
	"strconv"
	"strings"
	"time"
	"unicode/utf8"

	"corpulan/account"
	"corpulan/core/message"
	"corpulan/gather"
	"corpulan/store"
	"corpulan/study"
	"corpulan/web/kit"

	"github.com/gin-gonic/gin"
)

// What a publication's programs use and are used by: whose services are asked, tokens that open the
// interface for programs, webhooks that are told of what happens. Each can be taken back.

type webhookRow struct {
	store.Webhook
	Last []store.Delivery
}

// Host is where a webhook leads, without what its address may hold.
func (r webhookRow) Host() string { return kit.HostPart(r.Address) }

// swapServices takes the last change of the services back. They are kept sealed, so that what
// stood there is not in the form: only a mark of what its reader was shown.
func (s *handlers) swapServices(c *gin.Context) {
	p, err := s.Scope(c).Publication(c.Request.Context())
	if err == nil && c.PostForm("was") == markOfServices(p.Services) {
		err = s.Commands(c).SwapServices(c.Request.Context(), p.Services)
	} else if err == nil {
		err = store.ErrStale
	}
	switch {
	case errors.Is(err, store.ErrStale):
		s.refuseSetup(c, "services", "Somebody has changed the services since. They are as they made them.")
	case err != nil:
		s.Fail(c, err)
	default:
		s.showSetup(c, http.StatusOK, setupBody{Said: "Taken back.", Back: &setupBack{Part: "services", Path: "services/back"}})
	}
}

func (s *handlers) setServices(c *gin.Context) {
	x := study.Services{Search: strings.TrimSpace(c.PostForm("search")), Suggest: strings.TrimSpace(c.PostForm("suggest")), Keywords: strings.TrimSpace(c.PostForm("keywords"))}
	said := message.Message("These services are asked from now on.")
	switch {
	case c.PostForm("none") != "":
		x, said = study.Services{}, "The installation's services are asked from now on."
	case x == study.Services{}:
		s.refuseSetup(c, "services", "Type the address of a service.")
		return
	}
	err := study.SetServices(c.Request.Context(), s.Scope(c), s.Sealer, kit.PublicationOf(c).ID, x)
	switch {
	case errors.Is(err, study.ErrService), errors.Is(err, account.ErrNoSecret):
		s.refuseSetup(c, "services", message.Fault(err))
	case err != nil:
		s.Fail(c, err)
	default:
		s.showSetup(c, http.StatusOK, setupBody{Said: said, Back: &setupBack{Part: "services", Path: "services/back"}})
	}
}

func (s *handlers) makeToken(c *gin.Context) {
	name := strings.Join(strings.Fields(c.PostForm("name")), " ")
	days, _ := strconv.Atoi(c.PostForm("days"))
	scopes := []string{store.MayRead}
	if c.PostForm("write") != "" {
		scopes = append(scopes, store.MayWrite)
	}
	switch {
	case name == "" || utf8.RuneCountInString(name) > kit.LongestAuthor:
		s.refuseSetup(c, "tokens", message.Of("Say what the token is for, in at most %d characters.", kit.LongestAuthor))
		return
	case days < 0 || days > 3650:
		s.refuseSetup(c, "tokens", "A token lasts between 1 and 3650 days, or 0 for always.")
		return
	}
	token, err := study.MakeToken(c.Request.Context(), s.Scope(c), name, scopes, time.Duration(days)*24*time.Hour)
	switch {
	case errors.Is(err, store.ErrTooMany):
		s.refuseSetup(c, "tokens", message.Of("There are %d tokens; revoke one first.", store.MaxTokens))
	case err != nil:
		s.Fail(c, err)
	default:
		s.showSetup(c, http.StatusOK, setupBody{Made: token, MadeFor: message.Of("The token for %s", name)})
	}
}

func (s *handlers) revokeToken(c *gin.Context) {
	s.removed(c, c.Param("token_id"), "tokens", s.Commands(c).RevokeToken)
}

func (s *handlers) bringTokenBack(c *gin.Context) {
	s.removed(c, c.Param("token_id"), "", s.Commands(c).BringTokenBack)
}

// allowedHook tells an address that a webhook may have.
func allowedHook(address string) bool {
	u, err := url.Parse(address)
	return err == nil && u.Host != "" && (u.Scheme == "https" || u.Scheme == "http") && len(address) <= 2000
}

func isInner(address string) bool {
	u, err := url.Parse(address)
	return err == nil && gather.IsInner(u.Hostname())
}

func (s *handlers) makeWebhook(c *gin.Context) {
	address, events := strings.TrimSpace(c.PostForm("address")), c.PostFormArray("event")
	events = slices.DeleteFunc(events, func(e string) bool { return !slices.Contains(store.Events(), e) })
	switch {
	case !allowedHook(address):
		s.refuseSetup(c, "webhooks", "An address begins with https:// or http://.")
		return
	case isInner(address):
		s.refuseSetup(c, "webhooks", "This address leads into the machine or the network that the program runs in; nothing is sent there.")
		return
	case len(events) == 0:
		s.refuseSetup(c, "webhooks", "Choose what it is to be told of.")
		return
	}
	secret, err := study.MakeWebhook(c.Request.Context(), s.Scope(c), s.Sealer, address, events)
	switch {
	case errors.Is(err, study.ErrService), errors.Is(err, account.ErrNoSecret):
		s.refuseSetup(c, "webhooks", message.Fault(err))
	case errors.Is(err, store.ErrTooMany):
		s.refuseSetup(c, "webhooks", message.Of("There are %d webhooks; remove one first.", store.MaxWebhooks))
	case err != nil:
		s.Fail(c, err)
	default:
		s.showSetup(c, http.StatusOK, setupBody{Made: secret, MadeFor: message.Of("The secret that signs what %s is told", kit.HostPart(address))})
	}
}

func (s *handlers) removeWebhook(c *gin.Context) {
	s.removed(c, c.Param("webhook"), "webhooks", s.Commands(c).RemoveWebhook)
}

func (s *handlers) bringWebhookBack(c *gin.Context) {
	s.removed(c, c.Param("webhook"), "", s.Commands(c).BringWebhookBack)
}

// removed answers the taking away of one thing of a part, which can be brought back, or its coming
// back where it is of none.
func (s *handlers) removed(c *gin.Context, number, part string, remove func(context.Context, int64) error) {
	id, err := strconv.ParseInt(number, 10, 64)
	if err != nil {
		err = store.ErrNotFound
	} else {
		err = remove(c.Request.Context(), id)
	}
	if err != nil {
		s.Fail(c, err)
		return
	}
	to := "/publication/set-up"
	if part != "" {
		to += fmt.Sprintf("?%s=%d", part, id)
	}
	c.Redirect(http.StatusSeeOther, to)
}
