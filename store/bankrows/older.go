package bankrows

import (
	"context"
	"fmt"

	"pineledger/core/bank"
	"pineledger/core/item"
	"pineledger/store/sqlite"
)

// FillSets turns the alignments, tags and search words of older databases into
// the sets and words of migration 3.
func FillSets(ctx context.Context, t *sqlite.Tx) error {
	if err := fillPassages(ctx, t); err != nil {
		return err
	}
	if err := fillItems(ctx, t); err != nil {
		return err
	}
	for _, table := range []string{"item_standard", "item_tag"} {
		if err := t.Exec(ctx, "DROP TABLE "+table); err != nil {
			return err
		}
	}
	return nil
}

func fillPassages(ctx context.Context, t *sqlite.Tx) error {
	var passages []Passage
	if err := t.List(ctx, &passages, "SELECT id, title, body FROM passage"); err != nil {
		return err
	}
	for _, p := range passages {
		f := bank.Read(item.Paragraphs(p.Body))
		if err := t.Exec(ctx, "UPDATE passage SET plain = ?, words = ?, sentences = ?, syllables = ? WHERE id = ?",
			item.PlainText(p.Body), f.Words, f.Sentences, f.Syllables, p.ID); err != nil {
			return err
		}
	}
	return nil
}

func fillItems(ctx context.Context, t *sqlite.Tx) error {
	var items []struct {
		ID         int64  `db:"id"`
		Identifier string `db:"identifier"`
		Document   string `db:"document"`
	}
	if err := t.List(ctx, &items, "SELECT i.id, i.identifier, v.document FROM item i JOIN item_version v ON v.id = i.version_id"); err != nil {
		return err
	}
	for _, row := range items {
		var standards []int64
		if err := t.List(ctx, &standards, "SELECT standard_id FROM item_standard WHERE item_id = ?", row.ID); err != nil {
			return err
		}
		alignment, err := AlignmentOf(ctx, t, standards)
		if err != nil {
			return err
		}
		if err := t.Exec(ctx, "UPDATE item SET alignment_id = ? WHERE id = ?", alignment, row.ID); err != nil {
			return err
		}
		var tags []string
		if err := t.List(ctx, &tags, "SELECT tag FROM item_tag WHERE item_id = ?", row.ID); err != nil {
			return err
		}
		if err := PutEveryonesTags(ctx, t, row.ID, tags, nil); err != nil {
			return err
		}
		it, err := item.Read([]byte(row.Document))
		if err != nil {
			return fmt.Errorf("item %s: %w", row.Identifier, err)
		}
		if err := indexWords(ctx, t, row.ID, Words{it.Stem(), it.OtherWords()}, true); err != nil {
			return err
		}
	}
	return nil
}

// FillMedia notes which items and passages show what of the shelf.
func FillMedia(ctx context.Context, t *sqlite.Tx) error {
	for query, note := range map[string]func(context.Context, int64, string, bool) error{
		"SELECT i.id, v.document AS text FROM item i JOIN item_version v ON v.id = i.version_id WHERE instr(v.document, '/media/') > 0": func(ctx context.Context, id int64, text string, fresh bool) error {
			return noteItemMedia(ctx, t, id, text, fresh)
		},
		"SELECT id, body AS text FROM passage WHERE instr(body, '/media/') > 0": func(ctx context.Context, id int64, text string, fresh bool) error {
			return notePassageMedia(ctx, t, id, text, fresh)
		},
	} {
		var rows []struct {
			ID   int64  `db:"id"`
			Text string `db:"text"`
		}
		if err := t.List(ctx, &rows, query); err != nil {
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

func FillSketches(ctx context.Context, t *sqlite.Tx) error {
	var texts []TwinText
	if err := t.List(ctx, &texts, "SELECT rowid AS item_id, stem, choices FROM item_words"); err != nil {
		return err
	}
	for _, x := range texts {
		if err := putSketch(ctx, t, x.ItemID, bank.Sketch(bank.Shingles(x.Stem+" "+x.Choices)), false); err != nil {
			return err
		}
	}
	return nil
}
