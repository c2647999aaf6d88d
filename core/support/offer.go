package support

import (
	"encoding/json"
	"slices"

	"pineledger/core/settings"
)

// Offer is what an assessment can give, as far as supports ask for it.
type Offer struct {
	Subject      string
	Language     string
	Instructions bool // it has some of its own
	Lines        []Line
	Passages     []Passage
	Book         bool // it is a document, which students read beside their answers
}

// Line is an item of it.
type Line struct {
	Standards []string
	Languages []string // that it is written in
	Passage   string   // "" without one
	NoWords   bool     // a picture says something that no words say
	Glossary  bool
	// Without are the tools that it is answered without, of settings.OfLines; a calculator also where it stands in a part without one
	// while others have it.
	Without []string
}

// Passage is a text that lines hang on.
type Passage struct{ Title, Language string }

// linesWhere counts lines from 1.
func (o Offer) linesWhere(holds func(Line) bool) []int {
	var out []int
	for i, l := range o.Lines {
		if holds(l) {
			out = append(out, i+1)
		}
	}
	return out
}

func readParts(value json.RawMessage) []string {
	var parts []string
	if json.Unmarshal(value, &parts) != nil {
		return nil
	}
	return parts
}

// LetAnyway tells whether a coordinator allowed a student a support that gives a tool, also where the tool breaks what is measured.
func LetAnyway(given []Given, tool string) bool {
	return slices.ContainsFunc(given, func(g Given) bool { return g.Apart && slices.Contains(changes[g.Key], tool) })
}

// without is a support less some parts; false where nothing is left.
func (g Given) without(parts []string) (Given, bool) {
	if len(parts) == 0 {
		return g, false
	}
	left := slices.DeleteFunc(readParts(g.Value), func(p string) bool { return slices.Contains(parts, p) })
	g.Value = settings.Raw(left)
	return g, len(left) > 0
}

// Ruling is what a coordinator decided of a support that would break what is measured.
type Ruling string

const (
	Allow   Ruling = "allow"   // it is given, and the result is marked
	Without Ruling = "without" // it is given without the part that breaks, or not at all
)

// Lets is what a student gets of supports in an assessment: what would break what is measured only where a coordinator allowed it; of
// reading aloud, the rest; of a tool that some lines are answered without, the other lines.
func (o Offer) Lets(given []Given, rules []Construct, rulings map[string]Ruling) []Given {
	var out []Given
	for _, g := range given {
		verdict := o.Breaks(g, rules)
		switch {
		case verdict == nil:
			out = append(out, g)
		case rulings[g.Key] == Allow:
			g.Apart = true
			out = append(out, g)
		case verdict.Rest:
			out = append(out, g)
		default:
			if rest, some := g.without(verdict.Parts); some {
				out = append(out, rest)
			}
		}
	}
	return out
}
