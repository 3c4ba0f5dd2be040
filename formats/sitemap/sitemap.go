// Package sitemap reads the lists of pages that sites give (sitemaps.org): XML, an index of such, plain
// text, each of them packed by gzip or not.
package sitemap

import (
	"bufio"
	"bytes"
	"compress/gzip"
	"encoding/xml"
	"errors"
	"io"
	"strings"

	"corpulan/core/message"

	"golang.org/x/net/html/charset"
)

// Bounds of one file, those of the protocol (sitemaps.org, "Sitemap index files").
const (
	Largest = 50 << 20 // bytes, unpacked
	MaxURLs = 50_000
)

// Page is a page that a site lists as its own.
type Page struct {
	URL     string
	Changed string // as the list says it, a W3C date
}

// Listing is what one file lists.
type Listing struct {
	Pages   []Page
	Further []string // files that an index names
	More    bool     // it lists more than is taken
}

// Read reads a file. What came before a fault is good.
func Read(body []byte) (l Listing, err error) {
	if bytes.HasPrefix(body, []byte{0x1f, 0x8b}) {
		z, err := gzip.NewReader(bytes.NewReader(body))
		if err != nil {
			return l, message.Errorf("unpacking the sitemap: %v", err)
		}
		if body, err = io.ReadAll(io.LimitReader(z, Largest+1)); err != nil {
			return l, message.Errorf("unpacking the sitemap: %v", err)
		}
	}
	if len(body) > Largest {
		return l, message.Errorf("the sitemap is larger than %d MB", Largest>>20)
	}
	body = bytes.TrimPrefix(bytes.TrimSpace(body), []byte("\xEF\xBB\xBF"))
	if !bytes.HasPrefix(body, []byte("<")) {
		return lines(body)
	}
	d := xml.NewDecoder(bytes.NewReader(body))
	d.CharsetReader = charset.NewReaderLabel
	found := false
	for !l.More {
		t, err := d.Token()
		if errors.Is(err, io.EOF) {
			break
		}
		if err != nil {
			if found {
				return l, nil
			}
			return l, message.Errorf("this is no sitemap: %v", err)
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
				return l, nil
			}
			l.add(start.Name.Local == "sitemap", Page{strings.TrimSpace(e.Loc), strings.TrimSpace(e.LastMod)})
		case "html":
			return l, message.Errorf("this is a page, and no sitemap")
		}
	}
	if !found {
		return l, message.Errorf("this is no sitemap: it has neither a urlset nor a sitemapindex")
	}
	return l, nil
}

func (l *Listing) add(index bool, p Page) {
	switch {
	case p.URL == "":
	case len(l.Pages)+len(l.Further) >= MaxURLs:
		l.More = true
	case index:
		l.Further = append(l.Further, p.URL)
	default:
		l.Pages = append(l.Pages, p)
	}
}

// lines reads a sitemap of plain text: an address a line.
func lines(body []byte) (l Listing, err error) {
	in := bufio.NewScanner(bytes.NewReader(body))
	for in.Scan() && !l.More {
		if at := strings.TrimSpace(in.Text()); strings.HasPrefix(at, "http://") || strings.HasPrefix(at, "https://") {
			l.add(false, Page{URL: at})
		}
	}
	if len(l.Pages) == 0 {
		return l, message.Errorf("this is no sitemap: it has no addresses")
	}
	return l, nil
}
