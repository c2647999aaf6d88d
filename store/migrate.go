package store

import (
	"context"
	"database/sql"
	"embed"
	"fmt"
	"io/fs"
	"strings"

	"github.com/jmoiron/sqlx"
	"github.com/jmoiron/sqlx/reflectx"
	"github.com/pressly/goose/v3"

	"pineledger/store/bankrows"
	"pineledger/store/readrows"
	"pineledger/store/sqlite"
)

//go:embed migrations/*.sql
var migrations embed.FS

// Migrations are the files that bring a database forward, the oldest first.
func Migrations() fs.FS {
	files, err := fs.Sub(migrations, "migrations")
	if err != nil {
		panic(err) // embedded
	}
	return files
}

func migrate(ctx context.Context, db *sql.DB) error {
	provider, err := goose.NewProvider(goose.DialectSQLite3, db, Migrations(), goose.WithGoMigrations(goMigrations()...))
	if err != nil {
		return fmt.Errorf("migrations: %w", err)
	}
	if _, err := provider.Up(ctx); err != nil {
		return fmt.Errorf("migrations: %w", err)
	}
	return nil
}

// goMigrations are the steps forward that need the rules of the core.
func goMigrations() []*goose.Migration {
	return []*goose.Migration{
		goose.NewGoMigration(4, &goose.GoFunc{RunTx: inTx(func(t *sqlite.Tx, ctx context.Context) error { return bankrows.FillSets(ctx, t) })}, nil),
		goose.NewGoMigration(6, &goose.GoFunc{RunTx: inTx(func(t *sqlite.Tx, ctx context.Context) error { return bankrows.FillMedia(ctx, t) })}, nil),
		goose.NewGoMigration(9, &goose.GoFunc{RunTx: inTx(func(t *sqlite.Tx, ctx context.Context) error { return bankrows.FillSketches(ctx, t) })}, nil),
		goose.NewGoMigration(21, &goose.GoFunc{RunTx: inTx(func(t *sqlite.Tx, ctx context.Context) error { return readrows.TakeOverScores(ctx, t) })}, nil),
	}
}

func inTx(f func(*sqlite.Tx, context.Context) error) func(context.Context, *sql.Tx) error {
	return func(ctx context.Context, plain *sql.Tx) error {
		return f(sqlite.NewTx(&sqlx.Tx{Tx: plain, Mapper: reflectx.NewMapperFunc("db", strings.ToLower)}), ctx)
	}
}
