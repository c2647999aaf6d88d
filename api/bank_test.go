package api_test

import (
	"encoding/json"
	"fmt"
	"net/http"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"pineledger/core/roster"
	"pineledger/store/bankrows"
)

type listed struct {
	ID         int64
	Identifier string
	Standards  []string
	Tags       []struct{ Name, Scope string }
	Held       *struct{ Assessment, Person string }
	Hit        *struct {
		Stem, Passage []struct {
			Text string
			Hit  bool
		}
	}
}

type found struct {
	Items  []listed
	Total  int
	Facets []struct {
		Name   string
		Values []struct {
			Value string
			Count int
		}
	}
	Links []struct{ Code, OtherCode, Kind string }
}

// Words come marked, piece by piece, so that no screen has to trust a text with markup.
func TestASearchOverHTTPMarksItsWords(t *testing.T) {
	s := serve(t, true)
	c := s.as(roster.DistrictCoordinator, 0)
	var p found
	c.get("/api/items?words=grandfather&limit=5", &p)
	require.NotEmpty(t, p.Items)
	hits := 0
	for _, it := range p.Items {
		require.NotNil(t, it.Hit, it.Identifier)
		for _, run := range append(it.Hit.Stem, it.Hit.Passage...) {
			if run.Hit {
				hits++
				assert.Contains(t, strings.ToLower(run.Text), "grandfather")
			}
		}
	}
	assert.GreaterOrEqual(t, hits, len(p.Items))
	names := []string{}
	for _, f := range p.Facets {
		names = append(names, f.Name)
	}
	assert.Equal(t, []string{"subject", "grade", "course", "kind", "ease", "depth", "language", "bank"}, names)
	for query, want := range map[string]int{"sort=sideways": 422, "depth=7": 422, "usedSince=tomorrow": 422, "words=" + strings.Repeat("x", 201): 422, "tag=nothing": 200, "cursor=x": 200} {
		status, body := c.do(http.MethodGet, "/api/items?"+query, "")
		assert.Equal(t, want, status, "%s: %s", query, body)
	}
}

// An item's page, its differences, a hold, a report and a comment, as a screen asks for them.
func TestAnItemsPageOverHTTP(t *testing.T) {
	s := serve(t, true)
	c := s.as(roster.DistrictCoordinator, 0)
	var p found
	c.get("/api/items?words=M6-RR-1a-001", &p)
	id := p.Items[0].ID
	var detail struct {
		Number int
		Owner  string
		Rights []struct {
			Act, Why string
			May      bool
		}
	}
	c.get(fmt.Sprintf("/api/items/%d?version=1", id), &detail)
	assert.Equal(t, 1, detail.Number)
	assert.Equal(t, "Ines Okafor", detail.Owner)
	assert.Len(t, detail.Rights, 9)
	var changes []struct {
		What string
		Text []struct{ Words, In string }
	}
	c.get(fmt.Sprintf("/api/items/%d/changes?from=1&to=2", id), &changes)
	assert.Equal(t, "stem", changes[0].What)
	assert.Equal(t, "after", changes[0].Text[0].In)
	var uses struct {
		Uses []struct {
			Title    string
			Students int
			Worked   *struct {
				N, Difficulty  int
				Discrimination *float64
			}
		}
		Seen []struct {
			Year, Grade string
			Students    int
		}
	}
	c.get(fmt.Sprintf("/api/items/%d/uses", id), &uses)
	require.Len(t, uses.Uses, 5)
	require.NotNil(t, uses.Uses[0].Worked)
	assert.Greater(t, uses.Uses[0].Worked.N, 10)
	assert.NotNil(t, uses.Uses[0].Worked.Discrimination)
	students := 0
	for _, u := range uses.Uses {
		students += u.Students
	}
	assert.Equal(t, students, uses.Seen[0].Students)

	status, body := c.do(http.MethodPost, "/api/item-holds", fmt.Sprintf(`{"items":[%d],"until":"2100-01-31","reason":"x"}`, id))
	require.Equal(t, http.StatusNoContent, status, body)
	c.get("/api/items?words=M6-RR-1a-001", &p)
	require.NotNil(t, p.Items[0].Held)
	assert.Equal(t, "", p.Items[0].Held.Assessment)
	status, body = c.do(http.MethodPost, "/api/item-holds", fmt.Sprintf(`{"items":[%d],"until":"2100-01-31","reason":"x"}`, id))
	assert.Equal(t, http.StatusConflict, status, body)
	status, _ = c.do(http.MethodDelete, fmt.Sprintf("/api/item-holds?items=%d", id), "")
	assert.Equal(t, http.StatusNoContent, status)
	status, body = c.do(http.MethodPost, fmt.Sprintf("/api/items/%d/reports", id), `{"fault":"ugly","words":"x"}`)
	assert.Equal(t, http.StatusUnprocessableEntity, status, body)
	status, body = c.do(http.MethodDelete, fmt.Sprintf("/api/items/%d", id), "")
	assert.Equal(t, http.StatusConflict, status, "a used item stays: %s", body)
}

// What a search finds leaves as the files that come in again; a search through a
// crosswalk says so.
func TestTheBankGoesOutOverHTTP(t *testing.T) {
	s := serve(t, true)
	c := s.as(roster.DistrictCoordinator, 0)
	status, body := c.do(http.MethodGet, "/api/items.csv?kind=true-false", "")
	require.Equal(t, http.StatusOK, status)
	lines := strings.Split(strings.TrimSpace(body), "\n")
	assert.True(t, strings.HasPrefix(lines[0], "identifier,bank,kind,"))
	var p found
	c.get("/api/items?kind=true-false&limit=1", &p)
	assert.Len(t, lines, p.Total+1)
	status, body = c.do(http.MethodGet, "/api/items.xlsx?kind=true-false", "")
	assert.Equal(t, http.StatusOK, status)
	assert.True(t, strings.HasPrefix(body, "PK"), "a workbook is a zip")

	rr, err := bankrows.StandardsByCode(t.Context(), s.store.Reader, []string{"M6.RR.3a"})
	require.NoError(t, err)
	c.get(fmt.Sprintf("/api/items?standard=%d", rr[0].ID), &p)
	require.NotEmpty(t, p.Links)
	assert.Equal(t, []string{"M6.RR.3a", "SB.CM.3", "exactMatchOf"}, []string{p.Links[0].Code, p.Links[0].OtherCode, p.Links[0].Kind})
	through := p.Total
	c.get(fmt.Sprintf("/api/items?unlinked=true&standard=%d", rr[0].ID), &p)
	assert.Less(t, p.Total, through)
}

// Metadata of many items is looked at, changed and undone.
func TestManyItemsAreChangedOverHTTP(t *testing.T) {
	s := serve(t, true)
	c := s.as(roster.DistrictCoordinator, 0)
	var p found
	c.get("/api/items?kind=order&limit=3", &p)
	ids := fmt.Sprintf("[%d,%d,%d]", p.Items[0].ID, p.Items[1].ID, p.Items[2].ID)
	var out struct {
		ID                          int64
		Changed, Unchanged, Refused int
	}
	post := func(apply bool) {
		status, body := c.do(http.MethodPost, "/api/item-changes", fmt.Sprintf(`{"items":%s,"change":{"course":"Harbor"},"apply":%v}`, ids, apply))
		require.Equal(t, http.StatusOK, status, body)
		require.NoError(t, json.Unmarshal([]byte(body), &out))
	}
	post(false)
	assert.Equal(t, []any{int64(0), 3}, []any{out.ID, out.Changed})
	post(true)
	c.get("/api/items?course=Harbor", &p)
	assert.Equal(t, 3, p.Total)
	status, body := c.do(http.MethodDelete, fmt.Sprintf("/api/item-changes/%d", out.ID), "")
	require.Equal(t, http.StatusOK, status, body)
	c.get("/api/items?course=Harbor", &p)
	assert.Zero(t, p.Total)
	status, _ = c.do(http.MethodPost, "/api/item-changes", fmt.Sprintf(`{"items":%s,"change":{"owner":"x"},"apply":true}`, ids))
	assert.Equal(t, http.StatusUnprocessableEntity, status, "the contract knows no such field")
}

// Tags, kept searches, banks and twins answer as the contract says.
func TestTheRestOfTheBankOverHTTP(t *testing.T) {
	s := serve(t, true)
	c := s.as(roster.DistrictCoordinator, 0)
	var tags struct {
		Tags   []struct{ Name, Scope, For string }
		Scopes []struct{ Scope, For string }
	}
	c.get("/api/tags", &tags)
	schoolTag := false
	for _, tag := range tags.Tags {
		schoolTag = schoolTag || tag.Scope == "school" && tag.For == "Quarry Road Middle"
	}
	assert.True(t, schoolTag)
	assert.Equal(t, "person", tags.Scopes[0].Scope)
	var banks []struct {
		Name, Kind, Standing string
		Items                int
	}
	c.get("/api/banks", &banks)
	kinds := []string{}
	for _, b := range banks {
		kinds = append(kinds, b.Kind)
		assert.Positive(t, b.Items, b.Name)
	}
	assert.Equal(t, []string{"district", "school", "group", "given"}, kinds)
	var staff []struct{ Name, Where string }
	c.get("/api/staff?words=quarry", &staff)
	require.NotEmpty(t, staff)
	for _, p := range staff {
		assert.Contains(t, p.Where, "Quarry Road")
	}
	var twins []struct{ Likeness int }
	c.get("/api/items/1/twins", &twins)
	for _, twin := range twins {
		assert.GreaterOrEqual(t, twin.Likeness, 800)
	}
}
