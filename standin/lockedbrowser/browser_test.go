package lockedbrowser_test

import (
	"errors"
	"io"
	"net/http"
	"net/http/httptest"
	"net/url"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"pineledger/standin/lockedbrowser"
)

func TestWhatGoesThroughCarriesTheDistrictsWord(t *testing.T) {
	server := httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		_, err := io.WriteString(w, r.URL.Path+" "+r.Header.Get("X-Device"))
		assert.NoError(t, err)
	}))
	defer server.Close()
	at, err := url.Parse(server.URL)
	require.NoError(t, err)
	var failure error
	browser := httptest.NewServer(lockedbrowser.New(lockedbrowser.Config{Server: at, Header: "X-Device", Device: "Cart 3 <b>", Sign: func() (string, error) { return "signed", failure }}))
	defer browser.Close()
	get := func(path string) string {
		r, err := http.NewRequestWithContext(t.Context(), http.MethodGet, browser.URL+path, nil)
		require.NoError(t, err)
		r.Header.Set("X-Device", "made up")
		answer, err := http.DefaultClient.Do(r)
		require.NoError(t, err)
		defer answer.Body.Close()
		body, err := io.ReadAll(answer.Body)
		require.NoError(t, err)
		return string(body)
	}
	assert.Equal(t, "/api/session signed", get("/api/session"))
	assert.Contains(t, get("/launch"), "Cart 3 &lt;b&gt;")
	failure = errors.New("no secret")
	assert.Equal(t, "/desk ", get("/desk"), "what somebody else says of a device is not passed on")
}
