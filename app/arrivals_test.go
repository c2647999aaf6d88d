package app_test

import (
	"context"
	"errors"
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"pineledger/app/bank"
	"pineledger/app/intake"
	"pineledger/store"
	"pineledger/store/bankrows"
)

// manyItems is a file with more new items than one step writes, in a new bank and one that is there, with tags and a passage.
func manyItems() string {
	var rows strings.Builder
	rows.WriteString("identifier,bank,kind,subject,grade,standards,stem,key,tags,passage,passage_title,passage_text\n")
	for n := range 250 {
		fmt.Fprintf(&rows, "N%d,%s,number,Mathematics,06,M6.RR,What is %d + 1?,%d,%s,P2,The pier,The pier is 40 m long.\n",
			n, []string{"Harbor bank", "Bank"}[n%2], n, n+1, []string{"harbor", "harbor;fall", ""}[n%3])
	}
	return rows.String()
}

// standing is everything that an import of items could leave.
func (w *world) standing() map[string]int {
	out := map[string]int{}
	for _, table := range []string{"item", "item_version", "item_words", "item_sketch", "passage", "passage_version", "tag", "media", "arriving_media", "bank"} {
		var n int
		require.NoError(w, w.store.Get(w.ctx, &n, "SELECT COUNT(*) FROM "+table))
		out[table] = n
	}
	return out
}

func TestNobodySeesWhatAnImportHasWrittenSoFar(t *testing.T) {
	w := newWorld(t)
	steps := 0
	r, err := w.app.Intake.Import(w.ctx, w.coordinator, intake.File{Kind: intake.ImportItems, Name: "many.csv", Path: w.file("many.csv", manyItems())}, func(stage string, _ intake.ImportCounts) {
		if stage != "writing" {
			return
		}
		steps++
		assert.Empty(t, w.finds(w.coordinator, bank.ItemSearch{Words: "pier"}))
		passages, err := w.app.Shelf.Passages(w.ctx, w.coordinator, "pier")
		require.NoError(t, err)
		assert.Empty(t, passages)
		// Whoever writes something small comes in between.
		require.NoError(t, w.store.WriteTogether(w.ctx, func(tx *store.Tx) error { return nil }))
	})
	require.NoError(t, err)
	assert.Greater(t, steps, 2, "it is written in steps")
	assert.Equal(t, 250, r.Counts.New)

	banks := map[string]int{}
	tagged := map[string]int{}
	for _, it := range w.all("pier") {
		banks[it.Bank]++
		require.Equal(t, "The pier", it.Passage)
	}
	assert.Equal(t, map[string]int{"Harbor bank": 125, "Bank": 125}, banks)
	tags, err := bankrows.EveryonesTags(w.ctx, w.store.Reader)
	require.NoError(t, err)
	for _, names := range tags {
		for _, name := range names {
			tagged[name]++
		}
	}
	assert.Equal(t, map[string]int{"harbor": 167, "fall": 83}, tagged)

	again, err := w.app.Intake.Import(w.ctx, w.coordinator, intake.File{Kind: intake.ImportItems, Name: "many.csv", Path: w.file("many.csv", manyItems())}, nil)
	require.NoError(t, err)
	assert.Equal(t, 250, again.Counts.Unchanged, "what arrived is what was brought")
}

// all lists what a search finds, over all its pages.
func (w *world) all(words string) []bankrows.Item {
	rows, _, err := bankrows.Items(w.ctx, w.store.Reader, bankrows.ItemQuery{Scope: bankrows.ItemScope{All: true}, Words: words, Limit: 1000})
	require.NoError(w, err)
	return rows
}

func TestAnImportThatIsStoppedInTheMiddleOfItsStepsLeavesNothing(t *testing.T) {
	w := newWorld(t)
	before := w.standing()
	ctx, cancel := context.WithCancel(w.ctx)
	r, err := w.app.Intake.Import(ctx, w.coordinator, intake.File{Kind: intake.ImportItems, Name: "many.csv", Path: w.file("many.csv", manyItems())}, func(stage string, _ intake.ImportCounts) {
		if stage == "writing" && len(w.all("pier")) > 0 {
			cancel()
		}
	})
	require.ErrorIs(t, err, context.Canceled)
	assert.Equal(t, "cancelled", r.State)
	assert.Equal(t, before, w.standing())
	w.take(w.coordinator, intake.ImportItems, w.file("many.csv", manyItems()), 250)
}

func TestWhatAKilledImportLeftIsGoneAtTheNextStart(t *testing.T) {
	w := newWorld(t)
	m, err := w.app.Shelf.KeepMedia(w.ctx, w.coordinator, "pier.png", w.picture(40))
	require.NoError(t, err)
	stem := `<p>Which pier?</p><img src="/media/` + m.Hash + `" alt="A pier">`
	w.written(w.coordinator, "Bank", "S1", stem)
	path, _ := w.export(bank.ItemSearch{})

	other := anotherWorld(t)
	before := other.standing()
	killed := errors.New("killed")
	func() {
		defer func() { require.Equal(t, killed, recover()) }()
		_, err := other.app.Intake.Import(other.ctx, other.coordinator, intake.File{Kind: intake.ImportItems, Name: "items.zip", Path: path}, func(string, intake.ImportCounts) {
			if left, err := bankrows.ArrivalsLeft(other.ctx, other.store.Reader); err != nil || len(left.Items) > 0 {
				panic(killed) // nothing of it runs any more
			}
		})
		require.NoError(t, err)
	}()
	assert.Equal(t, 1, other.standing()["arriving_media"])
	shelf, _, err := other.app.Shelf.Shelf(other.ctx, other.coordinator, "", false, 0)
	require.NoError(t, err)
	assert.Empty(t, shelf)

	other.restart()
	assert.Equal(t, before, other.standing())
	reports, err := other.app.Intake.Imports(other.ctx, other.coordinator)
	require.NoError(t, err)
	assert.Equal(t, "failed", reports[0].State)
	assert.Contains(t, reports[0].Message, "nothing was changed")
	other.take(other.coordinator, intake.ImportItems, path, 1)
	shelf, _, err = other.app.Shelf.Shelf(other.ctx, other.coordinator, "", false, 0)
	require.NoError(t, err)
	assert.Len(t, shelf, 1)
}
