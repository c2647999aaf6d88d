package app

import (
	"context"
	"slices"
	"sort"

	"pineledger/core/item"
	"pineledger/core/roster"
	"pineledger/store"
)

// mostItems is the largest page of a search.
const mostItems = 200

// FacetCount is how many items a search would find with one more value chosen.
type FacetCount struct {
	Value string
	Count int
}

// ItemPage is a page of a search. Facets come by their name; each counts under
// the other facets' choices, so that one sees what choosing more would give.
type ItemPage struct {
	Items  []store.Item
	Total  int
	Next   string
	Facets map[string][]FacetCount
}

// Items searches the bank.
func (a *App) Items(ctx context.Context, v roster.Viewer, q store.ItemQuery) (ItemPage, error) {
	if !v.MayReadKeys() {
		return ItemPage{}, ErrForbidden
	}
	if q.Limit <= 0 || q.Limit > mostItems {
		q.Limit = mostItems
	}
	var page ItemPage
	var err error
	if page.Items, page.Next, err = a.store.Items(ctx, q); err != nil {
		return page, err
	}
	if q.Cursor != "" {
		return page, nil // the first page carries total and facets
	}
	groups, err := a.store.ItemFacets(ctx, q)
	if err != nil {
		return page, err
	}
	page.Total, page.Facets = countFacets(groups, q)
	return page, nil
}

// facetValue reads a group's value of each facet, in the order of facetNames.
func facetValue(g store.FacetGroup) [6]string {
	return [6]string{g.Kind, g.Subject, g.Grade, depthName(g.Depth), g.Language, g.Bank}
}

var facetNames = [6]string{"kind", "subject", "grade", "depth", "language", "bank"}

func depthName(d int) string {
	if d == 0 {
		return ""
	}
	return string(rune('0' + d))
}

func countFacets(groups []store.FacetGroup, q store.ItemQuery) (total int, out map[string][]FacetCount) {
	var depths []string
	for _, d := range q.Depths {
		depths = append(depths, depthName(d))
	}
	chosen := [6][]string{q.Kinds, q.Subjects, q.Grades, depths, q.Languages, q.Banks}
	counts := [6]map[string]int{}
	for f := range counts {
		counts[f] = map[string]int{}
	}
	for _, g := range groups {
		values := facetValue(g)
		missed, at := 0, -1
		for f, want := range chosen {
			if len(want) > 0 && !slices.Contains(want, values[f]) {
				missed, at = missed+1, f
			}
		}
		switch missed {
		case 0:
			total += g.Count
			for f := range counts {
				counts[f][values[f]] += g.Count
			}
		case 1:
			counts[at][values[at]] += g.Count // would be found if this facet let it
		}
	}
	out = map[string][]FacetCount{}
	for f, name := range facetNames {
		list := []FacetCount{}
		for value, n := range counts[f] {
			if value != "" {
				list = append(list, FacetCount{value, n})
			}
		}
		sort.Slice(list, func(i, j int) bool { return list[i].Value < list[j].Value })
		out[name] = list
	}
	return total, out
}

// ItemDetail is an item with its key, for staff.
type ItemDetail struct {
	Item     store.Item
	Document item.Item
	Key      string
	Passage  *store.Passage
}

// Item gives one item with its key.
func (a *App) Item(ctx context.Context, v roster.Viewer, id int64) (ItemDetail, error) {
	if !v.MayReadKeys() {
		return ItemDetail{}, ErrForbidden
	}
	row, err := a.store.ItemByID(ctx, id)
	if err != nil {
		return ItemDetail{}, err
	}
	versions, err := a.store.NewestVersions(ctx, []int64{id})
	if err != nil {
		return ItemDetail{}, err
	}
	if len(versions) == 0 {
		return ItemDetail{}, ErrNotFound
	}
	d := ItemDetail{Item: row, Key: versions[0].KeyShort}
	if d.Document, err = item.Read([]byte(versions[0].Document)); err != nil {
		return d, err
	}
	if row.PassageID > 0 {
		passages, err := a.store.Passages(ctx, []int64{row.PassageID})
		if err != nil {
			return d, err
		}
		if len(passages) == 1 {
			d.Passage = &passages[0]
		}
	}
	return d, nil
}

// Passages lists passages whose title holds words.
func (a *App) Passages(ctx context.Context, v roster.Viewer, words string) ([]store.Passage, error) {
	if !v.MayReadKeys() {
		return nil, ErrForbidden
	}
	return a.store.PassagesNamed(ctx, words)
}

// StandardNode is a standard with how many items are aligned to it or below it.
type StandardNode struct {
	store.Standard
	Items int
}

// Frameworks lists the frameworks that are known.
func (a *App) Frameworks(ctx context.Context, v roster.Viewer) ([]store.Framework, error) {
	if !v.IsStaff() {
		return nil, ErrForbidden
	}
	return a.store.Frameworks(ctx)
}

// Standards lists a framework from top to bottom with its counts of items.
func (a *App) Standards(ctx context.Context, v roster.Viewer, framework int64) ([]StandardNode, error) {
	if !v.IsStaff() {
		return nil, ErrForbidden
	}
	standards, err := a.store.Standards(ctx, framework)
	if err != nil {
		return nil, err
	}
	aligned, err := a.store.AlignedItems(ctx, framework)
	if err != nil {
		return nil, err
	}
	return countItems(standards, aligned), nil
}

// countItems counts each item once at every standard at or above its alignments.
// aligned comes item by item.
func countItems(standards []store.Standard, aligned []store.Aligned) []StandardNode {
	out := make([]StandardNode, len(standards))
	at := make(map[int]int, len(standards))    // place → index
	ids := make(map[int64]int, len(standards)) // id → index
	for i, s := range standards {
		out[i].Standard = s
		at[s.Place], ids[s.ID] = i, i
	}
	lastItem := make([]int64, len(standards))
	for _, x := range aligned {
		for i, ok := at[x.Place]; ok; i, ok = ids[out[i].ParentID] {
			if lastItem[i] == x.ItemID {
				break // counted here and so everywhere above
			}
			lastItem[i] = x.ItemID
			out[i].Items++
		}
	}
	return out
}

// Tray gives what a person has picked, in that order.
func (a *App) Tray(ctx context.Context, v roster.Viewer) ([]store.Item, error) {
	if !v.MayBuild() {
		return nil, ErrForbidden
	}
	ids, err := a.store.Tray(ctx, v.PersonID)
	if err != nil || len(ids) == 0 {
		return nil, err
	}
	items, _, err := a.store.Items(ctx, store.ItemQuery{Only: ids, Limit: len(ids)})
	slices.SortFunc(items, func(x, y store.Item) int { return slices.Index(ids, x.ID) - slices.Index(ids, y.ID) })
	return items, err
}

// mostTray bounds a tray.
const mostTray = 200

// PickItems puts items into the tray; those that are in it already stay where they are.
func (a *App) PickItems(ctx context.Context, v roster.Viewer, items []int64) ([]store.Item, error) {
	if !v.MayBuild() {
		return nil, ErrForbidden
	}
	err := a.store.Write(ctx, func(tx *store.Tx) error {
		tray, err := tx.Tray(ctx, v.PersonID)
		if err != nil {
			return err
		}
		if len(tray)+len(items) > mostTray {
			return invalid("/items", "The tray holds %d items at most; place or put back some first.", mostTray)
		}
		for i, id := range items {
			if _, err := tx.ItemByID(ctx, id); err != nil {
				return err
			}
			if err := tx.PutInTray(ctx, v.PersonID, id, store.Millis(a.now())+int64(i)); err != nil {
				return err
			}
		}
		return nil
	})
	if err != nil {
		return nil, err
	}
	return a.Tray(ctx, v)
}

// PutBack takes items out of the tray.
func (a *App) PutBack(ctx context.Context, v roster.Viewer, items []int64) ([]store.Item, error) {
	if !v.MayBuild() {
		return nil, ErrForbidden
	}
	err := a.store.Write(ctx, func(tx *store.Tx) error { return tx.TakeFromTray(ctx, v.PersonID, items) })
	if err != nil {
		return nil, err
	}
	return a.Tray(ctx, v)
}
