package form_test

import (
	"encoding/json"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"pineledger/core/band"
	"pineledger/core/form"
	"pineledger/core/item"
	"pineledger/core/points"
)

func sample() form.Form {
	half := points.Points(5000)
	line := func(standards ...string) form.Line {
		return form.Line{Points: points.One, Standards: standards,
			Item: item.NewChoice(item.SingleChoice, "x", []string{"a", "b"}, []int{1}, item.AllOrNothing)}
	}
	return form.Form{
		Schema: form.Schema, Lines: []form.Line{line("M6.RR.1", "M6.RR.2"), line("M6.RR.2", "M6.FS.1"), line("M6.FS.1"), line()},
		Standards: []form.Standard{{Code: "M6"}, {Code: "M6.RR", Parent: "M6"}, {Code: "M6.RR.1", Parent: "M6.RR"}, {Code: "M6.RR.2", Parent: "M6.RR"}, {Code: "M6.FS", Parent: "M6"}, {Code: "M6.FS.1", Parent: "M6.FS"}},
		Bands:     []band.Band{{Name: "Launching"}, {Name: "Underway", Cut: band.Cut{Percent: &half}}},
	}
}

func give(v string) item.Response { return item.Response{"RESPONSE": {v}} }

func TestScoreOfAnAttempt(t *testing.T) {
	s, err := sample().Score(map[int]item.Response{0: give("B"), 2: give("B")}, nil)
	require.NoError(t, err)
	assert.Equal(t, points.Points(200), s.Raw)
	assert.Equal(t, 1, s.Band, "2 of 4 is exactly half")
	var outcomes []item.Outcome
	for _, c := range s.Credits {
		outcomes = append(outcomes, c.Outcome)
	}
	assert.Equal(t, []item.Outcome{item.Right, item.Omitted, item.Right, item.NotReached}, outcomes)
}

func TestWithoutBandsThereIsAScoreAndNoBand(t *testing.T) {
	f := sample()
	f.Bands = nil
	s, err := f.Score(nil, nil)
	require.NoError(t, err)
	assert.Equal(t, -1, s.Band)
	assert.Equal(t, item.NotReached, s.Credits[0].Outcome)
}

func TestLinesUnderStandards(t *testing.T) {
	got := map[string][]int{}
	for _, s := range sample().Under("M6") {
		got[s.Code] = s.Lines
	}
	assert.Equal(t, map[string][]int{"M6.RR": {0, 1}, "M6.FS": {1, 2}}, got, "aligned twice under one counts once")
	assert.Equal(t, "M6", sample().Top(), "where the lines first part")
	assert.Equal(t, []form.Strand{{Standard: form.Standard{Code: "M6"}, Lines: []int{0, 1, 2}}}, sample().Under(""))
	assert.Empty(t, sample().Under("M6.RR.1"))
	assert.Empty(t, form.Form{}.Top())
	f := sample()
	f.Lines = f.Lines[:1]
	f.Lines[0].Standards = []string{"M6.RR.1"}
	assert.Equal(t, "M6.RR", f.Top(), "one branch after the other, until leaves are left")
}

func TestSealedDocumentsAreReadBack(t *testing.T) {
	data, err := json.Marshal(sample())
	require.NoError(t, err)
	back, err := form.Read(data)
	require.NoError(t, err)
	again, err := json.Marshal(back)
	require.NoError(t, err)
	assert.JSONEq(t, string(data), string(again))
	// What was sealed before lines and passages said their language is in the form's.
	f, err := form.Read([]byte(`{"schema":1,"language":"es","lines":[{"item":{}},{"language":"en","item":{}}],"passages":[{},{"language":"en"}]}`))
	require.NoError(t, err)
	assert.Equal(t, []string{"es", "en", "es", "en"}, []string{f.Lines[0].Language, f.Lines[1].Language, f.Passages[0].Language, f.Passages[1].Language})
	_, err = form.Read([]byte(`{"schema":2}`))
	assert.ErrorContains(t, err, "schema 2")
}
