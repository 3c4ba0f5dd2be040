package gather

import (
	"bufio"
	"bytes"
	"compress/gzip"
	"context"
	"encoding/xml"
	"errors"
	"fmt"
	"io"
	"net/url"
	"strings"

	"corpulan/core/address"
	"corpulan/core/message"

	"golang.org/x/net/html/charset"
)

// SitePage is a page that a site lists as its own.
type SitePage struct {
	URL     string
	Title   string // where the list has one
	Changed string // as the list says it, a W3C date
}

// Bounds on sitemaps: those of one file are the protocol's (sitemaps.org, "Sitemap index
// files"); how many of them are read is our own.
const (
	largestSitemap = 50 << 20 // bytes, unpacked
	maxInSitemap   = 50_000
	maxSitemaps    = 50
)

// ErrNoSitemap says that a site names no sitemap and has none where one usually is.
var ErrNoSitemap = message.Errorf("no sitemap was found: neither does robots.txt name one, nor is there one at /sitemap.xml")

// Sitemap reads the pages that a site lists, from the address of the site or of a sitemap:
// XML, an index of such, plain text, each of them packed by gzip or not (sitemaps.org). Pages
// of other sites are left out, as the protocol has it; notes say what was left out, and why.
func (f *Fetcher) Sitemap(ctx context.Context, site string) (pages []SitePage, notes []string, err error) {
	u, err := url.Parse(site)
	if err != nil || u.Host == "" || u.Scheme != "http" && u.Scheme != "https" {
		return nil, nil, &Failure{Code: BadAddress, Reason: "This is no address of a site or a sitemap; it begins with https:// or http://."}
	}
	files := f.forFiles(largestSitemap)
	var waiting []string
	named := strings.Trim(u.Path, "/") != ""
	if named {
		waiting = []string{u.String()}
	} else if waiting = files.sitemapsNamed(ctx, u); len(waiting) == 0 {
		waiting = []string{u.Scheme + "://" + u.Host + "/sitemap.xml"}
	}
	s := sitemapReading{home: address.Parse(u.String()).Site(), seen: map[string]bool{}}
	read := 0
	for len(waiting) > 0 && len(s.pages) < maxInSitemap {
		at := waiting[0]
		waiting = waiting[1:]
		if s.seen["sitemap "+at] {
			continue
		}
		s.seen["sitemap "+at] = true
		if read++; read > maxSitemaps {
			notes = append(notes, fmt.Sprintf("Only the first %d sitemaps are read.", maxSitemaps))
			break
		}
		page, err := files.Fetch(ctx, at)
		if err == nil {
			var further []string
			if further, err = s.read(page.Body); err == nil {
				waiting = append(waiting, further...)
				continue
			}
		}
		if ctx.Err() != nil {
			return nil, nil, ctx.Err()
		}
		var failure *Failure
		if read == 1 && len(waiting) == 0 && len(s.pages) == 0 {
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
		notes = append(notes, fmt.Sprintf("Only the first %d addresses are taken.", maxInSitemap))
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
	pages     []SitePage
	seen      map[string]bool
	elsewhere int
	more      bool
}

func (s *sitemapReading) add(p SitePage) {
	p.URL = strings.TrimSpace(p.URL)
	u, err := url.Parse(p.URL)
	switch {
	case err != nil || u.Scheme != "http" && u.Scheme != "https" || u.Host == "" || s.seen[p.URL]:
		return
	case s.home != "" && address.Parse(p.URL).Site() != s.home:
		s.elsewhere++
		return
	case len(s.pages) >= maxInSitemap:
		s.more = true
		return
	}
	s.seen[p.URL] = true
	s.pages = append(s.pages, p)
}

// read takes in one sitemap, and gives those that an index names.
func (s *sitemapReading) read(body []byte) (further []string, err error) {
	if bytes.HasPrefix(body, []byte{0x1f, 0x8b}) {
		z, err := gzip.NewReader(bytes.NewReader(body))
		if err != nil {
			return nil, message.Errorf("unpacking the sitemap: %v", err)
		}
		if body, err = io.ReadAll(io.LimitReader(z, largestSitemap+1)); err != nil {
			return nil, message.Errorf("unpacking the sitemap: %v", err)
		}
		if len(body) > largestSitemap {
			return nil, message.Errorf("the sitemap is larger than %d MB", largestSitemap>>20)
		}
	}
	body = bytes.TrimPrefix(bytes.TrimSpace(body), []byte("\xEF\xBB\xBF"))
	if !bytes.HasPrefix(body, []byte("<")) {
		return nil, s.readLines(body)
	}
	d := xml.NewDecoder(bytes.NewReader(body))
	d.CharsetReader = charset.NewReaderLabel
	found := false
	for {
		t, err := d.Token()
		if errors.Is(err, io.EOF) {
			break
		}
		if err != nil {
			if found { // what came before the fault is good
				return further, nil
			}
			return nil, message.Errorf("this is no sitemap: %v", err)
		}
		start, ok := t.(xml.StartElement)
		if !ok {
			continue
		}
		switch start.Name.Local {
		case "urlset", "sitemapindex":
			found = true
		case "url", "sitemap":
			if !found {
				continue
			}
			var e struct {
				Loc     string `xml:"loc"`
				LastMod string `xml:"lastmod"`
			}
			if d.DecodeElement(&e, &start) != nil {
				return further, nil
			}
			if start.Name.Local == "sitemap" {
				if at := strings.TrimSpace(e.Loc); at != "" {
					further = append(further, at)
				}
				continue
			}
			s.add(SitePage{URL: e.Loc, Changed: strings.TrimSpace(e.LastMod)})
		case "html":
			return nil, message.Errorf("this is a page, and no sitemap")
		}
	}
	if !found {
		return nil, message.Errorf("this is no sitemap: it has neither a urlset nor a sitemapindex")
	}
	return further, nil
}

// readLines takes in a sitemap of plain text: an address a line.
func (s *sitemapReading) readLines(body []byte) error {
	lines := bufio.NewScanner(bytes.NewReader(body))
	n := len(s.pages) + s.elsewhere
	for lines.Scan() {
		s.add(SitePage{URL: lines.Text()})
	}
	if len(s.pages)+s.elsewhere == n {
		return message.Errorf("this is no sitemap: it has no addresses")
	}
	return nil
}
