package panelreport_test

import (
	"bytes"
	"context"
	"errors"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"pineledger/core/band"
	"pineledger/core/panel"
	"pineledger/formats/panelreport"
	"pineledger/formats/paper"
)

// report is of two judges of whom one is done, on two lines and one cut.
func report(t *testing.T) panelreport.Report {
	form, err := panel.NewForm([]band.Line{{Points: 100}, {Points: 200, Step: 100}}, band.AtLeast)
	require.NoError(t, err)
	task := panel.Task{Method: panel.ByRatings, Form: form, Cuts: 1}
	half := task.Empty()
	half.Ratings[0][1] = 30
	works := []panel.Work{{Ratings: panel.Ratings{{60, 45}}, Done: true}, half}
	return panelreport.Report{Title: "Fall", About: "edition 1", Method: panel.ByRatings, Cuts: []string{"Underway"},
		Lines: []panelreport.Line{{Item: "M6-1", Points: 100}, {Item: "M6-2", Points: 200}}, Judges: []panelreport.Judge{{Name: "Ana Ito"}, {Name: "=cmd()", Left: "ill"}},
		Rounds: []panelreport.Round{{Name: "Round 1", Works: works, Result: task.Round(works), Remarks: []string{"Judge 2 left with 1 of 2 given: that is not counted."},
			Shares: []panelreport.Share{{"Launching", .4}, {"Underway", .6}}}},
		Notes: []panelreport.Note{{Judge: 1, Line: 2, Words: "Two steps."}}}
}

func TestEveryRatingLeavesAsARow(t *testing.T) {
	var out bytes.Buffer
	require.NoError(t, report(t).WriteCSV(&out))
	assert.Equal(t, `Round,Judge,Name,Counted,Cut,Line,Item,Points,"Rating, percent"
Round 1,1,Ana Ito,yes,Underway,1,M6-1,1,60
Round 1,1,Ana Ito,yes,Underway,2,M6-2,2,45
Round 1,2,'=cmd(),no,Underway,2,M6-2,2,30
`, out.String(), "also of who is not done; no name runs as a formula")
}

func TestAMarkLeavesWithItsPlace(t *testing.T) {
	r := report(t)
	r.Method, r.Booklet = panel.ByMarks, []panel.Entry{{Line: 1, Level: 1, Location: -0.5}, {Line: 0, Level: 1, Location: 0.25}}
	r.Rounds = []panelreport.Round{{Name: "Round 1", Works: []panel.Work{{Marks: []int{2}, Done: true}, {Marks: []int{panel.None}}}, Result: panel.Round{Counted: []int{0}}}}
	var out bytes.Buffer
	require.NoError(t, r.WriteCSV(&out))
	rows := strings.Split(strings.TrimSpace(out.String()), "\n")
	require.Len(t, rows, 2, "no row for a mark that is not there")
	assert.Equal(t, "Round 1,1,Ana Ito,yes,Underway,2,1,M6-1,0.2500", rows[1])
}

func TestTheReportIsSetOnPages(t *testing.T) {
	set := paper.Options{Language: "en", Size: 10, Columns: 1, Made: time.Unix(0, 0), Media: func(string) (string, []byte, error) { return "", nil, errors.New("no pictures") }}
	var out bytes.Buffer
	require.NoError(t, report(t).WritePDF(context.Background(), &out, set))
	assert.True(t, strings.HasPrefix(out.String(), "%PDF-"))
	nobody := report(t)
	nobody.Rounds[0].Result = panel.Round{}
	require.NoError(t, nobody.WritePDF(context.Background(), &out, set), "a round of which nothing came")
	stopped, stop := context.WithCancel(context.Background())
	stop()
	assert.ErrorIs(t, report(t).WritePDF(stopped, &out, set), context.Canceled)
}
