package bankrows

import (
	"context"
	"encoding/json"
	"slices"

	"pineledger/store/sqlite"
)

// emptySet is the set of no standards, and of no tags.
const emptySet = 1

// internSet gives the id of the set of some ids, kept once for all who share it.
func internSet(ctx context.Context, t *sqlite.Tx, table, column, members string, ids []int64) (int64, error) {
	ids = slices.Compact(slices.Sorted(slices.Values(ids)))
	if len(ids) == 0 {
		return emptySet, nil
	}
	list := sqlite.JsonIDs(ids)
	if known, ok := t.Sets[table+list]; ok {
		return known, nil
	}
	var found []int64
	if err := t.List(ctx, &found, "SELECT id FROM "+table+" WHERE "+column+" = ?", list); err != nil {
		return 0, err
	}
	if len(found) == 0 {
		id, err := t.Insert(ctx, "INSERT INTO "+table+" ("+column+") VALUES (?)", list)
		if err != nil {
			return 0, err
		}
		for _, member := range ids {
			if err := t.Exec(ctx, "INSERT INTO "+members+" VALUES (?, ?)", member, id); err != nil {
				return 0, err
			}
		}
		found = []int64{id}
	}
	t.Sets[table+list] = found[0]
	return found[0], nil
}

// AlignmentOf gives the set of some standards.
func AlignmentOf(ctx context.Context, t *sqlite.Tx, standards []int64) (int64, error) {
	return internSet(ctx, t, "alignment", "standards", "alignment_standard (standard_id, alignment_id)", standards)
}

// tagSetOf gives the set of some tags.
func tagSetOf(ctx context.Context, t *sqlite.Tx, tags []int64) (int64, error) {
	return internSet(ctx, t, "tag_set", "tags", "tag_set_tag (tag_id, tag_set_id)", tags)
}

// AlignedSet is a set of standards that items share.
type AlignedSet struct {
	SetID      int64 `db:"alignment_id"`
	StandardID int64 `db:"standard_id"`
}

// AlignedSets lists the sets that hold a standard of a framework.
func AlignedSets(ctx context.Context, r sqlite.Reader, framework int64) ([]AlignedSet, error) {
	var out []AlignedSet
	err := r.List(ctx, &out, `SELECT x.alignment_id, x.standard_id FROM standard s JOIN alignment_standard x ON x.standard_id = s.id
		WHERE s.framework_id = ? ORDER BY x.alignment_id`, framework)
	return out, err
}

// StandardsUnder gives the ids of a standard and of everything below it.
func StandardsUnder(ctx context.Context, r sqlite.Reader, standard int64) ([]int64, error) {
	out := []int64{}
	err := r.List(ctx, &out, `SELECT s.id FROM standard top JOIN standard s ON s.framework_id = top.framework_id AND s.place BETWEEN top.place AND top.last
		WHERE top.id = ? ORDER BY s.id`, standard)
	return out, err
}

// Tag is a tag with how many items carry it, where that was asked for.
type Tag struct {
	ID      int64  `db:"id"`
	Name    string `db:"name"`
	Scope   string `db:"scope"`
	ScopeID int64  `db:"scope_id"`
}

const tagSelect = "SELECT t.id, t.name, t.scope, t.scope_id FROM tag t"

// Tags lists the tags that are everyone's, of some schools and courses, or of a person.
func Tags(ctx context.Context, r sqlite.Reader) ([]Tag, error) {
	var out []Tag
	err := r.List(ctx, &out, tagSelect+" ORDER BY t.name, t.scope, t.scope_id")
	return out, err
}

// TagSetMembers gives the tags of each set.
func TagSetMembers(ctx context.Context, r sqlite.Reader, sets []int64) (map[int64][]Tag, error) {
	var rows []struct {
		Tag
		SetID int64 `db:"tag_set_id"`
	}
	err := r.List(ctx, &rows, `SELECT t.id, t.name, t.scope, t.scope_id, m.tag_set_id FROM tag_set_tag m JOIN tag t ON t.id = m.tag_id
		WHERE m.tag_set_id IN (SELECT value FROM json_each(?)) ORDER BY t.name`, sqlite.JsonIDs(sets))
	out := map[int64][]Tag{}
	for _, row := range rows {
		out[row.SetID] = append(out[row.SetID], row.Tag)
	}
	return out, err
}

// EveryonesTags gives the tags that exist for all, of every item that has some.
func EveryonesTags(ctx context.Context, r sqlite.Reader) (map[int64][]string, error) {
	var rows []struct {
		ItemID int64  `db:"item_id"`
		Name   string `db:"name"`
	}
	err := r.List(ctx, &rows, `SELECT i.id AS item_id, t.name FROM tag t JOIN tag_set_tag m ON m.tag_id = t.id JOIN item i ON i.tag_set_id = m.tag_set_id
		WHERE t.scope = 'everyone'`)
	out := map[int64][]string{}
	for _, row := range rows {
		out[row.ItemID] = append(out[row.ItemID], row.Name)
	}
	return out, err
}

// TagNamed gives the id of a tag of a scope, made if it is new.
func TagNamed(ctx context.Context, t *sqlite.Tx, name, scope string, scopeID int64) (int64, error) {
	return t.PutRow(ctx, `INSERT INTO tag (name, scope, scope_id) VALUES (?, ?, ?) ON CONFLICT (name, scope, scope_id) DO UPDATE SET name = excluded.name RETURNING id`,
		name, scope, scopeID)
}

// tagSet reads an item's tags.
func tagSet(ctx context.Context, t *sqlite.Tx, item int64) ([]int64, error) {
	var list string
	if err := t.Get(ctx, &list, "SELECT s.tags FROM item i JOIN tag_set s ON s.id = i.tag_set_id WHERE i.id = ?", item); err != nil {
		return nil, err
	}
	var ids []int64
	return ids, json.Unmarshal([]byte(list), &ids)
}

// ChangeTags puts tags on an item and takes others off.
func ChangeTags(ctx context.Context, t *sqlite.Tx, item int64, on, off []int64) error {
	ids, err := tagSet(ctx, t, item)
	if err != nil {
		return err
	}
	ids = slices.DeleteFunc(append(ids, on...), func(id int64) bool { return slices.Contains(off, id) })
	set, err := tagSetOf(ctx, t, ids)
	if err != nil {
		return err
	}
	return t.Exec(ctx, "UPDATE item SET tag_set_id = ? WHERE id = ?", set, item)
}

// RenameTag gives a tag another name.
func RenameTag(ctx context.Context, t *sqlite.Tx, id int64, name string) error {
	return t.Exec(ctx, "UPDATE tag SET name = ? WHERE id = ?", name, id)
}

// MergeTag puts another tag wherever a tag stands, and drops the first. Sets that
// held it are replaced by sets that hold the other; a set is never changed.
func MergeTag(ctx context.Context, t *sqlite.Tx, from, into int64) error {
	var sets []struct {
		ID   int64  `db:"id"`
		Tags string `db:"tags"`
	}
	if err := t.List(ctx, &sets, "SELECT s.id, s.tags FROM tag_set_tag m JOIN tag_set s ON s.id = m.tag_set_id WHERE m.tag_id = ?", from); err != nil {
		return err
	}
	for _, s := range sets {
		var ids []int64
		if err := json.Unmarshal([]byte(s.Tags), &ids); err != nil {
			return err
		}
		ids = append(slices.DeleteFunc(ids, func(id int64) bool { return id == from }), into)
		set, err := tagSetOf(ctx, t, ids)
		if err != nil {
			return err
		}
		if err := t.Exec(ctx, "UPDATE item SET tag_set_id = ? WHERE tag_set_id = ?", set, s.ID); err != nil {
			return err
		}
		if err := t.Exec(ctx, "DELETE FROM tag_set_tag WHERE tag_set_id = ?", s.ID); err != nil {
			return err
		}
		if err := t.Exec(ctx, "DELETE FROM tag_set WHERE id = ?", s.ID); err != nil {
			return err
		}
	}
	clear(t.Sets)
	clear(t.Tags)
	return t.Exec(ctx, "DELETE FROM tag WHERE id = ?", from)
}

// TagScopeNames names the schools and courses that tags may be for.
func TagScopeNames(ctx context.Context, r sqlite.Reader) (map[string]map[int64]string, error) {
	var rows []struct {
		Scope string `db:"scope"`
		ID    int64  `db:"id"`
		Name  string `db:"name"`
	}
	err := r.List(ctx, &rows, "SELECT 'school' AS scope, id, name FROM school WHERE active = 1 UNION ALL SELECT 'course', id, title FROM course")
	out := map[string]map[int64]string{"school": {}, "course": {}}
	for _, row := range rows {
		out[row.Scope][row.ID] = row.Name
	}
	return out, err
}
