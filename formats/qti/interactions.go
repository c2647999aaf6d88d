package qti

import (
	"html"
	"slices"
	"strconv"
	"strings"

	"pineledger/core/item"
)

// interactionReaders read each kind of place to answer.
var interactionReaders map[string]func(*itemReader, node, declared) (item.Interaction, *Refusal)

func init() {
	interactionReaders = map[string]func(*itemReader, node, declared) (item.Interaction, *Refusal){
		"choiceInteraction":           readChoice,
		"inlineChoiceInteraction":     readInlineChoice,
		"orderInteraction":            readOrder,
		"matchInteraction":            readMatch,
		"associateInteraction":        readAssociate,
		"gapMatchInteraction":         readGapMatch,
		"hottextInteraction":          readHottext,
		"hotspotInteraction":          readHotspot,
		"selectPointInteraction":      readSelectPoint,
		"graphicOrderInteraction":     readGraphicOrder,
		"graphicAssociateInteraction": readGraphicAssociate,
		"graphicGapMatchInteraction":  readGraphicGapMatch,
		"sliderInteraction":           readSlider,
		"textEntryInteraction":        readTextEntry,
		"extendedTextInteraction":     readExtendedText,
	}
}

func (w *bodyWriter) interaction(n node) *Refusal {
	read, ok := interactionReaders[n.name]
	if !ok {
		return w.r.refuse(n, "is an interaction that is not read")
	}
	id := n.attr["responseIdentifier"]
	d, ok := w.r.declared[id]
	if !ok {
		return w.r.refuse(n, "answers %q, which is not declared", id)
	}
	if !token.MatchString(id) {
		return w.r.refuse(n, "has an unusual response identifier")
	}
	in, refusal := read(w.r, n, d)
	if refusal != nil {
		return refusal
	}
	in.Response = id
	if hint := item.Kind(n.attr["data-kind"]); hint != "" {
		in.Kind = hint
	}
	if prompt, ok := n.child("prompt"); ok {
		if refusal := w.walk(prompt.inner); refusal != nil {
			return refusal
		}
	}
	w.flush()
	w.out = append(w.out, item.Block{Interaction: &in, Inline: w.inline && slices.Contains(inlineInteractions, n.name)})
	return nil
}

// limit reads a number such as max-choices; least is what stands for nothing.
func limit(n node, name string, otherwise int) int {
	v, ok := whole(n.attr[name])
	if !ok || v < 0 {
		return otherwise
	}
	return v
}

// choices reads simple choices of any name, which may be pinned.
func (r *itemReader) choices(n node, name string) ([]item.Choice, *Refusal) {
	var out []item.Choice
	for _, c := range n.children(name) {
		text, refusal := r.formatted(c.inner)
		if refusal != nil {
			return nil, refusal
		}
		out = append(out, item.Choice{ID: c.attr["identifier"], HTML: text, Pinned: c.attr["fixed"] == "true", Most: limit(c, "matchMax", 0), In: c.attr["data-in"]})
	}
	return out, nil
}

func readChoice(r *itemReader, n node, d declared) (item.Interaction, *Refusal) {
	in := item.Interaction{Kind: item.MultipleChoice, MaxChoices: limit(n, "maxChoices", 1)}
	if d.cardinality == "single" {
		in.Kind, in.MaxChoices = item.SingleChoice, 1
	}
	var refusal *Refusal
	in.Choices, refusal = r.choices(n, "simpleChoice")
	return in, refusal
}

func readInlineChoice(r *itemReader, n node, _ declared) (item.Interaction, *Refusal) {
	choices, refusal := r.choices(n, "inlineChoice")
	return item.Interaction{Kind: item.SingleChoice, MaxChoices: 1, Choices: choices}, refusal
}

func readOrder(r *itemReader, n node, _ declared) (item.Interaction, *Refusal) {
	choices, refusal := r.choices(n, "simpleChoice")
	if most := limit(n, "maxChoices", 0); refusal == nil && most > 0 && most < len(choices) {
		refusal = r.refuse(n, "puts a part of its choices in order, which is not read")
	}
	return item.Interaction{Kind: item.Order, Choices: choices}, refusal
}

func readMatch(r *itemReader, n node, _ declared) (item.Interaction, *Refusal) {
	sets := n.children("simpleMatchSet")
	if len(sets) != 2 {
		return item.Interaction{}, r.refuse(n, "has %d sets instead of two", len(sets))
	}
	choices, refusal := r.choices(sets[0], "simpleAssociableChoice")
	if refusal != nil {
		return item.Interaction{}, refusal
	}
	targets, refusal := r.choices(sets[1], "simpleAssociableChoice")
	return item.Interaction{Kind: item.Match, Choices: choices, Targets: targets}, refusal
}

func readAssociate(r *itemReader, n node, _ declared) (item.Interaction, *Refusal) {
	choices, refusal := r.choices(n, "simpleAssociableChoice")
	return item.Interaction{Kind: item.Match, Choices: choices, Among: true}, refusal
}

// pieces parts a text at elements of a name: what they are, and the text between.
// Tags around a piece fall away, and paragraphs become lines.
func (r *itemReader) pieces(list []node, name string, piece func(node) (item.Choice, *Refusal)) ([]item.Choice, *Refusal) {
	var out []item.Choice
	var text strings.Builder
	flush := func() {
		if text.Len() > 0 {
			out = append(out, item.Choice{HTML: text.String(), Plain: true})
		}
		text.Reset()
	}
	var walk func([]node) *Refusal
	walk = func(list []node) *Refusal {
		for _, n := range list {
			switch {
			case n.name == "":
				text.WriteString(html.EscapeString(n.text))
			case n.name == name:
				c, refusal := piece(n)
				if refusal != nil {
					return refusal
				}
				flush()
				out = append(out, c)
			case len(n.all(name)) > 0:
				if slices.Contains([]string{"p", "div", "li", "blockquote"}, n.name) && (len(out) > 0 || strings.TrimSpace(text.String()) != "") {
					text.WriteString("<br>")
				}
				if refusal := walk(n.inner); refusal != nil {
					return refusal
				}
			case n.name != "prompt" && n.name != "gapText" && n.name != "gapImg":
				w := newBody(r)
				if refusal := w.element(n); refusal != nil {
					return refusal
				}
				text.WriteString(w.html())
			}
		}
		return nil
	}
	refusal := walk(list)
	flush()
	// White space between the elements of the file says nothing at the ends.
	for len(out) > 0 && out[0].Plain && strings.TrimSpace(out[0].HTML) == "" {
		out = out[1:]
	}
	for len(out) > 0 && out[len(out)-1].Plain && strings.TrimSpace(out[len(out)-1].HTML) == "" {
		out = out[:len(out)-1]
	}
	return out, refusal
}

func readGapMatch(r *itemReader, n node, _ declared) (item.Interaction, *Refusal) {
	if images := n.children("gapImg"); len(images) > 0 {
		return item.Interaction{}, r.refuse(images[0], "is a picture to put in a gap, which is not read")
	}
	choices, refusal := r.choices(n, "gapText")
	if refusal != nil {
		return item.Interaction{}, refusal
	}
	targets, refusal := r.pieces(n.inner, "gap", func(g node) (item.Choice, *Refusal) {
		return item.Choice{ID: g.attr["identifier"], Most: 1}, nil
	})
	return item.Interaction{Kind: item.Menus, Choices: choices, Targets: targets}, refusal
}

func readHottext(r *itemReader, n node, d declared) (item.Interaction, *Refusal) {
	in := item.Interaction{Kind: item.SelectText, MaxChoices: limit(n, "maxChoices", 1)}
	if d.cardinality == "single" {
		in.MaxChoices = 1
	}
	var refusal *Refusal
	in.Choices, refusal = r.pieces(n.inner, "hottext", func(h node) (item.Choice, *Refusal) {
		text, refusal := r.formatted(h.inner)
		return item.Choice{ID: h.attr["identifier"], HTML: text}, refusal
	})
	return in, refusal
}

// picture finds the picture of a graphic interaction.
func (r *itemReader) picture(n node) (*item.Picture, *Refusal) {
	for _, c := range n.children("object", "img", "picture") {
		if c.name == "picture" {
			inner, ok := c.child("img")
			if !ok {
				continue
			}
			c = inner
		}
		source := c.attr["data"]
		if c.name == "img" {
			source = c.attr["src"]
		}
		p, err := r.pack.media(r.file, source)
		if err != nil {
			return nil, r.refuse(c, "%s", err)
		}
		if w, ok := whole(c.attr["width"]); ok {
			p.Width = w
		}
		if h, ok := whole(c.attr["height"]); ok {
			p.Height = h
		}
		if p.Alt = c.attr["alt"]; p.Alt == "" {
			p.Alt = c.words()
		}
		if p.Alt == "" {
			p.Alt = n.attr["aria-label"]
		}
		return &p, nil
	}
	return nil, r.refuse(n, "has no picture")
}

func readHotspot(r *itemReader, n node, d declared) (item.Interaction, *Refusal) {
	in := item.Interaction{Kind: item.Spot, MaxChoices: limit(n, "maxChoices", 1)}
	if d.cardinality == "single" {
		in.MaxChoices = 1
	}
	var refusal *Refusal
	if in.Picture, refusal = r.picture(n); refusal != nil {
		return in, refusal
	}
	for i, c := range n.children("hotspotChoice") {
		area, refusal := r.area(c)
		if refusal != nil {
			return in, refusal
		}
		label := c.attr["hotspotLabel"]
		if label == "" {
			label = "area " + item.Label(i)
		}
		in.Choices = append(in.Choices, item.Choice{ID: c.attr["identifier"], HTML: html.EscapeString(label), Area: &area})
	}
	return in, nil
}

func readSelectPoint(r *itemReader, n node, d declared) (item.Interaction, *Refusal) {
	in := item.Interaction{Kind: item.Spot, MaxChoices: limit(n, "maxChoices", 1)}
	if d.cardinality == "single" {
		in.MaxChoices = 1
	}
	var refusal *Refusal
	in.Picture, refusal = r.picture(n)
	return in, refusal
}

func readSlider(r *itemReader, n node, _ declared) (item.Interaction, *Refusal) {
	line := item.Line{From: plain(n.attr["lowerBound"]), To: plain(n.attr["upperBound"]), Step: plain(n.attr["step"]), Labels: 1}
	if line.Step == "" {
		line.Step = "1"
	}
	if labels, ok := whole(n.attr["data-labels"]); ok {
		line.Labels = labels
	}
	for name, exact := range map[string]*string{"data-from": &line.From, "data-to": &line.To, "data-step": &line.Step} {
		if v := n.attr[name]; v != "" {
			*exact = v // fractions, which a slider has no words for
		}
	}
	return item.Interaction{Kind: item.NumberLine, Line: &line}, nil
}

func readTextEntry(_ *itemReader, n node, d declared) (item.Interaction, *Refusal) {
	in := item.Interaction{Kind: item.Text, Unit: n.attr["data-unit"]}
	if d.base == "float" || d.base == "integer" {
		in.Kind = item.Number
	}
	return in, nil
}

func readExtendedText(r *itemReader, n node, _ declared) (item.Interaction, *Refusal) {
	rows := limit(n, "expectedLines", 0)
	if most := limit(n, "maxStrings", 1); most > 1 {
		return item.Interaction{}, r.refuse(n, "asks for %s texts, which is not read", strconv.Itoa(most))
	}
	return item.Interaction{Kind: item.ShortWritten, Rows: min(rows, 60)}, nil
}

// numeral names the places to which lettered things are put.
func numeral(i int) string { return strconv.Itoa(i + 1) }

// places reads what has its place on a picture. Each has a short name, which stands on the picture too.
func (r *itemReader) places(n node, name string, called func(int) string) ([]item.Choice, *Refusal) {
	var out []item.Choice
	for i, c := range n.children(name) {
		area, refusal := r.area(c)
		if refusal != nil {
			return nil, refusal
		}
		text := called(i)
		if label := c.attr["hotspotLabel"]; label != "" {
			text += ". " + label
		}
		place := item.Choice{ID: c.attr["identifier"], HTML: html.EscapeString(text), Area: &area}
		if name == "associableHotspot" {
			place.Most = limit(c, "matchMax", 0)
		}
		out = append(out, place)
	}
	return out, nil
}

func readGraphicOrder(r *itemReader, n node, _ declared) (item.Interaction, *Refusal) {
	in := item.Interaction{Kind: item.Order}
	var refusal *Refusal
	if in.Picture, refusal = r.picture(n); refusal != nil {
		return in, refusal
	}
	in.Choices, refusal = r.places(n, "hotspotChoice", item.Label)
	if most := limit(n, "maxChoices", 0); refusal == nil && most > 0 && most < len(in.Choices) {
		refusal = r.refuse(n, "puts a part of its places in order, which is not read")
	}
	return in, refusal
}

func readGraphicAssociate(r *itemReader, n node, _ declared) (item.Interaction, *Refusal) {
	in := item.Interaction{Kind: item.Match, Among: true}
	var refusal *Refusal
	if in.Picture, refusal = r.picture(n); refusal != nil {
		return in, refusal
	}
	in.Choices, refusal = r.places(n, "associableHotspot", item.Label)
	return in, refusal
}

func readGraphicGapMatch(r *itemReader, n node, _ declared) (item.Interaction, *Refusal) {
	in := item.Interaction{Kind: item.Match}
	var refusal *Refusal
	if in.Picture, refusal = r.picture(n); refusal != nil {
		return in, refusal
	}
	for _, c := range n.children("gapText", "gapImg") {
		text, refusal := r.formatted(c.inner)
		if refusal != nil {
			return in, refusal
		}
		in.Choices = append(in.Choices, item.Choice{ID: c.attr["identifier"], HTML: text, Most: limit(c, "matchMax", 1)})
	}
	in.Targets, refusal = r.places(n, "associableHotspot", numeral)
	return in, refusal
}
