package build

import (
	"context"
	"slices"
	"strings"

	"pineledger/core/blueprint"
	"pineledger/core/roster"
	"pineledger/store"
	"pineledger/store/bankrows"
	"pineledger/store/buildrows"
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
func (a *Draws) poolCounts(ctx context.Context, v roster.Viewer, row buildrows.Assessment, rows []RowInput) (*poolCounts, error) {
	lines, err := buildrows.Lines(ctx, a.Store.Reader, row.ID)
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
	rights, err := a.bank.RightsTo(ctx, a.Store.Reader, v, special)
	if err != nil {
		return nil, err
	}
	common := query
	common.Not = slices.Concat(placed, special)
	byDifficulty := slices.ContainsFunc(rows, func(r RowInput) bool { return r.Filter.Difficulty != nil })
	owner := int64(0)
	if rights.OwnersDiffer(row.ID) {
		owner = v.PersonID
	}
	groups, err := buildrows.PoolGroups(ctx, a.Store.Reader, common, byDifficulty, owner)
	if err != nil {
		return nil, err
	}
	for _, g := range groups {
		of := bankrows.Item{BankID: g.BankID}
		if g.Own {
			of.OwnerID = v.PersonID
		}
		if rights.MayPlaceOn(of, row.ID).May {
			p.add(sortOf(g), g.Count)
		}
	}
	query.Only = slices.DeleteFunc(special, func(id int64) bool { return slices.Contains(placed, id) })
	if len(query.Only) == 0 {
		return p, nil
	}
	found, err := buildrows.PoolItems(ctx, a.Store.Reader, query)
	if err != nil {
		return nil, err
	}
	for _, i := range found {
		if rights.MayPlaceOn(bankrows.Item{ID: i.ID, BankID: i.BankID, OwnerID: i.OwnerID}, row.ID).May {
			p.add(poolItem(i), 1)
		}
	}
	return p, nil
}

// specialItems are those on hold and those that name the viewer as an editor.
func (a *Draws) specialItems(ctx context.Context, v roster.Viewer) ([]int64, error) {
	out, err := bankrows.EditorOf(ctx, a.Store.Reader, v.PersonID)
	if err != nil {
		return nil, err
	}
	holds, err := bankrows.HoldsInForce(ctx, a.Store.Reader, v.PersonID, store.Millis(a.Now()))
	for _, h := range holds {
		out = append(out, h.ItemID)
	}
	slices.Sort(out)
	return slices.Compact(out), err
}

// sortOf is what a blueprint must know of the items of a group.
func sortOf(g buildrows.PoolGroup) blueprint.Item {
	it := blueprint.Item{Standards: strings.Fields(g.Standards), Kind: g.Kind, Depth: g.Depth, Language: g.Language, Tags: strings.Fields(g.Tags), Bank: g.Bank}
	if g.Difficulty != nil {
		d := int(*g.Difficulty)
		it.Difficulty = &d
	}
	return it
}
