package api_test

import (
	"encoding/json"
	"fmt"
	"net/http"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"pineledger/core/draw"
	"pineledger/core/roster"
	"pineledger/store"
	"pineledger/store/buildrows"
	"pineledger/store/recordrows"
	"pineledger/store/sqlite"
)

// draw notes a draw that was stopped, for the demo's first assessment.
func (s *served) draw() buildrows.Draw {
	s.Helper()
	d := buildrows.Draw{AssessmentID: 1, PersonID: 1, At: 1, Question: sqlite.JSON[buildrows.DrawQuestion]{V: buildrows.DrawQuestion{Mode: draw.Best, Forms: 1}}, State: "stopped"}
	require.NoError(s, s.store.Write(s.Context(), func(tx *store.Tx) (err error) {
		d.ID, err = buildrows.AddDraw(s.Context(), tx, d)
		return err
	}))
	return d
}

// entryOf gives the number of the ledger's newest entry of an act on an assessment.
func (s *served) entryOf(act string, assessment int64) int64 {
	s.Helper()
	entries, err := recordrows.Ledger(s.Context(), s.store.Reader, recordrows.LedgerFilter{Thing: "assessment", ThingID: assessment, Limit: 100})
	require.NoError(s, err)
	for _, e := range entries {
		if e.Act == act {
			return e.Number
		}
	}
	s.Fatalf("no %s of assessment %d", act, assessment)
	return 0
}

type drawing struct {
	ID    int64
	State string
	Pool  int
	Forms []struct {
		Items []struct{ Identifier string }
	}
	Shortage []struct {
		Rows       []int
		Need, Have float64
	}
	Aims, Bound *struct{ Difficulty, Spread, Uses int }
}

func TestADrawOverHTTP(t *testing.T) {
	s := serve(t, true)
	c := s.as(roster.DistrictCoordinator, 0)
	status, body := c.do(http.MethodPost, "/api/assessments", `{"title":"Drawn","shortTitle":"","description":"","instructions":"","subject":"mathematics","grades":["06"],"purpose":"benchmark","language":"en","year":""}`)
	require.Equal(t, http.StatusOK, status, body)
	var now sheet
	require.NoError(t, json.Unmarshal([]byte(body), &now))
	base := fmt.Sprintf("/api/assessments/%d", now.ID)
	require.Equal(t, http.StatusOK, c.put(base+"/blueprint", now.Version, `{"rows":[{"title":"Ratio","filter":{"standards":["M6.RR"],"difficulty":[300,900]},"byPoints":false,"min":4,"max":4},{"title":"Any","filter":{"depth":[1,2,3]},"byPoints":false,"min":3,"max":5}]}`, &now))
	var pools []int
	c.get(base+"/pools", &pools)
	require.Len(t, pools, 2)
	assert.Greater(t, pools[0], 4)

	ask := func(question string) (d drawing) {
		status, body := c.do(http.MethodPost, base+"/draws", question)
		require.Equal(t, http.StatusOK, status, body)
		require.NoError(t, json.Unmarshal([]byte(body), &d))
		return d
	}
	d := ask(`{"mode":"best","seed":3,"forms":1,"keep":true,"target":600,"tolerance":30,"passages":2}`)
	require.Equal(t, "found", d.State)
	assert.GreaterOrEqual(t, len(d.Forms[0].Items), 7)
	require.NotNil(t, d.Bound)

	status, body = c.do(http.MethodPost, fmt.Sprintf("%s/draws/%d/place", base, d.ID), "", "If-Match", fmt.Sprint(now.Version))
	require.Equal(t, http.StatusOK, status, body)
	require.NoError(t, json.Unmarshal([]byte(body), &now))
	assert.Zero(t, now.Shortage)
	assert.Len(t, now.Lines, len(d.Forms[0].Items))

	short := ask(fmt.Sprintf(`{"mode":"best","seed":3,"forms":1,"keep":false,"simple":{"total":%d,"standards":["M6.RR"]}}`, pools[0]+200))
	require.Equal(t, "short", short.State)
	require.Len(t, short.Shortage, 1)
	assert.Less(t, short.Shortage[0].Have, short.Shortage[0].Need)

	var problem problem
	status, body = c.do(http.MethodPost, base+"/draws", `{"mode":"best","seed":3,"forms":1,"keep":false,"row":9}`)
	require.Equal(t, http.StatusUnprocessableEntity, status)
	require.NoError(t, json.Unmarshal([]byte(body), &problem))
	assert.Equal(t, "/row", problem.Errors[0].Pointer)
	status, _ = c.do(http.MethodPost, base+"/draws", `{"mode":"lucky","seed":3,"forms":1,"keep":false}`)
	assert.Equal(t, http.StatusUnprocessableEntity, status)
}
