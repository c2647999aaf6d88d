package app_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	bankroom "pineledger/app/bank"
	"pineledger/app/build"
	"pineledger/app/desk"
	"pineledger/core/bank"
	"pineledger/core/item"
	"pineledger/core/points"
)

func TestAPassageIsWrittenAndChanged(t *testing.T) {
	w := newWorld(t)
	in := bankroom.PassageInput{Title: "Slack water", Body: "<p onclick=\"x\">The tide turns. Boats wait.</p><p>Nothing moves</p>", Language: "en", Bank: "Bank"}
	for field, bad := range map[string]bankroom.PassageInput{
		"/title": {Body: in.Body, Language: "en", Bank: "Bank"}, "/body": {Title: "x", Body: "<p> </p>", Language: "en", Bank: "Bank"},
		"/language": {Title: "x", Body: "x", Language: "xx", Bank: "Bank"}, "/bank": {Title: "x", Body: "x", Language: "en", Bank: "No such"},
	} {
		_, err := w.app.Shelf.PutPassage(w.ctx, w.coordinator, 0, 0, bad)
		var invalid *desk.InvalidError
		if assert.ErrorAs(t, err, &invalid, field) {
			assert.Equal(t, field, invalid.Fields[0].Pointer)
		}
	}
	_, err := w.app.Shelf.PutPassage(w.ctx, w.principal, 0, 0, in)
	assert.ErrorContains(t, err, "you write in")
	p, err := w.app.Shelf.PutPassage(w.ctx, w.coordinator, 0, 0, in)
	require.NoError(t, err)
	assert.Equal(t, bank.Figures{Words: 7, Sentences: 3, Syllables: 8}, bankroom.Figures(p.Passage))
	assert.NotContains(t, p.Body, "onclick")

	// An item on it is found by its words, and by the new ones once it is changed.
	d, err := w.app.Writing.BeginItem(w.ctx, w.coordinator, item.SingleChoice, 0)
	require.NoError(t, err)
	meta := bankroom.ItemMeta{Identifier: "P-1", Bank: "Bank", Subject: "reading", Grade: "06", Language: "en", Standards: []string{}, Tags: []string{}, Passage: p.ID}
	d, err = w.app.Writing.PutItemDraft(w.ctx, w.coordinator, d.ID, d.Version, item.NewChoice(item.SingleChoice, "What turns?", []string{"it", "they"}, []int{0}, item.AllOrNothing), meta)
	require.NoError(t, err)
	id, err := w.app.Writing.KeepItem(w.ctx, w.coordinator, d.ID, d.Version)
	require.NoError(t, err)
	assert.Equal(t, []string{"P-1"}, w.finds(w.teacher, bankroom.ItemSearch{Words: "boat"}))
	s, err := w.app.Build.StartAssessment(w.ctx, w.coordinator, outline("With a passage"))
	require.NoError(t, err)
	s, err = w.app.Build.PutLines(w.ctx, w.coordinator, s.Assessment.ID, s.Assessment.Version, []build.LineInput{{ItemID: id, Points: points.One}})
	require.NoError(t, err)
	s, err = w.app.Build.Seal(w.ctx, w.coordinator, s.Assessment.ID, s.Assessment.Version)
	require.NoError(t, err)

	in.Body = "<p>The ferries wait.</p>"
	_, err = w.app.Shelf.PutPassage(w.ctx, w.second, p.ID, p.Version, in)
	require.NoError(t, err, "a keeper of its bank changes it")
	_, err = w.app.Shelf.PutPassage(w.ctx, w.coordinator, p.ID, p.Version, in)
	assert.ErrorContains(t, err, "changed by somebody else")
	_, err = w.app.Shelf.PutPassage(w.ctx, w.principal, p.ID, p.Version+1, in)
	assert.ErrorIs(t, err, desk.ErrForbidden)
	assert.Empty(t, w.finds(w.teacher, bankroom.ItemSearch{Words: "boat"}))
	assert.Equal(t, []string{"P-1"}, w.finds(w.teacher, bankroom.ItemSearch{Words: "ferry waiting"}))
	assert.Contains(t, s.Form.Document, "Boats wait.", "what was sealed stays as it was")
	again, err := w.app.Shelf.Passage(w.ctx, w.teacher, p.ID)
	require.NoError(t, err)
	assert.Equal(t, []any{1, 1, false, 2}, []any{len(again.Items), again.Forms, again.MayChange, again.Version})
	list, err := w.app.Shelf.Passages(w.ctx, w.teacher, "ferries")
	require.NoError(t, err)
	assert.Len(t, list, 1)
}

// The same file is on the shelf once; another put in its place gives each item that
// the viewer may change a new version, and names the rest.
func TestAPictureIsReplacedWithCare(t *testing.T) {
	w := newWorld(t)
	pier, err := w.app.Shelf.KeepMedia(w.ctx, w.coordinator, "pier.png", w.picture(40))
	require.NoError(t, err)
	use, err := w.app.Shelf.DescribeMedia(w.ctx, w.coordinator, pier.Hash, 1, "pier.png", "A pier at low tide")
	require.NoError(t, err)
	assert.Equal(t, "A pier at low tide", use.Alt)
	_, err = w.app.Shelf.DescribeMedia(w.ctx, w.coordinator, pier.Hash, 1, "x", "")
	assert.Error(t, err, "somebody has changed it meanwhile")
	again, err := w.app.Shelf.KeepMedia(w.ctx, w.principal, "same.png", w.picture(40))
	require.NoError(t, err)
	assert.Equal(t, []string{pier.Hash, "A pier at low tide"}, []string{again.Hash, again.Alt}, "what was said of it is offered")

	show := func(identifier string, it item.Item) int64 {
		d, err := w.app.Writing.BeginItem(w.ctx, w.coordinator, it.Kind, 0)
		require.NoError(t, err)
		d, err = w.app.Writing.PutItemDraft(w.ctx, w.coordinator, d.ID, d.Version, it, bankroom.ItemMeta{Identifier: identifier, Bank: "Bank", Subject: "science", Grade: "05", Language: "en", Standards: []string{}, Tags: []string{}})
		require.NoError(t, err)
		require.Empty(t, d.Problems)
		id, err := w.app.Writing.KeepItem(w.ctx, w.coordinator, d.ID, d.Version)
		require.NoError(t, err)
		return id
	}
	source := "/media/" + pier.Hash
	shown := show("A1", item.NewChoice(item.SingleChoice, `<p>Which?</p><img src="`+source+`" alt="A pier">`, []string{"a", "b"}, []int{0}, item.AllOrNothing))
	show("A2", item.NewSpot("Where?", item.Picture{Source: source, Alt: "A pier", Width: 40, Height: 30}, []item.Area{{Shape: item.Circle, At: []int{9, 9, 4}}}))
	use, err = w.app.Shelf.MediaUses(w.ctx, w.coordinator, pier.Hash)
	require.NoError(t, err)
	assert.Len(t, use.Items, 2)

	wide, err := w.app.Shelf.KeepMedia(w.ctx, w.coordinator, "wide.png", w.picture(60))
	require.NoError(t, err)
	plan, err := w.app.Shelf.ReplaceMedia(w.ctx, w.coordinator, pier.Hash, wide.Hash, false)
	require.NoError(t, err)
	require.Len(t, plan.Items, 1)
	assert.Equal(t, "A1", plan.Items[0].Identifier)
	assert.Contains(t, plan.Refused[0].Why, "40 × 30 pixels", "areas are drawn on a picture of one size")
	detail, err := w.app.Bank.Item(w.ctx, w.coordinator, shown, 0)
	require.NoError(t, err)
	assert.Equal(t, 1, detail.Version, "a look changes nothing")
	none, err := w.app.Shelf.ReplaceMedia(w.ctx, w.principal, pier.Hash, wide.Hash, true)
	require.NoError(t, err)
	assert.Empty(t, none.Items)
	assert.Len(t, none.Refused, 2, "not theirs to change")
	_, err = w.app.Shelf.ReplaceMedia(w.ctx, w.coordinator, pier.Hash, wide.Hash, true)
	require.NoError(t, err)
	detail, err = w.app.Bank.Item(w.ctx, w.coordinator, shown, 0)
	require.NoError(t, err)
	assert.Equal(t, 2, detail.Version)
	assert.Equal(t, []string{wide.Hash}, detail.Document.Media())
	old, err := w.app.Bank.Item(w.ctx, w.coordinator, shown, 1)
	require.NoError(t, err)
	assert.Equal(t, []string{pier.Hash}, old.Document.Media())
	use, err = w.app.Shelf.MediaUses(w.ctx, w.coordinator, pier.Hash)
	require.NoError(t, err)
	assert.Len(t, use.Items, 1)
	unused, _, err := w.app.Shelf.Shelf(w.ctx, w.coordinator, "", true, 0)
	require.NoError(t, err)
	assert.Empty(t, unused)
	_, _, err = w.app.Shelf.Shelf(w.ctx, w.teacher, "", false, 0)
	assert.ErrorIs(t, err, desk.ErrForbidden)
}
