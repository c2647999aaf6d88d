package api_test

import (
	"encoding/json"
	"fmt"
	"net/http"
	"sync"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"pineledger/core/roster"
)

// sheet is what these tests read of an assessment.
type sheet struct {
	ID      int64
	Version int
	State   string
	Total   float64
	Lines   []struct {
		ItemID int64 `json:"itemId"`
		Points float64
	}
	Shortage    float64
	Fingerprint string
}

type problem struct {
	Status int
	Type   string
	Detail string
	Errors []struct{ Pointer, Message string }
}

// put sends a change at a version and reads what came of it.
func (c *client) put(path string, version int, body string, into any) int {
	c.Helper()
	status, got := c.do(http.MethodPut, path, body, "If-Match", fmt.Sprint(version))
	require.NoError(c, json.Unmarshal([]byte(got), into), got)
	return status
}

func TestAnAssessmentIsBuiltOverHTTP(t *testing.T) {
	s := serve(t, true)
	c := s.as(roster.DistrictCoordinator, 0)
	status, body := c.do(http.MethodPost, "/api/assessments", `{"title":"Over HTTP","shortTitle":"","description":"","instructions":"","subject":"mathematics","grades":["06"],"purpose":"benchmark","language":"en","year":""}`)
	require.Equal(t, http.StatusOK, status, body)
	var now sheet
	require.NoError(t, json.Unmarshal([]byte(body), &now))
	base := fmt.Sprintf("/api/assessments/%d", now.ID)

	var page struct{ Items []struct{ ID int64 } }
	c.get("/api/items?subject=mathematics&grade=06&limit=3", &page)
	require.Len(t, page.Items, 3)
	lines := fmt.Sprintf(`{"lines":[{"itemId":%d,"points":1},{"itemId":%d,"points":0.5},{"itemId":%d,"points":2.25}]}`, page.Items[0].ID, page.Items[1].ID, page.Items[2].ID)
	require.Equal(t, http.StatusOK, c.put(base+"/lines", now.Version, lines, &now))
	assert.Equal(t, 3.75, now.Total, "points are decimals outside and exact inside")
	assert.Equal(t, page.Items[1].ID, now.Lines[1].ItemID)

	// Who comes second at the same version is told, by name.
	other := s.as(roster.DistrictCoordinator, 1)
	var refused problem
	require.Equal(t, http.StatusConflict, other.put(base+"/lines", now.Version-1, `{"lines":[]}`, &refused))
	assert.Contains(t, refused.Detail, "changed this meanwhile")
	assert.Equal(t, "urn:pineledger:problem:conflict", refused.Type)

	require.Equal(t, http.StatusUnprocessableEntity, c.put(base+"/lines", now.Version, fmt.Sprintf(`{"lines":[{"itemId":%d,"points":0}]}`, page.Items[0].ID), &refused))
	require.NotEmpty(t, refused.Errors)
	assert.Equal(t, "/lines/0/points", refused.Errors[0].Pointer)

	require.Equal(t, http.StatusOK, c.put(base+"/blueprint", now.Version, `{"rows":[{"title":"All","filter":{"standards":["M6"]},"byPoints":true,"min":5,"max":6}]}`, &now))
	assert.Equal(t, 1.25, now.Shortage, "5 points planned, 3.75 there")
	require.Equal(t, http.StatusUnprocessableEntity, c.put(base+"/blueprint", now.Version, `{"rows":[{"title":"x","filter":{"standards":["Z1"]},"byPoints":false,"min":1,"max":1}]}`, &refused))
	assert.Equal(t, "/rows/0/filter/standards/0", refused.Errors[0].Pointer)

	status, body = c.do(http.MethodPost, base+"/seal", "", "If-Match", fmt.Sprint(now.Version))
	require.Equal(t, http.StatusOK, status, body)
	require.NoError(t, json.Unmarshal([]byte(body), &now))
	assert.Equal(t, "sealed", now.State)
	assert.Len(t, now.Fingerprint, 64)
	require.Equal(t, http.StatusConflict, c.put(base+"/lines", now.Version, `{"lines":[]}`, &refused))
	assert.Contains(t, refused.Detail, "sealed")
}

// Many at once, at one version: one is first, the others are told, nothing is mixed.
func TestOneOfManyEditorsIsFirst(t *testing.T) {
	s := serve(t, true)
	c := s.as(roster.DistrictCoordinator, 0)
	var list []struct {
		ID    int64
		State string
		Title string
	}
	c.get("/api/assessments", &list)
	var draft sheet
	for _, a := range list {
		if a.State == "draft" {
			c.get(fmt.Sprintf("/api/assessments/%d", a.ID), &draft)
		}
	}
	require.NotZero(t, draft.ID)
	path := fmt.Sprintf("/api/assessments/%d/outline", draft.ID)
	var mu sync.Mutex
	byStatus := map[int]int{}
	won := ""
	var wait sync.WaitGroup
	for i := range 12 {
		wait.Go(func() {
			title := fmt.Sprint("Editor ", i)
			status, _ := c.do(http.MethodPut, path, fmt.Sprintf(`{"title":%q,"shortTitle":"","description":"","instructions":"","subject":"mathematics","grades":["06"],"purpose":"benchmark","language":"en","year":""}`, title),
				"If-Match", fmt.Sprint(draft.Version))
			mu.Lock()
			defer mu.Unlock()
			byStatus[status]++
			if status == http.StatusOK {
				won = title
			}
		})
	}
	wait.Wait()
	assert.Equal(t, map[int]int{http.StatusOK: 1, http.StatusConflict: 11}, byStatus)
	var after struct {
		Version int
		Outline struct{ Title string }
	}
	c.get(fmt.Sprintf("/api/assessments/%d", draft.ID), &after)
	assert.Equal(t, won, after.Outline.Title)
	assert.Equal(t, draft.Version+1, after.Version)
}
