package publication

import (
	"crypto/sha256"
	"encoding/hex"
	"errors"
	"fmt"
	"net/http"
	"slices"
	"strconv"
	"strings"
	"unicode/utf8"

	"corpulan/core/address"
	"corpulan/core/brief"
	"corpulan/core/fit"
	"corpulan/core/language"
	"corpulan/core/message"
	"corpulan/store"
	"corpulan/study"
	"corpulan/web/kit"

	"github.com/gin-gonic/gin"
)

// How a publication is set up, by its owners: what studies begin with, what stages are called,
// whose services are asked, and what programs may do.

type setupBody struct {
	Back      *setupBack // what takes the last edit back
	Says      store.Settings
	Stages    []kit.Option // what each is called by itself, and by the publication
	Seals     bool
	Hosts     []kit.Option // of its own services: which, and where
	Sizes     store.CaptureSizes
	Unread    bool // they were sealed with another secret
	Tokens    []store.Token
	Webhooks  []webhookRow
	Events    []string
	Made      string // a token or a secret, shown once
	MadeFor   message.Message
	Said      message.Message
	Wrong     message.Message
	WrongIn   string            // which part
	Typed     map[string]string // there
	API       string            // where the interface for programs is
	services  []byte            // as they are kept
	Languages []string
}

// Of is what was typed in a part that was refused, or else what is kept.
func (b setupBody) Of(part, name, kept string) string {
	if b.WrongIn == part {
		return b.Typed[name]
	}
	return kept
}

// Megabytes is a number of bytes as people read it.
func (b setupBody) Megabytes(n int64) float64 { return float64(n) / 1e6 }

// setup shows all of it, with the way back where something was just taken away.
func (s *handlers) setup(c *gin.Context) {
	var b setupBody
	for _, part := range []string{"tokens", "webhooks"} {
		if id, err := strconv.ParseInt(c.Query(part), 10, 64); err == nil {
			b.Said, b.Back = map[string]message.Message{"tokens": "The token is revoked.", "webhooks": "The webhook is removed."}[part], &setupBack{Part: part, Path: fmt.Sprintf("%s/%d/back", part, id)}
		}
	}
	s.showSetup(c, http.StatusOK, b)
}

func (s *handlers) showSetup(c *gin.Context, status int, b setupBody) {
	ctx, sc := c.Request.Context(), s.Scope(c)
	p, err := sc.Publication(ctx)
	if err != nil {
		s.Fail(c, err)
		return
	}
	b.Says, b.Seals, b.Events, b.API, b.Languages = p.Settings.Data(), s.Sealer != nil, store.Events(), kit.Origin(c.Request)+kit.ApiBase, language.Codes()
	b.Says = withUsual(b.Says)
	for _, stage := range brief.Stages() {
		b.Stages = append(b.Stages, kit.Option{Value: stage, Name: b.Says.Stages[stage]})
	}
	own, err := study.ServicesOf(s.Sealer, p)
	b.Unread, b.services = err != nil, p.Services
	if own != nil {
		for _, x := range []kit.Option{{Value: "Results", Name: own.Search}, {Value: "Suggestions", Name: own.Suggest}, {Value: "Keywords", Name: own.Keywords}} {
			if x.Name != "" {
				b.Hosts = append(b.Hosts, kit.Option{Value: x.Value, Name: kit.HostPart(strings.NewReplacer("{", "", "}", "").Replace(x.Name))})
			}
		}
	}
	if b.Tokens, err = sc.Tokens(ctx); err != nil {
		s.Fail(c, err)
		return
	}
	if b.Sizes, err = sc.CaptureSizes(ctx); err != nil {
		s.Fail(c, err)
		return
	}
	hooks, last, err := sc.Webhooks(ctx, 3)
	if err != nil {
		s.Fail(c, err)
		return
	}
	for _, h := range hooks {
		b.Webhooks = append(b.Webhooks, webhookRow{h, last[h.ID]})
	}
	if b.Made != "" {
		c.Header("Cache-Control", "no-store")
	}
	s.Page(c, status, "setup", s.InPublication(c, "publication", "Set-up", b))
}

// refuseSetup says what is wrong in a part, and keeps what was typed there.
func (s *handlers) refuseSetup(c *gin.Context, part string, wrong message.Message) {
	typed := map[string]string{}
	for name, values := range c.Request.PostForm {
		typed[name] = values[0]
	}
	s.showSetup(c, http.StatusUnprocessableEntity, setupBody{Wrong: wrong, WrongIn: part, Typed: typed})
}

func (s *handlers) setMarket(c *gin.Context) {
	m := store.Market{Language: c.PostForm("language"), Country: strings.ToLower(strings.TrimSpace(c.PostForm("country")))}
	m.Depth, _ = strconv.Atoi(c.PostForm("depth"))
	in := c.PostForm("brief_in")
	aim, ok := aimTyped(c.DefaultPostForm("aim", strconv.Itoa(fit.Aim)))
	switch {
	case !slices.Contains(language.Codes(), m.Language):
		s.refuseSetup(c, "market", "This language is not read yet.")
		return
	case !study.IsCountry(m.Country):
		s.refuseSetup(c, "market", "Give the country as two letters, for example gb.")
		return
	case m.Depth < 1 || m.Depth > 100:
		s.refuseSetup(c, "market", "Between 1 and 100 results can be gathered.")
		return
	case in != "" && !slices.Contains(language.Codes(), in):
		s.refuseSetup(c, "market", "Briefs are not proposed in this language yet.")
		return
	case !ok:
		s.refuseSetup(c, "market", "Drafts are asked for a fit between 1 and 100.")
		return
	}
	s.editSetup(c, "market", "New studies begin so.", func(x *store.Settings) {
		x.Market, x.Aim, x.BriefIn, x.Dossier = m, aim, in, c.PostForm("dossier") != ""
	})
}

// longestStage is how many characters the name of a stage has at most.
const longestStage = 30

func (s *handlers) setStages(c *gin.Context) {
	names := map[string]string{}
	for i, stage := range brief.Stages() {
		name := strings.Join(strings.Fields(c.PostForm(fmt.Sprintf("stage%d", i))), " ")
		if utf8.RuneCountInString(name) > longestStage {
			s.refuseSetup(c, "stages", message.Of("A stage has a name of at most %d characters.", longestStage))
			return
		}
		if name != "" && name != stage {
			names[stage] = name
		}
	}
	s.editSetup(c, "stages", "The stages are called so.", func(x *store.Settings) { x.Stages = names })
}

// maxAsideHosts is how many hosts can be set aside for good. Our own.
const maxAsideHosts = 1000

// setAside says whose pages are no competitors, one host a line.
func (s *handlers) setAside(c *gin.Context) {
	var hosts []string
	for line := range strings.Lines(c.PostForm("hosts")) {
		line = strings.ToLower(strings.TrimSpace(line))
		if line == "" {
			continue
		}
		typed := line
		if !strings.Contains(line, "://") {
			line = "https://" + line
		}
		host := strings.TrimPrefix(address.Parse(line).Authority(), "www.")
		if host == "" || !strings.Contains(host, ".") || len(host) > 253 {
			s.refuseSetup(c, "aside", message.Of("“%s” is no site: write one a line, such as example.org.", kit.Shorten(typed, 60)))
			return
		}
		if !slices.Contains(hosts, host) {
			hosts = append(hosts, host)
		}
	}
	if len(hosts) > maxAsideHosts {
		s.refuseSetup(c, "aside", message.Of("At most %d sites can be set aside for good.", maxAsideHosts))
		return
	}
	s.editSetup(c, "aside", "Pages of these sites are set aside from now on.", func(x *store.Settings) { x.Aside = hosts })
}

// setupBack is a form that takes an edit of a part of the set-up back: what stood there before.
type setupBack struct {
	Part   string
	Path   string // below the set-up
	Fields []kit.Option
}

// errChanged says that somebody else has changed what a form was about.
var errChanged = errors.New("changed by somebody else")

// editSetup changes a part of the set-up. A form tells what it showed: where something else stands
// there by now nothing is changed, and what was typed is shown beside a word about it.
func (s *handlers) editSetup(c *gin.Context, part string, said message.Message, change func(*store.Settings)) {
	var before []kit.Option
	after, err := s.Commands(c).SetUp(c.Request.Context(), func(x *store.Settings) error {
		before = partOf(part, *x)
		if was, told := c.GetPostForm("was"); told && was != markOf(before) {
			return errChanged
		}
		change(x)
		return nil
	})
	if errors.Is(err, errChanged) {
		s.refuseSetup(c, part, "Somebody has changed this meanwhile. Nothing of yours is kept yet: what you typed is below, and pressing Keep again puts it in the place of theirs.")
		return
	}
	if err != nil {
		s.Fail(c, err)
		return
	}
	b := setupBody{Said: said}
	if markOf(before) != markOf(partOf(part, after.Settings.Data())) {
		b.Back = &setupBack{part, part, before}
	}
	if c.PostForm("back") != "" {
		b.Said = "Taken back."
	}
	s.showSetup(c, http.StatusOK, b)
}

// partOf is a part of the set-up as its form has it.
func partOf(part string, x store.Settings) (fields []kit.Option) {
	switch part {
	case "market":
		x = withUsual(x)
		return []kit.Option{{Value: "language", Name: x.Market.Language}, {Value: "country", Name: x.Market.Country}, {Value: "depth", Name: strconv.Itoa(x.Market.Depth)}, {Value: "aim", Name: aimSet(x.Aim)}, {Value: "brief_in", Name: x.BriefIn}, {Value: "dossier", Name: map[bool]string{true: "yes"}[x.Dossier]}}
	case "stages":
		for i, stage := range brief.Stages() {
			fields = append(fields, kit.Option{Value: fmt.Sprintf("stage%d", i), Name: x.Stages[stage]})
		}
	case "aside":
		fields = []kit.Option{{Value: "hosts", Name: strings.Join(x.Aside, "\n")}}
	}
	return fields
}

// withUsual fills in what a publication begins with.
func withUsual(x store.Settings) store.Settings {
	if x.Market.Language == "" {
		x.Market = store.Market{Language: "en", Country: "gb", Depth: 20}
	}
	if x.Aim == 0 {
		x.Aim = fit.Aim
	}
	return x
}

// aimSet is the aim as the form has it: empty where the field sets it.
func aimSet(aim int) string {
	if aim == fit.AimByField {
		return ""
	}
	return strconv.Itoa(aim)
}

// aimTyped is the aim that a form gives: from 1 to 100, or empty for the field's.
func aimTyped(s string) (aim int, ok bool) {
	if s = strings.TrimSpace(s); s == "" {
		return fit.AimByField, true
	}
	aim, err := strconv.Atoi(s)
	return aim, err == nil && aim >= 1 && aim <= 100
}

// AimSet is described at aimSet.
func (b setupBody) AimSet() string { return aimSet(b.Says.Aim) }

// markOf tells one state of a form from another.
func markOf(fields []kit.Option) string {
	var all strings.Builder
	for _, f := range fields {
		fmt.Fprintf(&all, "%q=%q ", f.Value, f.Name)
	}
	sum := sha256.Sum256([]byte(all.String()))
	return hex.EncodeToString(sum[:8])
}

// Mark is what stands in a part of the set-up now.
func (b setupBody) Mark(part string) string {
	if part == "services" {
		return markOfServices(b.services)
	}
	return markOf(partOf(part, b.Says))
}

func markOfServices(sealed []byte) string {
	return markOf([]kit.Option{{Value: "services", Name: string(sealed)}})
}
