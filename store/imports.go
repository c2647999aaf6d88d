package store

import (
	"context"
	"database/sql"
)

// Import is one run of an importer with its report.
type Import struct {
	ID        int64         `db:"id"`
	Kind      string        `db:"kind"`
	File      string        `db:"file"`
	State     string        `db:"state"`
	Message   string        `db:"message"`
	Counts    string        `db:"counts"` // JSON
	PersonID  int64         `db:"person_id"`
	StartedAt int64         `db:"started_at"`
	EndedAt   sql.NullInt64 `db:"ended_at"`
}

// Refusal is one row that an import did not take, and why.
type Refusal struct {
	File   string `db:"file"`
	Line   int    `db:"line"`
	Field  string `db:"field"`
	Reason string `db:"reason"`
}

// AddImport notes that an import has begun.
func (t *Tx) AddImport(ctx context.Context, i Import) (int64, error) {
	return t.insert(ctx, "INSERT INTO import (kind, file, state, message, counts, person_id, started_at) VALUES (?, ?, ?, '', '{}', ?, ?)",
		i.Kind, i.File, i.State, i.PersonID, i.StartedAt)
}

// EndImport keeps an import's outcome and report.
func (t *Tx) EndImport(ctx context.Context, i Import, refusals []Refusal) error {
	if err := t.exec(ctx, "UPDATE import SET state = ?, message = ?, counts = ?, ended_at = ? WHERE id = ?", i.State, i.Message, i.Counts, i.EndedAt, i.ID); err != nil {
		return err
	}
	for n, r := range refusals {
		if err := t.exec(ctx, "INSERT INTO import_refusal (import_id, position, file, line, field, reason) VALUES (?, ?, ?, ?, ?, ?)",
			i.ID, n, r.File, r.Line, r.Field, r.Reason); err != nil {
			return err
		}
	}
	return nil
}

// AbandonImports ends imports that were running when the program stopped; they wrote nothing.
func (t *Tx) AbandonImports(ctx context.Context) error {
	return t.exec(ctx, "UPDATE import SET state = 'failed', message = 'The program stopped before the import was done; nothing was changed.' WHERE state = 'running'")
}

// Imports lists the latest imports.
func (r Reader) Imports(ctx context.Context, limit int) ([]Import, error) {
	var out []Import
	err := r.list(ctx, &out, "SELECT id, kind, file, state, message, counts, person_id, started_at, ended_at FROM import ORDER BY id DESC LIMIT ?", limit)
	return out, err
}

// ImportByID gives an import.
func (r Reader) ImportByID(ctx context.Context, id int64) (Import, error) {
	var i Import
	err := r.get(ctx, &i, "SELECT id, kind, file, state, message, counts, person_id, started_at, ended_at FROM import WHERE id = ?", id)
	return i, err
}

// Refusals lists the rows that an import refused.
func (r Reader) Refusals(ctx context.Context, id int64, limit int) ([]Refusal, error) {
	var out []Refusal
	err := r.list(ctx, &out, "SELECT file, line, field, reason FROM import_refusal WHERE import_id = ? ORDER BY position LIMIT ?", id, limit)
	return out, err
}
