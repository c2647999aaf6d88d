package store_test

import (
	"context"
	"database/sql"
	"io/fs"
	"path/filepath"
	"strings"
	"testing"
	"testing/fstest"
	"time"

	"github.com/pressly/goose/v3"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"pineledger/core/attempt"
	"pineledger/core/bank"
	"pineledger/core/blueprint"
	"pineledger/core/points"
	"pineledger/core/roster"
	"pineledger/core/window"
	"pineledger/store"
	"pineledger/store/bankrows"
	"pineledger/store/buildrows"
	"pineledger/store/readrows"
	"pineledger/store/takerows"
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
		`INSERT INTO blueprint_row (assessment_id, position, title, filter, by_points, least, most) VALUES
			(1, 0, 'Ratios', '{"kinds":["number"],"banks":["Old bank"]}', 0, 100, 200), (1, 1, 'All', '{}', 1, 100, 200)`,
		`INSERT INTO form (id, assessment_id, edition, fingerprint, document, sealed_at, sealed_by) VALUES (1, 1, 1, 'x', '{"lines":[{"itemId":1,"versionId":1}]}', 77, 7)`,
		"INSERT INTO distribution (id, assessment_id, form_id, opens_at, closes_at, minutes, state, reasons, version) VALUES (1, 1, 1, 60, 1000, 25, 'sent', '{}', 1)",
		"INSERT INTO sitting (id, distribution_id, section_id, school_id, door) VALUES (1, 1, 1, 1, 'closed')",
		"INSERT INTO attempt (id, sitting_id, student_id, form_id, state, started_at, handed_in_at, handed_in_by) VALUES (1, 1, 9, 1, 'scored', 80, 90, 'student')",
		"INSERT INTO score (attempt_id, sitting_id, raw, band, credits, scored_at) VALUES (1, 1, 100, 0, X'75000000007200000064', 90)", // unread, right
		"INSERT INTO line_tally (sitting_id, line, n, credit, omitted) VALUES (1, 1, 1, 0, 0), (1, 2, 1, 100, 0)",
		`INSERT INTO ledger (number, at, actor_id, actor, act, thing, thing_id, title, before, after, hash) VALUES (1, 70, 7, '', 'door.open', 'sitting', 1, '', '', '', ''), (2, 95, 7, '', 'door.closed', 'sitting', 1, '', '', '', '')`,
	} {
		_, err := db.ExecContext(t.Context(), query)
		require.NoError(t, err, query)
	}
}

// An attempt of before has a clock, terms and a scoring, and what waits for a reader counts nowhere.
func TestAnAttemptOfTheFirstReleaseGoesForward(t *testing.T) {
	dir := t.TempDir()
	oldest(t, dir)
	s, err := store.Open(t.Context(), dir)
	require.NoError(t, err)
	defer func() { require.NoError(t, s.Close()) }()
	row, err := takerows.AttemptByID(t.Context(), s.Reader, 1)
	require.NoError(t, err)
	assert.Equal(t, attempt.HandedIn, row.State, "not scored yet")
	assert.Equal(t, []int{1, 1, 25, 25}, []int{row.Try, row.Terms.Setup.Tries(), row.Terms.Setup.Minutes(), row.Setup.V.Minutes()})
	assert.Equal(t, store.Time(1000), row.Setup.V.Ends)
	clock, err := takerows.ClockOf(t.Context(), s.Reader, row)
	require.NoError(t, err)
	assert.Equal(t, window.Reading{State: window.HandedIn, Worked: 10 * time.Millisecond, Left: 25*time.Minute - 10*time.Millisecond, EndsAt: store.Time(90), Because: window.ByHand}, clock.At(time.Now()))
	scorings, err := readrows.Scorings(t.Context(), s.Reader, 1)
	require.NoError(t, err)
	require.Len(t, scorings, 1)
	assert.Equal(t, []any{false, points.Points(100), -1}, []any{scorings[0].Final, scorings[0].Raw, scorings[0].Band})
	tallies, err := readrows.LineTallies(t.Context(), s.Reader, roster.Scope{District: true}, 1)
	require.NoError(t, err)
	assert.Equal(t, []readrows.LineTally{{SittingID: 1, Line: 2, N: 1, Credit: 100}}, tallies)
	require.NoError(t, s.Write(t.Context(), func(tx *store.Tx) error { return tx.Exec(t.Context(), "DELETE FROM seat") }), "foreign keys still hold where they should")
}

func TestADatabaseOfTheFirstReleaseGoesForward(t *testing.T) {
	dir := t.TempDir()
	oldest(t, dir)
	s, err := store.Open(t.Context(), dir)
	require.NoError(t, err)
	defer func() { require.NoError(t, s.Close()) }()
	tags, err := bankrows.Tags(t.Context(), s.Reader)
	require.NoError(t, err)
	require.Len(t, tags, 1)
	// Found by its words and its passage's, by standard, tag and difficulty, as if it were new.
	q := bankrows.ItemQuery{Scope: everything, Words: "many boats", Standards: []int64{1}, TagIDs: []int64{tags[0].ID}, Eases: []string{"hard"}, Limit: 10}
	items, _, err := bankrows.Items(t.Context(), s.Reader, q)
	require.NoError(t, err)
	require.Len(t, items, 1)
	assert.Equal(t, []any{"I1", "Old bank", int64(7), int64(77)}, []any{items[0].Identifier, items[0].Bank, items[0].OwnerID, items[0].LastUsed})
	near, err := bankrows.SharingKeys(t.Context(), s.Reader, bank.Sketch(bank.Shingles("How many? ")), 0)
	require.NoError(t, err)
	assert.Len(t, near, 1)
	passages, err := bankrows.Passages(t.Context(), s.Reader, []int64{1})
	require.NoError(t, err)
	assert.Equal(t, []any{6, 2, "Old bank"}, []any{passages[0].Words, passages[0].Sentences, passages[0].Bank})
	uses, err := bankrows.UsesOf(t.Context(), s.Reader, 1)
	require.NoError(t, err)
	require.Len(t, uses, 1)
	assert.Equal(t, []any{"Fall", 1, 1}, []any{uses[0].Title, uses[0].Line, uses[0].Students})
	seen, err := bankrows.SeenOf(t.Context(), s.Reader, 1)
	require.NoError(t, err)
	assert.Equal(t, []bankrows.Seen{{Year: "2026–27", Grade: "06", Students: 1}}, seen)
	fall, err := buildrows.AssessmentByID(t.Context(), s.Reader, 1)
	require.NoError(t, err)
	assert.Equal(t, "<p>Read it.</p><p>Is 4 &lt; 5?</p>", fall.Instructions, "plain paragraphs became formatted ones")
	subjects, err := buildrows.Subjects(t.Context(), s.Reader)
	require.NoError(t, err)
	assert.Equal(t, []string{"mathematics"}, subjects)
	rows, err := buildrows.Blueprint(t.Context(), s.Reader, 1)
	require.NoError(t, err)
	require.Len(t, rows, 2)
	assert.Equal(t, blueprint.Filter{Kinds: []string{"number"}, Banks: []string{"Old bank"}}, rows[0].Filter.V)
	assert.Equal(t, blueprint.Filter{}, rows[1].Filter.V)
	drafts, err := bankrows.ItemDrafts(t.Context(), s.Reader, 1)
	require.NoError(t, err)
	assert.Empty(t, drafts, "what is new begins empty")
}

// Blueprints of the library named their banks, too.
func TestKeptBlueprintsGoForwardToIds(t *testing.T) {
	s, ctx := open(t), t.Context()
	forward, err := fs.ReadFile(store.Migrations(), "00024_banks_of_rows.sql")
	require.NoError(t, err)
	require.NoError(t, s.Write(ctx, func(tx *store.Tx) error {
		for _, query := range []string{
			"INSERT INTO bank (id, name, kind) VALUES (7, 'Old bank', 'district'), (8, 'A bank of \"tides\"', 'district')",
			`INSERT INTO kept_blueprint (title, subject, grades, rows, row_count, school_id, owner_id, version, changed_at, changed_by) VALUES ('Plan', 'mathematics', '[]',
				'[{"Title":"Ratios","Filter":"{\"kinds\":[\"number\"],\"banks\":[\"A bank of \\\"tides\\\"\",\"Old bank\"]}","Least":100,"Most":200},{"Title":"All","Filter":"{}","ByPoints":true,"Least":100,"Most":200}]', 2, 0, 1, 1, 0, '')`,
			string(forward),
		} {
			if err := tx.Exec(ctx, query); err != nil {
				return err
			}
		}
		return nil
	}))
	kept, err := buildrows.KeptBlueprintByID(ctx, s.Reader, 1)
	require.NoError(t, err)
	assert.JSONEq(t, `[{"Title":"Ratios","Filter":"{\"kinds\":[\"number\"],\"banks\":[\"8\",\"7\"]}","Least":100,"Most":200},{"Title":"All","Filter":"{}","ByPoints":true,"Least":100,"Most":200}]`, kept.Rows)
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
	m := bankrows.Media{Hash: strings.Repeat("a", 64), Type: "image/png", Ending: ".png", Name: "pier.png", Width: 4, Height: 3, Data: []byte("x"), PersonID: 1, At: 5}
	again := m
	again.Name, again.Data = "other.png", []byte("y")
	require.NoError(t, s.Write(ctx, func(tx *store.Tx) error {
		if err := bankrows.PutMedia(ctx, tx, m); err != nil {
			return err
		}
		return bankrows.PutMedia(ctx, tx, again)
	}))
	got, err := bankrows.MediaByHash(ctx, s.Reader, m.Hash)
	require.NoError(t, err)
	assert.Equal(t, m, got, "what is there under a hash stays")
	_, err = bankrows.MediaByHash(ctx, s.Reader, strings.Repeat("b", 64))
	require.ErrorIs(t, err, store.ErrNotFound)
}

func TestDraftsAreTheirAuthorsAlone(t *testing.T) {
	s, ctx := open(t), context.Background()
	var ids []int64
	require.NoError(t, s.Write(ctx, func(tx *store.Tx) error {
		for i, author := range []int64{1, 2, 1} {
			id, err := bankrows.AddItemDraft(ctx, tx, bankrows.ItemDraft{AuthorID: author, Document: "{}", Kind: "number", ChangedAt: int64(i)})
			if err != nil {
				return err
			}
			ids = append(ids, id)
		}
		return nil
	}))
	mine, err := bankrows.ItemDrafts(ctx, s.Reader, 1)
	require.NoError(t, err)
	require.Len(t, mine, 2)
	assert.Equal(t, []int64{ids[2], ids[0]}, []int64{mine[0].ID, mine[1].ID}, "the last changed first")
	_, err = bankrows.ItemDraftByID(ctx, s.Reader, 1, ids[1])
	require.ErrorIs(t, err, store.ErrNotFound)

	changed := mine[1]
	changed.Stem, changed.ChangedAt = "How many?", 9
	require.NoError(t, s.Write(ctx, func(tx *store.Tx) error {
		if err := bankrows.PutItemDraft(ctx, tx, changed); err != nil {
			return err
		}
		return bankrows.DropItemDraft(ctx, tx, ids[2])
	}))
	mine, err = bankrows.ItemDrafts(ctx, s.Reader, 1)
	require.NoError(t, err)
	require.Len(t, mine, 1)
	assert.Equal(t, []any{"How many?", int64(2)}, []any{mine[0].Stem, mine[0].Version}, "every change is a version")
}

func TestStandardsAreFoundByCodeAndIdentifier(t *testing.T) {
	s, ctx := open(t), context.Background()
	require.NoError(t, s.Write(ctx, func(tx *store.Tx) error {
		framework, _, err := bankrows.PutFramework(ctx, tx, bankrows.Framework{Identifier: "f", Title: "Calder", Subject: "Science"})
		if err != nil {
			return err
		}
		for i, code := range []string{"S5", "S5.EW"} {
			if _, err := bankrows.PutStandard(ctx, tx, bankrows.Standard{FrameworkID: framework, Identifier: "id-" + code, Code: code, Grades: []string{"05"}, Place: i, Last: 1}, "x"); err != nil {
				return err
			}
		}
		return nil
	}))
	all, err := bankrows.StandardKeys(ctx, s.Reader)
	require.NoError(t, err)
	assert.Equal(t, all["S5.EW"], all["id-S5.EW"])
	assert.Equal(t, []string{"Science", "05"}, []string{all["S5"].Subject, strings.Join(all["S5"].Grades, " ")})
	some, err := bankrows.StandardsCoded(ctx, s.Reader, []string{"S5.EW", "none"})
	require.NoError(t, err)
	assert.Len(t, some, 2, "one standard, by two names")
	none, err := bankrows.StandardsCoded(ctx, s.Reader, nil)
	require.NoError(t, err)
	assert.Empty(t, none)
}
