package message_test

import (
	"encoding/json"
	"errors"
	"fmt"
	"testing"

	"corpulan/core/message"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

type german struct{ message.English }

func (german) Look(format string) string {
	if to, ok := map[string]string{
		"Dropped: %s": "Weggelassen: %s", "Taken back: %v": "Zurückgenommen: %v", "people|names": "Menschen", "people": "Mitglieder",
		"of %s as %v": "von %[1]s als %[2]v", "Nothing is picked.": "Nichts ist ausgewählt.", "%.1f of %d": "%.1f von %d",
	}[format]; ok {
		return to
	}
	return format
}

func (german) Counted(n int, noun string) string { return fmt.Sprint(n, " ", noun, "-de") }

func TestMessages(t *testing.T) {
	dropped := message.Of("Dropped: %s", "bar mitts")
	for _, x := range []struct {
		m           message.Message
		en, de, msg string
	}{
		{"Nothing is picked.", "Nothing is picked.", "Nichts ist ausgewählt.", "a format is a message"},
		{dropped, "Dropped: bar mitts", "Weggelassen: bar mitts", "a text goes in"},
		{message.Of("Taken back: %v", dropped), "Taken back: Dropped: bar mitts", "Zurückgenommen: Weggelassen: bar mitts", "a message goes in"},
		{message.Of("Taken back: %v", message.Message("Nothing is picked.")), "Taken back: Nothing is picked.", "Zurückgenommen: Nichts ist ausgewählt.", "and one without parts"},
		{message.Of("Dropped: %s", "Nothing is picked."), "Dropped: Nothing is picked.", "Weggelassen: Nothing is picked.", "what a person typed stays"},
		{message.Text("Nothing is picked."), "Nothing is picked.", "Nothing is picked.", "in a message of its own too"},
		{message.Of("%.1f of %d", 2.0, 3), "2.0 of 3", "2.0 von 3", "numbers as the verbs want them"},
		{message.Of("Dropped: %v", message.Counted(3, "query")), "Dropped: 3 queries", "Dropped: 3 query-de", "numbers with their nouns"},
		{message.Joined("; ", dropped, "", "Nothing is picked."), "Dropped: bar mitts; Nothing is picked.", "Weggelassen: bar mitts; Nichts ist ausgewählt.", "several"},
		{message.Joined("; ", "", dropped), "Dropped: bar mitts", "Weggelassen: bar mitts", "one of several"},
		{message.Label("people", "names"), "people", "Menschen", "a word of a group"},
		{message.Label("people", "places"), "people", "Mitglieder", "a word of a group that has none of its own"},
		{message.Of("of %s as %v", "a", message.Label("people", "names")), "of a as people", "von a als Menschen", "a word in a message"},
		{message.Of("[1] %s", "x"), "[1] x", "[1] x", "a bracket is no list"},
		{message.Of("[1]"), "[1]", "[1]", "nor is it alone"},
		{message.Of("100 %"), "100 %", "100 %", "a format into which nothing goes has no verbs"},
		{"[broken", "[broken", "[broken", "what is no message is itself"},
		{message.Of("Taken back: %v", message.Named("de")), "Taken back: German", "Zurückgenommen: German", "the name of a language"},
		{message.Named("xx-unknown"), "xx-unknown", "xx-unknown", "or its code"},
		{message.Sentence(dropped), "Dropped: bar mitts.", "Weggelassen: bar mitts.", "a sentence"},
		{message.Sentence(message.OfError(errors.New("it broke"))), "It broke.", "It broke.", "of an error"},
		{"", "", "", "nothing"},
		{message.Of("Dropped: %s", errors.New("it broke")), "Dropped: it broke", "Weggelassen: it broke", "an error"},
	} {
		assert.Equal(t, x.en, x.m.String(), x.msg)
		assert.Equal(t, x.de, x.m.In(german{}), x.msg)
		assert.Equal(t, x.de, x.m.Keep().Message().In(german{}), x.msg)
	}
	b, err := json.Marshal(map[string]any{"says": dropped, "kept": dropped.Keep()})
	require.NoError(t, err)
	assert.JSONEq(t, `{"says":"Dropped: bar mitts","kept":"[\"Dropped: %s\",\"bar mitts\"]"}`, string(b))
}

func TestErrors(t *testing.T) {
	err := message.Errorf("Dropped: %s", "a")
	assert.EqualError(t, err, "Dropped: a")
	assert.Equal(t, "Weggelassen: a", message.OfError(err).In(german{}))
	assert.Equal(t, "for x: Dropped: a", message.OfError(fmt.Errorf("for x: %w", err)).In(german{}), "what is put around is not left out")
	cause := errors.New("cause")
	assert.ErrorIs(t, &message.Error{Says: "Nothing is picked.", Cause: cause}, cause)
	assert.Equal(t, message.Message(""), message.OfError(nil))
}

// Whatever goes into a message comes out of it as it was, through any number of messages.
func TestWhatGoesInComesOut(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		text, n := rapid.StringMatching(`[\x20-\x{2fff}]*`).Draw(t, "text"), rapid.IntRange(-1e9, 1e9).Draw(t, "n")
		m := message.Of("%s and %d", text, n)
		want := fmt.Sprintf("%s and %d", text, n)
		for range rapid.IntRange(0, 4).Draw(t, "depth") {
			m, want = message.Of("<%v>", m), "<"+want+">"
		}
		assert.Equal(t, want, m.Keep().Message().String())
		assert.Equal(t, text, message.Text(text).String())
	})
}

func FuzzKept(f *testing.F) {
	for _, s := range []string{`["a %s"]`, `[[],1]`, `[{},{}]`, `[3,"x"]`, `[1]`, `["",["",""]]`, `["%[9]d%s",1]`} {
		f.Add(s)
	}
	f.Fuzz(func(t *testing.T, s string) { _ = message.Kept(s).Message().String() })
}
