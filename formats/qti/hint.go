package qti

import (
	"bytes"
	"encoding/json"
	"math/big"
	"slices"

	"pineledger/core/item"
)

// hint is what our writer says beside the standard words: QTI has none for our
// kinds and credit rules. It is an attribute of the item's body.
type hint struct {
	Kind         item.Kind          `json:"kind"`
	Credit       item.CreditRule    `json:"credit"`
	Declarations []item.Declaration `json:"declarations"`
}

const hintName = "data-key"

// hinted takes a hint, but only where the rules and keys of the file are those
// that we would write for it: what another program has changed since wins.
func (r *itemReader) hinted(body node, rules []item.Rule) (item.Item, *big.Rat, bool) {
	var h hint
	if json.Unmarshal([]byte(body.attr[hintName]), &h) != nil || h.Credit == item.AsWritten || len(h.Declarations) == 0 {
		return item.Item{}, nil, false
	}
	it := r.out
	it.Body = slices.Clone(it.Body)
	for i, b := range it.Body {
		if b.Interaction != nil {
			in := *b.Interaction
			it.Body[i].Interaction = &in
		}
	}
	switch {
	case h.Kind == item.Parts && it.Kind != item.Parts: // a single part
		for _, b := range it.Body {
			if b.Interaction != nil {
				b.Interaction.Kind = it.Kind
			}
		}
	case h.Kind == item.Examiner:
		for i, b := range it.Body {
			if b.Interaction != nil {
				it.Body[i].Interaction = &item.Interaction{Response: b.Interaction.Response}
			}
		}
	case h.Kind == item.Menus && len(h.Declarations) == 1 && it.Kind != item.Menus:
		if it.Kind == item.SingleChoice { // one menu alone
			it.Kind = item.Parts
			for _, b := range it.Body {
				if b.Interaction != nil {
					b.Interaction.Kind = item.SingleChoice
				}
			}
		}
		menus, ok := it.AsMenus(h.Declarations[0].Response)
		if !ok {
			return item.Item{}, nil, false
		}
		it = menus
	}
	it.Kind, it.Credit, it.Declarations = h.Kind, h.Credit, h.Declarations
	if it.Kind != item.Parts {
		for _, b := range it.Body {
			if b.Interaction != nil {
				b.Interaction.Kind = ""
			}
		}
	}
	it = it.Cleaned()
	if len(it.Check()) > 0 {
		return item.Item{}, nil, false
	}
	told, scored := it.AsRules()
	if !scored {
		most := r.declaredMost()
		if most == nil {
			most = big.NewRat(1, 1)
		}
		return it, most, len(rules) == 0
	}
	for _, d := range told.Declarations {
		same := slices.EqualFunc(d.Correct, r.declared[d.Response].correct, func(ours, theirs string) bool { return ours == theirs || plain(ours) == theirs })
		if !same {
			return item.Item{}, nil, false
		}
	}
	most, ok := new(big.Rat).SetString(told.Processing.Most)
	return it, most, ok && bytes.Equal(asJSON(pruned(told.Processing.Rules)), asJSON(rules))
}

func asJSON(v any) []byte {
	data, err := json.Marshal(v)
	if err != nil {
		panic(err) // plain data
	}
	return data
}
