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
	"path/filepath"
	"time"

	"github.com/jmoiron/sqlx"
	_ "modernc.org/sqlite" // the one SQLite driver of this program

	"pineledger/store/sqlite"
)

const readers = 4

// What rooms read and write through, by the names that the application knows.
type (
	Reader = sqlite.Reader
	Tx     = sqlite.Tx
)

// ErrNotFound and ErrStale are those of package sqlite.
var (
	ErrNotFound = sqlite.ErrNotFound
	ErrStale    = sqlite.ErrStale
)

// Millis and Time turn moments into what is stored and back.
func Millis(t time.Time) int64 { return sqlite.Millis(t) }
func Time(ms int64) time.Time  { return sqlite.Time(ms) }

// Store is an open database.
type Store struct {
	sqlite.Reader
	dir     string
	write   *sqlx.DB
	read    *sqlx.DB
	ahead   *ahead
	answers *answerWriter
	group   *groupWriter
	gate    *gate
}

// Open opens or makes the database in a folder and brings its schema up to date.
// Close it when done.
func Open(ctx context.Context, dir string) (*Store, error) {
	if err := makePrivate(dir); err != nil {
		return nil, err
	}
	path := filepath.Join(dir, DatabaseFile)
	if err := privateFile(path); err != nil {
		return nil, err
	}
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
	waiting, err := openAhead(dir)
	if err != nil {
		return nil, errors.Join(err, read.Close(), write.Close())
	}
	s := &Store{gate: newGate(), dir: dir, Reader: sqlite.NewReader(read), write: write, read: read, ahead: waiting}
	if waiting.any() { // the program was stopped in the middle of a long transaction
		if err := s.Write(ctx, func(*sqlite.Tx) error { return nil }); err != nil {
			return nil, errors.Join(err, s.closeFiles())
		}
	}
	s.answers = newAnswerWriter(s)
	s.group = newGroupWriter(s)
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

// Close waits for queued writes and closes the database.
func (s *Store) Close() error {
	s.answers.queue.close()
	s.group.queue.close()
	var err error
	if s.ahead.any() {
		err = s.Write(context.Background(), func(*sqlite.Tx) error { return nil })
	}
	return errors.Join(err, s.closeFiles())
}

func (s *Store) closeFiles() error {
	return errors.Join(s.ahead.close(), s.read.Close(), s.write.Close())
}

// Unguarded is the writing connection itself, for measures of the bare limit and tests that tamper.
func (s *Store) Unguarded() *sql.DB { return s.write.DB }

// Write runs f in one transaction: all of it, or nothing. It may take long: answers that come
// meanwhile are kept beside the database. f must not end attempts; WriteTogether may.
func (s *Store) Write(ctx context.Context, f func(*sqlite.Tx) error) error {
	s.gate.enter(longTurn, 0)
	defer s.gate.leave()
	return s.transact(ctx, f)
}

// transact runs f in a transaction of whoever has entered the gate. Answers that were kept ahead are taken over first.
func (s *Store) transact(ctx context.Context, f func(*sqlite.Tx) error) error {
	begun, err := s.write.BeginTxx(ctx, nil)
	if err != nil {
		return fmt.Errorf("begin: %w", err)
	}
	tx := sqlite.NewTx(begun)
	taken, err := s.ahead.take(ctx, tx)
	if err == nil {
		err = f(tx)
	}
	if err != nil {
		return errors.Join(err, begun.Rollback())
	}
	if err := begun.Commit(); err != nil {
		return fmt.Errorf("commit: %w", err)
	}
	synced()
	s.ahead.done(taken)
	return nil
}

// Optimize lets SQLite refresh its statistics after much has been written.
func (s *Store) Optimize(ctx context.Context) error {
	_, err := s.write.ExecContext(ctx, "ANALYZE")
	return err
}
