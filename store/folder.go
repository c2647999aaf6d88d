package store

import (
	"context"
	"errors"
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"syscall"
)

// DatabaseFile is what the database is called in its folder.
const DatabaseFile = "pineledger.db"

// ErrLocked is given where another program works in the folder.
var ErrLocked = errors.New("another Pine Ledger works in this folder")

// Lock keeps a data folder for one program. It ends with the program, however that ends.
type Lock struct{ file *os.File }

// LockFolder makes the folder, if there is none, and locks it; ErrLocked where it is taken.
func LockFolder(dir string) (*Lock, error) {
	if err := makePrivate(dir); err != nil {
		return nil, err
	}
	file, err := os.OpenFile(filepath.Join(dir, "lock"), os.O_CREATE|os.O_RDWR, 0o600)
	if err != nil {
		return nil, fmt.Errorf("data folder: %w", err)
	}
	if err := syscall.Flock(int(file.Fd()), syscall.LOCK_EX|syscall.LOCK_NB); errors.Is(err, syscall.EWOULDBLOCK) {
		return nil, errors.Join(ErrLocked, file.Close())
	} else if err != nil {
		return nil, errors.Join(fmt.Errorf("lock of the data folder: %w", err), file.Close())
	}
	return &Lock{file}, nil
}

// Release lets another program in.
func (l *Lock) Release() error { return l.file.Close() }

// makePrivate makes a folder for its owner alone, also one that was open to others.
func makePrivate(dir string) error {
	if err := os.MkdirAll(dir, 0o700); err != nil {
		return fmt.Errorf("data folder: %w", err)
	}
	if err := os.Chmod(dir, 0o700); err != nil {
		return fmt.Errorf("data folder: %w", err)
	}
	return nil
}

// privateFile makes a file, if there is none, for its owner alone. What SQLite makes
// beside it takes over its mode.
func privateFile(path string) error {
	file, err := os.OpenFile(path, os.O_CREATE|os.O_RDWR, 0o600)
	if err != nil {
		return fmt.Errorf("database: %w", err)
	}
	if err := file.Close(); err != nil {
		return err
	}
	for _, beside := range []string{"", "-wal", "-shm"} {
		if err := os.Chmod(path+beside, 0o600); err != nil && !errors.Is(err, os.ErrNotExist) {
			return fmt.Errorf("database: %w", err)
		}
	}
	return nil
}

// Dir is the folder of the database.
func (s *Store) Dir() string { return s.dir }

// Integrity asks SQLite whether the file is sound and every reference leads somewhere.
func (s *Store) Integrity(ctx context.Context) error {
	var said []string
	if err := s.read.SelectContext(ctx, &said, "PRAGMA integrity_check(20)"); err != nil {
		return fmt.Errorf("the database file is damaged: %w", err)
	}
	if len(said) != 1 || said[0] != "ok" {
		return fmt.Errorf("the database file is damaged: %s", strings.Join(said, "; "))
	}
	var loose []string
	if err := s.read.SelectContext(ctx, &loose, `SELECT "table" FROM pragma_foreign_key_check LIMIT 1`); err != nil {
		return err
	}
	if len(loose) > 0 {
		return fmt.Errorf("a row of %s refers to something that is not there", loose[0])
	}
	return nil
}
