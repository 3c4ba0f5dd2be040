package account

import (
	"strings"

	"corpulan/core/message"
	"corpulan/store"
)

// Says is what a notice says that happened to an account.
func Says(n store.Notice) message.Message {
	said := message.Text(n.Said)
	switch n.Kind {
	case store.PasswordSet:
		return message.Of("Your password was changed, in %v.", said)
	case store.FactorSet:
		return message.Of("Signing in asks for a code from now on; it was set up in %v.", said)
	case store.FactorDropped:
		return message.Of("Signing in asks for no code any more; it was done in %v.", said)
	case store.NewPlace:
		return message.Of("Somebody signed in as you where you never were before: %v.", said)
	case store.IssuerJoined:
		return message.Of("%v signs you in from now on.", said)
	case store.Proven:
		return message.Of("%v has shown that your address is yours. The password that was set before that is void, and whoever was signed in is signed out.", said)
	case store.RoleGiven:
		role, publication, _ := strings.Cut(n.Said, "\n")
		return message.Of("%s made you %v of “%s”.", n.ByName, message.Message(role), publication)
	case store.Removed:
		return message.Of("%s took you out of “%s”.", n.ByName, n.Said)
	}
	return said
}

// BrowserOf names a browser by what it calls itself, as far as people tell them apart.
func BrowserOf(agent string) string {
	first := func(names ...string) string {
		for _, n := range names {
			mark, name, _ := strings.Cut(n, "=")
			if strings.Contains(agent, mark) {
				return name
			}
		}
		return ""
	}
	browser := first("Edg=Edge", "OPR=Opera", "Firefox=Firefox", "Chrome=Chrome", "Safari=Safari", "curl=curl")
	system := first("Android=Android", "iPhone=iPhone", "iPad=iPad", "Windows=Windows", "Mac OS=macOS", "Linux=Linux")
	switch {
	case browser == "" && system == "":
		return "another program"
	case browser == "" || system == "":
		return browser + system
	}
	return browser + " on " + system
}
