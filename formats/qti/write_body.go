package qti

import (
	"fmt"
	"strconv"
	"strings"

	"github.com/beevik/etree"
	"golang.org/x/net/html"
	"golang.org/x/net/html/atom"

	"pineledger/core/item"
)

// writeHTML writes a piece of formatted text as elements.
func writeHTML(parent *etree.Element, text string) error {
	context := &html.Node{Type: html.ElementNode, Data: "div", DataAtom: atom.Div}
	nodes, err := html.ParseFragment(strings.NewReader(text), context)
	if err != nil {
		return err
	}
	for _, n := range nodes {
		writeNode(parent, n)
	}
	return nil
}

func writeNode(parent *etree.Element, n *html.Node) {
	switch n.Type {
	case html.TextNode:
		parent.CreateText(n.Data)
	case html.ElementNode:
		e := parent.CreateElement(n.Data)
		if n.Data == "math" {
			e.CreateAttr("xmlns", mathNamespace)
		}
		for _, a := range n.Attr {
			name, value := a.Key, a.Val
			if name == "lang" {
				name = "xml:lang"
			}
			if name == "controls" {
				value = "controls"
			}
			e.CreateAttr(name, value)
		}
		for c := n.FirstChild; c != nil; c = c.NextSibling {
			writeNode(e, c)
		}
	}
}

// kindOf is the kind of a place to answer.
func kindOf(it item.Item, in item.Interaction) item.Kind {
	if it.Kind == item.Parts {
		return in.Kind
	}
	return it.Kind
}

// baseTypes and cardinalities of the kinds; others are told by what they hold.
func typeOf(kind item.Kind, in item.Interaction, d item.Declaration) (base, cardinality string) {
	switch kind {
	case item.SingleChoice, item.TrueFalse, item.Examiner:
		return "identifier", "single"
	case item.MultipleChoice, item.SelectText:
		return "identifier", "multiple"
	case item.Order:
		return "identifier", "ordered"
	case item.Match, item.Sort, item.BoxTable, item.Menus:
		if in.Among {
			return "pair", "multiple"
		}
		return "directedPair", "multiple"
	case item.Spot:
		base = "point"
		if len(in.Choices) > 0 {
			base = "identifier"
		}
		if in.MaxChoices == 1 {
			return base, "single"
		}
		return base, "multiple"
	case item.Number, item.NumberLine:
		for _, v := range d.Correct {
			if strings.Trim(v, "0123456789.-") != "" {
				return "string", "single" // a fraction or a time is no float
			}
		}
		return "float", "single"
	}
	return "string", "single"
}

func writeDeclaration(root *etree.Element, it item.Item, d item.Declaration) error {
	var in item.Interaction
	for _, b := range it.Body {
		if b.Interaction != nil && b.Interaction.Response == d.Response {
			in = *b.Interaction
		}
	}
	kind := kindOf(it, in)
	base, cardinality := typeOf(kind, in, d)
	e := root.CreateElement("qti-response-declaration")
	for _, a := range [][2]string{{"identifier", d.Response}, {"cardinality", cardinality}, {"base-type", base}} {
		e.CreateAttr(a[0], a[1])
	}
	// An examiner's key is in words for the adult; a single value cannot hold several.
	if len(d.Correct) > 0 && kind != item.Examiner {
		list := e.CreateElement("qti-correct-response")
		for _, v := range d.Correct {
			list.CreateElement("qti-value").SetText(v)
		}
	}
	m := d.Mapping
	if m == nil {
		return nil
	}
	name, entry := "qti-mapping", "qti-map-entry"
	areas := kind == item.Spot && len(in.Choices) == 0
	if areas {
		name = "qti-area-mapping"
	}
	mapping := e.CreateElement(name)
	for _, a := range [][2]string{{"default-value", m.Default}, {"lower-bound", m.Lower}, {"upper-bound", m.Upper}} {
		if a[1] != "" {
			mapping.CreateAttr(a[0], a[1])
		}
	}
	if areas {
		for _, a := range d.Areas {
			x := mapping.CreateElement("qti-area-map-entry")
			writeArea(x, a)
			x.CreateAttr("mapped-value", a.Value)
		}
		return nil
	}
	for _, v := range m.Entries {
		x := mapping.CreateElement(entry)
		x.CreateAttr("map-key", v.Key)
		x.CreateAttr("mapped-value", v.Value)
		if base == "string" {
			x.CreateAttr("case-sensitive", strconv.FormatBool(v.CaseMatters))
		}
	}
	return nil
}

// writeBody writes text and places to answer; a run of inline blocks is a paragraph.
func writeBody(body *etree.Element, it item.Item) error {
	var paragraph *etree.Element
	for _, b := range it.Body {
		into := body
		if b.Inline {
			if paragraph == nil {
				paragraph = body.CreateElement("p")
			}
			into = paragraph
		} else {
			paragraph = nil
		}
		if b.HTML != "" {
			if !b.Inline {
				into = body.CreateElement("div")
			}
			if err := writeHTML(into, b.HTML); err != nil {
				return err
			}
		}
		if b.Interaction != nil {
			if err := writeInteraction(into, it, *b.Interaction, b.Inline); err != nil {
				return err
			}
		}
	}
	return nil
}

func writeInteraction(parent *etree.Element, it item.Item, in item.Interaction, inline bool) error {
	kind := kindOf(it, in)
	begin := func(name string, attrs ...string) *etree.Element {
		e := parent.CreateElement("qti-" + name)
		e.CreateAttr("response-identifier", in.Response)
		e.CreateAttr("data-kind", string(kind))
		for i := 0; i < len(attrs); i += 2 {
			e.CreateAttr(attrs[i], attrs[i+1])
		}
		return e
	}
	most := strconv.Itoa(in.MaxChoices)
	switch kind {
	case item.SingleChoice:
		if inline {
			return writeChoices(begin("inline-choice-interaction"), "inline-choice", in.Choices, false)
		}
		return writeChoices(begin("choice-interaction", "max-choices", "1"), "simple-choice", in.Choices, false)
	case item.TrueFalse:
		return writeChoices(begin("choice-interaction", "max-choices", "1"), "simple-choice", in.Choices, false)
	case item.MultipleChoice:
		return writeChoices(begin("choice-interaction", "max-choices", most), "simple-choice", in.Choices, false)
	case item.Order:
		if in.Picture != nil {
			e := begin("graphic-order-interaction")
			writePicture(e, *in.Picture)
			writePlaces(e, "hotspot-choice", in.Choices)
			return nil
		}
		return writeChoices(begin("order-interaction"), "simple-choice", in.Choices, false)
	case item.Match, item.Sort, item.BoxTable:
		if in.Picture != nil {
			return writeJoinedOnPicture(begin, in)
		}
		if in.Among {
			return writeChoices(begin("associate-interaction", "max-associations", "0"), "simple-associable-choice", in.Choices, true)
		}
		e := begin("match-interaction", "max-associations", "0")
		if err := writeChoices(e.CreateElement("qti-simple-match-set"), "simple-associable-choice", in.Choices, true); err != nil {
			return err
		}
		return writeChoices(e.CreateElement("qti-simple-match-set"), "simple-associable-choice", in.Targets, true)
	case item.Menus:
		return writeGaps(begin("gap-match-interaction"), in)
	case item.SelectText:
		return writeHottext(begin("hottext-interaction", "max-choices", most), in)
	case item.Spot:
		return writeSpot(begin, in, most)
	case item.NumberLine:
		e := begin("slider-interaction", "lower-bound", in.Line.From, "upper-bound", in.Line.To, "step", in.Line.Step, "data-labels", strconv.Itoa(in.Line.Labels))
		for name, v := range map[string]string{"from": in.Line.From, "to": in.Line.To, "step": in.Line.Step} {
			if strings.Contains(v, "/") {
				e.CreateAttr("data-"+name, v)
			}
		}
		return nil
	case item.Text, item.Number:
		e := begin("text-entry-interaction")
		if in.Unit != "" {
			e.CreateAttr("data-unit", in.Unit)
		}
		return nil
	case item.ShortWritten, item.LongWritten:
		begin("extended-text-interaction", "expected-lines", strconv.Itoa(in.Rows))
		return nil
	case item.Examiner:
		e := begin("choice-interaction", "max-choices", "1")
		for _, v := range []string{item.RecordedRight, item.RecordedWrong, item.RecordedNone} {
			c := e.CreateElement("qti-simple-choice")
			c.CreateAttr("identifier", v)
			c.SetText(v)
		}
		return nil
	}
	return fmt.Errorf("the kind %q has no words in QTI", kind)
}

func writeChoices(parent *etree.Element, name string, choices []item.Choice, joined bool) error {
	for _, c := range choices {
		e := parent.CreateElement("qti-" + name)
		e.CreateAttr("identifier", c.ID)
		if joined {
			e.CreateAttr("match-max", strconv.Itoa(c.Most))
		}
		if joined && c.In != "" {
			e.CreateAttr("data-in", c.In) // the menu that alone offers it
		}
		if c.Pinned {
			e.CreateAttr("fixed", "true")
		}
		if err := writeHTML(e, c.HTML); err != nil {
			return err
		}
	}
	return nil
}

func writeGaps(e *etree.Element, in item.Interaction) error {
	if err := writeChoices(e, "gap-text", in.Choices, true); err != nil {
		return err
	}
	p := e.CreateElement("p")
	for _, t := range in.Targets {
		if t.Plain {
			if err := writeHTML(p, t.HTML); err != nil {
				return err
			}
			continue
		}
		p.CreateElement("qti-gap").CreateAttr("identifier", t.ID)
	}
	return nil
}

func writeHottext(e *etree.Element, in item.Interaction) error {
	p := e.CreateElement("p")
	for _, c := range in.Choices {
		into := p
		if !c.Plain {
			into = p.CreateElement("qti-hottext")
			into.CreateAttr("identifier", c.ID)
		}
		if err := writeHTML(into, c.HTML); err != nil {
			return err
		}
	}
	return nil
}

func writeSpot(begin func(string, ...string) *etree.Element, in item.Interaction, most string) error {
	name := "select-point-interaction"
	if len(in.Choices) > 0 {
		name = "hotspot-interaction"
	}
	e := begin(name, "max-choices", most)
	writePicture(e, *in.Picture)
	for _, c := range in.Choices {
		x := e.CreateElement("qti-hotspot-choice")
		x.CreateAttr("identifier", c.ID)
		x.CreateAttr("hotspot-label", item.PlainText(c.HTML))
		writeArea(x, *c.Area)
	}
	return nil
}

func writePicture(parent *etree.Element, p item.Picture) {
	img := parent.CreateElement("img")
	for _, a := range [][2]string{{"src", p.Source}, {"alt", p.Alt}, {"width", strconv.Itoa(p.Width)}, {"height", strconv.Itoa(p.Height)}} {
		img.CreateAttr(a[0], a[1])
	}
}

// writePlaces writes what has its place on a picture, without the short name that it has here.
func writePlaces(parent *etree.Element, name string, list []item.Choice) {
	for _, c := range list {
		e := parent.CreateElement("qti-" + name)
		e.CreateAttr("identifier", c.ID)
		if label, ok := strings.CutPrefix(item.PlainText(c.HTML), c.OnPicture()+". "); ok {
			e.CreateAttr("hotspot-label", label)
		}
		if name == "associable-hotspot" {
			e.CreateAttr("match-max", strconv.Itoa(c.Most))
		}
		writeArea(e, *c.Area)
	}
}

func writeJoinedOnPicture(begin func(string, ...string) *etree.Element, in item.Interaction) error {
	if in.Among {
		e := begin("graphic-associate-interaction", "max-associations", "0")
		writePicture(e, *in.Picture)
		writePlaces(e, "associable-hotspot", in.Choices)
		return nil
	}
	e := begin("graphic-gap-match-interaction")
	writePicture(e, *in.Picture)
	for _, c := range in.Choices {
		name := "gap-text"
		if strings.Contains(c.HTML, "<img") {
			name = "gap-img"
		}
		if err := writeChoices(e, name, []item.Choice{c}, true); err != nil {
			return err
		}
	}
	writePlaces(e, "associable-hotspot", in.Targets)
	return nil
}
