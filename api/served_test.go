package api_test

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"log/slog"
	"net/http"
	"net/http/cookiejar"
	"net/http/httptest"
	"os"
	"path/filepath"
	"strings"
	"sync"
	"testing"
	"testing/fstest"
	"time"

	"github.com/stretchr/testify/require"

	"pineledger/api"
	"pineledger/app"
	"pineledger/core/roster"
	"pineledger/demo"
	"pineledger/store"
	"pineledger/store/officerows"
)

// served is the demo district behind a real HTTP server.
type served struct {
	*testing.T
	base  string
	store *store.Store
}

var page = fstest.MapFS{
	"index.html":    {Data: []byte(`<meta name="csp-nonce" content="{{nonce}}">`)},
	"assets/app.js": {Data: []byte("js")},
}

var secret = bytes.Repeat([]byte{9}, 32)

// district is the demo, made once; each test works on a copy of its own.
var district = sync.OnceValues(func() ([]byte, error) {
	ctx := context.Background()
	dir, err := os.MkdirTemp("", "pineledger-api")
	if err != nil {
		return nil, err
	}
	defer os.RemoveAll(dir)
	s, err := store.Open(ctx, dir)
	if err != nil {
		return nil, err
	}
	err = demo.Generate(ctx, s, secret, dir, demo.Options{Students: 300, Seed: 1, Now: time.Now().UTC()})
	if err = errors.Join(err, s.Close()); err != nil {
		return nil, err
	}
	return os.ReadFile(filepath.Join(dir, "pineledger.db"))
})

// serve runs beside other tests.
func serve(t *testing.T, isDemo bool) *served {
	t.Helper()
	return serveAs(t, func(c *api.Config) { c.Demo = isDemo })
}

// serveAs serves with more than the usual settings.
func serveAs(t *testing.T, set func(*api.Config)) *served {
	t.Helper()
	t.Parallel()
	ctx := context.Background()
	made, err := district()
	require.NoError(t, err)
	dir := t.TempDir()
	require.NoError(t, os.WriteFile(filepath.Join(dir, "pineledger.db"), made, 0o600))
	s, err := store.Open(ctx, dir)
	require.NoError(t, err)
	a, err := app.New(ctx, app.Config{Store: s, Secret: secret})
	require.NoError(t, err)
	config := api.Config{App: a, Sessions: s.Sessions(func(err error) { t.Error(err) }), Web: page, Log: slog.New(slog.DiscardHandler)}
	set(&config)
	server, err := api.New(config)
	require.NoError(t, err)
	web := httptest.NewServer(server.Handler())
	t.Cleanup(func() {
		web.Close()
		a.Close()
		require.NoError(t, s.Close())
	})
	return &served{t, web.URL, s}
}

// client is somebody's browser.
type client struct {
	*served
	http *http.Client
}

func (s *served) client() *client {
	jar, err := cookiejar.New(nil)
	require.NoError(s, err)
	return &client{s, &http.Client{Jar: jar}}
}

func (s *served) as(role roster.Role, nth int) *client {
	s.Helper()
	people, err := officerows.PeopleToTry(context.Background(), s.store.Reader, role, nth+1)
	require.NoError(s, err)
	return s.person(people[nth].ID)
}

func (s *served) person(id int64) *client {
	s.Helper()
	c := s.client()
	status, body := c.do(http.MethodPost, "/api/demo/session", fmt.Sprintf(`{"personId":%d}`, id))
	require.Equal(s, http.StatusOK, status, body)
	return c
}

func (c *client) do(method, path, body string, headers ...string) (int, string) {
	c.Helper()
	req, err := http.NewRequest(method, c.base+path, strings.NewReader(body))
	require.NoError(c, err)
	if body != "" {
		req.Header.Set("Content-Type", "application/json")
	}
	for i := 0; i+1 < len(headers); i += 2 {
		req.Header.Set(headers[i], headers[i+1])
	}
	res, err := c.http.Do(req)
	require.NoError(c, err)
	defer res.Body.Close()
	data, err := io.ReadAll(res.Body)
	require.NoError(c, err)
	return res.StatusCode, string(data)
}

func (c *client) get(path string, into any) {
	c.Helper()
	status, body := c.do(http.MethodGet, path, "")
	require.Equal(c, http.StatusOK, status, body)
	require.NoError(c, json.Unmarshal([]byte(body), into))
}
