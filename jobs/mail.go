package jobs

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"log/slog"
	"net"
	"net/url"
	"strconv"
	"strings"
	"time"

	"corpulan/account"
	"corpulan/queue"
	"corpulan/store"
	"corpulan/study"
	"corpulan/words"

	"github.com/riverqueue/river"
	"github.com/wneessen/go-mail"
)

// Post is how mail goes out.
type Post struct {
	Server, User, Password string // host:port, where STARTTLS is used, or smtps://host:port
	From                   string
	Address                string                  // of the interface, for links
	Words                  map[string]*words.Words // by the language of the person; English for nobody's
	// Plain lets mail go without TLS, to a server on this machine: in the tests.
	Plain bool
}

// mailTakes is how long a mail server may take.
const mailTakes = 20 * time.Second

// mailer runs MailArgs.
type mailer struct {
	river.WorkerDefaults[queue.MailArgs]
	store *store.Store
	post  *Post
	log   *slog.Logger
}

// Work mails a notice, unless it was seen meanwhile.
func (w *mailer) Work(ctx context.Context, job *river.Job[queue.MailArgs]) error {
	if w.post == nil {
		return nil
	}
	n, p, err := w.store.NoticeToMail(ctx, job.Args.Notice)
	if errors.Is(err, store.ErrNotFound) {
		return nil
	}
	if err != nil {
		return err
	}
	if err := w.post.send(ctx, n, p); err != nil {
		w.log.Warn("a notice could not be mailed", "notice", n.ID, "attempt", job.Attempt, "error", err)
		return err
	}
	return w.store.Mailed(ctx, n.ID)
}

// accountMailer runs AccountMailArgs.
type accountMailer struct {
	river.WorkerDefaults[queue.AccountMailArgs]
	store *store.Store
	queue *queue.Queue
}

const (
	accountMailEvery = 20 * time.Second
	maxAccountMail   = 100 // in one go
)

// Work asks for what nobody has asked for yet to be mailed.
func (w *accountMailer) Work(ctx context.Context, _ *river.Job[queue.AccountMailArgs]) error {
	return w.store.InTx(ctx, func(tx *store.Store, sqlTx *sql.Tx) error {
		ids, err := tx.QueueAccountNotices(ctx, maxAccountMail)
		for _, id := range ids {
			err = errors.Join(err, w.queue.Mail(ctx, sqlTx, id))
		}
		return err
	})
}

func (p *Post) send(ctx context.Context, n store.NoticeLine, to store.Person) error {
	m := mail.NewMsg()
	if err := m.From(p.From); err != nil {
		return err
	}
	if err := m.To(to.Email); err != nil {
		return err
	}
	n.Keyword = strings.Join(strings.Fields(n.Keyword), " ")
	w := p.Words[to.Language]
	if w == nil {
		w = words.English()
	}
	m.Subject(subjectOf(w, n))
	at := strings.TrimRight(p.Address, "/")
	foot := w.Put("You get this as %s at %s; your account there can stop it.", to.Name, n.Publication)
	if n.OfAccount() {
		at, foot = at+"/account", w.Put("If that was not you, change your password, sign out everywhere and tell an owner of your publication.")
	} else {
		at = fmt.Sprintf("%s/studies/%d/brief", at, n.StudyID)
	}
	m.SetBodyString(mail.TypeTextPlain, fmt.Sprintf("%s\n\n%s\n\n%s\n", textOf(w, n), at, foot))
	client, err := p.client()
	if err != nil {
		return err
	}
	ctx, cancel := context.WithTimeout(ctx, mailTakes)
	defer cancel()
	return client.DialAndSendWithContext(ctx, m)
}

// client is one for the server: TLS at once for smtps://, else STARTTLS and nothing less.
func (p *Post) client() (*mail.Client, error) {
	at, options := p.Server, []mail.Option{mail.WithTimeout(mailTakes), mail.WithTLSPortPolicy(mail.TLSMandatory)}
	if u, err := url.Parse(p.Server); err == nil && u.Scheme == "smtps" {
		at, options = u.Host, append(options, mail.WithSSL())
	}
	if p.Plain {
		options = append(options, mail.WithTLSPortPolicy(mail.NoTLS))
	}
	host, port, err := net.SplitHostPort(at)
	if err != nil {
		return nil, fmt.Errorf("the mail server's address: %w", err)
	}
	number, err := strconv.Atoi(port)
	if err != nil {
		return nil, fmt.Errorf("the mail server's port: %w", err)
	}
	options = append(options, mail.WithPort(number))
	if p.User != "" {
		options = append(options, mail.WithSMTPAuth(mail.SMTPAuthAutoDiscover), mail.WithUsername(p.User), mail.WithPassword(p.Password))
	}
	return mail.NewClient(host, options...)
}

// subjectOf and textOf are a notice as a mail says it.
func subjectOf(w *words.Words, n store.NoticeLine) string {
	if n.OfAccount() {
		return w.Put("Your account")
	}
	switch n.Kind {
	case store.OwnerNamed:
		return w.Put("You own the brief “%s”", n.Keyword)
	case store.WriterNamed:
		return w.Put("You write “%s”", n.Keyword)
	case store.Remarked:
		return w.Put("A remark on “%s”", n.Keyword)
	case store.Approved:
		return w.Put("Approved: “%s”", n.Keyword)
	}
	return w.Put("Due %s: “%s”", dayOf(w, n.Ref), n.Keyword)
}

func textOf(w *words.Words, n store.NoticeLine) string {
	if n.OfAccount() {
		return w.Say(account.Says(n.Notice)) + "\n\n" + w.Put("on %s", n.MadeAt.UTC().Format("2006-01-02 15:04 UTC"))
	}
	by := n.ByName
	if by == "" {
		by = w.Look("Somebody")
	}
	switch n.Kind {
	case store.OwnerNamed:
		return w.Put("%s made you the owner of the brief “%s”.", by, n.Keyword)
	case store.WriterNamed:
		return w.Put("%s asks you to write “%s”.", by, n.Keyword)
	case store.Remarked:
		return w.Put("%s says of “%s”:\n\n%s", by, n.Keyword, n.Said)
	case store.Approved:
		return w.Put("%s approved the brief “%s”.", by, n.Keyword)
	}
	return w.Put("“%s” is due on %s.", n.Keyword, dayOf(w, n.Ref))
}

// dayOf is a day as people write it in a language.
func dayOf(w *words.Words, date string) string {
	day, err := time.Parse(time.DateOnly, date)
	if err != nil {
		return date
	}
	return w.LongDay(day)
}

// dueTeller runs DueArgs.
type dueTeller struct {
	river.WorkerDefaults[queue.DueArgs]
	store *store.Store
	queue *queue.Queue
}

const (
	dueEvery = time.Hour
	maxDue   = 2000 // looked at in one go
)

// Work gives notices of what is due tomorrow or was due, once for each brief and day.
func (w *dueTeller) Work(ctx context.Context, _ *river.Job[queue.DueArgs]) error {
	list, err := w.store.DueBriefs(ctx, time.Now().AddDate(0, 0, 1), maxDue)
	if err != nil {
		return err
	}
	for _, d := range list {
		err := w.store.In(d.PublicationID).InTx(ctx, func(tx store.Scope, sqlTx *sql.Tx) error {
			return study.Notify(ctx, tx, sqlTx, w.queue, store.Notice{StudyID: d.StudyID, Kind: store.DueSoon, Ref: d.Due}, d.Owner, d.Writer)
		})
		if err != nil {
			return err
		}
	}
	return nil
}
