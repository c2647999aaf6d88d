package qti

import (
	"fmt"
	"path"
	"slices"
	"strings"

	"pineledger/core/item"
)

// itemReader reads one assessment item.
type itemReader struct {
	pack     *Package
	file     string
	root     node
	declared map[string]declared
	out      item.Item
	apart    *item.Item // what was folded into menus, as the file has it
	passage  *Passage   // that a page in the body brings
}

// declared is a response declaration.
type declared struct {
	node
	cardinality, base string
	correct           []string
	mapping           *item.Mapping
	areas             []item.Area
}

func (r *itemReader) refuse(n node, format string, args ...any) *Refusal {
	return &Refusal{Line: n.line, Element: n.name, Reason: fmt.Sprintf(format, args...)}
}

// known are the children of an item that are read, or that say nothing an item
// keeps: style sheets belong to who shows it, templates of a test are refused.
var known = []string{"responseDeclaration", "outcomeDeclaration", "contextDeclaration", "assessmentStimulusRef", "stylesheet", "itemBody", "responseProcessing",
	"modalFeedback", "catalogInfo", "companionMaterialsInfo"}

func (r *itemReader) read(found *Found) *Refusal {
	root := r.root
	found.Identifier, found.Title = root.attr["identifier"], root.attr["title"]
	if found.Meta.Language == "" {
		found.Meta.Language = root.attr["xml:lang"]
	}
	if found.Identifier == "" {
		return r.refuse(root, "has no identifier")
	}
	if root.attr["adaptive"] == "true" {
		return r.refuse(root, "is adaptive, which is not read")
	}
	for _, c := range root.children() {
		if !slices.Contains(known, c.name) {
			return r.refuse(c, "is not read")
		}
	}
	if other, found := root.foreign(); found {
		return r.refuse(other, "belongs to %q, which is not a namespace of QTI", other.space)
	}
	r.out = item.Item{Schema: item.Schema, Title: root.attr["title"]}
	r.declared = map[string]declared{}
	for _, n := range root.children("responseDeclaration") {
		d, refusal := r.declaration(n)
		if refusal != nil {
			return refusal
		}
		r.declared[n.attr["identifier"]] = d
	}
	body, ok := root.child("itemBody")
	if !ok {
		return r.refuse(root, "has no body")
	}
	for _, read := range []func() *Refusal{
		func() *Refusal { return r.stimulus(found) },
		func() *Refusal { return r.catalogs() },
		func() *Refusal { return r.companions() },
		func() *Refusal { return r.body(body) },
		func() *Refusal { return r.passageOfBody(found) },
		func() *Refusal { return r.scoring(found, body) },
		func() *Refusal { return r.feedback() },
	} {
		if refusal := read(); refusal != nil {
			return refusal
		}
	}
	found.Item = r.out.Cleaned()
	if title := found.Item.Title; title != "" { // one that was made of the stem is none
		found.Item.Title = ""
		if found.Item.Name() != title {
			found.Item.Title = title
		}
	}
	if problems := found.Item.Check(); len(problems) > 0 {
		return r.refuse(body, "%s: %s", problems[0].Place, problems[0].Reason)
	}
	return nil
}

func (r *itemReader) declaration(n node) (declared, *Refusal) {
	d := declared{node: n, cardinality: n.attr["cardinality"], base: n.attr["baseType"]}
	if n.attr["identifier"] == "" {
		return d, r.refuse(n, "has no identifier")
	}
	if d.cardinality == "record" {
		return d, r.refuse(n, "is a record, which is not read")
	}
	if c, ok := n.child("correctResponse"); ok {
		for _, v := range c.children("value") {
			d.correct = append(d.correct, decimal(d.base, v.words()))
		}
	}
	if m, ok := n.child("mapping"); ok {
		d.mapping = bounds(m)
		for _, e := range m.children("mapEntry") {
			matters := e.attr["caseSensitive"] == "true"
			if _, said := e.attr["caseSensitive"]; !said && !r.root.three {
				matters = true // QTI 2 takes case to matter, QTI 3 does not
			}
			d.mapping.Entries = append(d.mapping.Entries, item.MapEntry{Key: decimal(d.base, e.attr["mapKey"]), Value: plain(e.attr["mappedValue"]), CaseMatters: matters && d.base == "string"})
		}
	}
	if m, ok := n.child("areaMapping"); ok {
		d.mapping = bounds(m)
		for _, e := range m.children("areaMapEntry") {
			area, refusal := r.area(e)
			if refusal != nil {
				return d, refusal
			}
			area.Value = plain(e.attr["mappedValue"])
			d.areas = append(d.areas, area)
		}
	}
	return d, nil
}

func (r *itemReader) stimulus(found *Found) *Refusal {
	for i, n := range r.root.children("assessmentStimulusRef") {
		if i > 0 {
			return r.refuse(n, "is a second one; an item hangs on one passage")
		}
		name, err := r.pack.find(path.Dir(r.file), n.attr["href"])
		if err != nil {
			return r.refuse(n, "%s", err)
		}
		p, ok := r.pack.passages[name]
		if !ok {
			data, err := r.pack.bytes(name, mostXML)
			if err != nil {
				return r.refuse(n, "%q %s", n.attr["href"], err)
			}
			root, err := parse(data)
			if err != nil {
				return r.refuse(n, "%q %s", n.attr["href"], err)
			}
			text, hasBody := root.child("stimulusBody")
			if root.name != "assessmentStimulus" || !hasBody {
				return r.refuse(n, "%q holds no stimulus", n.attr["href"])
			}
			w := newBody(&itemReader{pack: r.pack, file: name, root: root})
			if refusal := w.walk(text.inner); refusal != nil {
				return refusal
			}
			p = Passage{Identifier: root.attr["identifier"], Title: root.attr["title"], Body: item.Clean(w.html())}
			r.pack.passages[name] = p
		}
		found.Passage = &p
	}
	return nil
}

func (r *itemReader) passageOfBody(found *Found) *Refusal {
	if r.passage == nil {
		return nil
	}
	if found.Passage != nil {
		return r.refuse(r.root, "hangs on two passages; an item hangs on one")
	}
	found.Passage = r.passage
	return nil
}

// catalogs keeps what goes with supports, to be given back when it is written.
func (r *itemReader) catalogs() *Refusal {
	info, ok := r.root.child("catalogInfo")
	if !ok {
		return nil
	}
	for _, c := range info.children("catalog") {
		for _, card := range c.children("card") {
			entries := card.children("cardEntry")
			if len(entries) == 0 {
				entries = []node{card}
			}
			for _, e := range entries {
				k := item.Card{Catalog: c.attr["id"], Support: card.attr["support"], Language: e.attr["xml:lang"], Default: e.attr["default"] == "true"}
				for _, content := range e.children() {
					if content.name != "htmlContent" {
						return r.refuse(content, "in a catalog is not read; HTML content is")
					}
					w := newBody(r)
					if refusal := w.walk(content.inner); refusal != nil {
						return refusal
					}
					k.HTML += item.Clean(w.html())
				}
				r.out.Cards = append(r.out.Cards, k)
			}
		}
	}
	return nil
}

// companions notes for authors what the item wants to have at hand, such as a ruler.
func (r *itemReader) companions() *Refusal {
	for _, info := range r.root.children("companionMaterialsInfo") {
		for _, n := range info.children() {
			words := strings.ReplaceAll(kebab(n.name), "-", " ")
			if said := strings.TrimSpace(n.words()); said != "" {
				words += " (" + said + ")"
			}
			r.out.Notes = strings.TrimSpace(r.out.Notes + "\nTo have at hand: " + words + ".")
		}
	}
	return nil
}
