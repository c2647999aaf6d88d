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

	"pineledger/core/bank"
	"pineledger/core/item"
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
		goose.NewGoMigration(4, &goose.GoFunc{RunTx: inTx((*Tx).fillSets)}, nil),
		goose.NewGoMigration(6, &goose.GoFunc{RunTx: inTx((*Tx).fillMedia)}, nil),
		goose.NewGoMigration(9, &goose.GoFunc{RunTx: inTx((*Tx).fillSketches)}, nil),
	}
}

func inTx(f func(*Tx, context.Context) error) func(context.Context, *sql.Tx) error {
	return func(ctx context.Context, plain *sql.Tx) error {
		return f(newTx(&sqlx.Tx{Tx: plain, Mapper: reflectx.NewMapperFunc("db", strings.ToLower)}), ctx)
	}
}

// fillSets turns the alignments, tags and search words of older databases into
// the sets and words of migration 3.
func (t *Tx) fillSets(ctx context.Context) error {
	if err := t.fillPassages(ctx); err != nil {
		return err
	}
	if err := t.fillItems(ctx); err != nil {
		return err
	}
	for _, table := range []string{"item_standard", "item_tag"} {
		if err := t.exec(ctx, "DROP TABLE "+table); err != nil {
			return err
		}
	}
	return nil
}

func (t *Tx) fillPassages(ctx context.Context) error {
	var passages []Passage
	if err := t.list(ctx, &passages, "SELECT id, title, body FROM passage"); err != nil {
		return err
	}
	for _, p := range passages {
		f := bank.Read(item.Paragraphs(p.Body))
		if err := t.exec(ctx, "UPDATE passage SET plain = ?, words = ?, sentences = ?, syllables = ? WHERE id = ?",
			item.PlainText(p.Body), f.Words, f.Sentences, f.Syllables, p.ID); err != nil {
			return err
		}
	}
	return nil
}

func (t *Tx) fillItems(ctx context.Context) error {
	var items []struct {
		ID         int64  `db:"id"`
		Identifier string `db:"identifier"`
		Document   string `db:"document"`
	}
	if err := t.list(ctx, &items, "SELECT i.id, i.identifier, v.document FROM item i JOIN item_version v ON v.id = i.version_id"); err != nil {
		return err
	}
	for _, row := range items {
		var standards []int64
		if err := t.list(ctx, &standards, "SELECT standard_id FROM item_standard WHERE item_id = ?", row.ID); err != nil {
			return err
		}
		alignment, err := t.alignmentOf(ctx, standards)
		if err != nil {
			return err
		}
		if err := t.exec(ctx, "UPDATE item SET alignment_id = ? WHERE id = ?", alignment, row.ID); err != nil {
			return err
		}
		var tags []string
		if err := t.list(ctx, &tags, "SELECT tag FROM item_tag WHERE item_id = ?", row.ID); err != nil {
			return err
		}
		if err := t.PutEveryonesTags(ctx, row.ID, tags, nil); err != nil {
			return err
		}
		it, err := item.Read([]byte(row.Document))
		if err != nil {
			return fmt.Errorf("item %s: %w", row.Identifier, err)
		}
		if err := t.indexWords(ctx, row.ID, Words{it.Stem(), it.OtherWords()}); err != nil {
			return err
		}
	}
	return nil
}

// fillMedia notes which items and passages show what of the shelf.
func (t *Tx) fillMedia(ctx context.Context) error {
	for query, note := range map[string]func(context.Context, int64, string, bool) error{
		"SELECT i.id, v.document AS text FROM item i JOIN item_version v ON v.id = i.version_id WHERE instr(v.document, '/media/') > 0": t.noteItemMedia,
		"SELECT id, body AS text FROM passage WHERE instr(body, '/media/') > 0":                                                         t.notePassageMedia,
	} {
		var rows []struct {
			ID   int64  `db:"id"`
			Text string `db:"text"`
		}
		if err := t.list(ctx, &rows, query); err != nil {
			return err
		}
		for _, row := range rows {
			if err := note(ctx, row.ID, row.Text, false); err != nil {
				return err
			}
		}
	}
	return nil
}
