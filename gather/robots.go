package gather

import (
	"context"
	"io"
	"net/http"
	"net/url"
	"time"

	"github.com/temoto/robotstxt"
)

// robotsName is the name by which robots.txt may speak to us in particular.
const robotsName = "corpulan"

// rules are what a site's robots.txt says, until they are too old to trust
// (RFC 9309, section 2.4: no longer than a day).
type rules struct {
	data *robotstxt.RobotsData
	read time.Time
}

const (
	rulesLast     = time.Hour
	largestRobots = 512 << 10 // RFC 9309, section 2.5: at least 500 KiB are read
)

// allowed asks the site's robots.txt (RFC 9309) whether the page may be read.
// A failure to connect is left to the page's own request to report.
func (f *Fetcher) allowed(ctx context.Context, h *host, u *url.URL) *Failure {
	site := u.Scheme + "://" + u.Host
	r := h.robots[site]
	if r == nil || time.Since(r.read) > rulesLast {
		data, err := f.readRobots(ctx, site+"/robots.txt")
		if err != nil {
			return nil
		}
		r = &rules{data, time.Now()}
		h.robots[site] = r
	}
	path := u.EscapedPath()
	if path == "" {
		path = "/"
	}
	if u.RawQuery != "" {
		path += "?" + u.RawQuery
	}
	if !r.data.TestAgent(path, robotsName) {
		return &Failure{Code: Robots, Reason: "The site's robots.txt asks programs not to read this page."}
	}
	return nil
}

func (f *Fetcher) readRobots(ctx context.Context, address string) (*robotstxt.RobotsData, error) {
	req, err := http.NewRequestWithContext(ctx, http.MethodGet, address, nil)
	if err != nil {
		return nil, err
	}
	req.Header.Set("User-Agent", UserAgent)
	resp, err := f.client.HTTPClient.Do(req)
	if err != nil {
		return nil, err
	}
	defer resp.Body.Close()
	body, err := io.ReadAll(io.LimitReader(resp.Body, largestRobots))
	if err != nil {
		return nil, err
	}
	return robotstxt.FromStatusAndBytes(resp.StatusCode, body)
}
