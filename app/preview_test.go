package app_test

import (
	"encoding/json"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"pineledger/app/bank"
	"pineledger/app/build"
	"pineledger/app/desk"
	"pineledger/formats/paper/papertest"
)

func TestAPreviewHoldsNothingOfKeys(t *testing.T) {
	w := newWorld(t)
	s := w.draft()
	view, err := w.app.Take.Preview(w.ctx, w.coordinator, s.Assessment.ID, 1)
	require.NoError(t, err)
	require.Len(t, view.Lines, 3)
	assert.Equal(t, "P1", view.Lines[1].Passage)
	data, err := json.Marshal(view)
	require.NoError(t, err)
	assert.NotContains(t, string(data), "correct")
	assert.NotContains(t, string(data), "12.0", "the key of the second line")
	_, err = w.app.Take.Preview(w.ctx, w.teacher, s.Assessment.ID, 1)
	assert.ErrorIs(t, err, desk.ErrNotFound)
}

func TestWhatABankForbidsToPrintIsLeftOutAndNamed(t *testing.T) {
	w := newWorld(t)
	s := w.draft()
	p, err := w.app.Build.Print(w.ctx, w.coordinator, s.Assessment.ID, 0)
	require.NoError(t, err)
	require.Len(t, p.Lines, 3)
	assert.Equal(t, []string{"A", "12 or 12.0", "A, C"}, []string{p.Lines[0].Key, p.Lines[1].Key, p.Lines[2].Key})
	assert.Len(t, p.Passages, 1)

	banks, err := w.app.Bank.Banks(w.ctx, w.coordinator)
	require.NoError(t, err)
	row := banks[0].Bank
	_, err = w.app.Bank.PutBank(w.ctx, w.coordinator, row.ID, row.Version, bank.BankInput{Name: row.Name, NoPrint: true})
	require.NoError(t, err)
	p, err = w.app.Build.Print(w.ctx, w.coordinator, s.Assessment.ID, 0)
	require.NoError(t, err)
	for _, l := range p.Lines {
		assert.Contains(t, l.Refuse, "no printing")
		assert.Empty(t, l.Key)
		assert.Empty(t, l.Item.Body)
	}
	assert.Empty(t, p.Passages, "nor the passages that hang on them")
}

func TestAPDFHoldsWhatMayBePrinted(t *testing.T) {
	w := newWorld(t)
	s := w.draft()
	id := s.Assessment.ID
	pages := func(o build.PDFOptions) string {
		data, err := w.app.Build.PrintPDF(w.ctx, w.coordinator, id, o)
		require.NoError(t, err)
		return strings.Join(strings.Fields(strings.Join(papertest.Pages(t, data), " ")), " ")
	}
	booklet := pages(build.PDFOptions{Size: 12, Columns: 2})
	assert.Contains(t, booklet, "Fall Name Class Date Think.")
	assert.NotContains(t, booklet, "12.0", "the key of the second line")
	key := pages(build.PDFOptions{Size: 10, Key: true})
	assert.Contains(t, key, "12 or 12.0")

	for _, o := range []build.PDFOptions{{Size: 9}, {Size: 25}, {Size: 14, Columns: 2}} {
		_, err := w.app.Build.PrintPDF(w.ctx, w.coordinator, id, o)
		var wrong *desk.InvalidError
		assert.ErrorAs(t, err, &wrong, "%+v", o)
	}
	_, err := w.app.Build.PrintPDF(w.ctx, w.teacher, id, build.PDFOptions{Size: 12})
	assert.ErrorIs(t, err, desk.ErrNotFound)
}
