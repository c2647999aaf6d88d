package item

import (
	"bytes"
	"encoding/json"
	"fmt"
	"regexp"
	"slices"
	"strings"

	"github.com/microcosm-cc/bluemonday"
	"golang.org/x/net/html"
	"golang.org/x/net/html/atom"
)

// The subset of HTML that stems, choices and passages may hold, formulas as
// MathML included. Nothing in it can run, load from elsewhere or restyle the page:
// pictures and sound come from the media shelf alone.
var subset = func() *bluemonday.Policy {
	p := bluemonday.NewPolicy()
	formula := []string{"math", "semantics", "mrow", "mi", "mn", "mo", "mtext", "mfrac", "msqrt", "mroot", "msup", "msub", "msubsup", "mover", "munder", "mtable", "mtr", "mtd",
		"munderover", "mstyle", "mpadded", "mphantom", "menclose", "mspace"}
	p.AllowElements(formula...)
	p.AllowNoAttrs().OnElements(formula...)
	p.AllowAttrs("display").Matching(regexp.MustCompile(`^(block|inline)$`)).OnElements("math")
	token := regexp.MustCompile(`^[a-z0-9 .+-]{1,40}$`)
	p.AllowAttrs("stretchy", "form", "fence", "separator", "lspace", "rspace", "accent", "movablelimits", "symmetric", "largeop").Matching(token).OnElements("mo", "mover", "munder")
	p.AllowAttrs("mathvariant").Matching(token).OnElements("mi", "mn", "mtext")
	p.AllowAttrs("width", "height", "depth").Matching(token).OnElements("mspace", "mpadded")
	p.AllowAttrs("displaystyle", "scriptlevel").Matching(token).OnElements("mstyle", "mtable")
	p.AllowAttrs("columnalign", "rowspacing", "columnspacing").Matching(token).OnElements("mtable", "mtr", "mtd")
	p.AllowAttrs("linethickness").Matching(token).OnElements("mfrac")
	p.AllowAttrs("notation").Matching(token).OnElements("menclose")
	p.AllowElements("annotation") // the TeX that a formula was typed as
	p.AllowAttrs("encoding").Matching(regexp.MustCompile(`^application/x-tex$`)).OnElements("annotation")
	p.AllowAttrs("src").Matching(MediaSource).OnElements("img", "audio")
	p.AllowAttrs("alt").OnElements("img")
	p.AllowAttrs("width", "height").Matching(bluemonday.Integer).OnElements("img")
	p.AllowAttrs("controls").Matching(regexp.MustCompile(`^(controls)?$`)).OnElements("audio")
	p.AllowAttrs("aria-label").OnElements("audio")
	p.AllowElements("p", "br", "strong", "em", "u", "sub", "sup", "ul", "ol", "li", "blockquote", "h3", "h4",
		"table", "caption", "thead", "tbody", "tr", "th", "td")
	p.AllowAttrs("scope").Matching(bluemonday.SpaceSeparatedTokens).OnElements("th")
	p.AllowAttrs("lang").Matching(bluemonday.SpaceSeparatedTokens).Globally()
	p.AllowAttrs("data-catalog-idref").Matching(bluemonday.SpaceSeparatedTokens).Globally()
	p.AllowAttrs("lang", "data-catalog-idref").Matching(bluemonday.SpaceSeparatedTokens).OnElements("span")
	p.AllowRelativeURLs(true)
	p.RequireParseableURLs(true)
	return p
}()

// MediaSource is what the address of a picture or sound of the media shelf looks like.
var MediaSource = regexp.MustCompile(`^/media/[0-9a-f]{64}$`)

var nothingAllowed = bluemonday.StrictPolicy()

// Clean keeps the safe subset of a piece of formatted text and drops the rest.
func Clean(h string) string { return strings.TrimSpace(subset.Sanitize(h)) }

var blockEnds = strings.NewReplacer("</p>", " </p>", "</li>", " </li>", "</td>", " </td>", "</th>", " </th>", "<br>", " ", "<br/>", " ")

var annotation = regexp.MustCompile(`(?s)<annotation[^>]*>.*?</annotation>`)

// PlainText is the text of a piece of formatted text in one line, white space folded: 4², 3/4, H₂O.
func PlainText(h string) string {
	h = linear(annotation.ReplaceAllString(h, ""))
	return strings.Join(strings.Fields(html.UnescapeString(nothingAllowed.Sanitize(blockEnds.Replace(h)))), " ")
}

// Paragraphs are the texts of the blocks of a piece of formatted text, without markup.
func Paragraphs(h string) []string {
	var out []string
	for _, block := range strings.Split(paragraphEnds.Replace(h), "\x00") {
		if text := PlainText(block); text != "" {
			out = append(out, text)
		}
	}
	return out
}

var paragraphEnds = strings.NewReplacer("</p>", "\x00", "</li>", "\x00", "</td>", "\x00", "</th>", "\x00", "</h1>", "\x00", "</h2>", "\x00", "</h3>", "\x00",
	"</blockquote>", "\x00", "</figcaption>", "\x00")

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
	it.Body, it.Directions, it.Feedback = cleanedBody(it.Body), Clean(it.Directions), it.Feedback.cleaned()
	variants := it.Variants
	it.Variants = nil
	for _, v := range variants {
		it.Variants = append(it.Variants, Variant{v.Language, cleanedBody(v.Body), v.Feedback.cleaned()})
	}
	it.Cards = slices.Clone(it.Cards)
	for i := range it.Cards {
		it.Cards[i].HTML = Clean(it.Cards[i].HTML)
	}
	return it
}

func cleanedBody(blocks []Block) []Block {
	body := make([]Block, len(blocks))
	for i, b := range blocks {
		body[i] = Block{HTML: Clean(b.HTML), Inline: b.Inline}
		if b.Inline { // the space around it parts it from its neighbors
			body[i].HTML = subset.Sanitize(b.HTML)
		}
		if b.Interaction == nil {
			continue
		}
		in := *b.Interaction
		in.Choices, in.Targets = cleaned(in.Choices), cleaned(in.Targets)
		if in.Picture != nil && !MediaSource.MatchString(in.Picture.Source) {
			p := *in.Picture
			p.Source = ""
			in.Picture = &p
		}
		body[i].Interaction = &in
	}
	return body
}

func (f *Feedback) cleaned() *Feedback {
	if f == nil {
		return nil
	}
	out := Feedback{Right: Clean(f.Right), Wrong: Clean(f.Wrong)}
	for _, a := range f.ByAnswers {
		a.HTML = Clean(a.HTML)
		if a.HTML != "" {
			out.ByAnswers = append(out.ByAnswers, a)
		}
	}
	if out.Right == "" && out.Wrong == "" && out.ByAnswers == nil {
		return nil
	}
	return &out
}

var pictureTag = regexp.MustCompile(`<img[^>]*>`)

// hasPicture tells whether the body shows a picture.
func (it Item) hasPicture() bool {
	for _, b := range it.Body {
		if pictureTag.MatchString(b.HTML) || b.Interaction != nil && b.Interaction.Picture != nil {
			return true
		}
	}
	return false
}

var mediaInText = regexp.MustCompile(`/media/([0-9a-f]{64})`)

// MediaIn lists the hashes of the media that a text or document refers to, each once, sorted.
func MediaIn(text string) []string {
	var out []string
	for _, m := range mediaInText.FindAllStringSubmatch(text, -1) {
		out = append(out, m[1])
	}
	slices.Sort(out)
	return slices.Compact(out)
}

// Media lists the hashes of an item's pictures and sounds.
func (it Item) Media() []string {
	document, err := json.Marshal(it)
	if err != nil {
		panic(err) // an item is made of texts and numbers
	}
	return MediaIn(string(document))
}

// WithMedia gives an item that shows another file of the shelf wherever it showed
// the first. The areas of a spot are drawn on its picture, so that only one of the
// same size can take its place.
func (it Item) WithMedia(from string, to Picture) (Item, error) {
	document, err := json.Marshal(it)
	if err != nil {
		return it, err
	}
	out, err := Read(bytes.ReplaceAll(document, []byte("/media/"+from), []byte(to.Source)))
	if err != nil {
		return it, err
	}
	bodies := [][]Block{out.Body}
	for _, v := range out.Variants {
		bodies = append(bodies, v.Body)
	}
	for _, b := range slices.Concat(bodies...) {
		if b.Interaction == nil || b.Interaction.Picture == nil || b.Interaction.Picture.Source != to.Source {
			continue
		}
		if p := b.Interaction.Picture; p.Width != to.Width || p.Height != to.Height {
			return it, fmt.Errorf("its areas are drawn on a picture of %d × %d pixels, and the other has %d × %d", p.Width, p.Height, to.Width, to.Height)
		}
	}
	return out, nil
}

// Formatted takes a text that begins with a tag as formatted and any other as
// plain, whose blank lines part paragraphs. What it gives is still to be cleaned.
func Formatted(text string) string {
	if strings.HasPrefix(text, "<") {
		return text
	}
	var out []string
	for _, p := range strings.Split(text, "\n\n") {
		out = append(out, "<p>"+html.EscapeString(strings.TrimSpace(p))+"</p>")
	}
	if len(out) == 1 {
		return html.EscapeString(text)
	}
	return strings.Join(out, "")
}

// raised and lowered are the characters that have a form of their own above and below the line.
var (
	raised  = strings.NewReplacer(pairs("0123456789+-−=()n", "⁰¹²³⁴⁵⁶⁷⁸⁹⁺⁻⁻⁼⁽⁾ⁿ")...)
	lowered = strings.NewReplacer(pairs("0123456789+-−=()", "₀₁₂₃₄₅₆₇₈₉₊₋₋₌₍₎")...)
)

func pairs(from, to string) []string {
	var out []string
	forms := []rune(to)
	for i, c := range []rune(from) {
		out = append(out, string(c), string(forms[i]))
	}
	return out
}

// linear writes what stands above, below or over something else in one line, so that
// 4 squared is not read as 42, nor three fourths as 34. Text without such is given back as it is.
func linear(h string) string {
	if !strings.Contains(h, "<su") && !strings.Contains(h, "<m") {
		return h
	}
	nodes, err := html.ParseFragment(strings.NewReader(h), &html.Node{Type: html.ElementNode, Data: "div", DataAtom: atom.Div})
	if err != nil { // a reader of a string does not fail
		return h
	}
	var out strings.Builder
	for _, n := range nodes {
		straighten(n)
		if html.Render(&out, n) != nil {
			return h
		}
	}
	return out.String()
}

// straighten puts text in the place of each element that stands above, below or over.
func straighten(n *html.Node) {
	for c := n.FirstChild; c != nil; c = c.NextSibling {
		straighten(c)
	}
	if n.Type != html.ElementNode {
		return
	}
	var parts []string
	for c := n.FirstChild; c != nil; c = c.NextSibling {
		if text := strings.TrimSpace(textOf(c)); text != "" {
			parts = append(parts, text)
		}
	}
	var text string
	switch {
	case n.Data == "sup" && slices.Contains([]string{"st", "nd", "rd", "th"}, strings.Join(parts, "")):
		text = strings.Join(parts, "")
	case n.Data == "sup" && len(parts) > 0:
		text = above(strings.Join(parts, ""))
	case n.Data == "sub" && len(parts) > 0:
		text = below(strings.Join(parts, ""))
	case n.Data == "msup" && len(parts) == 2:
		text = parts[0] + above(parts[1])
	case n.Data == "msub" && len(parts) == 2:
		text = parts[0] + below(parts[1])
	case n.Data == "msubsup" && len(parts) == 3:
		text = parts[0] + below(parts[1]) + above(parts[2])
	case n.Data == "mfrac" && len(parts) == 2:
		text = grouped(parts[0]) + "/" + grouped(parts[1])
		if whole := n.PrevSibling; whole != nil && whole.Data == "mn" {
			text = " " + text // a mixed number
		}
	case n.Data == "msqrt" && len(parts) > 0:
		text = "√" + grouped(strings.Join(parts, ""))
	case n.Data == "mroot" && len(parts) == 2:
		text = above(parts[1]) + "√" + grouped(parts[0])
	default:
		return
	}
	for c := n.FirstChild; c != nil; c = n.FirstChild {
		n.RemoveChild(c)
	}
	n.AppendChild(&html.Node{Type: html.TextNode, Data: text})
}

func textOf(n *html.Node) string {
	if n.Type == html.TextNode {
		return n.Data
	}
	var out strings.Builder
	for c := n.FirstChild; c != nil; c = c.NextSibling {
		out.WriteString(textOf(c))
	}
	return out.String()
}

func above(s string) string { return formed(s, raised, "^") }
func below(s string) string { return formed(s, lowered, "_") }

// formed is s above or below the line, or behind a mark where not every character has such a form.
func formed(s string, forms *strings.Replacer, mark string) string {
	out := forms.Replace(s)
	for _, c := range s {
		if forms.Replace(string(c)) == string(c) {
			return mark + grouped(s)
		}
	}
	return out
}

// grouped sets in parentheses what is more than one number or name.
func grouped(s string) string {
	if strings.ContainsAny(s, " +-−=·×÷*/<>") {
		return "(" + s + ")"
	}
	return s
}
