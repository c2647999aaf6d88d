package item

import "slices"

// Mixed is an item with the choices of its single and multiple choices in other orders; those that are pinned keep their
// places. order puts n of them, counted from 1, into an order for the k-th place to answer, which is the same in every language.
func (s Shown) Mixed(order func(n, k int) []int) Shown {
	s.Body = mixedBody(s.Body, s.Kind, order)
	s.Variants = slices.Clone(s.Variants)
	for i := range s.Variants {
		s.Variants[i].Body = mixedBody(s.Variants[i].Body, s.Kind, order)
	}
	return s
}

func mixedBody(body []Block, kind Kind, order func(n, k int) []int) []Block {
	body = slices.Clone(body)
	k := 0
	for i, b := range body {
		if b.Interaction == nil {
			continue
		}
		in := *b.Interaction
		k++
		of := kind
		if in.Kind != "" {
			of = in.Kind
		}
		if of == SingleChoice || of == MultipleChoice {
			in.Choices = mixedChoices(in.Choices, func(n int) []int { return order(n, k) })
			body[i].Interaction = &in
		}
	}
	return body
}

// mixedChoices puts those that are not pinned into an order among themselves.
func mixedChoices(choices []Choice, order func(n int) []int) []Choice {
	var free []Choice
	for _, c := range choices {
		if !c.Pinned {
			free = append(free, c)
		}
	}
	out := slices.Clone(choices)
	places := order(len(free))
	next := 0
	for i, c := range out {
		if !c.Pinned {
			out[i] = free[places[next]-1]
			next++
		}
	}
	return out
}
