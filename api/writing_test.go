package api_test

import (
	"archive/zip"
	"bytes"
	"encoding/json"
	"fmt"
	"io"
	"net/http"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"pineledger/core/roster"
)

// draftOf is a draft of somebody's.
func (s *served) draftOf(c *client) int64 {
	s.Helper()
	status, body := c.do(http.MethodPost, "/api/item-drafts", `{"kind":"single-choice"}`)
	require.Equal(s, http.StatusOK, status, body)
	var d struct{ ID int64 }
	require.NoError(s, json.Unmarshal([]byte(body), &d))
	return d.ID
}

// fetch gives an answer whole, with its head.
func (c *client) fetch(t *testing.T, path string) (*http.Response, []byte) {
	t.Helper()
	res, err := c.http.Get(c.base + path)
	require.NoError(t, err)
	defer res.Body.Close()
	data, err := io.ReadAll(res.Body)
	require.NoError(t, err)
	return res, data
}

func TestAPictureIsServedToWhoIsSignedIn(t *testing.T) {
	s := serve(t, true)
	coordinator := s.as(roster.DistrictCoordinator, 0)
	status, body := coordinator.do(http.MethodPost, "/api/media?file=pier.svg", `<svg width="40" height="30" onload="x()"><circle r="4"/></svg>`, "Content-Type", "application/octet-stream")
	require.Equal(t, http.StatusOK, status, body)
	var m struct {
		Source, Type  string
		Width, Height int
	}
	require.NoError(t, json.Unmarshal([]byte(body), &m))
	assert.Equal(t, []any{"image/svg+xml", 40, 30}, []any{m.Type, m.Width, m.Height})

	res, data := s.as(roster.Student, 0).fetch(t, m.Source)
	assert.Equal(t, http.StatusOK, res.StatusCode)
	assert.Equal(t, "image/svg+xml", res.Header.Get("Content-Type"))
	assert.Equal(t, "default-src 'none'; sandbox", res.Header.Get("Content-Security-Policy"))
	assert.NotContains(t, string(data), "onload")
	res, _ = s.client().fetch(t, m.Source)
	assert.Equal(t, http.StatusUnauthorized, res.StatusCode)
	for _, other := range []string{"/media/" + strings.Repeat("0", 64), "/media/x", "/media/../api/items"} {
		res, _ = coordinator.fetch(t, other)
		assert.NotEqual(t, http.StatusOK, res.StatusCode, other)
	}
	status, body = coordinator.do(http.MethodPost, "/api/media?file=x.txt", "hello", "Content-Type", "application/octet-stream")
	assert.Equal(t, http.StatusUnprocessableEntity, status)
	assert.Contains(t, body, "x.txt is text, not a drawing")
}

func TestADraftIsKeptAsItIsTyped(t *testing.T) {
	s := serve(t, true)
	c := s.as(roster.DistrictCoordinator, 0)
	id := s.draftOf(c)
	path := fmt.Sprintf("/api/item-drafts/%d", id)
	const meta = `"meta":{"identifier":"","bank":"Tamarack Bay district bank","subject":"science","grade":"05","standards":["S5.EW.1"],"depth":1,"difficulty":"","language":"en","tags":[],"passage":0}`
	typed := `{"document":{"kind":"single-choice","credit":"all-or-nothing","body":[{"html":"<p onclick='x()'>Which?</p>"},{"interaction":{"response":"RESPONSE","maxChoices":1,"choices":[{"id":"A","html":"a"},{"id":"B","html":"b","pinned":true}]}}],"declarations":[{"response":"RESPONSE","correct":["B"]}]},` + meta + `}`
	status, body := c.do(http.MethodPut, path, typed, "If-Match", "1")
	require.Equal(t, http.StatusOK, status, body)
	var d struct {
		Version  int64
		Key      string
		Problems []any
		Credits  map[string][]string
		Keys     map[string]struct{ Correct []string }
		Shown    json.RawMessage
	}
	require.NoError(t, json.Unmarshal([]byte(body), &d))
	assert.Equal(t, []any{int64(2), "B", 0}, []any{d.Version, d.Key, len(d.Problems)})
	assert.Contains(t, d.Credits["order"], "longest-run")
	assert.Equal(t, []string{"B"}, d.Keys["RESPONSE"].Correct)
	assert.NotContains(t, string(d.Shown), "onclick")

	status, _ = c.do(http.MethodPut, path, typed, "If-Match", "1")
	assert.Equal(t, http.StatusConflict, status, "another tab has typed meanwhile")
	for bad, want := range map[string]string{
		strings.Replace(typed, `"maxChoices":1`, `"maxChoices":-1`, 1):              "maxChoices",
		strings.Replace(typed, `"kind":"single-choice"`, `"kind":"x","key":"B"`, 1): "key",
	} {
		status, body = c.do(http.MethodPut, path, bad, "If-Match", "2")
		assert.Equal(t, http.StatusUnprocessableEntity, status, body)
		assert.Contains(t, body, want)
	}
	status, body = c.do(http.MethodPost, path+"/keep", "", "If-Match", "2")
	require.Equal(t, http.StatusOK, status, body)
}

func TestWhatASearchFindsGoesOutAsAPackage(t *testing.T) {
	s := serve(t, true)
	res, data := s.as(roster.DistrictCoordinator, 0).fetch(t, "/api/item-package.zip?kind=order&subject=science")
	require.Equal(t, http.StatusOK, res.StatusCode)
	assert.Equal(t, "application/zip", res.Header.Get("Content-Type"))
	z, err := zip.NewReader(bytes.NewReader(data), int64(len(data)))
	require.NoError(t, err)
	items := 0
	for _, f := range z.File {
		if strings.HasPrefix(f.Name, "items/") {
			items++
		}
	}
	assert.Positive(t, items)
	assert.True(t, slices.ContainsFunc(z.File, func(f *zip.File) bool { return f.Name == "imsmanifest.xml" }))
}
