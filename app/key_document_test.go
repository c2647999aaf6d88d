package app_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"pineledger/app/bank"
	"pineledger/app/build"
	"pineledger/app/desk"
	takeroom "pineledger/app/take"
	"pineledger/core/item"
	"pineledger/core/points"
	"pineledger/formats/pdf"
	"pineledger/formats/pdf/pdftest"
	"pineledger/store/officerows"
)

func question(number, key string, standards ...string) build.KeyRow {
	k := item.Keyed{Number: number, Kind: item.SingleChoice, Labels: []string{"F", "G", "H", "J"}}
	if key != "" {
		k.Key = []string{key}
	}
	return build.KeyRow{Keyed: k, Points: points.One, Standards: standards}
}

// documented is a draft with a document and no key yet.
func (w *world) documented() build.Sheet {
	w.Helper()
	s, err := w.app.Build.StartAssessment(w.ctx, w.coordinator, outline("Tide quiz"))
	require.NoError(w, err)
	s, err = w.app.Build.PutDocument(w.ctx, w.coordinator, s.Assessment.ID, s.Assessment.Version, "tides.pdf", pdftest.Document("1 Which?", "2 Which?"))
	require.NoError(w, err)
	require.NotNil(w, s.Document)
	require.Equal(w, 2, s.Document.Pages)
	return s
}

func TestADocumentIsKeyedLaterAndSealedOnceItIsWhole(t *testing.T) {
	w := newWorld(t)
	s := w.documented()
	s, err := w.app.Build.PutKey(w.ctx, w.coordinator, s.Assessment.ID, s.Assessment.Version, []build.KeyRow{question("1", "G", "M6.RR"), question("2", "", "M6.RR", "M6.FS")})
	require.NoError(t, err)
	require.Len(t, s.Lines, 2)
	assert.Equal(t, 1, s.Incomplete)
	assert.Equal(t, []string{"Line 2: there is no key."}, s.Faults)
	_, err = w.app.Build.Seal(w.ctx, w.coordinator, s.Assessment.ID, s.Assessment.Version)
	assert.ErrorContains(t, err, "Line 2: there is no key")

	rows, err := w.app.Build.Key(w.ctx, w.coordinator, s.Assessment.ID)
	require.NoError(t, err)
	require.Len(t, rows, 2)
	rows[1].Keyed.Key = []string{"J"}
	s, err = w.app.Build.PutKey(w.ctx, w.coordinator, s.Assessment.ID, s.Assessment.Version, rows)
	require.NoError(t, err)
	assert.Equal(t, 1, s.Lines[1].Number, "what was never sealed is written over, not piled up")
	s, err = w.app.Build.Seal(w.ctx, w.coordinator, s.Assessment.ID, s.Assessment.Version)
	require.NoError(t, err)

	s, err = w.app.Build.NewEdition(w.ctx, w.coordinator, s.Assessment.ID, s.Assessment.Version)
	require.NoError(t, err)
	rows[1].Keyed.Key = []string{"H"}
	s, err = w.app.Build.PutKey(w.ctx, w.coordinator, s.Assessment.ID, s.Assessment.Version, rows)
	require.NoError(t, err)
	assert.Equal(t, 1, s.Lines[0].Number)
	assert.Equal(t, 2, s.Lines[1].Number, "what was sealed stays beside the new key")
	_, err = w.app.Build.Seal(w.ctx, w.coordinator, s.Assessment.ID, s.Assessment.Version)
	require.NoError(t, err)
	editions, err := w.app.Build.Editions(w.ctx, w.coordinator, s.Assessment.ID, 0)
	require.NoError(t, err)
	require.Len(t, editions, 2)
	require.Len(t, editions[0].Changes, 1)
	assert.Contains(t, editions[0].Changes[0], "version 2 was 1")
	assert.Empty(t, editions[1].Changes, "nothing came before the first")
	assert.NotEqual(t, editions[0].Fingerprint, editions[1].Fingerprint)
}

func TestAStudentReadsTheDocumentBesideTheAnswers(t *testing.T) {
	w := newWorld(t)
	s := w.documented()
	s, err := w.app.Build.PutKey(w.ctx, w.coordinator, s.Assessment.ID, s.Assessment.Version, []build.KeyRow{question("1", "G", "M6.RR"), question("2", "H", "M6.RR")})
	require.NoError(t, err)
	s, err = w.app.Build.Seal(w.ctx, w.coordinator, s.Assessment.ID, s.Assessment.Version)
	require.NoError(t, err)
	w.send(s, func(c officerows.Section) bool { return c.Title == "6-A" })
	w.now = w.now.Add(2 * 3600e9)
	_, err = w.app.Take.MoveDoor(w.ctx, w.teacher, w.sittingOf(w.teacher).ID, "open")
	require.NoError(t, err)
	mine, err := w.app.Take.MySittings(w.ctx, w.student)
	require.NoError(t, err)
	view, err := w.app.Take.Begin(w.ctx, w.student, mine[0].ID, takeroom.Entry{})
	require.NoError(t, err)
	require.NotNil(t, view.Document)
	doc, err := w.app.Build.Document(w.ctx, w.student, view.Document.Hash)
	require.NoError(t, err)
	assert.Equal(t, "tides.pdf", doc.Name)
	require.Len(t, view.Lines, 2)
	assert.Equal(t, "F", view.Lines[0].Item.Body[1].Interaction.Choices[0].Label)
}

func TestAKeyThatCannotBeMeantIsRefusedByQuestion(t *testing.T) {
	w := newWorld(t)
	s := w.documented()
	bad := question("2", "Z", "NO.SUCH")
	bad.Points = 0
	_, err := w.app.Build.PutKey(w.ctx, w.coordinator, s.Assessment.ID, s.Assessment.Version, []build.KeyRow{question("1", "G"), bad})
	var invalid *desk.InvalidError
	require.ErrorAs(t, err, &invalid)
	var pointers []string
	for _, f := range invalid.Fields {
		pointers = append(pointers, f.Pointer)
		assert.Contains(t, f.Message, "Question 2")
	}
	assert.Equal(t, []string{"/rows/1/key", "/rows/1/points", "/rows/1/standards"}, pointers)
	stranger := question("1", "G")
	stranger.ItemID = 1 // of the bank
	_, err = w.app.Build.PutKey(w.ctx, w.coordinator, s.Assessment.ID, s.Assessment.Version, []build.KeyRow{stranger})
	assert.ErrorContains(t, err, "no line of this assessment")
	_, err = w.app.Build.PutDocument(w.ctx, w.coordinator, s.Assessment.ID, s.Assessment.Version, "a.pdf", []byte("no"))
	assert.ErrorContains(t, err, pdf.ErrNotPDF.Error())
	_, err = w.app.Build.PutDocument(w.ctx, w.principal, s.Assessment.ID, s.Assessment.Version, "a.pdf", []byte("no"))
	assert.ErrorIs(t, err, desk.ErrForbidden)
	_, err = w.app.Build.PutKey(w.ctx, w.teacher, s.Assessment.ID, s.Assessment.Version, nil)
	assert.ErrorIs(t, err, desk.ErrNotFound)
}

func TestQuestionsStayOutOfTheBank(t *testing.T) {
	w := newWorld(t)
	s := w.documented()
	_, err := w.app.Build.PutKey(w.ctx, w.coordinator, s.Assessment.ID, s.Assessment.Version, []build.KeyRow{question("1", "G", "M6.RR")})
	require.NoError(t, err)
	page, err := w.app.Bank.Items(w.ctx, w.coordinator, bank.ItemSearch{Words: "Question"})
	require.NoError(t, err)
	assert.Empty(t, page.Items)
}

func TestACopyOfAKeyedDocumentHasItsOwnQuestions(t *testing.T) {
	w := newWorld(t)
	s := w.documented()
	s, err := w.app.Build.PutKey(w.ctx, w.coordinator, s.Assessment.ID, s.Assessment.Version, []build.KeyRow{question("1", "G", "M6.RR"), question("2", "H")})
	require.NoError(t, err)
	c, err := w.app.Build.CopyAssessment(w.ctx, w.second, s.Assessment.ID, "")
	require.NoError(t, err)
	require.Len(t, c.Lines, 2)
	assert.Equal(t, s.Document.Hash, c.Document.Hash)
	rows, err := w.app.Build.Key(w.ctx, w.second, c.Assessment.ID)
	require.NoError(t, err)
	require.Len(t, rows, 2)
	assert.Equal(t, []string{"G"}, rows[0].Keyed.Key)
	assert.NotEqual(t, s.Lines[0].ItemID, c.Lines[0].ItemID)
}
