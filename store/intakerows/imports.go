// Package intakerows keeps what imports bring in and their reports.
package intakerows

import (
	"context"

	"pineledger/store/sqlite"
)

// Counts is what became of the rows of a file. Aside are rows of a sort that Pine
// Ledger does not keep (a guardian's role, say).
type Counts struct {
	Read      int `json:"read"`
	New       int `json:"new"`
	Changed   int `json:"changed"`
	Unchanged int `json:"unchanged"`
	Refused   int `json:"refused"`
	Aside     int `json:"aside"`
	Twins     int `json:"twins,omitempty"` // new items that are nearly the same as another
}

// Import is one run of an importer with its report.
type Import struct {
	ID        int64               `db:"id"`
	Kind      string              `db:"kind"`
	File      string              `db:"file"`
	State     string              `db:"state"`
	Message   string              `db:"message"`
	Counts    sqlite.JSON[Counts] `db:"counts"`
	PersonID  int64               `db:"person_id"`
	StartedAt int64               `db:"started_at"`
	EndedAt   *int64              `db:"ended_at"`
}

// Sort of a remark.
type Sort string

const (
	Refused Sort = "refused" // a row that was not taken
	Aside   Sort = "aside"   // a row of a sort that is not kept here
	Assumed Sort = "assumed" // what the file does not say and was taken for granted
)

// Remark is what an import says of one row, or of the file: what it did not take or what it took for granted, and why.
type Remark struct {
	Sort   Sort   `db:"sort"`
	File   string `db:"file"`
	Line   int    `db:"line"` // 0: of the whole file
	Field  string `db:"field"`
	Reason string `db:"reason"`
}

// AddImport notes that an import has begun.
func AddImport(ctx context.Context, t *sqlite.Tx, i Import) (int64, error) {
	return t.Insert(ctx, "INSERT INTO import (kind, file, state, message, counts, person_id, started_at) VALUES (?, ?, ?, '', '{}', ?, ?)",
		i.Kind, i.File, i.State, i.PersonID, i.StartedAt)
}

// EndImport keeps an import's outcome and report.
func EndImport(ctx context.Context, t *sqlite.Tx, i Import, remarks []Remark) error {
	if err := t.Exec(ctx, "UPDATE import SET state = ?, message = ?, counts = ?, ended_at = ? WHERE id = ?", i.State, i.Message, i.Counts, i.EndedAt, i.ID); err != nil {
		return err
	}
	for n, r := range remarks {
		if err := t.Exec(ctx, "INSERT INTO import_remark (import_id, position, sort, file, line, field, reason) VALUES (?, ?, ?, ?, ?, ?, ?)",
			i.ID, n, r.Sort, r.File, r.Line, r.Field, r.Reason); err != nil {
			return err
		}
	}
	return nil
}

// AbandonImports ends imports that were running when the program stopped; they wrote nothing.
func AbandonImports(ctx context.Context, t *sqlite.Tx) error {
	return t.Exec(ctx, "UPDATE import SET state = 'failed', message = 'The program stopped before the import was done; nothing was changed.' WHERE state = 'running'")
}

// Imports lists the latest imports.
func Imports(ctx context.Context, r sqlite.Reader, limit int) ([]Import, error) {
	var out []Import
	err := r.List(ctx, &out, "SELECT id, kind, file, state, message, counts, person_id, started_at, ended_at FROM import ORDER BY id DESC LIMIT ?", limit)
	return out, err
}

// ImportByID gives an import.
func ImportByID(ctx context.Context, r sqlite.Reader, id int64) (Import, error) {
	var i Import
	err := r.Get(ctx, &i, "SELECT id, kind, file, state, message, counts, person_id, started_at, ended_at FROM import WHERE id = ?", id)
	return i, err
}

// Remarks lists what an import said.
func Remarks(ctx context.Context, r sqlite.Reader, id int64) ([]Remark, error) {
	var out []Remark
	err := r.List(ctx, &out, "SELECT sort, file, line, field, reason FROM import_remark WHERE import_id = ? ORDER BY position", id)
	return out, err
}
