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

// Refusal is one row that an import did not take, and why.
type Refusal struct {
	File   string `db:"file"`
	Line   int    `db:"line"`
	Field  string `db:"field"`
	Reason string `db:"reason"`
}

// AddImport notes that an import has begun.
func AddImport(ctx context.Context, t *sqlite.Tx, i Import) (int64, error) {
	return t.Insert(ctx, "INSERT INTO import (kind, file, state, message, counts, person_id, started_at) VALUES (?, ?, ?, '', '{}', ?, ?)",
		i.Kind, i.File, i.State, i.PersonID, i.StartedAt)
}

// EndImport keeps an import's outcome and report.
func EndImport(ctx context.Context, t *sqlite.Tx, i Import, refusals []Refusal) error {
	if err := t.Exec(ctx, "UPDATE import SET state = ?, message = ?, counts = ?, ended_at = ? WHERE id = ?", i.State, i.Message, i.Counts, i.EndedAt, i.ID); err != nil {
		return err
	}
	for n, r := range refusals {
		if err := t.Exec(ctx, "INSERT INTO import_refusal (import_id, position, file, line, field, reason) VALUES (?, ?, ?, ?, ?, ?)",
			i.ID, n, r.File, r.Line, r.Field, r.Reason); err != nil {
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

// Refusals lists the rows that an import refused.
func Refusals(ctx context.Context, r sqlite.Reader, id int64, limit int) ([]Refusal, error) {
	var out []Refusal
	err := r.List(ctx, &out, "SELECT file, line, field, reason FROM import_refusal WHERE import_id = ? ORDER BY position LIMIT ?", id, limit)
	return out, err
}
