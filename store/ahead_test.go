package store_test

import (
	"encoding/binary"
	"fmt"
	"hash/crc32"
	"os"
	"path/filepath"
	"slices"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"pineledger/core/item"
	"pineledger/store"
	"pineledger/store/takerows"
)

// numbers are the answers of an attempt as they are read: line → number.
func numbers(t *testing.T, s *store.Store, attempt int64) map[int]int64 {
	t.Helper()
	answers, err := s.Answers(t.Context(), attempt)
	require.NoError(t, err)
	out := map[int]int64{}
	for _, a := range answers {
		out[a.Line] = a.Number
	}
	return out
}

func answer(line int, number int64) []takerows.Answer { return answering(line, number, "A") }

func answering(line int, number int64, value string) []takerows.Answer {
	a := takerows.Answer{Line: line, Number: number}
	a.Response.V = item.Response{"RESPONSE": {value}}
	return []takerows.Answer{a}
}

// busy holds the writer as an import does, until the test lets it go.
func busy(t *testing.T, s *store.Store) (letGo func()) {
	t.Helper()
	began, goOn, ended := make(chan struct{}), make(chan struct{}), make(chan error)
	go func() {
		ended <- s.Write(t.Context(), func(*store.Tx) error {
			close(began)
			<-goOn
			return nil
		})
	}()
	<-began
	return sync.OnceFunc(func() {
		close(goOn)
		require.NoError(t, <-ended)
	})
}

func TestAnswersDoNotWaitForALongTransaction(t *testing.T) {
	dir := t.TempDir()
	s, attempts := roomIn(t, dir, 3)
	require.NoError(t, s.SaveAnswers(t.Context(), attempts[0], 1, answer(1, 1)))
	letGo := busy(t, s)
	began := time.Now()
	require.NoError(t, s.SaveAnswers(t.Context(), attempts[0], 2, answer(1, 5)))
	require.NoError(t, s.SaveAnswers(t.Context(), attempts[0], 3, answer(2, 6)))
	require.NoError(t, s.SaveAnswers(t.Context(), attempts[1], 3, answer(1, 7)))
	assert.Less(t, time.Since(began), 5*time.Second)
	assert.Equal(t, map[int]int64{1: 5, 2: 6}, numbers(t, s, attempts[0]), "they are read before they are in the database")
	kept, err := takerows.Answers(t.Context(), s.Reader, attempts[0])
	require.NoError(t, err)
	require.Len(t, kept, 1)
	assert.EqualValues(t, 1, kept[0].Number)

	// A program that is killed now has them on disk.
	killed := t.TempDir()
	for _, name := range []string{store.DatabaseFile, store.DatabaseFile + "-wal", store.AheadFile} {
		data, err := os.ReadFile(filepath.Join(dir, name))
		require.NoError(t, err)
		require.NoError(t, os.WriteFile(filepath.Join(killed, name), data, 0o600))
	}
	again, err := store.Open(t.Context(), killed)
	require.NoError(t, err)
	assert.Equal(t, map[int]int64{1: 5, 2: 6}, numbers(t, again, attempts[0]))
	assert.Equal(t, map[int]int64{1: 7}, numbers(t, again, attempts[1]))
	require.NoError(t, again.Close())

	// The next who writes takes them over first, whatever it writes.
	letGo()
	require.NoError(t, s.WriteTogether(t.Context(), func(tx *store.Tx) error {
		kept, err := takerows.Answers(t.Context(), tx.Reader, attempts[0])
		assert.Len(t, kept, 2)
		return err
	}))
	left, err := os.Stat(filepath.Join(dir, store.AheadFile))
	require.NoError(t, err)
	assert.Zero(t, left.Size())
	require.NoError(t, s.SaveAnswers(t.Context(), attempts[0], 4, answer(2, 3)))
	assert.Equal(t, map[int]int64{1: 5, 2: 6}, numbers(t, s, attempts[0]), "an older one changes nothing")
	require.NoError(t, s.Close())
}

func TestAnEntryThatWasNotOnDiskWholeIsLeftOut(t *testing.T) {
	dir := t.TempDir()
	s, attempts := roomIn(t, dir, 1)
	letGo := busy(t, s)
	require.NoError(t, s.SaveAnswers(t.Context(), attempts[0], 2, answer(1, 5)))
	require.NoError(t, s.SaveAnswers(t.Context(), attempts[0], 3, answer(2, 6)))
	whole, err := os.ReadFile(filepath.Join(dir, store.AheadFile))
	require.NoError(t, err)
	letGo()
	require.NoError(t, s.Close())
	changed := slices.Clone(whole)
	changed[len(changed)-1] = '!'
	for name, c := range map[string]struct {
		file []byte
		want map[int]int64
	}{
		"whole":   {whole, map[int]int64{1: 5, 2: 6}},
		"cut":     {whole[:len(whole)-3], map[int]int64{1: 5}},
		"changed": {changed, map[int]int64{1: 5}},
		"a head":  {whole[:5], map[int]int64{}},
		"nothing": {nil, map[int]int64{}},
	} {
		other := t.TempDir()
		fresh, again := roomIn(t, other, 1)
		require.Equal(t, attempts, again)
		require.NoError(t, fresh.Close())
		require.NoError(t, os.WriteFile(filepath.Join(other, store.AheadFile), c.file, 0o600))
		opened, err := store.Open(t.Context(), other)
		require.NoError(t, err, name)
		assert.Equal(t, c.want, numbers(t, opened, again[0]), name)
		require.NoError(t, opened.Close())
	}
}

// A file that was left beside another database is neither lost nor taken for its own.
func TestAnswersOfAnotherDatabaseAreNamedAndKept(t *testing.T) {
	dir := t.TempDir()
	s, attempts := roomIn(t, dir, 1)
	letGo := busy(t, s)
	require.NoError(t, s.SaveAnswers(t.Context(), attempts[0], 2, answer(1, 5)))
	file, err := os.ReadFile(filepath.Join(dir, store.AheadFile))
	require.NoError(t, err)
	letGo()
	require.NoError(t, s.Close())

	other := t.TempDir()
	require.NoError(t, os.WriteFile(filepath.Join(other, store.AheadFile), file, 0o600))
	_, err = store.Open(t.Context(), other)
	require.ErrorContains(t, err, store.AheadFile)
	assert.ErrorContains(t, err, "does the file belong to this database?")
	left, err := os.ReadFile(filepath.Join(other, store.AheadFile))
	require.NoError(t, err)
	assert.Equal(t, file, left)
}

// A file that the release before left is read: its answers are somebody's work.
func TestAnswersOfAnOlderReleaseAreTakenOver(t *testing.T) {
	dir := t.TempDir()
	s, attempts := roomIn(t, dir, 1)
	require.NoError(t, s.Close())
	body := fmt.Appendf(nil, `{"attempt":%d,"at":7,"answers":[{"Line":2,"Number":5,"Response":"{\"RESPONSE\":[\"B\"]}","Marked":true}]}`, attempts[0])
	file := binary.BigEndian.AppendUint32(nil, uint32(len(body)))
	file = binary.BigEndian.AppendUint32(file, crc32.ChecksumIEEE(body))
	require.NoError(t, os.WriteFile(filepath.Join(dir, store.AheadFile), append(file, body...), 0o600))

	again, err := store.Open(t.Context(), dir)
	require.NoError(t, err)
	answers, err := again.Answers(t.Context(), attempts[0])
	require.NoError(t, err)
	want := takerows.SavedAnswer{Answer: answering(2, 5, "B")[0], SavedAt: 7}
	want.Marked = true
	assert.Equal(t, []takerows.SavedAnswer{want}, answers)
	letGo := busy(t, again)
	require.NoError(t, again.SaveAnswers(t.Context(), attempts[0], 7, []takerows.Answer{want.Answer}))
	now, err := os.ReadFile(filepath.Join(dir, store.AheadFile))
	require.NoError(t, err)
	assert.Equal(t, string(body), string(now[8:]), "and written alike")
	letGo()
	require.NoError(t, again.Close())
}

// Whoever saves, imports and hands in at once: nothing that was acknowledged is lost.
func TestNothingAcknowledgedIsLostAroundLongTransactions(t *testing.T) {
	s, attempts := room(t, 8)
	stop := make(chan struct{})
	var all sync.WaitGroup
	all.Go(func() {
		for {
			select {
			case <-stop:
				return
			default:
			}
			assert.NoError(t, s.Write(t.Context(), func(*store.Tx) error { time.Sleep(60 * time.Millisecond); return nil }))
		}
	})
	var savers sync.WaitGroup
	last := make([]int64, len(attempts))
	for i, attempt := range attempts {
		savers.Go(func() {
			for number := int64(1); number <= 60; number++ {
				if assert.NoError(t, s.SaveAnswers(t.Context(), attempt, number, answer(1+int(number)%4, number)), fmt.Sprint(attempt)) {
					last[i] = number
				}
			}
		})
	}
	savers.Wait()
	close(stop)
	all.Wait()
	for i, attempt := range attempts {
		assert.Equal(t, map[int]int64{1: last[i], 2: last[i] - 3, 3: last[i] - 2, 4: last[i] - 1}, numbers(t, s, attempt))
	}
}
