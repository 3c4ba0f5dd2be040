package brief

import "corpulan/core/message"

// The names of what can be typed, as they are in the document.
const (
	FieldKind            = "kind" // key of a template
	FieldStatus          = "status"
	FieldOwner           = "owner"
	FieldWriter          = "writer"
	FieldDue             = "due"
	FieldTitleTag        = "title_tag"
	FieldMetaDescription = "meta_description"
	FieldH1              = "h1"
	FieldAddress         = "address"
	FieldGoal            = "goal"
	FieldSearchIntent    = "search_intent"
	FieldSecondary       = "secondary_keywords"
	FieldAudience        = "audience"
	FieldVoice           = "voice"
	FieldPointOfView     = "point_of_view"
	FieldCallToAction    = "call_to_action"
	FieldAvoid           = "avoid"
	FieldReadingGrade    = "reading_grade"
	FieldLength          = "length"
	FieldShortAnswer     = "short_answer"
	FieldMedia           = "media"
	FieldSummary         = "summary"
	FieldStructuredData  = "structured_data"
	FieldNotes           = "notes"
)

// fieldKind is all that has to be known of a field, wherever it is shown: in the place Brief, in
// documents made of it, in what newer evidence proposes. What it is proposed from is in propose.go.
type fieldKind struct {
	name    string
	label   message.Message
	heads   bool                 // it stands in the document's head, each a paragraph under its label
	dossier bool                 // what is proposed for it stands in the dossier alone: a brief has it when a person typed it
	at      func(*Brief) *string // nil where the document has it as more than a text
}

// fields in the document's order.
var fields = []fieldKind{
	{name: FieldKind, label: "Kind of page"},
	{name: FieldStatus, label: "Status", at: func(b *Brief) *string { return &b.Front.Status }},
	{name: FieldOwner, dossier: true, label: "Owner", at: func(b *Brief) *string { return &b.Front.Owner }},
	{name: FieldWriter, label: "Writer", at: func(b *Brief) *string { return &b.Front.Writer }},
	{name: FieldDue, label: "Due", at: func(b *Brief) *string { return &b.Front.Due }},
	{name: FieldTitleTag, label: "Title tag", at: func(b *Brief) *string { return &b.TitleTag }},
	{name: FieldMetaDescription, label: "Meta description", at: func(b *Brief) *string { return &b.MetaDescription }},
	{name: FieldH1, label: "H1", at: func(b *Brief) *string { return &b.H1 }},
	{name: FieldAddress, label: "Address", at: func(b *Brief) *string { return &b.Address }},
	{name: FieldGoal, label: "Goal", heads: true, at: func(b *Brief) *string { return &b.Fields.Goal }},
	{name: FieldSearchIntent, dossier: true, label: "Search intent", heads: true, at: func(b *Brief) *string { return &b.Fields.SearchIntent }},
	{name: FieldSecondary, label: "Secondary keywords", heads: true, at: func(b *Brief) *string { return &b.Fields.Secondary }},
	{name: FieldAudience, label: "Audience", heads: true, at: func(b *Brief) *string { return &b.Fields.Audience }},
	{name: FieldVoice, label: "Voice", heads: true, at: func(b *Brief) *string { return &b.Fields.Voice }},
	{name: FieldPointOfView, label: "Point of view", heads: true, at: func(b *Brief) *string { return &b.Fields.PointOfView }},
	{name: FieldCallToAction, dossier: true, label: "Call to action", heads: true, at: func(b *Brief) *string { return &b.Fields.CallToAction }},
	{name: FieldAvoid, label: "What not to say", heads: true, at: func(b *Brief) *string { return &b.Fields.Avoid }},
	{name: FieldReadingGrade, dossier: true, label: "Reading level", heads: true, at: func(b *Brief) *string { return &b.Fields.ReadingGrade }},
	{name: FieldLength, label: "Length"},
	{name: FieldShortAnswer, label: "Short answer", at: func(b *Brief) *string { return &b.Fields.ShortAnswer }},
	{name: FieldMedia, dossier: true, label: "Images, tables, media", at: func(b *Brief) *string { return &b.Fields.Media }},
	{name: FieldSummary, label: "Summary", at: func(b *Brief) *string { return &b.Fields.Summary }},
	{name: FieldStructuredData, dossier: true, label: "Structured data", at: func(b *Brief) *string { return &b.Fields.StructuredData }},
	{name: FieldNotes, label: "Notes", at: func(b *Brief) *string { return &b.Fields.Notes }},
}

// FieldNames lists them in the document's order.
func FieldNames() (names []string) {
	for _, f := range fields {
		names = append(names, f.name)
	}
	return names
}

// FieldsOfHead are those that stand in the document's head, each under its label.
func FieldsOfHead() (names []string) {
	for _, f := range fields {
		if f.heads {
			names = append(names, f.name)
		}
	}
	return names
}

// FieldLabel is what a field is called; empty for a name that is none.
func FieldLabel(name string) message.Message {
	for _, f := range fields {
		if f.name == name {
			return f.label
		}
	}
	return ""
}

// Field is the text of a field by its name; empty for a name that is none.
func (b Brief) Field(name string) string {
	if p := b.field(name); p != nil {
		return *p
	}
	return ""
}

func (b *Brief) field(name string) *string {
	for _, f := range fields {
		if f.name == name && f.at != nil {
			return f.at(b)
		}
	}
	return nil
}
