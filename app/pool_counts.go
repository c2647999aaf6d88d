package app

import (
	"context"
	"slices"
	"strings"

	"pineledger/core/blueprint"
	"pineledger/core/roster"
	"pineledger/store"
)

// poolCounts is how many items of each sort there are to choose from: what itemPool holds, counted
// and not read, for a screen that asks each time a sheet changes.
type poolCounts struct {
	tree  blueprint.Tree
	items []blueprint.Item // one of each sort
	n     []int
}

func (p *poolCounts) add(it blueprint.Item, n int) {
	p.items, p.n = append(p.items, it), append(p.n, n)
}

// serving counts the items that serve a row.
func (p *poolCounts) serving(f blueprint.Filter) int {
	sum := 0
	for i, it := range p.items {
		if p.tree.Meets(f, it) {
			sum += p.n[i]
		}
	}
	return sum
}

// poolCounts counts what the viewer may place on an assessment, and the lines that stand. Items
// for which a right hangs on more than bank and owner are looked at one by one.
func (a *App) poolCounts(ctx context.Context, v roster.Viewer, row store.Assessment, rows []RowInput) (*poolCounts, error) {
	lines, err := a.store.Lines(ctx, row.ID)
	if err != nil {
		return nil, err
	}
	query, tree, err := a.poolQuery(ctx, v, row, rows, DrawQuestion{})
	if err != nil {
		return nil, err
	}
	p := &poolCounts{tree: tree}
	var placed []int64
	for _, l := range lines {
		p.add(lineItem(l), 1)
		placed = append(placed, l.ItemID)
	}
	special, err := a.specialItems(ctx, v)
	if err != nil {
		return nil, err
	}
	rights, err := a.rightsTo(ctx, a.store.Reader, v, special)
	if err != nil {
		return nil, err
	}
	common := query
	common.Not = slices.Concat(placed, special)
	byDifficulty := slices.ContainsFunc(rows, func(r RowInput) bool { return r.Filter.Difficulty != nil })
	owner := int64(0)
	if rights.ownersDiffer(row.ID) {
		owner = v.PersonID
	}
	groups, err := a.store.PoolGroups(ctx, common, byDifficulty, owner)
	if err != nil {
		return nil, err
	}
	for _, g := range groups {
		of := store.Item{BankID: g.BankID}
		if g.Own {
			of.OwnerID = v.PersonID
		}
		if rights.mayPlaceOn(of, row.ID).May {
			p.add(sortOf(g), g.Count)
		}
	}
	query.Only = slices.DeleteFunc(special, func(id int64) bool { return slices.Contains(placed, id) })
	if len(query.Only) == 0 {
		return p, nil
	}
	found, err := a.store.PoolItems(ctx, query)
	if err != nil {
		return nil, err
	}
	for _, i := range found {
		if rights.mayPlaceOn(store.Item{ID: i.ID, BankID: i.BankID, OwnerID: i.OwnerID}, row.ID).May {
			p.add(poolItem(i), 1)
		}
	}
	return p, nil
}

// ownersDiffer tells whether in some bank the viewer may place their own items and no others, or the reverse.
func (r itemRights) ownersDiffer(assessment int64) bool {
	return slices.ContainsFunc(r.banks.ids(), func(id int64) bool {
		own := r.mayPlaceOn(store.Item{BankID: id, OwnerID: r.viewer.PersonID}, assessment)
		return own.May != r.mayPlaceOn(store.Item{BankID: id}, assessment).May
	})
}

// specialItems are those on hold and those that name the viewer as an editor.
func (a *App) specialItems(ctx context.Context, v roster.Viewer) ([]int64, error) {
	out, err := a.store.EditorOf(ctx, v.PersonID)
	if err != nil {
		return nil, err
	}
	holds, err := a.store.HoldsInForce(ctx, v.PersonID, store.Millis(a.now()))
	for _, h := range holds {
		out = append(out, h.ItemID)
	}
	slices.Sort(out)
	return slices.Compact(out), err
}

// sortOf is what a blueprint must know of the items of a group.
func sortOf(g store.PoolGroup) blueprint.Item {
	it := blueprint.Item{Standards: strings.Fields(g.Standards), Kind: g.Kind, Depth: g.Depth, Language: g.Language, Tags: strings.Fields(g.Tags), Bank: g.Bank}
	if g.Difficulty.Valid {
		d := int(g.Difficulty.Int64)
		it.Difficulty = &d
	}
	return it
}
