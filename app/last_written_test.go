package app_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	bankroom "pineledger/app/bank"
	"pineledger/app/desk"
	"pineledger/core/bank"
	"pineledger/core/item"
	"pineledger/core/roster"
)

// writes begins an item, gives it its words, and keeps it in the bank.
func (w *world) writes(v roster.Viewer, it item.Item, meta bankroom.ItemMeta) {
	w.Helper()
	d, err := w.app.Writing.BeginItem(w.ctx, v, it.Kind, 0)
	require.NoError(w, err)
	d, err = w.app.Writing.PutItemDraft(w.ctx, v, d.ID, d.Version, it, meta)
	require.NoError(w, err)
	require.Empty(w, d.Problems)
	_, err = w.app.Writing.KeepItem(w.ctx, v, d.ID, d.Version)
	require.NoError(w, err)
}

func TestTheNextItemBeginsWithWhatItsAuthorWroteLast(t *testing.T) {
	w := newWorld(t)
	first, err := w.app.Writing.BeginItem(w.ctx, w.principal, item.Number, 0)
	require.NoError(t, err)
	assert.Empty(t, first.Meta.Subject, "who never wrote begins with nothing")
	assert.NotEmpty(t, first.Meta.Bank)

	rubric := &item.Rubric{Traits: []item.Trait{{Name: "Reasons", Levels: []item.Level{{Points: 200, Text: "Two"}, {Points: 0, Text: "None"}}}}}
	meta := bankroom.ItemMeta{Identifier: "W1", Bank: first.Meta.Bank, Subject: "mathematics", Grade: "06", Standards: []string{"M6.RR"}, Depth: 3, Language: "en", Tags: []string{"tides"}}
	w.writes(w.principal, item.NewWritten(item.LongWritten, "Why does the tide turn?", 8, rubric, nil), meta)

	next, err := w.app.Writing.BeginItem(w.ctx, w.principal, item.LongWritten, 0)
	require.NoError(t, err)
	assert.Equal(t, bankroom.ItemMeta{Bank: meta.Bank, Subject: "mathematics", Grade: "06", Standards: []string{"M6.RR"}, Language: "en", Tags: []string{}}, next.Meta, "neither depth nor tags")
	assert.Equal(t, rubric, next.Document.Declarations[0].Rubric)

	next.Meta.Grade = "07"
	_, err = w.app.Writing.PutItemDraft(w.ctx, w.principal, next.ID, next.Version, next.Document, next.Meta)
	require.NoError(t, err)
	third, err := w.app.Writing.BeginItem(w.ctx, w.principal, item.SingleChoice, 0)
	require.NoError(t, err)
	assert.Equal(t, "07", third.Meta.Grade, "a draft that is newer counts")
	other, err := w.app.Writing.BeginItem(w.ctx, w.second, item.SingleChoice, 0)
	require.NoError(t, err)
	assert.Empty(t, other.Meta.Grade, "each author for themselves")
}

func TestRubricsAreOfferedOnceToWhoMayFindThem(t *testing.T) {
	w := newWorld(t)
	rubric := func(name string) *item.Rubric {
		return &item.Rubric{Traits: []item.Trait{{Name: name, Levels: []item.Level{{Points: 100, Text: "Yes"}, {Points: 0, Text: "No"}}}}}
	}
	begun, err := w.app.Writing.BeginItem(w.ctx, w.coordinator, item.Number, 0)
	require.NoError(t, err)
	for i, name := range []string{"Reasons", "Reasons", "Words"} {
		meta := bankroom.ItemMeta{Identifier: []string{"W1", "W2", "W3"}[i], Bank: begun.Meta.Bank, Subject: "mathematics", Grade: "06", Standards: []string{"M6.RR"}, Language: "en", Tags: []string{}}
		w.writes(w.coordinator, item.NewWritten(item.LongWritten, "Why does tide "+meta.Identifier+" turn?", 8, rubric(name), nil), meta)
	}
	names := func(words string) []string {
		list, err := w.app.Writing.Rubrics(w.ctx, w.principal, words)
		require.NoError(t, err)
		out := []string{}
		for _, o := range list {
			out = append(out, o.Rubric.Traits[0].Name)
		}
		return out
	}
	assert.ElementsMatch(t, []string{"Reasons", "Words"}, names(""))
	assert.Empty(t, names("lighthouse"))
	_, err = w.app.Bank.AddBank(w.ctx, w.second, bank.Group, 0, bankroom.BankInput{Name: "Rate writers"})
	require.NoError(t, err)
	secret := bankroom.ItemMeta{Identifier: "W4", Bank: "Rate writers", Subject: "mathematics", Grade: "06", Standards: []string{"M6.RR"}, Language: "en", Tags: []string{}}
	w.writes(w.second, item.NewWritten(item.LongWritten, "Why is this secret?", 8, rubric("Secret"), nil), secret)
	assert.NotContains(t, names(""), "Secret", "not from a bank that is closed to the viewer")
	_, err = w.app.Writing.Rubrics(w.ctx, w.teacher, "")
	assert.ErrorIs(t, err, desk.ErrForbidden)
}
