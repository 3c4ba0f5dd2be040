package reading

import (
	"bytes"
	"io"

	"golang.org/x/net/html"
)

// deepest is how far elements may nest before parse flattens them; the parser
// itself refuses more than 512.
// Our own.
const deepest = 400

// parse builds the tree, flattening a page that nests deeper than any author
// means to, which the parser would refuse.
func parse(page []byte) (*html.Node, error) {
	root, err := html.Parse(bytes.NewReader(page))
	if err == nil {
		return root, nil
	}
	flat, flattenErr := flatten(page)
	if flattenErr != nil {
		return nil, err
	}
	return html.Parse(bytes.NewReader(flat))
}

// void elements never hold others and so never add depth.
var void = map[string]bool{"area": true, "base": true, "br": true, "col": true, "embed": true, "hr": true, "img": true,
	"input": true, "link": true, "meta": true, "source": true, "track": true, "wbr": true}

// flatten drops the tags of elements nested deeper than the limit and keeps
// their text, in one pass over the tokens.
func flatten(page []byte) ([]byte, error) {
	var out bytes.Buffer
	z := html.NewTokenizer(bytes.NewReader(page))
	depth := 0
	for {
		switch tt := z.Next(); tt {
		case html.ErrorToken:
			if z.Err() != io.EOF {
				return nil, z.Err()
			}
			return out.Bytes(), nil
		case html.StartTagToken:
			raw := z.Raw()
			name, _ := z.TagName()
			if void[string(name)] {
				out.Write(raw)
				continue
			}
			// Half the limit: the parser opens elements of its own (formatting, table parts).
			if depth++; depth <= deepest/2 {
				out.Write(raw)
			} else if b := out.Bytes(); len(b) == 0 || b[len(b)-1] != ' ' {
				out.WriteByte(' ')
			}
		case html.EndTagToken:
			raw := z.Raw()
			if depth <= deepest/2 {
				out.Write(raw)
			}
			depth = max(0, depth-1)
		default:
			out.Write(z.Raw())
		}
	}
}
