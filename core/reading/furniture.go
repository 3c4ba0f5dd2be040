package reading

import (
	"strings"
	"sync"
	"unicode"

	"corpulan/core/markup"

	"golang.org/x/net/html"
)

// A site puts furniture around what an author wrote. These are the signs of it:
// the element, its ARIA role, the words in its class and id, the words of a heading.

// furnitureTags by HTML's own meaning. header and footer count only outside the
// content, which the caller decides.
var furnitureTags = map[string]string{"nav": "navigation", "aside": "sidebar", "footer": "footer", "dialog": "overlay", "menu": "navigation"}

var furnitureRoles = map[string]string{"navigation": "navigation", "banner": "site header", "contentinfo": "footer",
	"complementary": "sidebar", "search": "search", "dialog": "overlay", "alertdialog": "overlay", "menu": "navigation", "menubar": "navigation"}

// furnitureWords are words in a class or id that name furniture, and its group.
var furnitureWords = sync.OnceValue(func() map[string]string {
	all := map[string]string{}
	for group, words := range map[string]string{
		"navigation":    "nav navbar navigation menu submenu navmenu topnav breadcrumb breadcrumbs crumbs pagination pager paging skiplink topbar navbox sitenav mainnav",
		"sidebar":       "sidebar sidebars widget widgets rail",
		"footer":        "footer colophon sitefooter pagefooter",
		"site header":   "masthead siteheader",
		"overlay":       "cookie cookies consent gdpr popup modal overlay lightbox cookiebar cookiebanner paywall interstitial",
		"newsletter":    "newsletter newsletters subscribe subscription signup optin mailinglist",
		"sharing":       "share sharing sharedaddy social socials sharebar addthis",
		"related pages": "related recommended recommendations recirc readmore morefrom outbrain taboola trending popular mostread seealso upnext teasers",
		"comments":      "comments comment commentlist disqus respond commentform discussion replies",
		"contents list": "toc tableofcontents tocbox jumplinks onthispage",
		"advertising":   "advert advertisement advertising ads adsbygoogle sponsor sponsored promo promotion adslot dfp",
		"byline":        "byline authorbox authorbio aboutauthor bio postmeta entrymeta dateline vcard tagcloud taglist posttags",
		"hidden text":   "visuallyhidden srhidden offscreen",
		"page tools":    "toolbar printbutton editsection noprint hatnote searchform searchbox loginform rating ratings",
	} {
		for _, w := range strings.Fields(words) {
			all[w] = group
		}
	}
	return all
})

// furniturePhrases are two class words side by side that name furniture where
// neither does alone: "entry-meta", "sr-only".
var furniturePhrases = map[string]string{"entry meta": "byline", "post meta": "byline", "author box": "byline", "author bio": "byline",
	"about author": "byline", "article meta": "byline", "post tags": "byline", "sr only": "hidden text", "visually hidden": "hidden text",
	"screen reader": "hidden text", "skip link": "navigation", "skip to": "navigation", "table of": "contents list", "on this": "contents list",
	"edit section": "page tools", "site header": "site header", "page header": "site header", "site footer": "footer", "mailing list": "newsletter", "sign up": "newsletter",
	"read more": "related pages", "read next": "related pages", "more from": "related pages", "see also": "related pages", "up next": "related pages"}

// furnitureGroup names the group of furniture an element belongs to by its own
// tag, role, class and id; empty when none says so.
func furnitureGroup(n *html.Node) string {
	if g := furnitureTags[n.Data]; g != "" {
		return g
	}
	switch n.Data {
	case "html", "body", "main", "article", "h1", "h2", "h3", "h4", "h5", "h6", "p", "a", "span", "b", "em", "strong", "i", "code", "pre", "td", "th", "tr", "tbody", "picture", "img", "figure", "time", "mark", "sup", "sub", "small", "label":
		if n.Data != "span" || markup.HasAncestor(n, "pre") || markup.HasAncestor(n, "code") { // a comment of a program
			return ""
		}
	}
	var class string
	for _, a := range n.Attr {
		switch a.Key {
		case "role":
			if g := furnitureRoles[strings.ToLower(a.Val)]; g != "" {
				return g
			}
		case "class", "id":
			class += " " + a.Val
		}
	}
	if class == "" {
		return ""
	}
	previous, named := "", furnitureWords()
	for _, w := range classWords(class) {
		if g := named[w]; g != "" && !(previous == "has" || previous == "with" || previous == "no") {
			return g
		}
		if g := furniturePhrases[previous+" "+w]; g != "" {
			return g
		}
		previous = w
	}
	return ""
}

// classWords splits class names at everything that is no letter and where a
// capital follows a small letter.
func classWords(class string) []string {
	var words []string
	start, lower := -1, false
	for i, r := range class {
		letter := unicode.IsLetter(r)
		if start >= 0 && (!letter || lower && unicode.IsUpper(r)) {
			words = append(words, strings.ToLower(class[start:i]))
			start = -1
		}
		if letter && start < 0 {
			start = i
		}
		lower = unicode.IsLower(r)
	}
	if start >= 0 {
		words = append(words, strings.ToLower(class[start:]))
	}
	return words
}

// isHidden tells whether an element is declared not to be shown.
func isHidden(n *html.Node) bool {
	for _, a := range n.Attr {
		switch a.Key {
		case "hidden":
			return !strings.EqualFold(a.Val, "until-found")
		case "aria-hidden":
			// Icons and decoration; on an element with real content the content pass looks at its size.
			return a.Val == "true"
		case "style":
			s := strings.ReplaceAll(strings.ToLower(a.Val), " ", "")
			return strings.Contains(s, "display:none") || strings.Contains(s, "visibility:hidden")
		}
	}
	return false
}
