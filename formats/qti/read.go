package qti

import (
	"fmt"
	"math/big"
	"path"
	"regexp"
	"slices"
	"strconv"
	"strings"

	"pineledger/core/item"
	"pineledger/core/points"
)

// itemReader reads one assessment item.
type itemReader struct {
	pack     *Package
	file     string
	root     node
	declared map[string]declared
	out      item.Item
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
	"modalFeedback", "catalogInfo"}

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
	r.out = item.Item{Schema: item.Schema}
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
		func() *Refusal { return r.body(body) },
		func() *Refusal { return r.scoring(found, body) },
		func() *Refusal { return r.feedback() },
	} {
		if refusal := read(); refusal != nil {
			return refusal
		}
	}
	found.Item = r.out.Cleaned()
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

func bounds(m node) *item.Mapping {
	return &item.Mapping{Default: plain(m.attr["defaultValue"]), Lower: plain(m.attr["lowerBound"]), Upper: plain(m.attr["upperBound"])}
}

// plain writes a number without exponent and without idle noughts; what is no
// number stays, to be refused where it is checked.
func plain(s string) string {
	s = strings.TrimSpace(s)
	if s == "" || len(s) > 40 {
		return s
	}
	v, err := strconv.ParseFloat(s, 64)
	if err != nil {
		return s
	}
	if strings.ContainsAny(s, "eE") {
		return strconv.FormatFloat(v, 'f', -1, 64)
	}
	if strings.Contains(s, ".") {
		s = strings.TrimRight(strings.TrimRight(s, "0"), ".")
	}
	if s == "" || s == "-" || s == "-0" {
		return "0"
	}
	return s
}

func decimal(base, s string) string {
	if base == "float" || base == "integer" {
		return plain(s)
	}
	return s
}

func whole(s string) (int, bool) {
	n, err := strconv.Atoi(s)
	return n, err == nil
}

// area reads shape and coords, whose numbers may have decimals that are all noughts.
func (r *itemReader) area(n node) (item.Area, *Refusal) {
	a := item.Area{Shape: n.attr["shape"]}
	if a.Shape == "rect" {
		a.Shape = item.Rectangle
	}
	if a.Shape == "poly" {
		a.Shape = item.Polygon
	}
	for _, c := range strings.FieldsFunc(n.attr["coords"], func(r rune) bool { return r == ',' || r == ' ' }) {
		v, err := strconv.ParseFloat(c, 64)
		if err != nil || v != float64(int(v)) {
			return a, r.refuse(n, "has coordinates %q, which are not whole numbers", n.attr["coords"])
		}
		a.At = append(a.At, int(v))
	}
	if a.Shape == "default" {
		return item.Area{Shape: item.Rectangle, At: []int{0, 0, 10_000, 10_000}}, nil // the whole picture
	}
	if a.Shape != item.Circle && a.Shape != item.Rectangle && a.Shape != item.Polygon {
		return a, r.refuse(n, "has the shape %q; circle, rect and poly are read", n.attr["shape"])
	}
	return a, nil
}

func (r *itemReader) stimulus(found *Found) *Refusal {
	for i, n := range r.root.children("assessmentStimulusRef") {
		if i > 0 {
			return r.refuse(n, "is a second one; an item hangs on one passage")
		}
		name, err := inside(path.Join(path.Dir(r.file), n.attr["href"]))
		if err != nil {
			return r.refuse(n, "%s", err)
		}
		p, ok := r.pack.passages[name]
		if !ok {
			data, err := r.pack.bytes(name, mostXML)
			if err != nil {
				return r.refuse(n, "%q: %s", n.attr["href"], err)
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

// feedback takes modal feedback for right or wrong, or for one answer, by looking
// at when the item's rules would show it.
func (r *itemReader) feedback() *Refusal {
	list := r.root.children("modalFeedback")
	if len(list) == 0 {
		return nil
	}
	rules, refusal := r.processing()
	if refusal != nil {
		return refusal
	}
	probe := r.out
	probe.Credit, probe.Processing = item.AsWritten, &item.Processing{Rules: rules, Most: "1"}
	for _, o := range r.root.children("outcomeDeclaration") {
		probe.Processing.Outcomes = append(probe.Processing.Outcomes, item.Outcomes{ID: o.attr["identifier"], Base: o.attr["baseType"]})
	}
	f := &item.Feedback{}
	for _, n := range list {
		w := newBody(r)
		inner := n.inner
		if c, ok := n.child("contentBody"); ok {
			inner = c.inner
		}
		if refusal := w.walk(inner); refusal != nil {
			return refusal
		}
		shown := func(response item.Response) bool {
			has := slices.Contains(probe.Outcomes(response)[n.attr["outcomeIdentifier"]], n.attr["identifier"])
			return has == (n.attr["showHide"] != "hide")
		}
		if !attribute(f, probe, shown, w.html()) {
			return r.refuse(n, "is shown in another case than right, wrong or one wrong answer")
		}
	}
	r.out.Feedback = f
	return nil
}

// attribute puts a feedback where it belongs; false when it belongs nowhere.
func attribute(f *item.Feedback, probe item.Item, shown func(item.Response) bool, html string) bool {
	key := item.Response{}
	var wrong []item.Advice
	for _, d := range probe.Declarations {
		key[d.Response] = d.Correct
	}
	for _, b := range probe.Body {
		if b.Interaction == nil || len(probe.Declarations) != 1 {
			continue
		}
		for _, c := range b.Interaction.Choices {
			if !c.Plain && !slices.Contains(probe.Declarations[0].Correct, c.ID) {
				wrong = append(wrong, item.Advice{Response: b.Interaction.Response, Value: c.ID, HTML: html})
			}
		}
	}
	right := shown(key)
	var hit []item.Advice
	for _, a := range wrong {
		if shown(item.Response{a.Response: {a.Value}}) {
			hit = append(hit, a)
		}
	}
	elsewhere := item.Response{}
	for _, d := range probe.Declarations {
		elsewhere[d.Response] = []string{"\u2400"} // an answer that nobody gives
	}
	switch {
	case right && len(hit) == 0 && (len(wrong) > 0 || !shown(elsewhere)):
		f.Right += html
	case !right && len(wrong) > 0 && len(hit) == len(wrong), !right && len(wrong) == 0 && shown(elsewhere):
		f.Wrong += html
	case !right && len(hit) > 0:
		f.ByAnswers = append(f.ByAnswers, hit...)
	default:
		return false
	}
	return true
}

// processing reads the rules of the item, those of templates too.
func (r *itemReader) processing() ([]item.Rule, *Refusal) {
	n, ok := r.root.child("responseProcessing")
	if !ok {
		return nil, nil
	}
	if inner := n.children(); len(inner) > 0 {
		return r.rules(inner)
	}
	address := n.attr["template"]
	if address == "" {
		address = n.attr["templateLocation"]
	}
	if address == "" {
		return nil, nil
	}
	rules, ok := template(address)
	if !ok {
		return nil, r.refuse(n, "has the template %q; match_correct, map_response and map_response_point are read", address)
	}
	return rules, nil
}

// scoring decides the credit rule: ours by our own hint when the rules of the file
// are those that we would write for it, else what the rules amount to, else the
// rules themselves.
func (r *itemReader) scoring(found *Found, body node) *Refusal {
	rules, refusal := r.processing()
	if refusal != nil {
		return refusal
	}
	r.assemble()
	if r.out.Kind == "" {
		return r.refuse(body, "holds nothing to answer")
	}
	if hinted, most, ok := r.hinted(body, rules); ok {
		if _, folded := r.declared[hinted.Declarations[0].Response]; hinted.Kind == item.Menus && !folded {
			parts := hinted.GapParts()
			found.Parts = &parts
		}
		r.out, found.Points = hinted, inPoints(most)
		return nil
	}
	return r.byRules(found, body, pruned(rules))
}

func inPoints(v *big.Rat) points.Points {
	scaled := new(big.Rat).Mul(v, big.NewRat(int64(points.One), 1))
	scaled.Add(scaled, big.NewRat(1, 2))
	n := new(big.Int).Quo(scaled.Num(), scaled.Denom())
	if !n.IsInt64() || n.Int64() > int64(points.Most) {
		return points.Most
	}
	return max(points.Points(n.Int64()), 1)
}

// declaredMost is the highest score that the item says it has; nil when it says none.
func (r *itemReader) declaredMost() *big.Rat {
	var most *big.Rat
	for _, o := range r.root.children("outcomeDeclaration") {
		text := ""
		switch o.attr["identifier"] {
		case "MAXSCORE":
			if d, ok := o.child("defaultValue"); ok {
				text = d.words()
			}
		case item.ScoreOutcome:
			if most == nil {
				text = o.attr["normalMaximum"]
			}
		}
		if v, ok := new(big.Rat).SetString(plain(text)); ok && len(text) < 40 && v.Sign() > 0 {
			most = v
		}
	}
	return most
}

// assemble makes the item of its places to answer before its scoring is known.
func (r *itemReader) assemble() {
	list := 0
	for i, b := range r.out.Body {
		if b.Interaction == nil {
			continue
		}
		list++
		in := *b.Interaction
		d := r.declared[in.Response]
		out := item.Declaration{Response: in.Response, Correct: d.correct, Mapping: d.mapping, Areas: d.areas}
		if len(out.Correct) == 0 && d.mapping != nil {
			out.Correct = bestMapped(d)
		}
		switch in.Kind {
		case item.Number, item.NumberLine:
			out.Number = &item.NumberKey{}
		case item.Text:
			out.Text = &item.TextKey{CaseMatters: true}
		case item.Spot:
			if len(in.Choices) == 0 && d.mapping == nil && len(d.correct) == 1 { // the key is one spot exactly
				if x, y, ok := strings.Cut(d.correct[0], " "); ok {
					at, okX := whole(x)
					down, okY := whole(strings.TrimSpace(y))
					if okX && okY {
						out.Areas = []item.Area{{Shape: item.Rectangle, At: []int{at, down, at, down}}}
					}
				}
			}
		}
		r.out.Declarations = append(r.out.Declarations, out)
		r.out.Body[i].Interaction = &in
	}
	if list == 1 {
		for i, b := range r.out.Body {
			if b.Interaction != nil {
				r.out.Kind = b.Interaction.Kind
				r.out.Body[i].Interaction.Kind = ""
			}
		}
	} else if list > 1 {
		r.out.Kind = item.Parts
	}
}

// bestMapped are the answers that a mapping values, or the best one where only one
// can be given: what stands for a key that is not said.
func bestMapped(d declared) []string {
	var out []string
	best := new(big.Rat)
	for _, e := range d.mapping.Entries {
		v, ok := new(big.Rat).SetString(e.Value)
		if !ok || len(e.Value) > 40 || v.Sign() <= 0 {
			continue
		}
		if d.cardinality == "single" && v.Cmp(best) > 0 {
			best, out = v, nil
		}
		if d.cardinality != "single" || v.Cmp(best) == 0 {
			out = append(out, e.Key)
		}
	}
	return out
}

// byRules gives an item the credit that its rules amount to.
func (r *itemReader) byRules(found *Found, body node, rules []item.Rule) *Refusal {
	var responses []string
	byReader := true
	for _, d := range r.out.Declarations {
		responses = append(responses, d.Response)
	}
	for _, b := range r.out.Body {
		if in := b.Interaction; in != nil {
			kind := in.Kind
			if kind == "" {
				kind = r.out.Kind
			}
			byReader = byReader && kind == item.ShortWritten
		}
	}
	most := r.declaredMost()
	if byReader && len(rules) == 0 {
		r.out.Credit = item.ByReader
		for i := range r.out.Declarations {
			if r.out.Kind == item.Parts {
				r.out.Credit, r.out.Declarations[i].Credit = item.PerPart, item.ByReader
			}
		}
		found.Points = points.One
		if most != nil {
			found.Points = inPoints(most)
		}
		return nil
	}
	if len(rules) == 0 && len(responses) == 1 { // it brings a key but no rules
		rules, _ = template(matchCorrect)
		renameResponse(rules, responses[0])
	}
	s, ok := recognize(rules, responses)
	if ok && r.nativeScoring(s, most, found) {
		return nil
	}
	return r.asWritten(found, body, rules, most)
}

// nativeScoring takes a credit rule of ours; false when the item would not be
// sound or its scale is another.
func (r *itemReader) nativeScoring(s scoring, most *big.Rat, found *Found) bool {
	it := r.out
	it.Declarations = slices.Clone(it.Declarations)
	it.Credit = s.credit
	if it.Kind == item.Parts && !weighted(it.Declarations, s) {
		return false
	}
	if s.credit != item.Mapped {
		for i := range it.Declarations {
			if it.Declarations[i].Areas == nil || s.credit != item.AllOrNothing {
				it.Declarations[i].Mapping = nil
			}
		}
	}
	if s.credit == item.Mapped {
		told, ok := it.AsRules()
		if !ok {
			return false
		}
		s.worth, _ = new(big.Rat).SetString(told.Processing.Most)
	}
	var apart *item.Item
	if menus, ok := it.AsMenus("RESPONSE"); ok && even(it.Declarations) && it.Kind == item.Parts {
		parts := it
		it, apart = menus, &parts
	}
	if s.worth == nil || s.worth.Sign() <= 0 || most != nil && most.Cmp(s.worth) != 0 || len(it.Cleaned().Check()) > 0 {
		return false
	}
	r.out, found.Points, found.Parts = it, inPoints(s.worth), apart
	return true
}

func even(list []item.Declaration) bool {
	for _, d := range list {
		if d.Weight != list[0].Weight {
			return false
		}
	}
	return true
}

// weighted gives parts their credit and their weights in whole numbers.
func weighted(list []item.Declaration, s scoring) bool {
	least := new(big.Rat)
	for _, w := range s.weight {
		if least.Sign() == 0 || w.Cmp(least) < 0 {
			least = w
		}
	}
	for i, d := range list {
		list[i].Credit = s.parts[d.Response]
		if w := s.weight[d.Response]; w != nil {
			n := new(big.Rat).Quo(w, least)
			if !n.IsInt() || n.Num().Int64() > 1000 {
				return false
			}
			if list[i].Weight = int(n.Num().Int64()); list[i].Weight == 1 {
				list[i].Weight = 0
			}
		}
	}
	return true
}

// asWritten keeps the rules themselves.
func (r *itemReader) asWritten(found *Found, body node, rules []item.Rule, most *big.Rat) *Refusal {
	it := r.out
	it.Credit, it.Processing = item.AsWritten, &item.Processing{Rules: rules, Most: "1"}
	for _, o := range r.root.children("outcomeDeclaration") {
		if id := o.attr["identifier"]; id != item.ScoreOutcome && mentioned(rules, id) {
			out := item.Outcomes{ID: id, Base: o.attr["baseType"]}
			if v, ok := o.child("defaultValue"); ok {
				out.Default = decimal(out.Base, v.words())
			}
			it.Processing.Outcomes = append(it.Processing.Outcomes, out)
		}
	}
	for i := range it.Declarations {
		if it.Kind == item.Parts {
			it.Declarations[i].Credit = item.AsWritten
		}
	}
	at := body
	if n, ok := r.root.child("responseProcessing"); ok {
		at = n
	}
	if most == nil {
		if problems := it.Processing.Check(it); len(problems) > 0 {
			return r.refuse(at, "%s", problems[0].Reason)
		}
		var err error
		if most, err = it.HighestScore(); err != nil {
			return r.refuse(at, "%s, and the item does not say it", err)
		}
	}
	it.Processing.Most = most.RatString()
	if places, exact := most.FloatPrec(); exact {
		it.Processing.Most = most.FloatString(places)
	}
	if problems := it.Processing.Check(it); len(problems) > 0 {
		return r.refuse(at, "%s", problems[0].Reason)
	}
	r.out, found.Points = it, inPoints(most)
	return nil
}

func mentioned(rules []item.Rule, outcome string) bool {
	ids := map[string]bool{}
	var walk func([]item.Rule)
	walk = func(list []item.Rule) {
		for _, rule := range list {
			ids[rule.Set] = true
			if rule.Value != nil {
				names(*rule.Value, ids)
			}
			for _, b := range rule.Branches {
				if b.When != nil {
					names(*b.When, ids)
				}
				walk(b.Then)
			}
		}
	}
	walk(rules)
	return ids[outcome]
}

// renameResponse makes rules of a template speak of another response.
func renameResponse(rules []item.Rule, response string) {
	for i := range rules {
		for k := range rules[i].Branches {
			b := &rules[i].Branches[k]
			if b.When != nil {
				for x := range b.When.Expressions {
					b.When.Expressions[x].ID = response
				}
			}
		}
	}
}

var token = regexp.MustCompile(`^[^\s]{1,200}$`)
