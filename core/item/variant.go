package item

import (
	"fmt"
	"regexp"
	"slices"
	"strings"
)

// Variant is an item in one more language. Its body has the same places to answer
// and the same choices by id, so that one key holds for all.
type Variant struct {
	Language string    `json:"language"`
	Body     []Block   `json:"body"`
	Feedback *Feedback `json:"feedback,omitempty"` // nil for none
}

var languageTag = regexp.MustCompile(`^[a-z]{2,3}(-[A-Za-z0-9]{2,8})*$`)

// In gives the item in a language, or as it is when there is no such variant.
func (it Item) In(language string) Item {
	for _, v := range it.Variants {
		if v.Language == language {
			it.Body, it.Feedback = v.Body, v.Feedback
		}
	}
	return it
}

// checkVariants lists what of each variant is missing or out of step with the item.
func (it Item) checkVariants() []Problem {
	var out []Problem
	seen := map[string]bool{}
	for i, v := range it.Variants {
		place := fmt.Sprintf("variants[%d]", i)
		if !languageTag.MatchString(v.Language) || seen[v.Language] {
			out = append(out, Problem{place + ".language", fmt.Sprintf("%q is not a language tag of its own", v.Language)})
		}
		seen[v.Language] = true
		for _, reason := range outOfStep(it.Body, v.Body) {
			out = append(out, Problem{place + ".body", fmt.Sprintf("in %q %s", v.Language, reason)})
		}
		if strings.TrimSpace((Item{Body: v.Body}).Stem()) == "" && strings.TrimSpace(it.Stem()) != "" {
			out = append(out, Problem{place + ".body", fmt.Sprintf("in %q the stem is missing", v.Language)})
		}
	}
	return out
}

func interactions(body []Block) []Interaction {
	var out []Interaction
	for _, b := range body {
		if b.Interaction != nil {
			out = append(out, *b.Interaction)
		}
	}
	return out
}

// outOfStep compares the places to answer of two bodies.
func outOfStep(of, other []Block) []string {
	a, b := interactions(of), interactions(other)
	if len(a) != len(b) {
		return []string{fmt.Sprintf("there are %d places to answer instead of %d", len(b), len(a))}
	}
	var out []string
	for i := range a {
		if a[i].Response != b[i].Response || a[i].Kind != b[i].Kind {
			out = append(out, "the places to answer stand in another order")
			continue
		}
		for _, list := range [][2][]Choice{{a[i].Choices, b[i].Choices}, {a[i].Targets, b[i].Targets}} {
			out = append(out, choicesOutOfStep(list[0], list[1])...)
		}
	}
	return out
}

func choicesOutOfStep(of, other []Choice) []string {
	ids := func(list []Choice) []string {
		var out []string
		for _, c := range list {
			if !c.Plain {
				out = append(out, c.ID+"/"+c.In)
			}
		}
		slices.Sort(out)
		return out
	}
	if !slices.Equal(ids(of), ids(other)) {
		return []string{"the choices are not the same ones"}
	}
	var out []string
	for _, c := range of {
		at := slices.IndexFunc(other, func(o Choice) bool { return o.ID == c.ID && !o.Plain })
		if !c.Plain && strings.TrimSpace(c.HTML) != "" && strings.TrimSpace(other[at].HTML) == "" {
			out = append(out, fmt.Sprintf("the choice %s is missing", c.ID))
		}
	}
	return out
}

// Card is a piece of a catalog of QTI 3: what goes with a place of the item for one
// support, such as words to be spoken.
type Card struct {
	Catalog  string `json:"catalog"`
	Support  string `json:"support"`
	Language string `json:"language,omitempty"`
	Default  bool   `json:"default,omitempty"`
	HTML     string `json:"html"`
}

// Supports of cards that explain a word, as QTI 3 names them.
const (
	GlossaryCard    = "glossary-on-screen"
	TranslationCard = "keyword-translation"
)

// Gloss explains a word of an item.
type Gloss struct {
	Word     string `json:"word"`
	Language string `json:"language,omitempty"` // of HTML; "" for the item's
	HTML     string `json:"html"`
}

var marked = regexp.MustCompile(`(?is)<(\w+)[^>]*\bdata-catalog-idref="([^"]*)"[^>]*>(.*?)</`)

// Glossary lists the words that the item's catalogs explain, in the order of the text. A card that says nothing explains nothing.
func (it Item) Glossary() []Gloss {
	return slices.DeleteFunc(it.glosses(), func(g Gloss) bool { return PlainText(g.HTML) == "" })
}

// glosses lists the words with every card that is to explain them.
func (it Item) glosses() []Gloss {
	if len(it.Cards) == 0 {
		return nil
	}
	var out []Gloss
	var seen []string
	for _, h := range it.texts() {
		for _, found := range marked.FindAllStringSubmatch(h, -1) {
			catalog, word := found[2], PlainText(found[3])
			if slices.Contains(seen, catalog) || word == "" {
				continue
			}
			seen = append(seen, catalog)
			for _, c := range it.Cards {
				if c.Catalog == catalog && (c.Support == GlossaryCard || c.Support == TranslationCard) {
					out = append(out, Gloss{word, c.Language, c.HTML})
				}
			}
		}
	}
	return out
}

// texts are the pieces of formatted text of the body, stems and choices.
func (it Item) texts() []string {
	var out []string
	for _, b := range it.Body {
		if b.HTML != "" {
			out = append(out, b.HTML)
		}
		if b.Interaction == nil {
			continue
		}
		for _, c := range slices.Concat(b.Interaction.Choices, b.Interaction.Targets) {
			out = append(out, c.HTML)
		}
	}
	return out
}

// Wordless tells whether a picture of the item says something that no words say.
func (it Item) Wordless() bool {
	for _, h := range it.texts() {
		for _, tag := range pictureTag.FindAllString(h, -1) {
			if !altText.MatchString(tag) {
				return true
			}
		}
	}
	return slices.ContainsFunc(it.Body, func(b Block) bool {
		return b.Interaction != nil && b.Interaction.Picture != nil && b.Interaction.Picture.Alt == ""
	})
}
