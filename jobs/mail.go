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

	"corpulan/queue"
	"corpulan/store"
	"corpulan/study"

	"github.com/riverqueue/river"
	"github.com/wneessen/go-mail"
)

// Post is how mail goes out.
type Post struct {
	Server, User, Password string // host:port, where STARTTLS is used, or smtps://host:port
	From                   string
	Address                string // of the interface, for links
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

func (p *Post) send(ctx context.Context, n store.NoticeLine, to store.Person) error {
	m := mail.NewMsg()
	if err := m.From(p.From); err != nil {
		return err
	}
	if err := m.To(to.Email); err != nil {
		return err
	}
	n.Keyword = strings.Join(strings.Fields(n.Keyword), " ")
	m.Subject(subjectOf(n))
	m.SetBodyString(mail.TypeTextPlain, fmt.Sprintf("%s\n\n%s/studies/%d/brief\n\nYou get this as %s at %s; your account there can stop it.\n", textOf(n), strings.TrimRight(p.Address, "/"), n.StudyID, to.Name, n.Publication))
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
func subjectOf(n store.NoticeLine) string {
	return map[string]string{store.OwnerNamed: "You own the brief", store.WriterNamed: "You write", store.Remarked: "A remark on", store.Approved: "Approved:", store.DueSoon: "Due " + n.Ref + ":"}[n.Kind] + " “" + n.Keyword + "”"
}

func textOf(n store.NoticeLine) string {
	by := n.ByName
	if by == "" {
		by = "Somebody"
	}
	switch n.Kind {
	case store.OwnerNamed:
		return fmt.Sprintf("%s made you the owner of the brief “%s”.", by, n.Keyword)
	case store.WriterNamed:
		return fmt.Sprintf("%s asks you to write “%s”.", by, n.Keyword)
	case store.Remarked:
		return fmt.Sprintf("%s says of “%s”:\n\n%s", by, n.Keyword, n.Said)
	case store.Approved:
		return fmt.Sprintf("%s approved the brief “%s”.", by, n.Keyword)
	}
	return fmt.Sprintf("“%s” is due on %s.", n.Keyword, n.Ref)
}

// dueTeller runs DueArgs.
type dueTeller struct {
	river.WorkerDefaults[queue.DueArgs]
	store *store.Store
	queue *queue.Queue
}

const (
	dueEvery = time.Hour
	mostDue  = 2000 // looked at in one go
)

// Work gives notices of what is due tomorrow or was due, once for each brief and day.
func (w *dueTeller) Work(ctx context.Context, _ *river.Job[queue.DueArgs]) error {
	list, err := w.store.DueBriefs(ctx, time.Now().AddDate(0, 0, 1), mostDue)
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
