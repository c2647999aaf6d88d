package build

import (
	"context"
	"encoding/json"
	"errors"
	"strings"
	"unicode/utf8"

	"pineledger/app/desk"
	"pineledger/core/blueprint"
	"pineledger/core/roster"
	"pineledger/store"
	"pineledger/store/buildrows"
)

// KeptBlueprints lists those of the library that a builder may see, with some words in the title, those of a subject first.
func (a *Plans) KeptBlueprints(ctx context.Context, v roster.Viewer, words, subject string) ([]buildrows.KeptBlueprint, error) {
	if !v.MayBuild() {
		return nil, desk.ErrForbidden
	}
	return buildrows.KeptBlueprints(ctx, a.Store.Reader, v.Scope(), strings.TrimSpace(words), subject)
}

// keptBlueprint gives one that a viewer may see.
func keptBlueprint(ctx context.Context, r store.Reader, v roster.Viewer, id int64) (buildrows.KeptBlueprint, error) {
	b, err := buildrows.KeptBlueprintByID(ctx, r, id)
	if err == nil && !v.MaySee(b.Owned()) {
		err = desk.ErrNotFound
	}
	return b, err
}

// KeptRows gives the rows of a blueprint of the library.
func (a *Plans) KeptRows(ctx context.Context, v roster.Viewer, id int64) ([]RowInput, error) {
	b, err := keptBlueprint(ctx, a.Store.Reader, v, id)
	if err != nil {
		return nil, err
	}
	rows, err := readRowNotes(b.Rows)
	if err != nil {
		return nil, err
	}
	filters := make([]*blueprint.Filter, len(rows))
	for i := range rows {
		filters[i] = &rows[i].Filter
	}
	return rows, buildrows.NameBanks(ctx, a.Store.Reader, filters)
}

// mostKeptTitle bounds a title in the library, in characters.
const mostKeptTitle = 120

// KeepBlueprint puts the blueprint of an assessment into the viewer's library under a title: the district's, or
// their school's. Where the title is taken, replace is the version there that is replaced; 0 refuses.
func (a *Plans) KeepBlueprint(ctx context.Context, v roster.Viewer, assessmentID int64, title string, replace int) (buildrows.KeptBlueprint, error) {
	title = strings.TrimSpace(title)
	if title == "" || utf8.RuneCountInString(title) > mostKeptTitle {
		return buildrows.KeptBlueprint{}, desk.Invalid("/title", "A name of at most %d characters is needed.", mostKeptTitle)
	}
	if !v.MayBuild() {
		return buildrows.KeptBlueprint{}, desk.ErrForbidden
	}
	var id int64
	err := a.Store.Write(ctx, func(tx *store.Tx) error {
		row, err := desk.Assessment(ctx, tx.Reader, v, assessmentID)
		if err != nil {
			return err
		}
		if !v.MayCopy(row.Owned()) {
			return desk.ErrForbidden
		}
		rows, err := buildrows.Blueprint(ctx, tx.Reader, assessmentID)
		if err != nil {
			return err
		}
		if len(rows) == 0 {
			return desk.Conflict("There are no rows to save.")
		}
		filters := make([]*blueprint.Filter, len(rows))
		for i := range rows {
			filters[i] = &rows[i].Filter.V
		}
		if err := buildrows.IdentifyBanks(ctx, tx.Reader, filters); err != nil {
			return err
		}
		notes, err := rowNotes(rows)
		if err != nil {
			return err
		}
		document, err := json.Marshal(notes)
		if err != nil {
			return err
		}
		b := buildrows.KeptBlueprint{Title: title, Subject: row.Subject, Grades: row.Grades, Rows: string(document), RowCount: len(rows),
			SchoolID: v.HomeSchool(), OwnerID: v.PersonID, ChangedAt: store.Millis(a.Now()), ChangedBy: v.Name}
		id, err = a.putKept(ctx, tx, v, b, replace)
		return err
	})
	if err != nil {
		return buildrows.KeptBlueprint{}, err
	}
	return buildrows.KeptBlueprintByID(ctx, a.Store.Reader, id)
}

func (a *Plans) putKept(ctx context.Context, tx *store.Tx, v roster.Viewer, b buildrows.KeptBlueprint, replace int) (int64, error) {
	old, err := buildrows.KeptBlueprintNamed(ctx, tx.Reader, b.SchoolID, b.Title)
	switch {
	case errors.Is(err, desk.ErrNotFound):
		if b.ID, err = buildrows.AddKeptBlueprint(ctx, tx, b); err != nil {
			return 0, err
		}
		return b.ID, a.Record(ctx, tx, v, desk.Act{Name: "blueprint.keep", Thing: "blueprint", ID: b.ID, Title: b.Title, After: json.RawMessage(b.Rows)})
	case err != nil:
		return 0, err
	case replace == 0:
		return 0, desk.Conflict("There is a blueprint with this name in the library. Choose another name, or replace it.")
	case !v.MayChange(old.Owned()):
		return 0, desk.ErrForbidden
	case old.Version != replace:
		return 0, desk.StaleBy(old.ChangedBy)
	}
	b.ID, b.Version = old.ID, old.Version
	if err := buildrows.ChangeKeptBlueprint(ctx, tx, b); err != nil {
		return 0, err
	}
	return b.ID, a.Record(ctx, tx, v, desk.Act{Name: "blueprint.replace", Thing: "blueprint", ID: b.ID, Title: b.Title, Before: json.RawMessage(old.Rows), After: json.RawMessage(b.Rows)})
}

// DropBlueprint takes one of the given version out of the library. What was made from it stays as it is.
func (a *Plans) DropBlueprint(ctx context.Context, v roster.Viewer, id int64, version int) error {
	return a.Store.Write(ctx, func(tx *store.Tx) error {
		b, err := keptBlueprint(ctx, tx.Reader, v, id)
		switch {
		case err != nil:
			return err
		case !v.MayChange(b.Owned()):
			return desk.ErrForbidden
		case b.Version != version:
			return desk.StaleBy(b.ChangedBy)
		}
		if err := buildrows.DropKeptBlueprint(ctx, tx, id, version); err != nil {
			return err
		}
		return a.Record(ctx, tx, v, desk.Act{Name: "blueprint.drop", Thing: "blueprint", ID: id, Title: b.Title, Before: json.RawMessage(b.Rows)})
	})
}
