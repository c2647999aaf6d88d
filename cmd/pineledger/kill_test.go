package main

import (
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"net/http"
	"net/http/cookiejar"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"sync"
	"sync/atomic"
	"syscall"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"pineledger/app/office"
	"pineledger/demo"
	"pineledger/store"
	"pineledger/store/takerows"
)

// An answer is acknowledged when it is on disk: the server is killed (SIGKILL) in
// the middle of 200 students' saves, and every acknowledged answer must be there
// when the database is opened again.
func TestAKilledServerLosesNoAcknowledgedAnswer(t *testing.T) {
	if testing.Short() {
		t.Skip("builds and runs the program")
	}
	const students, lines = 200, 20
	ctx := context.Background()
	dir := t.TempDir()
	bin, err := built()
	require.NoError(t, err)

	secret, err := office.LoadSecret(dir)
	require.NoError(t, err)
	s, err := store.Open(ctx, dir)
	require.NoError(t, err)
	attempts, err := demo.Hall(ctx, s, secret, t.TempDir(), students, lines)
	require.NoError(t, err)
	require.Len(t, attempts, students)
	require.NoError(t, s.Close())
	require.NoError(t, os.WriteFile(filepath.Join(dir, "demo-made"), nil, 0o600))

	server, base := start(t, bin, dir)
	clients := map[int64]*http.Client{}
	for person := range attempts {
		clients[person] = signIn(t, base, person)
	}

	var acknowledged sync.Map // "attempt line" → highest number acknowledged
	var count atomic.Int64
	var wait sync.WaitGroup
	killed := make(chan struct{})
	for person, attempt := range attempts {
		wait.Go(func() {
			for number := int64(1); ; number++ {
				select {
				case <-killed:
					return
				default:
				}
				line := number%lines + 1
				if !save(clients[person], base, attempt, line, number) {
					continue // not acknowledged: may be there or not
				}
				count.Add(1)
				acknowledged.Store(fmt.Sprint(attempt, " ", line), number)
			}
		})
	}
	require.Eventually(t, func() bool { return count.Load() > 10_000 }, 30*time.Second, time.Millisecond)
	require.NoError(t, server.Process.Signal(syscall.SIGKILL))
	close(killed)
	wait.Wait()
	require.Error(t, server.Wait())

	s, err = store.Open(ctx, dir)
	require.NoError(t, err)
	defer s.Close()
	checked := 0
	for _, attempt := range attempts {
		kept, err := takerows.Answers(ctx, s.Reader, attempt)
		require.NoError(t, err)
		numbers := map[int]int64{}
		for _, a := range kept {
			numbers[a.Line] = a.Number
		}
		for line := 1; line <= lines; line++ {
			if number, ok := acknowledged.Load(fmt.Sprint(attempt, " ", line)); ok {
				checked++
				require.GreaterOrEqual(t, numbers[line], number.(int64), "attempt %d line %d", attempt, line)
			}
		}
	}
	assert.Greater(t, checked, students)
	t.Logf("%d answers acknowledged before the kill, %d newest ones found again", count.Load(), checked)
}

// start runs the server on a free port.
func start(t *testing.T, bin, dir string) (*exec.Cmd, string) {
	t.Helper()
	server := exec.Command(bin, "demo", "--data", dir, "--address", "127.0.0.1:0")
	var out lockedBuffer
	server.Stdout, server.Stderr = &out, &out
	require.NoError(t, server.Start())
	t.Cleanup(func() { _ = server.Process.Kill() })
	address := regexp.MustCompile(`http://[0-9.:]+`)
	var base string
	require.Eventually(t, func() bool {
		base = address.FindString(out.String())
		return base != ""
	}, 15*time.Second, 10*time.Millisecond, out.String())
	return server, base
}

type lockedBuffer struct {
	mu  sync.Mutex
	buf bytes.Buffer
}

func (b *lockedBuffer) Write(p []byte) (int, error) {
	b.mu.Lock()
	defer b.mu.Unlock()
	return b.buf.Write(p)
}

func (b *lockedBuffer) String() string {
	b.mu.Lock()
	defer b.mu.Unlock()
	return b.buf.String()
}

func signIn(t *testing.T, base string, person int64) *http.Client {
	t.Helper()
	jar, err := cookiejar.New(nil)
	require.NoError(t, err)
	client := &http.Client{Jar: jar, Timeout: 10 * time.Second}
	body, err := json.Marshal(map[string]int64{"personId": person})
	require.NoError(t, err)
	res, err := client.Post(base+"/api/demo/session", "application/json", bytes.NewReader(body))
	require.NoError(t, err)
	require.NoError(t, res.Body.Close())
	require.Equal(t, http.StatusOK, res.StatusCode)
	return client
}

// save gives whether the server acknowledged.
func save(client *http.Client, base string, attempt, line, number int64) bool {
	body := fmt.Sprintf(`{"answers":[{"line":%d,"number":%d,"response":{},"marked":true}]}`, line, number)
	req, err := http.NewRequest(http.MethodPut, fmt.Sprintf("%s/api/my/attempts/%d/answers", base, attempt), bytes.NewReader([]byte(body)))
	if err != nil {
		return false
	}
	req.Header.Set("Content-Type", "application/json")
	res, err := client.Do(req)
	if err != nil {
		return false
	}
	defer res.Body.Close()
	return res.StatusCode == http.StatusOK
}
