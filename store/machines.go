package store

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"time"

	"corpulan/core/message"

	"gorm.io/gorm"
)

// What programs use: tokens that open the HTTP interface, and webhooks that are told of what
// happens. An event is written down in the transaction that makes it happen (an outbox), and
// delivered from there, so that none is lost and none told that was taken back.

// Token opens the HTTP interface of one publication. What the program keeps is not here, but
// its digest.
type Token struct {
	ID            int64
	PublicationID int64
	Digest        []byte // SHA-256
	Name          string
	Scopes        JSONSlice[string]
	MadeBy        *int64
	MadeAt        time.Time
	ExpiresAt     *time.Time
	UsedAt        *time.Time
	RevokedAt     *time.Time
}

// The scopes of tokens.
const (
	MayRead  = "read"  // studies, evidence, briefs, drafts' fit
	MayWrite = "write" // begin studies, hand in pages
)

// May tells whether a token has a scope.
func (t Token) May(scope string) bool {
	for _, s := range t.Scopes {
		if s == scope {
			return true
		}
	}
	return false
}

// Bounds of what a publication keeps for programs. Our own.
const (
	MaxTokens   = 100
	MaxWebhooks = 20
)

// CreateToken keeps a new token; ErrTooMany where there are MaxTokens open ones.
func (s Scope) CreateToken(ctx context.Context, t *Token) error {
	var n int64
	if err := s.db(ctx).Model(&Token{}).Where("revoked_at is null").Count(&n).Error; err != nil {
		return err
	}
	if n >= MaxTokens {
		return ErrTooMany
	}
	t.PublicationID, t.MadeAt, t.MadeBy = s.publication, time.Now(), s.who()
	return s.store.db.WithContext(ctx).Create(t).Error
}

// Tokens lists the publication's tokens that are not revoked, the newest first.
func (s Scope) Tokens(ctx context.Context) ([]Token, error) {
	return find[Token](s.db(ctx).Where("revoked_at is null").Order("id desc"))
}

// Regret is for how long what was revoked or removed can be brought back. Our own.
const Regret = time.Hour

// BringTokenBack opens a token again that was revoked a moment ago.
func (s Scope) BringTokenBack(ctx context.Context, id int64) error {
	return affected(s.db(ctx).Model(&Token{}).Where("id = ? and revoked_at > ?", id, time.Now().Add(-Regret)).Update("revoked_at", nil))
}

// RevokeToken shuts a token.
func (s Scope) RevokeToken(ctx context.Context, id int64) error {
	return affected(s.db(ctx).Model(&Token{}).Where("id = ? and revoked_at is null", id).Update("revoked_at", time.Now()))
}

// TokenBy finds an open token by its digest, of a publication that is not archived, and says
// that it was used.
func (s *Store) TokenBy(ctx context.Context, digest []byte) (Token, Publication, error) {
	var t Token
	var p Publication
	err := found(s.db.WithContext(ctx).Where("digest = ? and revoked_at is null and (expires_at is null or expires_at > now())", digest).Take(&t).Error)
	if err == nil {
		err = found(s.db.WithContext(ctx).Where("archived_at is null").Take(&p, t.PublicationID).Error)
	}
	if err == nil && (t.UsedAt == nil || time.Since(*t.UsedAt) > time.Minute) {
		err = s.db.WithContext(ctx).Model(&Token{}).Where("id = ?", t.ID).Update("used_at", time.Now()).Error
	}
	return t, p, err
}

// Webhook is an address that is told of what happens in a publication.
type Webhook struct {
	ID            int64
	PublicationID int64
	Address       string
	Secret        []byte // sealed
	Events        JSONSlice[string]
	MadeBy        *int64
	MadeAt        time.Time
	RemovedAt     *time.Time
}

// The events that webhooks are told of.
const (
	EventGathered = "gathering.ended"
	EventStage    = "brief.stage"
	EventRemark   = "remark.made"
)

// Events lists them.
func Events() []string { return []string{EventGathered, EventStage, EventRemark} }

// Delivery is one event for one webhook.
type Delivery struct {
	ID            int64
	PublicationID int64
	WebhookID     int64
	Event         string
	Body          JSON
	MadeAt        time.Time
	DeliveredAt   *time.Time
	Attempts      int
	Status        int // of the last answer; 0 for none
	Problem       message.Kept
	QueuedAt      *time.Time
}

// CreateWebhook keeps a new webhook; ErrTooMany where there are MaxWebhooks.
func (s Scope) CreateWebhook(ctx context.Context, w *Webhook) error {
	var n int64
	if err := s.db(ctx).Model(&Webhook{}).Where("removed_at is null").Count(&n).Error; err != nil {
		return err
	}
	if n >= MaxWebhooks {
		return ErrTooMany
	}
	w.PublicationID, w.MadeAt, w.MadeBy = s.publication, time.Now(), s.who()
	return s.store.db.WithContext(ctx).Create(w).Error
}

// Webhooks lists the publication's webhooks, the newest first, each with its last deliveries.
func (s Scope) Webhooks(ctx context.Context, deliveries int) ([]Webhook, map[int64][]Delivery, error) {
	var list []Webhook
	if err := s.db(ctx).Where("removed_at is null").Order("id desc").Find(&list).Error; err != nil {
		return nil, nil, err
	}
	last := map[int64][]Delivery{}
	for _, w := range list {
		var some []Delivery
		if err := s.db(ctx).Omit("body").Where("webhook_id = ?", w.ID).Order("id desc").Limit(deliveries).Find(&some).Error; err != nil {
			return nil, nil, err
		}
		last[w.ID] = some
	}
	return list, last, nil
}

// BringWebhookBack puts a webhook back that was removed a moment ago.
func (s Scope) BringWebhookBack(ctx context.Context, id int64) error {
	return affected(s.db(ctx).Model(&Webhook{}).Where("id = ? and removed_at > ?", id, time.Now().Add(-Regret)).Update("removed_at", nil))
}

// RemoveWebhook takes a webhook away; what it was not told yet it is not told, nor what happens until
// it is brought back.
func (s Scope) RemoveWebhook(ctx context.Context, id int64) error {
	return affected(s.db(ctx).Model(&Webhook{}).Where("id = ? and removed_at is null", id).Update("removed_at", time.Now()))
}

// emit writes an event of a study down for every webhook that wants it. more is what it says
// besides the study.
func (s *Store) emit(ctx context.Context, study int64, event string, more map[string]any) error {
	extra, err := json.Marshal(more)
	if err != nil {
		return err
	}
	return s.db.WithContext(ctx).Exec(`
		insert into deliveries (publication_id, webhook_id, event, body)
		select w.publication_id, w.id, @event, jsonb_build_object('event', cast(@event as text), 'made_at', to_char(now() at time zone 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS.MS"Z"'),
			'study', jsonb_build_object('id', st.id, 'keyword', st.keyword, 'language', st.language, 'country', st.country)) || cast(@extra as jsonb)
		from studies st join webhooks w on w.publication_id = st.publication_id and w.removed_at is null and jsonb_exists(w.events, @event)
		where st.id = @study`, map[string]any{"study": study, "event": event, "extra": string(extra)}).Error
}

// Undelivered takes up to so many events that no worker was asked to deliver yet, and marks
// them as asked for.
func (s *Store) Undelivered(ctx context.Context, most int) ([]int64, error) {
	var ids []int64
	err := s.db.WithContext(ctx).Raw(`
		update deliveries set queued_at = now() where id in (
			select id from deliveries where queued_at is null order by id limit ? for update skip locked) returning id`, most).Scan(&ids).Error
	return ids, err
}

// Delivery finds an event that is to be delivered, with its webhook; ErrNotFound where that was
// taken away, or it was delivered.
func (s *Store) Delivery(ctx context.Context, id int64) (Delivery, Webhook, error) {
	var d Delivery
	var w Webhook
	err := found(s.db.WithContext(ctx).Where("delivered_at is null").Take(&d, id).Error)
	if err == nil {
		err = found(s.db.WithContext(ctx).Where("removed_at is null").Take(&w, d.WebhookID).Error)
	}
	return d, w, err
}

// Attempted says how an attempt to deliver went: the status of the answer, or a problem.
func (s *Store) Attempted(ctx context.Context, id int64, status int, problem message.Message) error {
	set := map[string]any{"attempts": gorm.Expr("attempts + 1"), "status": status, "problem": problem.Keep()}
	if problem == "" {
		set["delivered_at"] = time.Now()
	}
	return affected(s.db.WithContext(ctx).Model(&Delivery{}).Where("id = ?", id).Updates(set))
}

// SetServices keeps a publication's own services, sealed; nil for the installation's. Those that
// were named before stay beside them, for SwapServices.
func (s Scope) SetServices(ctx context.Context, sealed []byte) error {
	return affected(s.store.db.WithContext(ctx).Model(&Publication{}).Where("id = ?", s.publication).
		Updates(map[string]any{"services": sealed, "services_was": gorm.Expr("services")}))
}

// SwapServices takes the last change of the services back, or makes it again. ErrStale where
// others are named by now than whoever asks for it was shown.
func (s Scope) SwapServices(ctx context.Context, shown []byte) error {
	err := affected(s.store.db.WithContext(ctx).Model(&Publication{}).Where("id = ? and services is not distinct from ?", s.publication, shown).
		Updates(map[string]any{"services": gorm.Expr("services_was"), "services_was": gorm.Expr("services")}))
	if errors.Is(err, ErrNotFound) {
		return ErrStale
	}
	return err
}

// String tells a token apart in a log, without what it opens.
func (t Token) String() string { return fmt.Sprintf("token %d", t.ID) }
