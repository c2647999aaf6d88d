package bank

import (
	"context"
	"slices"

	"pineledger/formats/caseframework"
	"pineledger/store"
	"pineledger/store/bankrows"
)

// throughLinks finds the standards of other frameworks whose items a search by some
// standards finds too: those that are the same, related, a newer or older edition of
// one of them, or a part of one.
func throughLinks(ctx context.Context, r store.Reader, standards []int64) ([]bankrows.LinkedStandard, error) {
	links, err := bankrows.LinksOf(ctx, r, standards)
	return slices.DeleteFunc(links, func(l bankrows.LinkedStandard) bool {
		whole := caseframework.LinkKind(l.Kind) == caseframework.PartOf && l.Forward // what it is a part of says more
		return whole || slices.Contains(standards, l.OtherID)
	}), err
}

// withLinked adds to the standards of a search what is linked to them, with all below.
func (a *Bank) withLinked(ctx context.Context, standards []int64) ([]int64, []bankrows.LinkedStandard, error) {
	links, err := throughLinks(ctx, a.Store.Reader, standards)
	if err != nil {
		return nil, nil, err
	}
	out := slices.Clone(standards)
	for _, l := range links {
		below, err := bankrows.StandardsUnder(ctx, a.Store.Reader, l.OtherID)
		if err != nil {
			return nil, nil, err
		}
		out = append(out, below...)
	}
	return out, links, nil
}
