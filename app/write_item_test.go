package app_test

import (
	"archive/zip"
	"bytes"
	"image"
	"image/png"
	"io"
	"os"
	"path/filepath"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	bankroom "pineledger/app/bank"
	"pineledger/app/desk"
	"pineledger/app/intake"
	"pineledger/core/bank"
	"pineledger/core/item"
	"pineledger/core/points"
	"pineledger/store"
	"pineledger/store/bankrows"
)

func (w *world) picture(width int) []byte {
	w.Helper()
	var out bytes.Buffer
	require.NoError(w, png.Encode(&out, image.NewGray(image.Rect(0, 0, width, 30))))
	return out.Bytes()
}

func (w *world) itemNamed(identifier string) (bankrows.Item, bankroom.ItemDetail) {
	w.Helper()
	page, err := w.app.Bank.Items(w.ctx, w.coordinator, bankroom.ItemSearch{Limit: 200})
	require.NoError(w, err)
	for _, row := range page.Items {
		if row.Identifier == identifier {
			d, err := w.app.Bank.Item(w.ctx, w.coordinator, row.ID, 0)
			require.NoError(w, err)
			return row.Item, d
		}
	}
	require.Fail(w, "no item "+identifier)
	return bankrows.Item{}, bankroom.ItemDetail{}
}

func TestAnItemIsWrittenKeptAndChanged(t *testing.T) {
	w := newWorld(t)
	d, err := w.app.Writing.BeginItem(w.ctx, w.coordinator, item.MultipleChoice, 0)
	require.NoError(t, err)
	places := map[string]bool{}
	for _, p := range d.Problems {
		places[p.Place] = true
	}
	for _, place := range []string{"body", "choices[0]", "declarations[0].correct", "subject"} {
		assert.True(t, places[place], "a blank item has a problem at %s: %v", place, d.Problems)
	}
	_, err = w.app.Writing.KeepItem(w.ctx, w.coordinator, d.ID, d.Version)
	var invalid *desk.InvalidError
	require.ErrorAs(t, err, &invalid, "what is not sound does not come into the bank")

	it := item.NewChoice(item.MultipleChoice, "<p>Which are even?</p><script>x()</script>", []string{"2", "3", "4", "5"}, []int{0, 2}, item.KeyMinus)
	meta := bankroom.ItemMeta{Identifier: "W1", Bank: "Bank", Subject: "Mathematics", Grade: "06", Standards: []string{"M6.RR"}, Depth: 2, Difficulty: "0.6", Language: "en", Tags: []string{"even numbers"}}
	d, err = w.app.Writing.PutItemDraft(w.ctx, w.coordinator, d.ID, d.Version, it, meta)
	require.NoError(t, err)
	assert.Empty(t, d.Problems)
	assert.Equal(t, "<p>Which are even?</p>", d.Document.Body[0].HTML)
	assert.Contains(t, d.Examples, bankroom.ScoredExample{Words: "a key left out", Credit: 50})
	_, err = w.app.Writing.PutItemDraft(w.ctx, w.coordinator, d.ID, d.Version-1, it, meta)
	require.ErrorIs(t, err, store.ErrStale, "an older tab does not write over a newer one")
	credit, err := w.app.Writing.TryItem(w.ctx, w.coordinator, d.ID, item.Response{"RESPONSE": {"A"}})
	require.NoError(t, err)
	assert.Equal(t, points.Points(50), credit.Credit)

	id, err := w.app.Writing.KeepItem(w.ctx, w.coordinator, d.ID, d.Version)
	require.NoError(t, err)
	row, kept := w.itemNamed("W1")
	assert.Equal(t, []any{id, 1, "mathematics", "M6.RR", "A, C"}, []any{row.ID, row.Version, row.Subject, row.Standards, kept.Key})
	_, err = w.app.Writing.ItemDraftByID(w.ctx, w.coordinator, d.ID)
	require.ErrorIs(t, err, store.ErrNotFound, "the draft has ended")

	// Two begin from version 1; the second to keep is told.
	mine, err := w.app.Writing.BeginItem(w.ctx, w.coordinator, "", id)
	require.NoError(t, err)
	_, err = w.app.Writing.BeginItem(w.ctx, w.second, "", id)
	require.ErrorIs(t, err, desk.ErrForbidden, "only its owner and named editors change an item")
	require.NoError(t, w.app.Bank.PutEditors(w.ctx, w.coordinator, id, []int64{w.second.PersonID}))
	theirs, err := w.app.Writing.BeginItem(w.ctx, w.second, "", id)
	require.NoError(t, err)
	assert.Equal(t, []string{"even-numbers"}, mine.Meta.Tags)
	_, err = w.app.Writing.ItemDraftByID(w.ctx, w.second, mine.ID)
	require.ErrorIs(t, err, store.ErrNotFound, "a draft is its author's alone")
	mine.Document.Body[0].HTML = "Which numbers are even?"
	mine, err = w.app.Writing.PutItemDraft(w.ctx, w.coordinator, mine.ID, mine.Version, mine.Document, mine.Meta)
	require.NoError(t, err)
	_, err = w.app.Writing.KeepItem(w.ctx, w.coordinator, mine.ID, mine.Version)
	require.NoError(t, err)
	row, _ = w.itemNamed("W1")
	assert.Equal(t, 2, row.Version)
	_, err = w.app.Writing.KeepItem(w.ctx, w.second, theirs.ID, theirs.Version)
	var conflict *desk.ConflictError
	require.ErrorAs(t, err, &conflict)
	assert.Contains(t, conflict.Detail, "has a version 2 by now")
	require.NoError(t, w.app.Writing.DropItemDraft(w.ctx, w.second, theirs.ID))

	again, err := w.app.Writing.BeginItem(w.ctx, w.coordinator, item.TrueFalse, 0)
	require.NoError(t, err)
	meta.Identifier = "I1"
	again, err = w.app.Writing.PutItemDraft(w.ctx, w.coordinator, again.ID, again.Version, item.NewTrueFalse("Is 2 even?", true), meta)
	require.NoError(t, err)
	_, err = w.app.Writing.KeepItem(w.ctx, w.coordinator, again.ID, again.Version)
	assert.ErrorContains(t, err, `"I1" is in use already`)
	drafts, err := w.app.Writing.ItemDrafts(w.ctx, w.coordinator)
	require.NoError(t, err)
	assert.Len(t, drafts, 1)

	_, err = w.app.Writing.BeginItem(w.ctx, w.teacher, item.TrueFalse, 0)
	require.ErrorIs(t, err, desk.ErrForbidden)
	_, err = w.app.Writing.BeginItem(w.ctx, w.coordinator, "riddle", 0)
	assert.ErrorContains(t, err, "not a kind")
}

func TestEveryKindCanBeBegun(t *testing.T) {
	w := newWorld(t)
	for _, kind := range item.Kinds() {
		d, err := w.app.Writing.BeginItem(w.ctx, w.coordinator, kind, 0)
		require.NoError(t, err, kind)
		assert.Equal(t, kind, d.Document.Kind)
		assert.NotEmpty(t, d.Problems, kind)
		_, err = w.app.Writing.PutItemDraft(w.ctx, w.coordinator, d.ID, d.Version, d.Document, d.Meta)
		require.NoError(t, err, "%s is kept while it is unsound", kind)
	}
}

// A draft may hold anything of the right shape; it is kept and its problems are said.
func TestUnsoundDraftsAreKeptAndRead(t *testing.T) {
	w := newWorld(t)
	place := func(in item.Interaction) []item.Block {
		in.Response = "R"
		return []item.Block{{HTML: "x"}, {Interaction: &in}}
	}
	for name, it := range map[string]item.Item{
		"no place":          {Kind: item.Number},
		"no way to read":    {Kind: item.Number, Body: place(item.Interaction{}), Declarations: []item.Declaration{{Response: "R", Correct: []string{"1"}}}},
		"no line":           {Kind: item.NumberLine, Body: place(item.Interaction{}), Declarations: []item.Declaration{{Response: "R", Number: &item.NumberKey{}}}},
		"a line of nothing": {Kind: item.NumberLine, Body: place(item.Interaction{Line: &item.Line{From: "a"}}), Declarations: []item.Declaration{{Response: "R", Number: &item.NumberKey{}}}},
		"no area":           {Kind: item.Spot, Body: place(item.Interaction{}), Declarations: []item.Declaration{{Response: "R", Areas: []item.Area{{Shape: item.Circle}, {Shape: "star", At: []int{1}}}}}},
		"no values":         {Kind: item.SingleChoice, Credit: item.Mapped, Body: place(item.Interaction{Choices: []item.Choice{{ID: "A"}}}), Declarations: []item.Declaration{{Response: "R", Correct: []string{"A"}}}},
		"no rules":          {Kind: item.SingleChoice, Credit: item.AsWritten, Body: place(item.Interaction{}), Declarations: []item.Declaration{{Response: "R"}}},
		"odd rules":         {Kind: item.SingleChoice, Credit: item.AsWritten, Body: place(item.Interaction{}), Declarations: []item.Declaration{{Response: "R"}}, Processing: &item.Processing{Rules: []item.Rule{{Set: "SCORE", Value: &item.Expression{Op: "index"}}}}},
		"odd parts":         {Kind: item.Parts, Credit: item.PerPart, Body: place(item.Interaction{Kind: "riddle"}), Declarations: []item.Declaration{{Response: "R", Correct: []string{"x"}}, {Response: "S", Needs: "T"}}},
		"a part of parts":   {Kind: item.Parts, Credit: item.PerPart, Body: place(item.Interaction{Kind: item.Parts}), Declarations: []item.Declaration{{Response: "R"}}},
		"a rubric of none":  {Kind: item.LongWritten, Credit: item.ByReader, Body: place(item.Interaction{}), Declarations: []item.Declaration{{Response: "R", Rubric: &item.Rubric{Traits: []item.Trait{{}}}}}},
		"an odd variant":    {Kind: item.TrueFalse, Variants: []item.Variant{{Language: "??"}}},
	} {
		d, err := w.app.Writing.BeginItem(w.ctx, w.coordinator, item.TrueFalse, 0)
		require.NoError(t, err)
		d, err = w.app.Writing.PutItemDraft(w.ctx, w.coordinator, d.ID, d.Version, it, d.Meta)
		require.NoError(t, err, name)
		assert.NotEmpty(t, d.Problems, name)
		assert.Empty(t, d.Examples, name)
		_, err = w.app.Writing.TryItem(w.ctx, w.coordinator, d.ID, item.Response{"R": {"1"}})
		require.Error(t, err, name)
		_, err = w.app.Writing.KeepItem(w.ctx, w.coordinator, d.ID, d.Version)
		require.Error(t, err, name)
	}
}

func TestTheMediaShelf(t *testing.T) {
	w := newWorld(t)
	m, err := w.app.Shelf.KeepMedia(w.ctx, w.coordinator, "pier.png", w.picture(40))
	require.NoError(t, err)
	again, err := w.app.Shelf.KeepMedia(w.ctx, w.coordinator, "the pier.png", w.picture(40))
	require.NoError(t, err)
	assert.Equal(t, m.Hash, again.Hash, "the same picture is there once")
	got, err := w.app.Shelf.Media(w.ctx, w.student, m.Hash)
	require.NoError(t, err)
	assert.Equal(t, []any{"image/png", 40, 30, "pier.png"}, []any{got.Type, got.Width, got.Height, got.Name})
	_, err = w.app.Shelf.KeepMedia(w.ctx, w.coordinator, "x.exe", []byte("MZ"))
	assert.ErrorContains(t, err, "x.exe is text, not a drawing")
	_, err = w.app.Shelf.KeepMedia(w.ctx, w.teacher, "x.png", w.picture(9))
	require.ErrorIs(t, err, desk.ErrForbidden)
	_, err = w.app.Shelf.Media(w.ctx, w.coordinator, "none")
	require.ErrorIs(t, err, store.ErrNotFound)
}

// export writes what a search finds to a file and gives its path.
func (w *world) export(q bankroom.ItemSearch) (string, int) {
	w.Helper()
	path := filepath.Join(w.TempDir(), "items.zip")
	file, err := os.Create(path)
	require.NoError(w, err)
	x, err := w.app.Bank.ExportItems(w.ctx, w.coordinator, q, file)
	require.NoError(w, err)
	require.NoError(w, file.Close())
	return path, x.Items
}

func TestAPackageGoesOutAndComesIn(t *testing.T) {
	w := newWorld(t)
	m, err := w.app.Shelf.KeepMedia(w.ctx, w.coordinator, "pier.png", w.picture(40))
	require.NoError(t, err)
	_, err = w.app.Bank.AddBank(w.ctx, w.coordinator, bank.District, 0, bankroom.BankInput{Name: "Harbor bank"})
	require.NoError(t, err)
	d, err := w.app.Writing.BeginItem(w.ctx, w.coordinator, item.Spot, 0)
	require.NoError(t, err)
	spot := item.NewSpot("Where is the pier?", item.Picture{Source: "/media/" + m.Hash, Alt: "A harbor", Width: 40, Height: 30}, []item.Area{{Shape: item.Circle, At: []int{9, 9, 4}}})
	d, err = w.app.Writing.PutItemDraft(w.ctx, w.coordinator, d.ID, d.Version, spot, bankroom.ItemMeta{Identifier: "S1", Bank: "Harbor bank", Subject: "science", Grade: "05", Language: "en", Difficulty: "0.455", Tags: []string{"map"}})
	require.NoError(t, err)
	_, err = w.app.Writing.KeepItem(w.ctx, w.coordinator, d.ID, d.Version)
	require.NoError(t, err)
	path, n := w.export(bankroom.ItemSearch{})
	assert.Equal(t, 4, n)

	// Into another district that knows the standards.
	other := anotherWorld(t)
	r, err := other.app.Intake.Import(other.ctx, other.coordinator, intake.File{Kind: intake.ImportItems, Name: "items.zip", Path: path}, nil)
	require.NoError(t, err)
	require.Empty(t, r.Refusals)
	assert.Equal(t, intake.ImportCounts{Read: 4, New: 1, Unchanged: 3}, r.Counts, "what came by a table is the same in a package")
	for _, identifier := range []string{"S1", "I1", "I2", "I3"} {
		mine, here := w.itemNamed(identifier)
		theirs, there := other.itemNamed(identifier)
		assert.Equal(t, here.Document, there.Document, identifier)
		assert.Equal(t, []any{mine.Bank, mine.Subject, mine.Grade, mine.Depth, mine.Difficulty, mine.Standards, mine.Passage}, []any{theirs.Bank, theirs.Subject, theirs.Grade, theirs.Depth, theirs.Difficulty, theirs.Standards, theirs.Passage}, identifier)
	}
	_, err = other.app.Shelf.Media(other.ctx, other.student, m.Hash)
	require.NoError(t, err, "the picture came along")
	r, err = other.app.Intake.Import(other.ctx, other.coordinator, intake.File{Kind: intake.ImportItems, Name: "items.zip", Path: path}, nil)
	require.NoError(t, err)
	assert.Equal(t, intake.ImportCounts{Read: 4, Unchanged: 4}, r.Counts)

	_, n = w.export(bankroom.ItemSearch{Kinds: []string{"spot"}})
	assert.Equal(t, 1, n, "what a search finds, no more")
	_, err = w.app.Bank.ExportItems(w.ctx, w.teacher, bankroom.ItemSearch{}, &bytes.Buffer{})
	require.ErrorIs(t, err, desk.ErrForbidden)
}

// Drafts come and go; the identifiers that items are given never meet.
func TestItemsWithoutAnIdentifierAreGivenOneEach(t *testing.T) {
	w := newWorld(t)
	seen := map[string]bool{}
	for range 3 {
		id := w.written(w.coordinator, "Bank", "", "Which tide falls?")
		d, err := w.app.Bank.Item(w.ctx, w.coordinator, id, 0)
		require.NoError(t, err)
		assert.Regexp(t, "^W-[0-9]{6}$", d.Identifier)
		assert.False(t, seen[d.Identifier], d.Identifier)
		seen[d.Identifier] = true
	}
}

// What may not be copied is left out of a package, which says so.
func TestAPackageNamesWhatWasLeftOut(t *testing.T) {
	w := newWorld(t)
	path, n := w.export(bankroom.ItemSearch{Subjects: []string{"Mathematics"}})
	require.Positive(t, n)
	z, err := zip.OpenReader(path)
	require.NoError(t, err)
	assert.False(t, slices.ContainsFunc(z.File, func(f *zip.File) bool { return f.Name == bankroom.LeftOutName }))
	require.NoError(t, z.Close())

	list, err := w.app.Bank.Banks(w.ctx, w.coordinator)
	require.NoError(t, err)
	_, err = w.app.Bank.PutBank(w.ctx, w.coordinator, list[0].ID, list[0].Version, bankroom.BankInput{Name: "Bank", NoCopy: true})
	require.NoError(t, err)
	path = filepath.Join(t.TempDir(), "closed.zip")
	file, err := os.Create(path)
	require.NoError(t, err)
	x, err := w.app.Bank.ExportItems(w.ctx, w.principal, bankroom.ItemSearch{Subjects: []string{"MATHEMATICS"}}, file)
	require.NoError(t, err)
	require.NoError(t, file.Close())
	assert.Zero(t, x.Items)
	assert.Len(t, x.LeftOut, n)
	z, err = zip.OpenReader(path)
	require.NoError(t, err)
	defer z.Close()
	left, err := z.Open(bankroom.LeftOutName)
	require.NoError(t, err)
	text, err := io.ReadAll(left)
	require.NoError(t, err)
	assert.Contains(t, string(text), "identifier,bank,why\n")
	assert.Contains(t, string(text), "I1,Bank,\"is on hold, or its bank does not let it be copied\"\n")
}
