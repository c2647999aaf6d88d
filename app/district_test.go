package app_test

import (
	"bytes"
	"context"
	"os"
	"path/filepath"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"pineledger/app"
	"pineledger/app/read"
	"pineledger/core/roster"
	"pineledger/demo"
	"pineledger/store"
	"pineledger/store/officerows"
)

// district is the demo at a small size: enough students for sums to mean something.
type district struct {
	*testing.T
	ctx   context.Context
	app   *app.App
	store *store.Store
	head  roster.Viewer
	given int64 // the distribution of the fall benchmark
}

// made is the one district that all tests of this file read; it takes a second
// or two to make. None of them changes what another looks at.
var made = sync.OnceValues(func() (*store.Store, error) {
	dir, err := os.MkdirTemp("", "pineledger-district-")
	if err != nil {
		return nil, err
	}
	madeDir = dir
	s, err := store.Open(context.Background(), dir)
	if err != nil {
		return nil, err
	}
	return s, demo.Generate(context.Background(), s, madeSecret, dir, demo.Options{Students: 500, Seed: 5, Now: madeAt})
})

var (
	madeDir    string
	madeSecret = bytes.Repeat([]byte{3}, 32)
	madeAt     = time.Date(2026, 11, 18, 18, 0, 0, 0, time.UTC)
)

func TestMain(m *testing.M) {
	code := m.Run()
	if madeDir != "" {
		if s, err := made(); err == nil {
			s.Close()
		}
		os.RemoveAll(madeDir)
	}
	os.Exit(code)
}

func newDistrict(t *testing.T) *district {
	t.Helper()
	d := &district{T: t, ctx: context.Background(), head: roster.Viewer{PersonID: 1, Name: "Head", Posts: []roster.Post{{Role: roster.DistrictCoordinator}}}}
	var err error
	d.store, err = made()
	require.NoError(t, err)
	d.open()
	return d
}

// newDistrictToChange is a copy of the district that a test may write to.
func newDistrictToChange(t *testing.T) *district {
	t.Helper()
	d := newDistrict(t)
	dir := t.TempDir()
	_, err := d.store.Unguarded().Exec("VACUUM INTO ?", filepath.Join(dir, store.DatabaseFile))
	require.NoError(t, err)
	d.store, err = store.Open(d.ctx, dir)
	require.NoError(t, err)
	t.Cleanup(func() { assert.NoError(t, d.store.Close()) })
	d.open()
	require.NoError(t, d.app.Record.PutAnchor(d.ctx))
	return d
}

func (d *district) open() {
	d.Helper()
	var err error
	t := d.T
	d.app, err = app.New(d.ctx, app.Config{Store: d.store, Secret: madeSecret, Now: func() time.Time { return madeAt }})
	require.NoError(t, err)
	results, err := d.app.Read.Results(d.ctx, d.head)
	require.NoError(t, err)
	for _, r := range results {
		if r.Title == "Grade 6 mathematics, fall benchmark" {
			d.given = r.DistributionID
		}
	}
	require.NotZero(t, d.given)
}

func (d *district) matrix(v roster.Viewer, q read.MatrixQuery) read.Matrix {
	d.Helper()
	m, err := d.app.Read.Matrix(d.ctx, v, d.given, q)
	require.NoError(d, err)
	return m
}

func (d *district) someone(role roster.Role, fits func(roster.Viewer) bool) roster.Viewer {
	d.Helper()
	people, err := officerows.PeopleToTry(d.ctx, d.store.Reader, role, 500)
	require.NoError(d, err)
	for _, p := range people {
		v, err := d.app.Viewer(d.ctx, p.ID)
		require.NoError(d, err)
		if fits(v) {
			return v
		}
	}
	d.Fatalf("no %s fits", role)
	return roster.Viewer{}
}
