package app_test

import (
	"context"
	"net"
	"net/http/httptest"
	"os"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"pineledger/app/desk"
	"pineledger/run/post"
	"pineledger/standin/mailbox"
)

// mailed lets the world mail people through a mailbox that takes mail while it is open, and shows what came.
type mailed struct {
	*world
	folder  string
	address string
}

func (m mailed) open() (closed func()) {
	m.Helper()
	box, err := mailbox.Open(m.folder)
	require.NoError(m, err)
	listener, err := net.Listen("tcp", m.address)
	require.NoError(m, err)
	ctx, cancel := context.WithCancel(m.ctx)
	ended := make(chan error, 1)
	go func() { ended <- box.Serve(ctx, listener) }()
	return func() {
		cancel()
		assert.NoError(m, <-ended)
	}
}

// page is what the mailbox shows of the mail to somebody.
func (m mailed) page(to string) string {
	m.Helper()
	box, err := mailbox.Open(m.folder)
	require.NoError(m, err)
	shown := httptest.NewRecorder()
	box.Pages().ServeHTTP(shown, httptest.NewRequest("GET", "/?to="+to, nil))
	return shown.Body.String()
}

func withMail(w *world) mailed {
	w.Helper()
	free, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(w, err)
	m := mailed{w, w.TempDir(), free.Addr().String()}
	require.NoError(w, free.Close())
	w.app.Mail, err = post.New("smtp://"+m.address, "ledger@district.example", "Pine Ledger")
	require.NoError(w, err)
	w.app.MailLinks = "https://ledger.example"
	return m
}

func (m mailed) deliver() int {
	m.Helper()
	n, err := m.app.Office.Deliver(m.ctx)
	require.NoError(m, err)
	return n
}

func TestWhoIsToldOnTodayIsMailedToo(t *testing.T) {
	m := withMail(newWorld(t))
	s := m.sent()
	closed := m.open()
	defer closed()
	n := m.deliver()
	assert.Positive(t, n)
	assert.Zero(t, m.deliver(), "once")
	var email string
	require.NoError(t, m.store.Get(m.ctx, &email, "SELECT email FROM person WHERE id = ?", m.teacher.PersonID))
	page := m.page(email)
	assert.Contains(t, page, s.Assessment.Title+": sent out")
	assert.Contains(t, page, "https://ledger.example/rooms/")
	assert.Equal(t, 1, strings.Count(page, "<article>"))
	files, err := os.ReadDir(m.folder)
	require.NoError(t, err)
	assert.Len(t, files, n, "a letter for each")
}

func TestMailWaitsForAServerThatIsAway(t *testing.T) {
	m := withMail(newWorld(t))
	m.sent()
	assert.Zero(t, m.deliver())
	standing, err := m.app.Office.MailStanding(m.ctx, m.coordinator)
	require.NoError(t, err)
	assert.Positive(t, standing.Waiting)
	assert.NotEmpty(t, standing.Why)
	_, err = m.app.Office.MailStanding(m.ctx, m.teacher)
	assert.ErrorIs(t, err, desk.ErrForbidden)

	closed := m.open()
	defer closed()
	assert.Zero(t, m.deliver(), "not before its time")
	m.now = m.now.Add(time.Minute)
	assert.Equal(t, standing.Waiting, m.deliver())
	standing, err = m.app.Office.MailStanding(m.ctx, m.coordinator)
	require.NoError(t, err)
	assert.Zero(t, standing.Waiting+standing.Failed)
}

func TestMailIsGivenUpAndTriedAgain(t *testing.T) {
	m := withMail(newWorld(t))
	m.sent()
	for range 20 {
		assert.Zero(t, m.deliver())
		m.now = m.now.Add(30 * time.Minute)
	}
	standing, err := m.app.Office.MailStanding(m.ctx, m.coordinator)
	require.NoError(t, err)
	assert.Positive(t, standing.Failed)
	closed := m.open()
	defer closed()
	assert.Zero(t, m.deliver(), "it is not tried for ever")
	assert.ErrorIs(t, m.app.Office.RetryMail(m.ctx, m.principal), desk.ErrForbidden)
	require.NoError(t, m.app.Office.RetryMail(m.ctx, m.coordinator))
	assert.Equal(t, standing.Failed, m.deliver())
}

func TestNobodyIsMailedWhatWasRecalledBefore(t *testing.T) {
	m := withMail(newWorld(t))
	s := m.sent()
	sent, err := m.app.Give.Sent(m.ctx, m.coordinator, s.Assessment.ID)
	require.NoError(t, err)
	require.NoError(t, m.app.Give.Recall(m.ctx, m.coordinator, sent[0].Distribution.ID, sent[0].Distribution.Version))
	closed := m.open()
	defer closed()
	m.deliver()
	files, err := os.ReadDir(m.folder)
	require.NoError(t, err)
	for _, f := range files {
		data, err := os.ReadFile(m.folder + "/" + f.Name())
		require.NoError(t, err)
		assert.NotContains(t, string(data), "sent out")
	}
	assert.NotEmpty(t, files, "that it was recalled is told")
}
