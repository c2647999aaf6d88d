package qti

import (
	"slices"

	"pineledger/core/item"
)

// feedback takes feedback for right or wrong, or for one answer, by looking at when the
// item's rules would show it. What stands within the body is shown with the rest of it.
func (r *itemReader) feedback() *Refusal {
	list := r.root.children("modalFeedback")
	if body, ok := r.root.child("itemBody"); ok {
		list = append(list, body.all("feedbackInline", "feedbackBlock")...)
	}
	if len(list) == 0 {
		return nil
	}
	rules, refusal := r.processing()
	if refusal != nil {
		return refusal
	}
	probe := r.asDeclared()
	key := probe.RightResponse()
	probe.Credit, probe.Processing = item.AsWritten, &item.Processing{Rules: rules, Most: "1"}
	for _, o := range r.root.children("outcomeDeclaration") {
		probe.Processing.Outcomes = append(probe.Processing.Outcomes, item.Outcomes{ID: o.attr["identifier"], Base: o.attr["baseType"]})
	}
	if problems := probe.Processing.Check(probe); len(problems) > 0 {
		return r.refuse(list[0], "goes by rules that cannot be followed: %s", problems[0].Reason)
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
		if !attribute(f, probe, key, shown, w.html()) {
			return r.refuse(n, "is shown in another case than right, wrong or one wrong answer")
		}
	}
	r.out.Feedback = f
	return nil
}

// asDeclared is the item with the responses and mappings of the file, which its rules
// speak of.
func (r *itemReader) asDeclared() item.Item {
	it := r.out
	if r.apart != nil {
		it = *r.apart
	}
	it.Declarations = slices.Clone(it.Declarations)
	for i, d := range it.Declarations {
		in := r.declared[d.Response]
		if it.Declarations[i].Mapping = in.mapping; in.areas != nil {
			it.Declarations[i].Areas = in.areas
		}
	}
	return it
}

// attribute puts a feedback where it belongs; false when it belongs nowhere.
func attribute(f *item.Feedback, probe item.Item, key item.Response, shown func(item.Response) bool, html string) bool {
	var wrong []item.Advice
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
	other := shown(elsewhere)
	switch {
	case right && !other:
		f.Right += html
	case !right && (other || len(wrong) > 0 && len(hit) == len(wrong)):
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
