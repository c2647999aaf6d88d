package app

import (
	"context"
	"slices"

	"pineledger/core/bank"
	"pineledger/core/roster"
	"pineledger/store"
)

// mostTagged bounds how many items are tagged at once, and by how many tags.
const (
	mostTagged = 5000
	mostTags   = 20
)

// TagItems puts tags (several, typed with commas) on items and takes others off,
// without opening the items. Tags are no part of an item's versions.
func (a *App) TagItems(ctx context.Context, v roster.Viewer, items []int64, typed string, scope bank.Tag, off []int64) error {
	if !v.MayReadKeys() {
		return ErrForbidden
	}
	names := bank.TagNames(typed)
	switch {
	case len(items) > mostTagged:
		return invalid("/items", "%d items are tagged at once at most.", mostTagged)
	case len(names) > mostTags:
		return invalid("/tags", "%d tags are put on at once at most.", mostTags)
	case len(names) == 0 && len(off) == 0:
		return invalid("/tags", "Type a tag, of letters or digits.")
	case len(names) > 0 && !bank.MayTag(v, scope):
		return invalid("/scope", "You cannot make tags for them.")
	}
	return a.store.Write(ctx, func(tx *store.Tx) error {
		var on []int64
		for _, name := range names {
			id, err := tx.TagNamed(ctx, name, string(scope.Scope), scope.ScopeID)
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
			at := slices.IndexFunc(tags, func(t store.Tag) bool { return t.ID == id })
			if at < 0 {
				return ErrNotFound
			}
			if !bank.MayTag(v, coreTag(tags[at])) {
				return ErrForbidden
			}
		}
		if err := a.allSeen(ctx, tx, v, items); err != nil {
			return err
		}
		for _, id := range items {
			if err := tx.ChangeTags(ctx, id, on, off); err != nil {
				return err
			}
		}
		return a.record(ctx, tx, v, act{name: "item.tag", thing: "bank", title: plural(len(items), "item"), after: tagNote{names, string(scope.Scope), scope.ScopeID, off, items}})
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
func (a *App) allSeen(ctx context.Context, tx *store.Tx, v roster.Viewer, items []int64) error {
	scope, err := a.itemScope(ctx, tx.Reader, v)
	if err != nil {
		return err
	}
	n, err := tx.CountItems(ctx, store.ItemQuery{Scope: scope, Only: items})
	if err != nil {
		return err
	}
	if n != len(slices.Compact(slices.Sorted(slices.Values(items)))) {
		return ErrNotFound
	}
	return nil
}

// TagListed is a tag in the list in which tags are renamed and merged.
type TagListed struct {
	store.Tag
	For       string // the school's or course's name
	Items     int
	MayRename bool
}

// Tags lists the tags that exist for a viewer, with how many items each is on.
func (a *App) Tags(ctx context.Context, v roster.Viewer) ([]TagListed, error) {
	if !v.MayReadKeys() {
		return nil, ErrForbidden
	}
	tags, err := tagsFor(ctx, a.store.Reader, v)
	if err != nil {
		return nil, err
	}
	scope, err := a.itemScope(ctx, a.store.Reader, v)
	if err != nil {
		return nil, err
	}
	sets, err := a.store.ItemTagSets(ctx, store.ItemQuery{Scope: scope})
	if err != nil {
		return nil, err
	}
	counts, err := a.countTags(ctx, sets)
	if err != nil {
		return nil, err
	}
	names, err := a.store.TagScopeNames(ctx)
	out := make([]TagListed, len(tags))
	for i, t := range tags {
		out[i] = TagListed{Tag: t, For: names[t.Scope][t.ScopeID], Items: counts[t.ID], MayRename: bank.MayRename(v, coreTag(t))}
	}
	return out, err
}

// countTags turns counts of sets of tags into counts of tags.
func (a *App) countTags(ctx context.Context, sets []store.SetCount) (map[int64]int, error) {
	ids := make([]int64, len(sets))
	for i, s := range sets {
		ids[i] = s.SetID
	}
	members, err := a.store.TagSetMembers(ctx, ids)
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
func (a *App) RenameTag(ctx context.Context, v roster.Viewer, id int64, typed string) ([]TagListed, error) {
	if !v.MayReadKeys() {
		return nil, ErrForbidden
	}
	name := bank.TagName(typed)
	if name == "" {
		return nil, invalid("/name", "Type a tag, of letters or digits.")
	}
	err := a.store.Write(ctx, func(tx *store.Tx) error {
		tags, err := tagsFor(ctx, tx.Reader, v)
		if err != nil {
			return err
		}
		at := slices.IndexFunc(tags, func(t store.Tag) bool { return t.ID == id })
		if at < 0 {
			return ErrNotFound
		}
		old := tags[at]
		if !bank.MayRename(v, coreTag(old)) {
			return ErrForbidden
		}
		if old.Name == name {
			return nil
		}
		same := slices.IndexFunc(tags, func(t store.Tag) bool { return t.Name == name && t.Scope == old.Scope && t.ScopeID == old.ScopeID })
		did := act{name: "tag.rename", thing: "tag", id: id, title: name, before: old.Name, after: name}
		if same < 0 {
			err = tx.RenameTag(ctx, id, name)
		} else {
			did.name = "tag.merge"
			err = tx.MergeTag(ctx, id, tags[same].ID)
		}
		if err != nil {
			return err
		}
		return a.record(ctx, tx, v, did)
	})
	if err != nil {
		return nil, err
	}
	return a.Tags(ctx, v)
}

// TagScopes are for whom a viewer may make tags, with their names.
func (a *App) TagScopes(ctx context.Context, v roster.Viewer) ([]TagListed, error) {
	if !v.MayReadKeys() {
		return nil, ErrForbidden
	}
	names, err := a.store.TagScopeNames(ctx)
	if err != nil {
		return nil, err
	}
	var out []TagListed
	add := func(scope bank.TagScope, id int64, name string) {
		if bank.MayTag(v, bank.Tag{Scope: scope, ScopeID: id}) {
			out = append(out, TagListed{Tag: store.Tag{Scope: string(scope), ScopeID: id}, For: name})
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
