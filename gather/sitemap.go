package gather

import (
	"bufio"
	"bytes"
	"context"
	"errors"
	"fmt"
	"net/url"
	"strings"

	"corpulan/core/address"
	"corpulan/core/message"
	"corpulan/formats/sitemap"
)

// maxSitemaps is how many files of a site are read. Our own.
const maxSitemaps = 50

// ErrNoSitemap says that a site names no sitemap and has none where one usually is.
var ErrNoSitemap = message.Errorf("no sitemap was found: neither does robots.txt name one, nor is there one at /sitemap.xml")

// Sitemap fetches the pages that a site lists, from the address of the site or of a sitemap; read reads
// one file of it. Pages of other sites are left out, as the protocol has it; notes say what was left
// out, and why.
func (f *Fetcher) Sitemap(ctx context.Context, site string, read func(context.Context, []byte) (sitemap.Listing, error)) (pages []sitemap.Page, notes []string, err error) {
	u, err := url.Parse(site)
	if err != nil || u.Host == "" || u.Scheme != "http" && u.Scheme != "https" {
		return nil, nil, &Failure{Code: BadAddress, Reason: "This is no address of a site or a sitemap; it begins with https:// or http://."}
	}
	files := f.forFiles(sitemap.Largest)
	var waiting []string
	named := strings.Trim(u.Path, "/") != ""
	if named {
		waiting = []string{u.String()}
	} else if waiting = files.sitemapsNamed(ctx, u); len(waiting) == 0 {
		waiting = []string{u.Scheme + "://" + u.Host + "/sitemap.xml"}
	}
	s := sitemapReading{home: address.Parse(u.String()).Site(), seen: map[string]bool{}}
	count := 0
	for len(waiting) > 0 && len(s.pages) < sitemap.MaxURLs {
		at := waiting[0]
		waiting = waiting[1:]
		if s.seen["sitemap "+at] {
			continue
		}
		s.seen["sitemap "+at] = true
		if count++; count > maxSitemaps {
			notes = append(notes, fmt.Sprintf("Only the first %d sitemaps are read.", maxSitemaps))
			break
		}
		page, err := files.Fetch(ctx, at)
		if err == nil {
			var l sitemap.Listing
			if l, err = read(ctx, page.Body); err == nil {
				waiting = append(waiting, l.Further...)
				s.take(l)
				continue
			}
		}
		if ctx.Err() != nil {
			return nil, nil, ctx.Err()
		}
		var failure *Failure
		if count == 1 && len(waiting) == 0 && len(s.pages) == 0 {
			if errors.As(err, &failure) && failure.Code == Missing && !named {
				return nil, nil, ErrNoSitemap
			}
			return nil, nil, err
		}
		notes = append(notes, fmt.Sprintf("%s: %v", at, err))
	}
	if s.elsewhere > 0 {
		notes = append(notes, fmt.Sprintf("%d addresses of other sites were left out.", s.elsewhere))
	}
	if s.more {
		notes = append(notes, fmt.Sprintf("Only the first %d addresses are taken.", sitemap.MaxURLs))
	}
	return s.pages, notes, nil
}

// sitemapsNamed are the sitemaps that a site's robots.txt names.
func (f *Fetcher) sitemapsNamed(ctx context.Context, u *url.URL) []string {
	page, err := f.Fetch(ctx, u.Scheme+"://"+u.Host+"/robots.txt")
	if err != nil {
		return nil // the usual place is tried then
	}
	var list []string
	lines := bufio.NewScanner(bytes.NewReader(page.Body))
	for lines.Scan() {
		name, value, ok := strings.Cut(lines.Text(), ":")
		if value, _, _ = strings.Cut(value, "#"); ok && strings.EqualFold(strings.TrimSpace(name), "sitemap") {
			if at, err := u.Parse(strings.TrimSpace(value)); err == nil && (at.Scheme == "http" || at.Scheme == "https") {
				list = append(list, at.String())
			}
		}
	}
	return list
}

// forFiles is the same fetcher for files of any kind, of a size.
func (f *Fetcher) forFiles(size int64) *Fetcher {
	g := *f
	g.limits.Size, g.anyType = size, true
	return &g
}

// sitemapReading is what was read of a site's sitemaps so far.
type sitemapReading struct {
	home      string
	pages     []sitemap.Page
	seen      map[string]bool
	elsewhere int
	more      bool
}

func (s *sitemapReading) take(l sitemap.Listing) {
	s.more = s.more || l.More
	for _, p := range l.Pages {
		s.add(p)
	}
}

func (s *sitemapReading) add(p sitemap.Page) {
	u, err := url.Parse(p.URL)
	switch {
	case err != nil || u.Scheme != "http" && u.Scheme != "https" || u.Host == "" || s.seen[p.URL]:
		return
	case s.home != "" && address.Parse(p.URL).Site() != s.home:
		s.elsewhere++
		return
	case len(s.pages) >= sitemap.MaxURLs:
		s.more = true
		return
	}
	s.seen[p.URL] = true
	s.pages = append(s.pages, p)
}
