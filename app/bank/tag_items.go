package bank

import (
	"context"
	"slices"

	"pineledger/app/desk"
	"pineledger/core/bank"
	"pineledger/core/roster"
	"pineledger/store"
	"pineledger/store/bankrows"
)

// mostTagged bounds how many items are tagged at once, and by how many tags.
const (
	MostTagged = 5000
	mostTags   = 20
)

// TagItems puts tags (several, typed with commas) on items and takes others off,
// without opening the items. Tags are no part of an item's versions.
func (a *Bank) TagItems(ctx context.Context, v roster.Viewer, items []int64, typed string, scope bank.Tag, off []int64) error {
	if !v.MayReadKeys() {
		return desk.ErrForbidden
	}
	names := bank.TagNames(typed)
	switch {
	case len(items) > MostTagged:
		return desk.Invalid("/items", "%d items are tagged at once at most.", MostTagged)
	case len(names) > mostTags:
		return desk.Invalid("/tags", "%d tags are put on at once at most.", mostTags)
	case len(names) == 0 && len(off) == 0:
		return desk.Invalid("/tags", "Type a tag, of letters or digits.")
	case len(names) > 0 && !bank.MayTag(v, scope):
		return desk.Invalid("/scope", "You cannot make tags for them.")
	}
	return a.Store.Write(ctx, func(tx *store.Tx) error {
		var on []int64
		for _, name := range names {
			id, err := bankrows.TagNamed(ctx, tx, name, string(scope.Scope), scope.ScopeID)
			if err != nil {
				return err
			}
			on = append(on, id)
		}
		tags, err := tagsFor(ctx, tx.Reader, v)
		if err != nil {
			return err
		}
		for _, id := range off {
			at := slices.IndexFunc(tags, func(t bankrows.Tag) bool { return t.ID == id })
			if at < 0 {
				return desk.ErrNotFound
			}
			if !bank.MayTag(v, coreTag(tags[at])) {
				return desk.ErrForbidden
			}
		}
		if err := a.allSeen(ctx, tx, v, items); err != nil {
			return err
		}
		for _, id := range items {
			if err := bankrows.ChangeTags(ctx, tx, id, on, off); err != nil {
				return err
			}
		}
		return a.Record(ctx, tx, v, desk.Act{Name: "item.tag", Thing: "bank", Title: desk.Plural(len(items), "item"), After: tagNote{names, string(scope.Scope), scope.ScopeID, off, items}})
	})
}

type tagNote struct {
	On      []string `json:"on"`
	Scope   string   `json:"scope"`
	ScopeID int64    `json:"scopeId,omitempty"`
	Off     []int64  `json:"off,omitempty"`
	Items   []int64  `json:"items"`
}

// allSeen makes sure that every one of some items exists for a viewer.
func (a *Bank) allSeen(ctx context.Context, tx *store.Tx, v roster.Viewer, items []int64) error {
	scope, err := a.ItemScope(ctx, tx.Reader, v)
	if err != nil {
		return err
	}
	n, err := bankrows.CountItems(ctx, tx.Reader, bankrows.ItemQuery{Scope: scope, Only: items})
	if err != nil {
		return err
	}
	if n != len(slices.Compact(slices.Sorted(slices.Values(items)))) {
		return desk.ErrNotFound
	}
	return nil
}

// TagListed is a tag in the list in which tags are renamed and merged.
type TagListed struct {
	bankrows.Tag
	For       string // the school's or course's name
	Items     int
	MayRename bool
}

// Tags lists the tags that exist for a viewer, with how many items each is on.
func (a *Bank) Tags(ctx context.Context, v roster.Viewer) ([]TagListed, error) {
	if !v.MayReadKeys() {
		return nil, desk.ErrForbidden
	}
	tags, err := tagsFor(ctx, a.Store.Reader, v)
	if err != nil {
		return nil, err
	}
	scope, err := a.ItemScope(ctx, a.Store.Reader, v)
	if err != nil {
		return nil, err
	}
	sets, err := bankrows.ItemTagSets(ctx, a.Store.Reader, bankrows.ItemQuery{Scope: scope})
	if err != nil {
		return nil, err
	}
	counts, err := a.countTags(ctx, sets)
	if err != nil {
		return nil, err
	}
	names, err := bankrows.TagScopeNames(ctx, a.Store.Reader)
	out := make([]TagListed, len(tags))
	for i, t := range tags {
		out[i] = TagListed{Tag: t, For: names[t.Scope][t.ScopeID], Items: counts[t.ID], MayRename: bank.MayRename(v, coreTag(t))}
	}
	return out, err
}

// countTags turns counts of sets of tags into counts of tags.
func (a *Bank) countTags(ctx context.Context, sets []bankrows.SetCount) (map[int64]int, error) {
	ids := make([]int64, len(sets))
	for i, s := range sets {
		ids[i] = s.SetID
	}
	members, err := bankrows.TagSetMembers(ctx, a.Store.Reader, ids)
	counts := map[int64]int{}
	for _, s := range sets {
		for _, t := range members[s.SetID] {
			counts[t.ID] += s.Count
		}
	}
	return counts, err
}

// RenameTag gives a tag another name wherever it stands. Where there is a tag of
// that name for the same people already, the two become one.
func (a *Bank) RenameTag(ctx context.Context, v roster.Viewer, id int64, typed string) ([]TagListed, error) {
	if !v.MayReadKeys() {
		return nil, desk.ErrForbidden
	}
	name := bank.TagName(typed)
	if name == "" {
		return nil, desk.Invalid("/name", "Type a tag, of letters or digits.")
	}
	err := a.Store.Write(ctx, func(tx *store.Tx) error {
		tags, err := tagsFor(ctx, tx.Reader, v)
		if err != nil {
			return err
		}
		at := slices.IndexFunc(tags, func(t bankrows.Tag) bool { return t.ID == id })
		if at < 0 {
			return desk.ErrNotFound
		}
		old := tags[at]
		if !bank.MayRename(v, coreTag(old)) {
			return desk.ErrForbidden
		}
		if old.Name == name {
			return nil
		}
		same := slices.IndexFunc(tags, func(t bankrows.Tag) bool { return t.Name == name && t.Scope == old.Scope && t.ScopeID == old.ScopeID })
		did := desk.Act{Name: "tag.rename", Thing: "tag", ID: id, Title: name, Before: old.Name, After: name}
		if same < 0 {
			err = bankrows.RenameTag(ctx, tx, id, name)
		} else {
			did.Name = "tag.merge"
			err = bankrows.MergeTag(ctx, tx, id, tags[same].ID)
		}
		if err != nil {
			return err
		}
		return a.Record(ctx, tx, v, did)
	})
	if err != nil {
		return nil, err
	}
	return a.Tags(ctx, v)
}

// TagScopes are for whom a viewer may make tags, with their names.
func (a *Bank) TagScopes(ctx context.Context, v roster.Viewer) ([]TagListed, error) {
	if !v.MayReadKeys() {
		return nil, desk.ErrForbidden
	}
	names, err := bankrows.TagScopeNames(ctx, a.Store.Reader)
	if err != nil {
		return nil, err
	}
	var out []TagListed
	add := func(scope bank.TagScope, id int64, name string) {
		if bank.MayTag(v, bank.Tag{Scope: scope, ScopeID: id}) {
			out = append(out, TagListed{Tag: bankrows.Tag{Scope: string(scope), ScopeID: id}, For: name})
		}
	}
	add(bank.ForPerson, v.PersonID, "")
	for _, scope := range []bank.TagScope{bank.ForSchool, bank.ForCourse} {
		of := names[string(scope)]
		for _, id := range sortedByName(of) {
			add(scope, id, of[id])
		}
	}
	add(bank.ForEveryone, 0, "")
	return out, nil
}

func sortedByName(names map[int64]string) []int64 {
	var ids []int64
	for id := range names {
		ids = append(ids, id)
	}
	slices.SortFunc(ids, func(x, y int64) int {
		switch {
		case names[x] < names[y]:
			return -1
		case names[x] > names[y]:
			return 1
		}
		return int(x - y)
	})
	return ids
}
