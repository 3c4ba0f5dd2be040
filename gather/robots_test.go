package gather

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"github.com/temoto/robotstxt"
)

// What a robots.txt allows, by the rules and the examples of RFC 9309 (sections
// 2.2.1 to 2.2.3, 5.1 and 5.2; the examples from memory).
func TestRobotsByTheStandard(t *testing.T) {
	const longest = "User-Agent: foobot\nAllow: /example/page/\nDisallow: /example/page/disallowed.gif\n"
	for _, c := range []struct {
		name, file, agent, path string
		allowed                 bool
	}{
		{"the longest match counts", longest, "foobot", "/example/page/disallowed.gif", false},
		{"the longest match counts", longest, "foobot", "/example/page/", true},
		{"of two equal ones the one that allows", "User-agent: *\nDisallow: /a\nAllow: /a\n", "corpulan", "/a", true},
		{"also further down", "User-agent: *\nDisallow: /a\nDisallow: /b\nAllow: /a # but\n", "corpulan", "/a", true},
		{"and in its own group", "User-agent: corpulan\nDisallow: /a\n\nUser-agent: *\nAllow: /a\n", "corpulan", "/a", false},
		{"a star", "User-agent: *\nDisallow: /*.gif$\n", "corpulan", "/x/y.gif", false},
		{"the end", "User-agent: *\nDisallow: /*.gif$\n", "corpulan", "/x/y.gif?z", true},
		{"one's own group alone", "User-agent: *\nDisallow: /\n\nUser-agent: corpulan\nAllow: /\n", "corpulan", "/x", true},
		{"groups of one agent are one", "User-agent: corpulan\nDisallow: /a\n\nUser-agent: corpulan\nDisallow: /b\n", "corpulan", "/b", false},
		{"whatever the case of a name", "User-agent: CORPULAN\nDisallow: /\n", "corpulan", "/x", false},
		{"a group of two agents", "User-agent: foo\nUser-agent: corpulan\nDisallow: /\n", "corpulan", "/x", false},
		{"characters beyond ASCII", "User-agent: *\nDisallow: /café\n", "corpulan", "/caf%C3%A9", false},
		{"the same escaped", "User-agent: *\nDisallow: /caf%C3%A9\n", "corpulan", "/caf%C3%A9", false},
		{"nothing disallowed", "User-agent: *\nDisallow:\n", "corpulan", "/x", true},
		{"a byte order mark", "\ufeffUser-agent: *\nDisallow: /\n", "corpulan", "/x", false},
		{"lines that end as on old machines", "User-agent: *\rDisallow: /\r", "corpulan", "/x", false},
		{"a page instead of rules", "<html><body>Not found</body></html>", "corpulan", "/x", true},
	} {
		data, err := robotstxt.FromStatusAndBytes(200, inOrder([]byte(c.file)))
		require.NoError(t, err, c.name)
		assert.Equal(t, c.allowed, data.TestAgent(c.path, c.agent), c.name)
	}
}

func FuzzRobots(f *testing.F) {
	f.Add([]byte("User-agent: *\nDisallow: /é#x\nAllow: /"))
	f.Fuzz(func(t *testing.T, file []byte) {
		data, err := robotstxt.FromStatusAndBytes(200, inOrder(file))
		if err == nil {
			data.TestAgent("/x", robotsName)
		}
	})
}
