package store_test

import (
	"context"
	"errors"
	"fmt"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"pineledger/store"
)

func TestOfWritesThatShareACommitEachIsAllOrNothing(t *testing.T) {
	s, ctx := open(t), t.Context()
	add := func(tx *store.Tx, name string) error {
		return tx.Exec(ctx, "INSERT INTO bank (name, kind) VALUES (?, 'group')", name)
	}
	var all sync.WaitGroup
	wrong := errors.New("the second half went wrong")
	for i := range 200 {
		all.Go(func() {
			err := s.WriteTogether(ctx, func(tx *store.Tx) error {
				if err := add(tx, fmt.Sprint("bank ", i)); err != nil {
					return err
				}
				switch i % 4 {
				case 1:
					return wrong
				case 2:
					panic("a fault in one of them")
				case 3:
					return add(tx, fmt.Sprint("bank ", i, ", too"))
				}
				return nil
			})
			switch i % 4 {
			case 1:
				assert.ErrorIs(t, err, wrong)
			case 2:
				assert.ErrorContains(t, err, "a fault in one of them")
			default:
				assert.NoError(t, err)
			}
		})
	}
	all.Wait()
	var n int
	require.NoError(t, s.Get(ctx, &n, "SELECT COUNT(*) FROM bank WHERE name LIKE 'bank %'"))
	assert.Equal(t, 150, n, "fifty with one, fifty with two")

	gone, leave := context.WithCancel(ctx)
	leave()
	assert.ErrorIs(t, s.WriteTogether(gone, func(tx *store.Tx) error { return add(tx, "of nobody") }), context.Canceled)
}

func TestWhatComesWhenTheStoreIsClosedIsRefused(t *testing.T) {
	s, err := store.Open(t.Context(), t.TempDir())
	require.NoError(t, err)
	require.NoError(t, s.Close())
	assert.Error(t, s.WriteTogether(t.Context(), func(*store.Tx) error { return nil }))
}

func TestSessionsAreKeptUntilTheyExpire(t *testing.T) {
	s := open(t)
	sessions := s.Sessions(func(err error) { t.Error(err) })
	soon := func() { // what came before is written by then
		require.NoError(t, s.WriteTogether(t.Context(), func(*store.Tx) error { return nil }))
	}
	require.NoError(t, sessions.Commit("a", []byte("Mei"), time.Now().Add(time.Hour)))
	require.NoError(t, sessions.Commit("b", []byte("Hugo"), time.Now().Add(-time.Second)))
	soon()
	data, found, err := sessions.Find("a")
	require.NoError(t, err)
	assert.True(t, found)
	assert.Equal(t, "Mei", string(data))
	_, found, err = sessions.Find("b")
	require.NoError(t, err)
	assert.False(t, found, "it is over")
	require.NoError(t, sessions.Commit("a", []byte("Petr"), time.Now().Add(time.Hour)))
	soon()
	var n int
	require.NoError(t, s.Get(t.Context(), &n, "SELECT COUNT(*) FROM sessions"))
	assert.Equal(t, 1, n, "what is over was dropped")
	data, _, err = sessions.Find("a")
	require.NoError(t, err)
	assert.Equal(t, "Petr", string(data))
	require.NoError(t, sessions.Delete("a"))
	soon()
	_, found, err = sessions.Find("a")
	require.NoError(t, err)
	assert.False(t, found)
}
