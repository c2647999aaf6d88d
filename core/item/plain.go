package item

import (
	"slices"
	"strings"

	"golang.org/x/net/html"
	"golang.org/x/net/html/atom"
)

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
