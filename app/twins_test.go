package app_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	bankroom "pineledger/app/bank"
	"pineledger/app/build"
	"pineledger/app/desk"
	"pineledger/app/intake"
	"pineledger/core/bank"
	"pineledger/core/item"
	"pineledger/core/points"
	"pineledger/store"
)

const ferryStem = "The ferry Petrel leaves at 10:50 and sails for 50 minutes. When does it arrive at the harbor?"

// What is nearly the same in the bank is found before a new item is kept: it may be
// kept beside it, or become its next version.
func TestTwinsAreFoundWhenAnItemIsWritten(t *testing.T) {
	w := newWorld(t)
	first := w.written(w.coordinator, "Bank", "T1", ferryStem)
	d, err := w.app.Writing.BeginItem(w.ctx, w.coordinator, item.SingleChoice, 0)
	require.NoError(t, err)
	it := item.NewChoice(item.SingleChoice, "The ferry Petrel leaves at 10:50 and sails for 50 minutes. When does it arrive at the pier?", []string{"ebb", "flood"}, []int{0}, item.AllOrNothing)
	meta := bankroom.ItemMeta{Bank: "Bank", Subject: "mathematics", Grade: "06", Language: "en", Standards: []string{}, Tags: []string{}}
	d, err = w.app.Writing.PutItemDraft(w.ctx, w.coordinator, d.ID, d.Version, it, meta)
	require.NoError(t, err)
	twins, err := w.app.Writing.DraftTwins(w.ctx, w.coordinator, d.ID)
	require.NoError(t, err)
	require.Len(t, twins, 1)
	assert.Equal(t, []any{"T1", "A", true}, []any{twins[0].Identifier, twins[0].Key, twins[0].MayJoin})
	assert.Greater(t, twins[0].Likeness, bank.NearlySame)

	_, err = w.app.Writing.LinkDraft(w.ctx, w.coordinator, d.ID, d.Version-1, first)
	assert.ErrorIs(t, err, store.ErrStale)
	d, err = w.app.Writing.LinkDraft(w.ctx, w.coordinator, d.ID, d.Version, first)
	require.NoError(t, err)
	kept, err := w.app.Writing.KeepItem(w.ctx, w.coordinator, d.ID, d.Version)
	require.NoError(t, err)
	assert.Equal(t, first, kept)
	page, err := w.app.Bank.Item(w.ctx, w.coordinator, first, 0)
	require.NoError(t, err)
	assert.Equal(t, 2, page.Version)

	// Another question with other numbers is no twin; nor is what is not open to one.
	w.written(w.coordinator, "Bank", "T2", "The ferry Petrel leaves at 9:15 and sails for 35 minutes. When does it arrive at the harbor?")
	twins, err = w.app.Writing.ItemTwins(w.ctx, w.coordinator, first)
	require.NoError(t, err)
	assert.Empty(t, twins)
	_, err = w.app.Bank.AddBank(w.ctx, w.principal, bank.Group, 0, bankroom.BankInput{Name: "Group"})
	require.NoError(t, err)
	w.written(w.principal, "Group", "T3", "The ferry Petrel leaves at 10:50 and sails for 50 minutes. When does it arrive at the pier?")
	twins, err = w.app.Writing.ItemTwins(w.ctx, w.teacher, first)
	require.NoError(t, err)
	assert.Empty(t, twins)
	twins, err = w.app.Writing.ItemTwins(w.ctx, w.principal, first)
	require.NoError(t, err)
	assert.Len(t, twins, 1)
}

// An import brings what is in the bank already, and the same twice: each pair is
// shown, and kept, joined or dropped.
func TestTwinsOfAnImportAreSettled(t *testing.T) {
	w := newWorld(t)
	old := w.written(w.coordinator, "Bank", "T1", ferryStem)
	file := w.file("twins.csv", "identifier,bank,kind,stem,choice_1,choice_2,key,standards,subject,grade\n"+
		"N1,Bank,single-choice,"+ferryStem+",ebb,flood,B,M6.RR,mathematics,06\n"+
		"N2,Bank,single-choice,Which tide table shows the lowest water of the week at the harbor museum?,first,second,A,M6.RR,mathematics,06\n"+
		"N3,Bank,single-choice,Which tide table shows the lowest water of the week at the harbor museum?,first,second,B,M6.RR,mathematics,06\n"+
		"N4,Bank,single-choice,Something else altogether about crabs and barnacles,yes,no,A,M6.RR,mathematics,06\n")
	r := w.take(w.coordinator, intake.ImportItems, file, 4)
	assert.Equal(t, 2, r.Counts.Twins)
	pairs, err := w.app.Writing.ImportTwins(w.ctx, w.coordinator, r.ID)
	require.NoError(t, err)
	require.Len(t, pairs, 2)
	byNew := map[string]bankroom.ImportTwin{}
	for _, p := range pairs {
		byNew[p.New.Identifier] = p
	}
	assert.Equal(t, "T1", byNew["N1"].Twin.Identifier)
	assert.Equal(t, "N2", byNew["N3"].Twin.Identifier)

	require.NoError(t, w.app.Writing.JoinItems(w.ctx, w.coordinator, byNew["N1"].New.ID, old))
	page, err := w.app.Bank.Item(w.ctx, w.coordinator, old, 0)
	require.NoError(t, err)
	assert.Equal(t, []any{2, "B", "T1"}, []any{page.Version, page.Key, page.Identifier})
	_, err = w.app.Bank.Item(w.ctx, w.coordinator, byNew["N1"].New.ID, 0)
	assert.ErrorIs(t, err, desk.ErrNotFound)
	pairs, err = w.app.Writing.ImportTwins(w.ctx, w.coordinator, r.ID)
	require.NoError(t, err)
	assert.Len(t, pairs, 1)
	require.NoError(t, w.app.Writing.KeepBoth(w.ctx, w.coordinator, byNew["N3"].New.ID))
	pairs, err = w.app.Writing.ImportTwins(w.ctx, w.coordinator, r.ID)
	require.NoError(t, err)
	assert.Empty(t, pairs)
	require.NoError(t, w.app.Writing.DropItem(w.ctx, w.coordinator, byNew["N3"].New.ID))
	assert.NotContains(t, w.finds(w.coordinator, bankroom.ItemSearch{}), "N3")
	again := w.take(w.coordinator, intake.ImportItems, file, 2)
	assert.Equal(t, 2, again.Counts.Unchanged, "what was dropped or joined comes anew, and is a twin again")

	// What something hangs on stays.
	s := w.draft()
	var conflict *desk.ConflictError
	assert.ErrorAs(t, w.app.Writing.DropItem(w.ctx, w.coordinator, s.Lines[0].ItemID), &conflict)
	assert.ErrorIs(t, w.app.Writing.DropItem(w.ctx, w.principal, old), desk.ErrForbidden)
	_, err = w.app.Build.PutLines(w.ctx, w.coordinator, s.Assessment.ID, s.Assessment.Version, []build.LineInput{{ItemID: old, Points: points.One}})
	require.NoError(t, err)
	assert.ErrorAs(t, w.app.Writing.JoinItems(w.ctx, w.coordinator, old, s.Lines[0].ItemID), &conflict)
}

// Metadata of many items is changed at once, first looked at, and undone.
func TestManyItemsAreChangedAtOnce(t *testing.T) {
	w := newWorld(t)
	mine := w.written(w.coordinator, "Bank", "B1", "One?")
	second := w.written(w.coordinator, "Bank", "B2", "Two of them?")
	_, err := w.app.Bank.AddBank(w.ctx, w.principal, bank.Group, 0, bankroom.BankInput{Name: "Group"})
	require.NoError(t, err)
	theirs := w.written(w.principal, "Group", "B3", "Three of the boats?")
	grade, depth := "07", 3
	change := bank.MetaChange{Grade: &grade, Depth: &depth, Align: []string{"M6.FS"}, Unalign: []string{"M6.RR"}}
	items := []int64{mine, second, theirs}
	plan, err := w.app.Bank.ChangeItems(w.ctx, w.coordinator, items, change, false)
	require.NoError(t, err)
	assert.Equal(t, []any{int64(0), 2, 0, 1}, []any{plan.ID, plan.Changed, plan.Unchanged, plan.Refused})
	assert.Equal(t, "B3", plan.Rows[0].Identifier, "what stays comes first")
	assert.Contains(t, plan.Rows[0].Why, "owner")
	page, err := w.app.Bank.Item(w.ctx, w.coordinator, mine, 0)
	require.NoError(t, err)
	assert.Equal(t, 1, page.Version, "a look changes nothing")

	done, err := w.app.Bank.ChangeItems(w.ctx, w.coordinator, items, change, true)
	require.NoError(t, err)
	page, err = w.app.Bank.Item(w.ctx, w.coordinator, mine, 0)
	require.NoError(t, err)
	assert.Equal(t, []any{2, "07", 3, "M6.FS", "One?"}, []any{page.Version, page.Grade, page.Depth, page.Standards, page.Document.Stem()})
	again, err := w.app.Bank.ChangeItems(w.ctx, w.coordinator, items[:2], change, true)
	require.NoError(t, err)
	assert.Equal(t, 2, again.Unchanged)

	// One was changed since: it stays, the other goes back.
	title := "06"
	_, err = w.app.Bank.ChangeItems(w.ctx, w.coordinator, []int64{second}, bank.MetaChange{Grade: &title}, true)
	require.NoError(t, err)
	_, err = w.app.Bank.UndoChange(w.ctx, w.second, done.ID)
	assert.ErrorIs(t, err, desk.ErrNotFound, "another's change")
	undone, err := w.app.Bank.UndoChange(w.ctx, w.coordinator, done.ID)
	require.NoError(t, err)
	assert.Equal(t, []int{1, 1}, []int{undone.Changed, undone.Refused})
	page, err = w.app.Bank.Item(w.ctx, w.coordinator, mine, 0)
	require.NoError(t, err)
	assert.Equal(t, []any{3, "06", 1, "M6.RR"}, []any{page.Version, page.Grade, page.Depth, page.Standards})
	var conflict *desk.ConflictError
	_, err = w.app.Bank.UndoChange(w.ctx, w.coordinator, done.ID)
	assert.ErrorAs(t, err, &conflict)

	wrong, none, much := "13", "No such bank", 9
	for _, bad := range []bank.MetaChange{{}, {Grade: &wrong}, {Bank: &none}, {Depth: &much}, {Align: []string{"X"}}, {Language: &wrong}, {Difficulty: &none}} {
		var invalid *desk.InvalidError
		_, err := w.app.Bank.ChangeItems(w.ctx, w.coordinator, items, bad, true)
		assert.ErrorAs(t, err, &invalid, "%+v", bad)
	}
	_, err = w.app.Bank.ChangeItems(w.ctx, w.principal, []int64{999}, change, true)
	assert.ErrorIs(t, err, desk.ErrNotFound)
}
