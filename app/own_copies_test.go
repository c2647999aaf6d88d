package app_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	bankroom "pineledger/app/bank"
	"pineledger/app/build"
	"pineledger/app/desk"
	"pineledger/core/bank"
	"pineledger/core/points"
	"pineledger/store/bankrows"
	"pineledger/store/officerows"
)

// Changing a line leaves the bank as it is: the line takes an own copy that names
// its origin, and whose alignment waits until somebody has looked at it.
func TestALineIsChangedAsAnOwnCopy(t *testing.T) {
	w := newWorld(t)
	s := w.draft()
	id, first := s.Assessment.ID, s.Lines[0]
	_, err := w.app.Build.PutLines(w.ctx, w.coordinator, id, s.Assessment.Version, []build.LineInput{{ItemID: first.ItemID, Points: 3 * points.One}, {ItemID: s.Lines[1].ItemID, Points: points.One}})
	require.NoError(t, err)
	_, err = w.app.Build.ChangeLine(w.ctx, w.principal, id, first.ItemID)
	assert.ErrorIs(t, err, desk.ErrForbidden, "not theirs to change")
	_, err = w.app.Build.ChangeLine(w.ctx, w.coordinator, id, 999)
	assert.ErrorIs(t, err, desk.ErrNotFound)
	d, err := w.app.Build.ChangeLine(w.ctx, w.coordinator, id, first.ItemID)
	require.NoError(t, err)
	require.Empty(t, d.Problems)
	d.Document.Body[0].HTML = "<p>Which ratio equals one to two?</p>"
	d, err = w.app.Writing.PutItemDraft(w.ctx, w.coordinator, d.ID, d.Version, d.Document, d.Meta)
	require.NoError(t, err)
	copied, err := w.app.Writing.KeepItem(w.ctx, w.coordinator, d.ID, d.Version)
	require.NoError(t, err)

	s, err = w.app.Build.Sheet(w.ctx, w.coordinator, id)
	require.NoError(t, err)
	l := s.Lines[0]
	assert.Equal(t, []any{copied, true, true, first.ItemID, first.Identifier, 1, "Ines Okafor", int64(300)},
		[]any{l.ItemID, l.Own, l.Unconfirmed, l.OriginID, l.OriginIdentifier, l.OriginNumber, l.Editor, l.Points})
	assert.Equal(t, "Which ratio equals one to two?", l.Stem)
	assert.Equal(t, "2 lines, 1 to confirm", s.Parts[2].State)
	assert.Len(t, w.finds(w.coordinator, bankroom.ItemSearch{}), 3, "the bank has no more items than before")
	_, err = w.app.Bank.Item(w.ctx, w.coordinator, copied, 0)
	assert.ErrorIs(t, err, desk.ErrNotFound)
	line, err := w.app.Build.Line(w.ctx, w.coordinator, id, copied)
	require.NoError(t, err)
	assert.Equal(t, first.Identifier, line.Origin.Identifier)
	page, err := w.app.Bank.Item(w.ctx, w.coordinator, first.ItemID, 0)
	require.NoError(t, err)
	assert.Equal(t, 1, page.Version, "and the item is as it was")

	// Changed again it is the next version of the same copy.
	d, err = w.app.Build.ChangeLine(w.ctx, w.coordinator, id, copied)
	require.NoError(t, err)
	d.Document.Body[0].HTML = "<p>Which equals one to two?</p>"
	d, err = w.app.Writing.PutItemDraft(w.ctx, w.coordinator, d.ID, d.Version, d.Document, d.Meta)
	require.NoError(t, err)
	again, err := w.app.Writing.KeepItem(w.ctx, w.coordinator, d.ID, d.Version)
	require.NoError(t, err)
	assert.Equal(t, copied, again)
	s, err = w.app.Build.ConfirmAlignment(w.ctx, w.coordinator, id, copied)
	require.NoError(t, err)
	assert.Equal(t, []any{2, false, "2 lines"}, []any{s.Lines[0].Number, s.Lines[0].Unconfirmed, s.Parts[2].State})

	// A line that is gone meanwhile is told, and nothing is lost.
	d, err = w.app.Build.ChangeLine(w.ctx, w.coordinator, id, s.Lines[1].ItemID)
	require.NoError(t, err)
	_, err = w.app.Build.PutLines(w.ctx, w.coordinator, id, s.Assessment.Version, []build.LineInput{{ItemID: copied, Points: points.One}})
	require.NoError(t, err)
	var conflict *desk.ConflictError
	_, err = w.app.Writing.KeepItem(w.ctx, w.coordinator, d.ID, d.Version)
	assert.ErrorAs(t, err, &conflict)
	_, err = w.app.Writing.ItemDraftByID(w.ctx, w.coordinator, d.ID)
	assert.NoError(t, err, "the draft is still there")

	// Offered to the bank it is copied there, and the line keeps its own.
	_, err = w.app.Word.Offer(w.ctx, w.coordinator, copied, "Bank", "It reads better.")
	require.NoError(t, err)
	offers, err := w.app.Word.Offers(w.ctx, w.second)
	require.NoError(t, err)
	require.Len(t, offers.ToDecide, 1)
	_, err = w.app.Bank.Item(w.ctx, w.second, copied, 0)
	require.NoError(t, err, "keepers see what they are to decide")
	_, err = w.app.Word.DecideOffer(w.ctx, w.second, offers.ToDecide[0].ID, "accepted", "")
	require.NoError(t, err)
	assert.Len(t, w.finds(w.teacher, bankroom.ItemSearch{Words: "equals"}), 1)
	s, err = w.app.Build.Sheet(w.ctx, w.coordinator, id)
	require.NoError(t, err)
	assert.Equal(t, copied, s.Lines[0].ItemID)
}

// A newer version of a placed item is shown with what changed; the line keeps its
// own until somebody takes the newer one.
func TestAPlacedItemKeepsItsVersion(t *testing.T) {
	w := newWorld(t)
	id := w.written(w.coordinator, "Bank", "V1", "Which tide falls?")
	s, err := w.app.Build.StartAssessment(w.ctx, w.coordinator, outline("Pins"))
	require.NoError(t, err)
	s, err = w.app.Build.PutLines(w.ctx, w.coordinator, s.Assessment.ID, s.Assessment.Version, []build.LineInput{{ItemID: id, Points: points.One}})
	require.NoError(t, err)
	d, err := w.app.Writing.BeginItem(w.ctx, w.coordinator, "", id)
	require.NoError(t, err)
	d.Document.Body[0].HTML = "Which tide rises?"
	d, err = w.app.Writing.PutItemDraft(w.ctx, w.coordinator, d.ID, d.Version, d.Document, d.Meta)
	require.NoError(t, err)
	_, err = w.app.Writing.KeepItem(w.ctx, w.coordinator, d.ID, d.Version)
	require.NoError(t, err)
	line, err := w.app.Build.Line(w.ctx, w.coordinator, s.Assessment.ID, id)
	require.NoError(t, err)
	assert.Equal(t, []any{1, 2, "stem"}, []any{line.Number, line.Newest, line.Newer[0].What})
	assert.Contains(t, line.Document.Body[0].HTML, "falls")
	newest := must(bankrows.NewestVersions(w.ctx, w.store.Reader, []int64{id}))[0].ID
	s, err = w.app.Build.PutLines(w.ctx, w.coordinator, s.Assessment.ID, s.Assessment.Version, []build.LineInput{{ItemID: id, VersionID: newest, Points: points.One}})
	require.NoError(t, err)
	assert.Equal(t, 2, s.Lines[0].Number)
	line, err = w.app.Build.Line(w.ctx, w.coordinator, s.Assessment.ID, id)
	require.NoError(t, err)
	assert.Empty(t, line.Newer)
}

// An item written in one's own or a group's bank is offered: kept, sent back with
// words, or declined; and its author is told.
func TestOffersToABank(t *testing.T) {
	w := newWorld(t)
	own, err := w.app.Writing.BeginItem(w.ctx, w.principal, "number", 0)
	require.NoError(t, err)
	id := w.written(w.principal, own.Meta.Bank, "O1", "Which tide falls?")
	var invalid *desk.InvalidError
	_, err = w.app.Word.Offer(w.ctx, w.principal, id, own.Meta.Bank, "")
	assert.ErrorAs(t, err, &invalid)
	_, err = w.app.Word.Offer(w.ctx, w.coordinator, id, "Bank", "")
	assert.ErrorIs(t, err, desk.ErrNotFound, "another's own item")
	_, err = w.app.Word.Offer(w.ctx, w.principal, id, "Bank", "For the fall.")
	require.NoError(t, err)
	var conflict *desk.ConflictError
	_, err = w.app.Word.Offer(w.ctx, w.principal, id, "Bank", "")
	assert.ErrorAs(t, err, &conflict, "once at a time")

	decide := func(state, words string) error {
		offers, err := w.app.Word.Offers(w.ctx, w.coordinator)
		require.NoError(t, err)
		require.Len(t, offers.ToDecide, 1)
		_, err = w.app.Word.DecideOffer(w.ctx, w.principal, offers.ToDecide[0].ID, state, "x")
		assert.ErrorIs(t, err, desk.ErrNotFound, "who keeps no bank decides nothing")
		_, err = w.app.Word.DecideOffer(w.ctx, w.coordinator, offers.ToDecide[0].ID, state, words)
		return err
	}
	assert.ErrorAs(t, decide("returned", " "), &invalid, "with words")
	require.NoError(t, decide("returned", "Say which day."))
	assert.Empty(t, w.finds(w.teacher, bankroom.ItemSearch{Words: "falls"}))
	today, err := w.app.Today(w.ctx, w.principal)
	require.NoError(t, err)
	assert.Contains(t, today.Notices[0].Words, "returned. Say which day.")
	_, err = w.app.Word.Offer(w.ctx, w.principal, id, "Bank", "Now it does.")
	require.NoError(t, err)
	require.NoError(t, decide("accepted", ""))
	assert.Equal(t, []string{"O1"}, w.finds(w.teacher, bankroom.ItemSearch{Words: "falls"}), "it moved, with its history")
	d, err := w.app.Writing.BeginItem(w.ctx, w.principal, "", id)
	require.NoError(t, err)
	assert.Empty(t, d.Problems, "it stays its author’s to change, where they write nothing else")
	d, err = w.app.Writing.PutItemDraft(w.ctx, w.principal, d.ID, d.Version, d.Document, d.Meta)
	require.NoError(t, err)
	_, err = w.app.Writing.KeepItem(w.ctx, w.principal, d.ID, d.Version)
	require.NoError(t, err)
	offers, err := w.app.Word.Offers(w.ctx, w.principal)
	require.NoError(t, err)
	assert.Equal(t, []string{"accepted", "returned"}, []string{offers.Mine[0].State, offers.Mine[1].State})
}

func TestACopyKeepsWhereItCameFrom(t *testing.T) {
	w := newWorld(t)
	own, err := w.app.Writing.BeginItem(w.ctx, w.principal, "number", 0)
	require.NoError(t, err)
	page, err := w.app.Bank.Items(w.ctx, w.principal, bankroom.ItemSearch{Words: "square meters"})
	require.NoError(t, err)
	of := page.Items[0]
	_, err = w.app.Bank.CopyItem(w.ctx, w.teacher, of.ID, own.Meta.Bank)
	assert.ErrorIs(t, err, desk.ErrForbidden)
	var invalid *desk.InvalidError
	_, err = w.app.Bank.CopyItem(w.ctx, w.principal, of.ID, "Bank")
	assert.ErrorAs(t, err, &invalid, "not a bank they write in")
	id, err := w.app.Bank.CopyItem(w.ctx, w.principal, of.ID, own.Meta.Bank)
	require.NoError(t, err)
	copied, err := w.app.Bank.Item(w.ctx, w.principal, id, 0)
	require.NoError(t, err)
	assert.Equal(t, []any{"I2-c1", "I2", 1, "Ada Hale", of.Standards, of.Passage}, []any{copied.Identifier, copied.Origin.Identifier, copied.Origin.Number, copied.Owner, copied.Standards, copied.Item.Passage})
	assert.True(t, copied.Rights[bank.Change].May)
	list, err := w.app.Bank.Banks(w.ctx, w.coordinator)
	require.NoError(t, err)
	_, err = w.app.Bank.PutBank(w.ctx, w.coordinator, list[0].ID, list[0].Version, bankroom.BankInput{Name: "Bank", NoCopy: true})
	require.NoError(t, err)
	_, err = w.app.Bank.CopyItem(w.ctx, w.principal, of.ID, own.Meta.Bank)
	assert.ErrorContains(t, err, "terms allow no copies")
}

// What somebody has before them they can report: an own copy on an assessment that
// was given to their section, though no bank shows it to them.
func TestAnOwnCopyIsReportedFromItsResults(t *testing.T) {
	w := newWorld(t)
	s := w.draft()
	d, err := w.app.Build.ChangeLine(w.ctx, w.coordinator, s.Assessment.ID, s.Lines[0].ItemID)
	require.NoError(t, err)
	copied, err := w.app.Writing.KeepItem(w.ctx, w.coordinator, d.ID, d.Version)
	require.NoError(t, err)
	assert.ErrorIs(t, w.app.Word.ReportItem(w.ctx, w.teacher, copied, 0, "unclear", "Which one?"), desk.ErrNotFound, "not given to anybody yet")
	s, err = w.app.Build.Sheet(w.ctx, w.coordinator, s.Assessment.ID)
	require.NoError(t, err)
	s, err = w.app.Build.Seal(w.ctx, w.coordinator, s.Assessment.ID, s.Assessment.Version)
	require.NoError(t, err)
	w.send(s, func(c officerows.Section) bool { return c.Title == "6-A" })
	require.NoError(t, w.app.Word.ReportItem(w.ctx, w.teacher, copied, 0, "unclear", "Which one?"))
	assert.ErrorIs(t, w.app.Word.ReportItem(w.ctx, w.otherTeacher, copied, 0, "unclear", "Which one?"), desk.ErrNotFound, "not given to theirs")
}
