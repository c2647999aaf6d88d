// Package sqlite reads and writes rows: the queries and transactions that the rooms
// of the store are written with, and how values stand in cells.
package sqlite

import (
	"context"
	"database/sql"
	"errors"
	"reflect"
	"strings"
	"time"

	"github.com/jmoiron/sqlx"
)

// Reader answers queries, on a reading connection or inside a transaction.
type Reader struct{ q sqlx.QueryerContext }

func NewReader(q sqlx.QueryerContext) Reader { return Reader{q} }

// Tx is a writing transaction; it reads too.
type Tx struct {
	Reader
	tx         *sqlx.Tx
	statements map[string]*sql.Stmt // imports run few statements many times
	Sets       map[string]int64     // interned in this transaction
	Tags       map[string]int64     // everyone's, by name
}

func NewTx(tx *sqlx.Tx) *Tx {
	return &Tx{Reader{tx}, tx, map[string]*sql.Stmt{}, map[string]int64{}, map[string]int64{}}
}

// Within runs f so that all of it is undone when it fails, and nothing else of the transaction.
func (t *Tx) Within(ctx context.Context, f func(*Tx) error) error {
	if _, err := t.tx.ExecContext(ctx, "SAVEPOINT within"); err != nil {
		return err
	}
	failure := f(NewTx(t.tx)) // ids that it has interned go with it
	if failure != nil {
		if _, err := t.tx.ExecContext(ctx, "ROLLBACK TO within"); err != nil {
			return errors.Join(failure, err)
		}
	}
	_, err := t.tx.ExecContext(ctx, "RELEASE within")
	return errors.Join(failure, err)
}

// Get reads one row; without one it gives ErrNotFound and leaves the zero value.
func (r Reader) Get(ctx context.Context, dest any, query string, args ...any) error {
	err := sqlx.GetContext(ctx, r.q, dest, query, args...)
	if errors.Is(err, sql.ErrNoRows) {
		reflect.ValueOf(dest).Elem().SetZero() // what scanning had made ready in it is no value
		return ErrNotFound
	}
	return err
}

func (r Reader) List(ctx context.Context, dest any, query string, args ...any) error {
	return sqlx.SelectContext(ctx, r.q, dest, query, args...)
}

// Query runs a query whose rows are read one by one; the caller closes them.
func (r Reader) Query(ctx context.Context, query string, args ...any) (*sqlx.Rows, error) {
	return r.q.QueryxContext(ctx, query, args...)
}

// prepared gives a statement, prepared once per transaction; the transaction's end closes it.
func (t *Tx) prepared(ctx context.Context, query string) (*sql.Stmt, error) {
	if statement, ok := t.statements[query]; ok {
		return statement, nil
	}
	statement, err := t.tx.PrepareContext(ctx, query)
	if err == nil {
		t.statements[query] = statement
	}
	return statement, err
}

// Value reads one value by a query that is prepared once. Without a row it gives ErrNotFound.
func (t *Tx) Value(ctx context.Context, into any, query string, args ...any) error {
	statement, err := t.prepared(ctx, query)
	if err != nil {
		return err
	}
	err = statement.QueryRowContext(ctx, args...).Scan(into)
	if errors.Is(err, sql.ErrNoRows) {
		return ErrNotFound
	}
	return err
}

func (t *Tx) Exec(ctx context.Context, query string, args ...any) error {
	_, err := t.Run(ctx, query, args...)
	return err
}

// Insert runs an INSERT and gives the new row's id.
func (t *Tx) Insert(ctx context.Context, query string, args ...any) (int64, error) {
	res, err := t.Run(ctx, query, args...)
	if err != nil {
		return 0, err
	}
	return res.LastInsertId()
}

// ChangeOne runs an UPDATE that names a row version; no row means it is stale.
func (t *Tx) ChangeOne(ctx context.Context, query string, args ...any) error {
	res, err := t.Run(ctx, query, args...)
	if err != nil {
		return err
	}
	n, err := res.RowsAffected()
	if err != nil {
		return err
	}
	if n == 0 {
		return ErrStale
	}
	return nil
}

// ErrNotFound is given where the row asked for does not exist for who asks.
var ErrNotFound = errors.New("not found")

// ErrStale is given where a row was changed by somebody else since it was read.
var ErrStale = errors.New("changed by somebody else meanwhile")

// Millis and Time turn moments into what is stored and back.
func Millis(t time.Time) int64 { return t.UnixMilli() }

func Time(ms int64) time.Time { return time.UnixMilli(ms).UTC() }

// OptionalMillis stores the zero time as NULL.
func OptionalMillis(t time.Time) any {
	if t.IsZero() {
		return nil
	}
	return Millis(t)
}

// OptionalTime reads NULL as the zero time.
func OptionalTime(ms *int64) time.Time {
	if ms == nil {
		return time.Time{}
	}
	return Time(*ms)
}

// Where gathers conditions that all must hold.
type Where struct {
	parts []string
	Args  []any
}

func (w *Where) String() string {
	if len(w.parts) == 0 {
		return ""
	}
	return " WHERE " + strings.Join(w.parts, " AND ")
}

// In writes "column IN (?, ?)"; an empty list matches nothing.
func In[T any](column string, values []T) (string, []any) {
	if len(values) == 0 {
		return "0", nil
	}
	args := make([]any, len(values))
	for i, v := range values {
		args[i] = v
	}
	return column + " IN (?" + strings.Repeat(", ?", len(values)-1) + ")", args
}

// EscapeLike makes a text match itself in LIKE … ESCAPE '\'.
func EscapeLike(s string) string {
	return strings.NewReplacer(`\`, `\\`, "%", `\%`, "_", `\_`).Replace(s)
}

func (t *Tx) Run(ctx context.Context, query string, args ...any) (sql.Result, error) {
	statement, err := t.prepared(ctx, query)
	if err != nil {
		return nil, err
	}
	return statement.ExecContext(ctx, args...)
}

func (w *Where) Add(condition string, args ...any) {
	w.parts = append(w.parts, condition)
	w.Args = append(w.Args, args...)
}
