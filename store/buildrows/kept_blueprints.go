package buildrows

import (
	"context"

	"pineledger/core/roster"
	"pineledger/store/sqlite"
)

// KeptBlueprint is a blueprint of the library.
type KeptBlueprint struct {
	ID        int64       `db:"id"`
	Title     string      `db:"title"` // once in the district's library, and once in a school's
	Subject   string      `db:"subject"`
	Grades    sqlite.List `db:"grades"`
	Rows      string      `db:"rows"` // as the room of assessments writes them; empty in a list
	RowCount  int         `db:"row_count"`
	SchoolID  int64       `db:"school_id"` // 0: the district's
	School    string      `db:"school"`
	OwnerID   int64       `db:"owner_id"`
	Version   int         `db:"version"`
	ChangedAt int64       `db:"changed_at"`
	ChangedBy string      `db:"changed_by"`
}

// Owned is what rights are computed from.
func (b KeptBlueprint) Owned() roster.Owned {
	return roster.Owned{OwnerID: b.OwnerID, SchoolID: b.SchoolID}
}

const keptBlueprintFrom = ` FROM kept_blueprint b LEFT JOIN school c ON c.id = b.school_id`

const keptBlueprintColumns = `b.id, b.title, b.subject, b.grades, b.row_count, b.school_id, COALESCE(c.name, '') AS school,
	b.owner_id, b.version, b.changed_at, b.changed_by`

// mostKeptBlueprints are listed at once.
const mostKeptBlueprints = 50

// KeptBlueprints lists, without their rows, those of the library in a scope with some words in the title: the
// one that is called so first, so that whoever keeps one finds what they would replace, then those of a subject.
func KeptBlueprints(ctx context.Context, r sqlite.Reader, scope roster.Scope, words, subject string) ([]KeptBlueprint, error) {
	var w sqlite.Where
	if !scope.District {
		condition, args := sqlite.In("b.school_id", append([]int64{0}, scope.Schools...))
		w.Add(condition, args...)
	}
	if words != "" {
		w.Add(`b.title LIKE ? ESCAPE '\'`, "%"+sqlite.EscapeLike(words)+"%")
	}
	out := []KeptBlueprint{}
	err := r.List(ctx, &out, "SELECT "+keptBlueprintColumns+", '' AS rows"+keptBlueprintFrom+w.String()+" ORDER BY b.title <> ?, b.subject <> ?, b.title, b.id LIMIT ?",
		append(w.Args, words, subject, mostKeptBlueprints)...)
	return out, err
}

// KeptBlueprintByID gives one with its rows.
func KeptBlueprintByID(ctx context.Context, r sqlite.Reader, id int64) (KeptBlueprint, error) {
	var b KeptBlueprint
	err := r.Get(ctx, &b, "SELECT "+keptBlueprintColumns+", b.rows"+keptBlueprintFrom+" WHERE b.id = ?", id)
	return b, err
}

// KeptBlueprintNamed gives the one of a library with a title; ErrNotFound where there is none.
func KeptBlueprintNamed(ctx context.Context, r sqlite.Reader, school int64, title string) (KeptBlueprint, error) {
	var b KeptBlueprint
	err := r.Get(ctx, &b, "SELECT "+keptBlueprintColumns+", b.rows"+keptBlueprintFrom+" WHERE b.school_id = ? AND b.title = ?", school, title)
	return b, err
}

// AddKeptBlueprint puts one into the library.
func AddKeptBlueprint(ctx context.Context, t *sqlite.Tx, b KeptBlueprint) (int64, error) {
	return t.Insert(ctx, `INSERT INTO kept_blueprint (title, subject, grades, rows, row_count, school_id, owner_id, version, changed_at, changed_by)
		VALUES (?, ?, ?, ?, ?, ?, ?, 1, ?, ?)`, b.Title, b.Subject, b.Grades, b.Rows, b.RowCount, b.SchoolID, b.OwnerID, b.ChangedAt, b.ChangedBy)
}

// ChangeKeptBlueprint replaces one of the given version; ErrStale when it has another by now.
func ChangeKeptBlueprint(ctx context.Context, t *sqlite.Tx, b KeptBlueprint) error {
	return t.ChangeOne(ctx, `UPDATE kept_blueprint SET subject = ?, grades = ?, rows = ?, row_count = ?, version = version + 1, changed_at = ?, changed_by = ?
		WHERE id = ? AND version = ?`, b.Subject, b.Grades, b.Rows, b.RowCount, b.ChangedAt, b.ChangedBy, b.ID, b.Version)
}

// DropKeptBlueprint takes one of the given version out of the library; ErrStale when it has another by now.
func DropKeptBlueprint(ctx context.Context, t *sqlite.Tx, id int64, version int) error {
	return t.ChangeOne(ctx, "DELETE FROM kept_blueprint WHERE id = ? AND version = ?", id, version)
}
