package store_test

import (
	"context"
	"database/sql"
	"io/fs"
	"path/filepath"
	"strings"
	"testing"
	"testing/fstest"

	"github.com/pressly/goose/v3"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"pineledger/core/bank"
	"pineledger/store"
)

// oldest makes a database as the first release left it, with an item in it.
func oldest(t *testing.T, dir string) {
	t.Helper()
	db, err := sql.Open("sqlite", "file:"+filepath.Join(dir, "pineledger.db"))
	require.NoError(t, err)
	defer func() { require.NoError(t, db.Close()) }()
	first, err := fs.ReadFile(store.Migrations(), "00001_first.sql")
	require.NoError(t, err)
	provider, err := goose.NewProvider(goose.DialectSQLite3, db, fstest.MapFS{"00001_first.sql": {Data: first}})
	require.NoError(t, err)
	_, err = provider.Up(t.Context())
	require.NoError(t, err)
	for _, query := range []string{
		"INSERT INTO bank (id, name, kind) VALUES (1, 'Old bank', 'district')",
		`INSERT INTO item (id, identifier, bank_id, version_id, version, kind, stem, subject, grade, depth, language, digest) VALUES (1, 'I1', 1, 1, 1, 'number', 'How many?', 'mathematics', '06', 1, 'en', 'x')`,
		`INSERT INTO item_version (id, item_id, number, document, kind, stem, key_short, depth, language, standards, tags, author_id, at)
			VALUES (1, 1, 1, '{"schema":1,"kind":"number","body":[{"html":"How many?"},{"interaction":{"response":"RESPONSE"}}],"declarations":[{"response":"RESPONSE","correct":["12"],"number":{}}],"credit":"all-or-nothing"}', 'number', 'How many?', '12', 1, 'en', '', '', 7, 5)`,
		"INSERT INTO passage (id, identifier, title, body, words, digest) VALUES (1, 'P1', 'The dock', '<p>The dock is long. Boats wait.</p>', 6, 'x')",
		"UPDATE item SET passage_id = 1, difficulty = 350",
		"INSERT INTO framework (id, identifier, title, subject, version) VALUES (1, 'f', 'Calder', 'Mathematics', '')",
		"INSERT INTO standard (id, framework_id, identifier, code, text, level, grades, place, last, digest) VALUES (1, 1, 's', 'M6', 'Grade 6', '', '[]', 1, 1, 'x')",
		"INSERT INTO item_standard (standard_id, item_id) VALUES (1, 1)",
		"INSERT INTO item_tag (tag, item_id) VALUES ('tide', 1)",
		"INSERT INTO item_text (rowid, words) VALUES (1, 'How many?')",
		"INSERT INTO school (id, sourced_id, name, active, digest) VALUES (1, 's', 'Heron Point', 1, 'x')",
		`INSERT INTO course (id, sourced_id, title, code, subjects, grades, digest) VALUES (1, 'c', 'Mathematics', '', '["mathematics"]', '[]', 'x')`,
		"INSERT INTO section (id, sourced_id, school_id, course_id, title, grade, active, digest) VALUES (1, 'k', 1, 1, '6-A', '06', 1, 'x')",
		"INSERT INTO person (id, sourced_id, number, given, family, email, grade, active, secret, digest) VALUES (9, 'p', '', 'Mei', 'Sato', '', '06', 1, '', 'x')",
		`INSERT INTO assessment (id, title, short_title, description, instructions, subject, grades, purpose, language, year, state, edition, school_id, owner_id, version, changed_at, changed_by)
			VALUES (1, 'Fall', 'Fall', '', 'Read it.' || char(10) || char(10) || 'Is 4 < 5?', 'mathematics', '["06"]', 'benchmark', 'en', '2026–27', 'out', 1, 0, 7, 1, 0, '')`,
		`INSERT INTO form (id, assessment_id, edition, fingerprint, document, sealed_at, sealed_by) VALUES (1, 1, 1, 'x', '{"lines":[{"itemId":1,"versionId":1}]}', 77, 7)`,
		"INSERT INTO distribution (id, assessment_id, form_id, minutes, state, reasons, version) VALUES (1, 1, 1, 0, 'sent', '{}', 1)",
		"INSERT INTO sitting (id, distribution_id, section_id, school_id, door) VALUES (1, 1, 1, 1, 'closed')",
		"INSERT INTO attempt (id, sitting_id, student_id, form_id, state, started_at) VALUES (1, 1, 9, 1, 'scored', 80)",
	} {
		_, err := db.ExecContext(t.Context(), query)
		require.NoError(t, err, query)
	}
}

func TestADatabaseOfTheFirstReleaseGoesForward(t *testing.T) {
	dir := t.TempDir()
	oldest(t, dir)
	s, err := store.Open(t.Context(), dir)
	require.NoError(t, err)
	defer func() { require.NoError(t, s.Close()) }()
	tags, err := s.Tags(t.Context())
	require.NoError(t, err)
	require.Len(t, tags, 1)
	// Found by its words and its passage's, by standard, tag and difficulty, as if it were new.
	q := store.ItemQuery{Scope: everything, Words: "many boats", Standards: []int64{1}, TagIDs: []int64{tags[0].ID}, Eases: []string{"hard"}, Limit: 10}
	items, _, err := s.Items(t.Context(), q)
	require.NoError(t, err)
	require.Len(t, items, 1)
	assert.Equal(t, []any{"I1", "Old bank", int64(7), int64(77)}, []any{items[0].Identifier, items[0].Bank, items[0].OwnerID, items[0].LastUsed})
	near, err := s.SharingKeys(t.Context(), bank.Sketch(bank.Shingles("How many? ")), 0)
	require.NoError(t, err)
	assert.Len(t, near, 1)
	passages, err := s.Passages(t.Context(), []int64{1})
	require.NoError(t, err)
	assert.Equal(t, []any{6, 2, "Old bank"}, []any{passages[0].Words, passages[0].Sentences, passages[0].Bank})
	uses, err := s.UsesOf(t.Context(), 1)
	require.NoError(t, err)
	require.Len(t, uses, 1)
	assert.Equal(t, []any{"Fall", 1, 1}, []any{uses[0].Title, uses[0].Line, uses[0].Students})
	seen, err := s.SeenOf(t.Context(), 1)
	require.NoError(t, err)
	assert.Equal(t, []store.Seen{{Year: "2026–27", Grade: "06", Students: 1}}, seen)
	fall, err := s.AssessmentByID(t.Context(), 1)
	require.NoError(t, err)
	assert.Equal(t, "<p>Read it.</p><p>Is 4 &lt; 5?</p>", fall.Instructions, "plain paragraphs became formatted ones")
	subjects, err := s.Subjects(t.Context())
	require.NoError(t, err)
	assert.Equal(t, []string{"mathematics"}, subjects)
	drafts, err := s.ItemDrafts(t.Context(), 1)
	require.NoError(t, err)
	assert.Empty(t, drafts, "what is new begins empty")
}

func open(t *testing.T) *store.Store {
	t.Helper()
	s, err := store.Open(t.Context(), t.TempDir())
	require.NoError(t, err)
	t.Cleanup(func() { require.NoError(t, s.Close()) })
	return s
}

func TestAFileOfTheShelfIsThereOnce(t *testing.T) {
	s, ctx := open(t), context.Background()
	m := store.Media{Hash: strings.Repeat("a", 64), Type: "image/png", Ending: ".png", Name: "pier.png", Width: 4, Height: 3, Data: []byte("x"), PersonID: 1, At: 5}
	again := m
	again.Name, again.Data = "other.png", []byte("y")
	require.NoError(t, s.Write(ctx, func(tx *store.Tx) error {
		if err := tx.PutMedia(ctx, m); err != nil {
			return err
		}
		return tx.PutMedia(ctx, again)
	}))
	got, err := s.MediaByHash(ctx, m.Hash)
	require.NoError(t, err)
	assert.Equal(t, m, got, "what is there under a hash stays")
	_, err = s.MediaByHash(ctx, strings.Repeat("b", 64))
	require.ErrorIs(t, err, store.ErrNotFound)
}

func TestDraftsAreTheirAuthorsAlone(t *testing.T) {
	s, ctx := open(t), context.Background()
	var ids []int64
	require.NoError(t, s.Write(ctx, func(tx *store.Tx) error {
		for i, author := range []int64{1, 2, 1} {
			id, err := tx.AddItemDraft(ctx, store.ItemDraft{AuthorID: author, Document: "{}", Meta: "{}", Kind: "number", ChangedAt: int64(i)})
			if err != nil {
				return err
			}
			ids = append(ids, id)
		}
		return nil
	}))
	mine, err := s.ItemDrafts(ctx, 1)
	require.NoError(t, err)
	require.Len(t, mine, 2)
	assert.Equal(t, []int64{ids[2], ids[0]}, []int64{mine[0].ID, mine[1].ID}, "the last changed first")
	_, err = s.ItemDraft(ctx, 1, ids[1])
	require.ErrorIs(t, err, store.ErrNotFound)

	changed := mine[1]
	changed.Stem, changed.ChangedAt = "How many?", 9
	require.NoError(t, s.Write(ctx, func(tx *store.Tx) error {
		if err := tx.PutItemDraft(ctx, changed); err != nil {
			return err
		}
		return tx.DropItemDraft(ctx, ids[2])
	}))
	mine, err = s.ItemDrafts(ctx, 1)
	require.NoError(t, err)
	require.Len(t, mine, 1)
	assert.Equal(t, []any{"How many?", int64(2)}, []any{mine[0].Stem, mine[0].Version}, "every change is a version")
}

func TestStandardsAreFoundByCodeAndIdentifier(t *testing.T) {
	s, ctx := open(t), context.Background()
	require.NoError(t, s.Write(ctx, func(tx *store.Tx) error {
		framework, _, err := tx.PutFramework(ctx, store.Framework{Identifier: "f", Title: "Calder", Subject: "Science"})
		if err != nil {
			return err
		}
		for i, code := range []string{"S5", "S5.EW"} {
			if _, err := tx.PutStandard(ctx, store.Standard{FrameworkID: framework, Identifier: "id-" + code, Code: code, Grades: `["05"]`, Place: i, Last: 1}, "x"); err != nil {
				return err
			}
		}
		return nil
	}))
	all, err := s.StandardKeys(ctx)
	require.NoError(t, err)
	assert.Equal(t, all["S5.EW"], all["id-S5.EW"])
	assert.Equal(t, []string{"Science", `["05"]`}, []string{all["S5"].Subject, all["S5"].Grades})
	some, err := s.StandardsCoded(ctx, []string{"S5.EW", "none"})
	require.NoError(t, err)
	assert.Len(t, some, 2, "one standard, by two names")
	none, err := s.StandardsCoded(ctx, nil)
	require.NoError(t, err)
	assert.Empty(t, none)
}
