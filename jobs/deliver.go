package jobs

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"io"
	"log/slog"
	"net/http"
	"net/url"
	"strconv"
	"time"

	"corpulan/account"
	"corpulan/core/message"
	"corpulan/queue"
	"corpulan/store"
	"corpulan/study"

	"github.com/riverqueue/river"
)

// Webhooks: whoever beats puts the events that were written down on the queue, a job each.
const maxOutbox = 200 // at a beat

// deliverer runs DeliverArgs.
type deliverer struct {
	river.WorkerDefaults[queue.DeliverArgs]
	store  *store.Store
	sealer *account.Sealer
	client *http.Client
	log    *slog.Logger
}

// Work tells a webhook of an event: a POST of its JSON, signed. Any answer from 200 to 299 is
// taken; after everything else it is tried again, later each time.
func (w *deliverer) Work(ctx context.Context, job *river.Job[queue.DeliverArgs]) error {
	d, hook, err := w.store.Delivery(ctx, job.Args.Delivery)
	if errors.Is(err, store.ErrNotFound) {
		return nil
	}
	if err != nil {
		return err
	}
	status, err := w.tell(ctx, d, hook)
	if err != nil {
		problem := message.OfError(err)
		if kept := w.store.Attempted(ctx, d.ID, status, problem); kept != nil {
			return kept
		}
		return err
	}
	return w.store.Attempted(ctx, d.ID, status, "")
}

func (w *deliverer) tell(ctx context.Context, d store.Delivery, hook store.Webhook) (int, error) {
	secret, err := study.WebhookSecret(w.sealer, hook)
	if err != nil {
		return 0, err
	}
	req, err := http.NewRequestWithContext(ctx, http.MethodPost, hook.Address, bytes.NewReader(d.Body))
	if err != nil {
		return 0, err
	}
	now := time.Now()
	req.Header.Set("Content-Type", "application/json")
	req.Header.Set("User-Agent", "Corpulan")
	req.Header.Set("Corpulan-Event", d.Event)
	req.Header.Set("Corpulan-Delivery", strconv.FormatInt(d.ID, 10))
	req.Header.Set("Corpulan-Signature", fmt.Sprintf("t=%d, v1=%s", now.Unix(), study.Sign(secret, now, d.Body)))
	resp, err := w.client.Do(req)
	if err != nil {
		var at *url.Error
		if errors.As(err, &at) { // its address is known; what stands in it may be a key
			err = at.Err
		}
		return 0, err
	}
	defer resp.Body.Close()
	_, _ = io.Copy(io.Discard, io.LimitReader(resp.Body, 64<<10))
	if resp.StatusCode < 200 || resp.StatusCode > 299 {
		return resp.StatusCode, message.Errorf("it answered %s", resp.Status)
	}
	return resp.StatusCode, nil
}

// NextRetry implements river.Worker: after 5 seconds, 20, 80 and so on, at most six hours; with
// the queue's twelve tries that is a day and a half.
func (w *deliverer) NextRetry(job *river.Job[queue.DeliverArgs]) time.Time {
	return time.Now().Add(laterEach(job.Attempt))
}

func laterEach(attempt int) time.Duration {
	return min(5*time.Second<<(2*min(attempt-1, 8)), 6*time.Hour)
}
