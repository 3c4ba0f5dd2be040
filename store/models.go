package store

import (
	"time"

	"corpulan/core/brief"
	"corpulan/core/demand"
	"corpulan/core/message"
	"corpulan/core/reading"
)

// Publication is a site that briefs are written for.
type Publication struct {
	ID        int64
	Name      string
	Address   string
	Settings  JSONType[Settings]
	CreatedAt time.Time

	ArchivedAt *time.Time
	Services   []byte // its own services and their keys, sealed; nil for the installation's
}

// Settings are what a publication says for all its briefs.
type Settings struct {
	Fields    map[string]string `json:"fields,omitempty"`    // defaults of the brief's fields, by name
	Templates []brief.Template  `json:"templates,omitempty"` // that were saved from briefs
	Forgotten []brief.Template  `json:"forgotten,omitempty"` // that were taken away, the last first
	Sitemap   *SitemapRead      `json:"sitemap,omitempty"`   // where its own pages come from
	Curve     demand.Curve      `json:"curve,omitempty"`     // clicks by position; empty for the usual one
	Market    Market            `json:"market,omitzero"`     // what a new study begins with
	Aim       int               `json:"aim,omitempty"`       // fit that drafts are asked for; 0 for the usual one, -1 for a step beyond the field's best page
	BriefIn   string            `json:"brief_in,omitempty"`  // language that briefs are proposed in; empty for the study's
	Dossier   bool              `json:"dossier,omitempty"`   // goes along when a brief is handed over
	Aside     []string          `json:"aside,omitempty"`     // hosts that are no competitors: their pages are set aside
	Factor    bool              `json:"factor,omitempty"`    // owners have a second factor, or may no more than a strategist
	Stages    map[string]string `json:"stages,omitempty"`    // what the stages of briefs are called, where that is something else
}

// Market is where a publication is read, and how far down the results its studies go.
type Market struct {
	Language string `json:"language,omitempty"`
	Country  string `json:"country,omitempty"`
	Depth    int    `json:"depth,omitempty"`
}

// StageName is what a publication calls a stage.
func (s Settings) StageName(stage string) string {
	if name := s.Stages[stage]; name != "" {
		return name
	}
	return stage
}

// SitemapRead is how the reading of a site's list of pages went.
type SitemapRead struct {
	Address string       `json:"address"`
	At      time.Time    `json:"at"` // asked for, or read
	Done    bool         `json:"done"`
	Problem message.Kept `json:"problem,omitempty"`
	Notes   []string     `json:"notes,omitempty"`
	Found   int          `json:"found"`
	Fresh   int          `json:"fresh"` // of them, new or changed
}

// Study is one target keyword in one market.
type Study struct {
	ID            int64
	PublicationID int64
	Keyword       string
	Language      string // ISO 639-1
	Country       string // ISO 3166-1 alpha-2, lower case
	Depth         int    // results asked for
	Leaders       int    `gorm:"default:3"` // how many of the first ranks lead
	Change        int64  // rises with everything that happens to the study
	CreatedAt     time.Time
	ArchivedAt    *time.Time
	DeletedAt     *time.Time // its captures go KeptDeleted later
	Again         string     // "", Weekly or Monthly: it is gathered again by itself
	AgainAt       *time.Time // when next
}

// State of a gathering or a result.
type State string

// The states. A gathering goes searching, fetching, done, and may be stopped on
// the way; a result waiting, fetching, read. Either may end failed.
const (
	Searching State = "searching"
	Waiting   State = "waiting"
	Fetching  State = "fetching"
	Stopped   State = "stopped"
	Read      State = "read"
	Done      State = "done"
	Failed    State = "failed"
)

// Gathering is one run of collecting for a study.
type Gathering struct {
	ID            int64
	PublicationID int64
	StudyID       int64
	State         State
	Searched      bool // the search was answered, or a person brought the results
	Failure       message.Kept
	Asked         JSONSlice[string]
	Related       JSONSlice[string]
	Suggestions   JSONSlice[string]
	Brought       bool // a person brought the results; no search engine was asked
	Scheduled     bool // the program began it by itself
	Place         *int // of the best page of the publication's own site; known once it has ended
	Moved         *JSONType[Moved]
	StartedAt     time.Time
	FinishedAt    *time.Time
}

// Result is one ranked page of a gathering.
type Result struct {
	ID            int64
	PublicationID int64
	StudyID       int64
	GatheringID   int64
	Rank          int
	URL           string
	Host          string
	Title         string
	Snippet       string
	State         State
	FailureCode   string
	Failure       message.Kept
	Kept          bool
	Reason        message.Kept // why it is set aside
	Decided       bool         // by a person; else it is the proposal
	Own           bool         // a page of ours: compared with the field, never counted into it
	Added         bool         // by a person, beside the results of the search
	Losses        int          // worker processes that were lost while they had it
	CaptureID     *int64
	ReadingID     *int64
}

// Capture is a page as it was fetched or handed in.
type Capture struct {
	ID            int64
	PublicationID int64
	StudyID       int64
	URL           string
	FinalURL      string
	Status        int
	Headers       JSONType[map[string][]string]
	ContentType   string
	Body          []byte `gorm:"-"` // gzip; in the table bodies, once for all captures of the same
	Size          int64  // before compression
	Digest        []byte // SHA-256 of the body before compression; nil once it was given up
	CapturedAt    time.Time
	PrunedAt      *time.Time // when its bytes were given up
	Losses        int        // worker processes that were lost while they read it again
}

// Reading is what one engine read out of one capture.
type Reading struct {
	ID            int64
	PublicationID int64
	CaptureID     int64
	Engine        int
	Document      JSONType[*reading.Reading]
}

// Brief is what a person chose and typed for a study. The document is made
// from it and the evidence.
type Brief struct {
	ID            int64
	PublicationID int64
	StudyID       int64
	Revision      int
	Choices       JSONType[brief.Choices]
	UpdatedAt     time.Time
	Actor         string       // the browser in which it was made as it is
	PersonID      *int64       // whose that was
	Said          message.Kept // what they did, in words
}

// BriefRevision is an earlier state of a brief.
type BriefRevision struct {
	ID            int64
	PublicationID int64
	BriefID       int64
	Revision      int
	Choices       JSONType[brief.Choices]
	MadeAt        time.Time
	Actor         string       // the browser in which it was made so
	PersonID      *int64       // whose that was
	Said          message.Kept // what they did, in words
}
