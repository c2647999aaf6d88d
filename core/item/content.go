package item

import (
	"html"
	"slices"
	"strings"

	"github.com/microcosm-cc/bluemonday"
)

// The subset of HTML that stems, choices and passages may hold, formulas as
// MathML included. Nothing in it can run, load from elsewhere or restyle the page.
var subset = func() *bluemonday.Policy {
	p := bluemonday.NewPolicy()
	formula := []string{"math", "semantics", "mrow", "mi", "mn", "mo", "mtext", "mfrac", "msqrt", "mroot", "msup", "msub", "msubsup", "mover", "munder", "mtable", "mtr", "mtd"}
	p.AllowElements(formula...)
	p.AllowNoAttrs().OnElements(formula...)
	p.AllowElements("p", "br", "strong", "em", "u", "sub", "sup", "ul", "ol", "li", "blockquote", "h3", "h4",
		"table", "caption", "thead", "tbody", "tr", "th", "td")
	p.AllowAttrs("scope").Matching(bluemonday.SpaceSeparatedTokens).OnElements("th")
	p.AllowAttrs("lang").Matching(bluemonday.SpaceSeparatedTokens).Globally()
	return p
}()

var nothingAllowed = bluemonday.StrictPolicy()

// Clean keeps the safe subset of a piece of formatted text and drops the rest.
func Clean(h string) string { return strings.TrimSpace(subset.Sanitize(h)) }

var blockEnds = strings.NewReplacer("</p>", " </p>", "</li>", " </li>", "</td>", " </td>", "</th>", " </th>", "<br>", " ", "<br/>", " ")

// PlainText is the text of a piece of formatted text, white space folded.
func PlainText(h string) string {
	return strings.Join(strings.Fields(html.UnescapeString(nothingAllowed.Sanitize(blockEnds.Replace(h)))), " ")
}

func cleaned(choices []Choice) []Choice {
	if len(choices) == 0 {
		return nil
	}
	out := slices.Clone(choices)
	for i, c := range out {
		out[i].HTML = Clean(c.HTML)
		if c.Plain { // the space around it parts it from its neighbors
			out[i].HTML = subset.Sanitize(c.HTML)
		}
	}
	return out
}

// Cleaned gives the item with every piece of its text reduced to the safe subset.
func (it Item) Cleaned() Item {
	body := make([]Block, len(it.Body))
	for i, b := range it.Body {
		body[i] = Block{HTML: Clean(b.HTML)}
		if b.Interaction == nil {
			continue
		}
		in := *b.Interaction
		in.Choices, in.Targets = cleaned(in.Choices), cleaned(in.Targets)
		body[i].Interaction = &in
	}
	it.Body = body
	return it
}
