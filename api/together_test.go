package api_test

import (
	"encoding/json"
	"fmt"
	"net/http"
	"strings"
	"sync"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"pineledger/core/roster"
	"pineledger/formats/paper/papertest"
)

// titled gives the id of the demo's assessment whose title has a word.
func (c *client) titled(word string) int64 {
	c.Helper()
	var list []struct {
		ID    int64
		Title string
	}
	c.get("/api/assessments", &list)
	for _, a := range list {
		if strings.Contains(a.Title, word) {
			return a.ID
		}
	}
	c.Fatalf("no assessment is called %s", word)
	return 0
}

func (c *client) post(path, body string, into any) int {
	c.Helper()
	status, got := c.do(http.MethodPost, path, body)
	require.NoError(c, json.Unmarshal([]byte(got), into), got)
	return status
}

// A link lets staff in once each, by name, until it is ended; a new one ends the old one.
func TestALinkOverHTTP(t *testing.T) {
	s := serve(t, true)
	c := s.as(roster.DistrictCoordinator, 0)
	id := c.titled("ratio quiz")
	base := fmt.Sprintf("/api/assessments/%d", id)
	secret := func() string {
		status, body := c.do(http.MethodPut, base+"/link", `{"copy":false,"print":true}`)
		require.Equal(t, http.StatusOK, status, body)
		var made struct{ Secret string }
		require.NoError(t, json.Unmarshal([]byte(body), &made))
		require.GreaterOrEqual(t, len(made.Secret), 26, "128 bits in base 32")
		return made.Secret
	}
	first := secret()
	second := secret()
	require.NotEqual(t, first, second)

	teacher := s.as(roster.Teacher, 0)
	status, _ := teacher.do(http.MethodGet, base, "")
	require.Equal(t, http.StatusNotFound, status)
	var refused problem
	require.Equal(t, http.StatusConflict, teacher.post("/api/links", fmt.Sprintf(`{"secret":%q}`, first), &refused))
	assert.Contains(t, refused.Detail, "leads nowhere")

	// Twice at the same moment is once.
	var wait sync.WaitGroup
	for range 4 {
		wait.Go(func() {
			status, body := teacher.do(http.MethodPost, "/api/links", fmt.Sprintf(`{"secret":%q}`, second))
			assert.Equal(t, http.StatusOK, status, body)
		})
	}
	wait.Wait()
	var seen struct {
		MayChange, MayPrint, MayCopy bool
		Shares                       []any
		Parts                        []struct{ Name string }
		Link                         any
	}
	teacher.get(base, &seen)
	assert.Equal(t, []bool{false, true, false}, []bool{seen.MayChange, seen.MayPrint, seen.MayCopy})
	assert.Empty(t, seen.Shares, "who else looks is not for them")
	assert.Nil(t, seen.Link)
	require.Len(t, seen.Parts, 1)
	var mine struct {
		Shares []struct {
			ByLink bool
			Name   string
		}
		Link struct{ MadeBy string }
	}
	c.get(base, &mine)
	require.Len(t, mine.Shares, 1)
	assert.True(t, mine.Shares[0].ByLink)
	assert.NotEmpty(t, mine.Link.MadeBy)

	status, _ = c.do(http.MethodDelete, base+"/link", "")
	require.Equal(t, http.StatusNoContent, status)
	other := s.as(roster.Teacher, 1)
	require.Equal(t, http.StatusConflict, other.post("/api/links", fmt.Sprintf(`{"secret":%q}`, second), &refused))
	teacher.get(base, &seen)
	status, _ = teacher.do(http.MethodPut, base+"/lines", `{"lines":[]}`, "If-Match", "1")
	assert.Equal(t, http.StatusForbidden, status)
}

// A link that somebody guesses is refused like one that has ended, and students are not asked.
func TestAGuessedLink(t *testing.T) {
	s := serve(t, true)
	var refused problem
	for _, secret := range []string{"x", strings.Repeat("A", 26), strings.Repeat("a", 100)} {
		assert.Equal(t, http.StatusConflict, s.as(roster.Teacher, 0).post("/api/links", fmt.Sprintf(`{"secret":%q}`, secret), &refused))
	}
	assert.Equal(t, http.StatusUnprocessableEntity, s.as(roster.Teacher, 0).post("/api/links", fmt.Sprintf(`{"secret":%q}`, strings.Repeat("a", 101)), &refused))
	assert.Equal(t, "/secret", refused.Errors[0].Pointer)
}

// The library keeps rows as the contract has them, difficulty and banks and all; of many who
// replace one version at once one is first.
func TestTheLibraryOfBlueprintsOverHTTP(t *testing.T) {
	s := serve(t, true)
	c := s.as(roster.DistrictCoordinator, 0)
	id := c.titled("Grade 4")
	base := fmt.Sprintf("/api/assessments/%d", id)
	var now sheet
	c.get(base, &now)
	rows := `{"rows":[{"title":"All","filter":{"standards":["M4"],"kinds":["number"],"depth":[1,2],"difficulty":[300,700],"tags":["tide"],"without":["boat"],"banks":["Tamarack Bay district bank"],"language":"en"},"byPoints":true,"min":5.25,"max":6}]}`
	require.Equal(t, http.StatusOK, c.put(base+"/blueprint", now.Version, rows, &now))
	type keptBlueprint struct {
		ID      int64
		Title   string
		Rows    int
		Version int
		Own     bool
	}
	var kept keptBlueprint
	require.Equal(t, http.StatusOK, c.post("/api/blueprints", fmt.Sprintf(`{"assessmentId":%d,"title":"Fourth"}`, id), &kept))
	assert.Equal(t, keptBlueprint{kept.ID, "Fourth", 1, 1, true}, kept)
	_, body := c.do(http.MethodGet, fmt.Sprintf("/api/blueprints/%d", kept.ID), "")
	assert.JSONEq(t, strings.TrimSuffix(strings.TrimPrefix(rows, `{"rows":`), "}"), body, "as it was put")

	var mu sync.Mutex
	byStatus := map[int]int{}
	var wait sync.WaitGroup
	for range 6 {
		wait.Go(func() {
			status, _ := c.do(http.MethodPost, "/api/blueprints", fmt.Sprintf(`{"assessmentId":%d,"title":"Fourth","replace":1}`, id))
			mu.Lock()
			defer mu.Unlock()
			byStatus[status]++
		})
	}
	wait.Wait()
	assert.Equal(t, map[int]int{http.StatusOK: 1, http.StatusConflict: 5}, byStatus)
	var list []keptBlueprint
	c.get("/api/blueprints?words=four", &list)
	require.Len(t, list, 1)
	assert.Equal(t, 2, list[0].Version)
	status, _ := c.do(http.MethodDelete, fmt.Sprintf("/api/blueprints/%d", kept.ID), "", "If-Match", "2")
	assert.Equal(t, http.StatusNoContent, status)
	status, _ = c.do(http.MethodGet, fmt.Sprintf("/api/blueprints/%d", kept.ID), "")
	assert.Equal(t, http.StatusNotFound, status)
}

// A row that asks for a bank that the coordinator may not look into is refused by its place.
func TestARowAsksForABankOverHTTP(t *testing.T) {
	s := serve(t, true)
	c := s.as(roster.DistrictCoordinator, 0)
	base := fmt.Sprintf("/api/assessments/%d", c.titled("Grade 4"))
	var now sheet
	c.get(base, &now)
	var refused problem
	require.Equal(t, http.StatusUnprocessableEntity, c.put(base+"/blueprint", now.Version, `{"rows":[{"title":"x","filter":{"banks":["Nowhere"]},"byPoints":false,"min":1,"max":1}]}`, &refused))
	assert.Equal(t, "/rows/0/filter/banks", refused.Errors[0].Pointer)
	assert.Contains(t, refused.Errors[0].Message, `Row 1: no bank that you may look into is called "Nowhere".`)
}

// Booklet and key as PDF: what may be printed, in the sizes that there are, with nothing of the key in the booklet.
func TestThePDFOverHTTP(t *testing.T) {
	s := serve(t, true)
	c := s.as(roster.DistrictCoordinator, 0)
	base := fmt.Sprintf("/api/assessments/%d/print.pdf", c.titled("reading, winter"))
	text := func(query string) string {
		res, data := c.fetch(t, base+query)
		require.Equal(t, http.StatusOK, res.StatusCode)
		assert.Equal(t, "application/pdf", res.Header.Get("Content-Type"))
		return strings.Join(strings.Fields(strings.Join(papertest.Pages(t, data), " ")), " ")
	}
	booklet := text("?what=booklet&size=18")
	assert.Equal(t, 1, strings.Count(booklet, "For sixty years the day at North Jetty began"), "a passage stands once")
	assert.Less(t, strings.Index(booklet, "For sixty years"), strings.Index(booklet, "What did the second whistle tell people?"))
	assert.NotContains(t, booklet, "all or nothing")
	key := text("?what=key&size=10")
	assert.Contains(t, key, "all or nothing")
	assert.Contains(t, key, "R5.IT.1")
	assert.NotContains(t, key, "What did the second whistle")

	for query, pointer := range map[string]string{"?what=booklet&size=9": "size", "?what=booklet&size=14&columns=2": "/columns", "?what=poster&size=12": "what", "?size=12": "what"} {
		status, body := c.do(http.MethodGet, base+query, "")
		assert.Equal(t, http.StatusUnprocessableEntity, status, query)
		assert.Contains(t, body, pointer, query)
	}
}

// What a student earns at most is told in the list as on the sheet, pools and all.
func TestTheListTellsWhatAStudentCanEarn(t *testing.T) {
	s := serve(t, true)
	c := s.as(roster.DistrictCoordinator, 0)
	var list []struct {
		ID     int64
		Title  string
		Points float64
	}
	c.get("/api/assessments", &list)
	require.NotEmpty(t, list)
	for _, a := range list {
		var one struct{ Total float64 }
		c.get(fmt.Sprintf("/api/assessments/%d", a.ID), &one)
		assert.InDelta(t, one.Total, a.Points, 0.001, a.Title)
	}
}
