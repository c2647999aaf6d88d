// Package store keeps everything in one SQLite file. It holds SQL and nothing of
// the job's rules; one file an aggregate, each query written out and named by
// what it answers.
//
// There is one writer connection and a few readers apart, in WAL mode with
// synchronous=FULL: what a committed transaction wrote is on disk.
package store

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"net/url"
	"os"
	"path/filepath"
	"strings"
	"time"

	"github.com/jmoiron/sqlx"
	_ "modernc.org/sqlite" // the one SQLite driver of this program
)

// ErrNotFound is given where the row asked for does not exist for who asks.
var ErrNotFound = errors.New("not found")

// ErrStale is given where a row was changed by somebody else since it was read.
var ErrStale = errors.New("changed by somebody else meanwhile")

const readers = 4

// Store is an open database.
type Store struct {
	Reader
	write   *sqlx.DB
	read    *sqlx.DB
	answers *answerWriter
}

// Reader answers queries, on a reading connection or inside a transaction.
type Reader struct{ q sqlx.QueryerContext }

// Tx is a writing transaction; it reads too.
type Tx struct {
	Reader
	tx         *sqlx.Tx
	statements map[string]*sql.Stmt // imports run few statements many times
	sets       map[string]int64     // interned in this transaction
	tags       map[string]int64     // everyone's, by name
}

func newTx(tx *sqlx.Tx) *Tx {
	return &Tx{Reader{tx}, tx, map[string]*sql.Stmt{}, map[string]int64{}, map[string]int64{}}
}

// Open opens or makes the database in a folder and brings its schema up to date.
// Close it when done.
func Open(ctx context.Context, dir string) (*Store, error) {
	if err := os.MkdirAll(dir, 0o700); err != nil {
		return nil, fmt.Errorf("data folder: %w", err)
	}
	path := filepath.Join(dir, "pineledger.db")
	write, err := connect(path, 1, "&_txlock=immediate")
	if err != nil {
		return nil, err
	}
	if err := migrate(ctx, write.DB); err != nil {
		return nil, errors.Join(err, write.Close())
	}
	read, err := connect(path, readers, "&_pragma=query_only(1)")
	if err != nil {
		return nil, errors.Join(err, write.Close())
	}
	s := &Store{Reader: Reader{read}, write: write, read: read}
	s.answers = newAnswerWriter(write)
	return s, nil
}

func connect(path string, most int, more string) (*sqlx.DB, error) {
	dsn := "file:" + url.PathEscape(path) + "?_pragma=journal_mode(WAL)&_pragma=synchronous(FULL)&_pragma=foreign_keys(1)" +
		"&_pragma=busy_timeout(10000)&_pragma=cache_size(-65536)&_pragma=mmap_size(268435456)&_pragma=temp_store(MEMORY)" + more
	db, err := sqlx.Open("sqlite", dsn)
	if err != nil {
		return nil, fmt.Errorf("open database: %w", err)
	}
	db.SetMaxOpenConns(most)
	db.SetMaxIdleConns(most)
	if err := db.Ping(); err != nil {
		return nil, errors.Join(fmt.Errorf("open database: %w", err), db.Close())
	}
	return db, nil
}

// Close waits for queued answers and closes the database.
func (s *Store) Close() error {
	s.answers.close()
	return errors.Join(s.read.Close(), s.write.Close())
}

// SessionDB is the connection that the session library keeps its table through.
func (s *Store) SessionDB() *sql.DB { return s.write.DB }

// Write runs f in one transaction: all of it, or nothing.
func (s *Store) Write(ctx context.Context, f func(*Tx) error) error {
	tx, err := s.write.BeginTxx(ctx, nil)
	if err != nil {
		return fmt.Errorf("begin: %w", err)
	}
	if err := f(newTx(tx)); err != nil {
		return errors.Join(err, tx.Rollback())
	}
	if err := tx.Commit(); err != nil {
		return fmt.Errorf("commit: %w", err)
	}
	return nil
}

// Optimize lets SQLite refresh its statistics after much has been written.
func (s *Store) Optimize(ctx context.Context) error {
	_, err := s.write.ExecContext(ctx, "ANALYZE")
	return err
}

func (r Reader) get(ctx context.Context, dest any, query string, args ...any) error {
	err := sqlx.GetContext(ctx, r.q, dest, query, args...)
	if errors.Is(err, sql.ErrNoRows) {
		return ErrNotFound
	}
	return err
}

func (r Reader) list(ctx context.Context, dest any, query string, args ...any) error {
	return sqlx.SelectContext(ctx, r.q, dest, query, args...)
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

func (t *Tx) run(ctx context.Context, query string, args ...any) (sql.Result, error) {
	statement, err := t.prepared(ctx, query)
	if err != nil {
		return nil, err
	}
	return statement.ExecContext(ctx, args...)
}

func (t *Tx) exec(ctx context.Context, query string, args ...any) error {
	_, err := t.run(ctx, query, args...)
	return err
}

// insert runs an INSERT and gives the new row's id.
func (t *Tx) insert(ctx context.Context, query string, args ...any) (int64, error) {
	res, err := t.run(ctx, query, args...)
	if err != nil {
		return 0, err
	}
	return res.LastInsertId()
}

// changeOne runs an UPDATE that names a row version; no row means it is stale.
func (t *Tx) changeOne(ctx context.Context, query string, args ...any) error {
	res, err := t.run(ctx, query, args...)
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

// Millis and Time turn moments into what is stored and back.
func Millis(t time.Time) int64 { return t.UnixMilli() }
func Time(ms int64) time.Time  { return time.UnixMilli(ms).UTC() }

// optionalMillis stores the zero time as NULL.
func optionalMillis(t time.Time) any {
	if t.IsZero() {
		return nil
	}
	return Millis(t)
}

// optionalTime reads NULL as the zero time.
func optionalTime(ms sql.NullInt64) time.Time {
	if !ms.Valid {
		return time.Time{}
	}
	return Time(ms.Int64)
}

// where gathers conditions that all must hold.
type where struct {
	parts []string
	args  []any
}

func (w *where) add(condition string, args ...any) {
	w.parts = append(w.parts, condition)
	w.args = append(w.args, args...)
}

func (w *where) String() string {
	if len(w.parts) == 0 {
		return ""
	}
	return " WHERE " + strings.Join(w.parts, " AND ")
}

// in writes "column IN (?, ?)"; an empty list matches nothing.
func in[T any](column string, values []T) (string, []any) {
	if len(values) == 0 {
		return "0", nil
	}
	args := make([]any, len(values))
	for i, v := range values {
		args[i] = v
	}
	return column + " IN (?" + strings.Repeat(", ?", len(values)-1) + ")", args
}

// escapeLike makes a text match itself in LIKE … ESCAPE '\'.
func escapeLike(s string) string {
	return strings.NewReplacer(`\`, `\\`, "%", `\%`, "_", `\_`).Replace(s)
}
