package build

import (
	"context"
	"slices"

	"pineledger/app/desk"
	"pineledger/core/blueprint"
	"pineledger/core/roster"
	"pineledger/store/buildrows"
)

// mostSwaps is how many items are offered for a line's place.
const mostSwaps = 20

// SwapOffer is an item that could take a line's place, with why it stands where it does.
type SwapOffer struct {
	DrawnItem
	Why []string
}

// Swaps offers the nearest equals of a line: items that may be placed here, are no
// lines yet, and are hostile to none.
func (a *Draws) Swaps(ctx context.Context, v roster.Viewer, id, itemID int64) ([]SwapOffer, error) {
	row, l, err := a.build.lineOf(ctx, a.Store.Reader, v, id, itemID)
	if err != nil {
		return nil, err
	}
	if !v.MayBuild() {
		return nil, desk.ErrForbidden
	}
	lines, err := buildrows.Lines(ctx, a.Store.Reader, id)
	if err != nil {
		return nil, err
	}
	claimed, err := a.claimingRow(ctx, id, itemID)
	if err != nil {
		return nil, err
	}
	wide := RowInput{Filter: blueprint.Filter{Standards: desk.Codes(l.Standards)}}
	if claimed != nil {
		wide.Filter = *claimed
	}
	if len(wide.Filter.Standards) == 0 {
		wide.Filter.Standards = nil
	}
	p, err := a.pool(ctx, v, row, []RowInput{wide}, lines, DrawQuestion{})
	if err != nil {
		return nil, err
	}
	var staying []blueprint.Item
	for _, it := range p.items {
		if it.ID != itemKey(itemID) && p.known[it.ID].Stays {
			staying = append(staying, it)
		}
	}
	candidates := slices.DeleteFunc(slices.Clone(p.items), func(it blueprint.Item) bool {
		return p.known[it.ID].Stays || slices.ContainsFunc(staying, func(line blueprint.Item) bool { return blueprint.Apart(it, line) })
	})
	var out []SwapOffer
	for _, e := range p.tree.Swaps(lineItem(l), claimed, candidates) {
		if len(out) == mostSwaps {
			break
		}
		out = append(out, SwapOffer{p.known[e.Item.ID], e.Why})
	}
	return out, nil
}

// claimingRow gives the filter of the blueprint row that claims a line, nil for none.
func (a *Draws) claimingRow(ctx context.Context, id, itemID int64) (*blueprint.Filter, error) {
	s := Sheet{}
	s.Assessment.ID = id
	lines, err := buildrows.Lines(ctx, a.Store.Reader, id)
	if err != nil {
		return nil, err
	}
	for _, l := range lines {
		s.Lines = append(s.Lines, SheetLine{Line: l, Row: -1})
	}
	if err := a.build.fillBalance(ctx, &s, lines); err != nil {
		return nil, err
	}
	for _, l := range s.Lines {
		if l.ItemID == itemID && l.Row >= 0 {
			return &s.Rows[l.Row].Filter, nil
		}
	}
	return nil, nil
}
