package app

import (
	"context"
	"encoding/json"
	"errors"
	"strings"
	"unicode/utf8"

	"pineledger/core/blueprint"
	"pineledger/core/points"
	"pineledger/core/roster"
	"pineledger/store"
)

// KeptBlueprints lists those of the library that a builder may see, with some words in the title, those of a subject first.
func (a *App) KeptBlueprints(ctx context.Context, v roster.Viewer, words, subject string) ([]store.KeptBlueprint, error) {
	if !v.MayBuild() {
		return nil, ErrForbidden
	}
	return a.store.KeptBlueprints(ctx, v.Scope(), strings.TrimSpace(words), subject)
}

// keptBlueprint gives one that a viewer may see.
func keptBlueprint(ctx context.Context, r store.Reader, v roster.Viewer, id int64) (store.KeptBlueprint, error) {
	b, err := r.KeptBlueprintByID(ctx, id)
	if err == nil && !v.MaySee(b.Owned()) {
		err = ErrNotFound
	}
	return b, err
}

// KeptRows gives the rows of a blueprint of the library.
func (a *App) KeptRows(ctx context.Context, v roster.Viewer, id int64) ([]RowInput, error) {
	b, err := keptBlueprint(ctx, a.store.Reader, v, id)
	if err != nil {
		return nil, err
	}
	var rows []store.BlueprintRow
	if err := json.Unmarshal([]byte(b.Rows), &rows); err != nil {
		return nil, err
	}
	out := make([]RowInput, len(rows))
	for i, r := range rows {
		var filter blueprint.Filter
		if err := json.Unmarshal([]byte(r.Filter), &filter); err != nil {
			return nil, err
		}
		out[i] = RowInput{Title: r.Title, Filter: filter, ByPoints: r.ByPoints, Min: points.Points(r.Least), Max: points.Points(r.Most)}
	}
	return out, nil
}

// mostKeptTitle bounds a title in the library, in characters.
const mostKeptTitle = 120

// KeepBlueprint puts the blueprint of an assessment into the viewer's library under a title: the district's, or
// their school's. Where the title is taken, replace is the version there that is replaced; 0 refuses.
func (a *App) KeepBlueprint(ctx context.Context, v roster.Viewer, assessmentID int64, title string, replace int) (store.KeptBlueprint, error) {
	title = strings.TrimSpace(title)
	if title == "" || utf8.RuneCountInString(title) > mostKeptTitle {
		return store.KeptBlueprint{}, invalid("/title", "A name of at most %d characters is needed.", mostKeptTitle)
	}
	if !v.MayBuild() {
		return store.KeptBlueprint{}, ErrForbidden
	}
	var id int64
	err := a.store.Write(ctx, func(tx *store.Tx) error {
		row, err := assessment(ctx, tx.Reader, v, assessmentID)
		if err != nil {
			return err
		}
		if !v.MayCopy(row.Owned()) {
			return ErrForbidden
		}
		rows, err := tx.Blueprint(ctx, assessmentID)
		if err != nil {
			return err
		}
		if len(rows) == 0 {
			return conflict("There are no rows to keep.")
		}
		document, err := json.Marshal(rows)
		if err != nil {
			return err
		}
		b := store.KeptBlueprint{Title: title, Subject: row.Subject, Grades: row.Grades, Rows: string(document), RowCount: len(rows),
			SchoolID: v.HomeSchool(), OwnerID: v.PersonID, ChangedAt: store.Millis(a.now()), ChangedBy: v.Name}
		id, err = a.putKept(ctx, tx, v, b, replace)
		return err
	})
	if err != nil {
		return store.KeptBlueprint{}, err
	}
	return a.store.KeptBlueprintByID(ctx, id)
}

func (a *App) putKept(ctx context.Context, tx *store.Tx, v roster.Viewer, b store.KeptBlueprint, replace int) (int64, error) {
	old, err := tx.KeptBlueprintNamed(ctx, b.SchoolID, b.Title)
	switch {
	case errors.Is(err, ErrNotFound):
		if b.ID, err = tx.AddKeptBlueprint(ctx, b); err != nil {
			return 0, err
		}
		return b.ID, a.record(ctx, tx, v, act{name: "blueprint.keep", thing: "blueprint", id: b.ID, title: b.Title, after: json.RawMessage(b.Rows)})
	case err != nil:
		return 0, err
	case replace == 0:
		return 0, conflict("There is a blueprint of this name in the library. Choose another name, or replace it.")
	case !v.MayChange(old.Owned()):
		return 0, ErrForbidden
	case old.Version != replace:
		return 0, staleBy(old.ChangedBy)
	}
	b.ID, b.Version = old.ID, old.Version
	if err := tx.ChangeKeptBlueprint(ctx, b); err != nil {
		return 0, err
	}
	return b.ID, a.record(ctx, tx, v, act{name: "blueprint.replace", thing: "blueprint", id: b.ID, title: b.Title, before: json.RawMessage(old.Rows), after: json.RawMessage(b.Rows)})
}

// DropBlueprint takes one of the given version out of the library. What was made from it stays as it is.
func (a *App) DropBlueprint(ctx context.Context, v roster.Viewer, id int64, version int) error {
	return a.store.Write(ctx, func(tx *store.Tx) error {
		b, err := keptBlueprint(ctx, tx.Reader, v, id)
		switch {
		case err != nil:
			return err
		case !v.MayChange(b.Owned()):
			return ErrForbidden
		case b.Version != version:
			return staleBy(b.ChangedBy)
		}
		if err := tx.DropKeptBlueprint(ctx, id, version); err != nil {
			return err
		}
		return a.record(ctx, tx, v, act{name: "blueprint.drop", thing: "blueprint", id: id, title: b.Title, before: json.RawMessage(b.Rows)})
	})
}
