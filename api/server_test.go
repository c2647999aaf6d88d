package api_test

import (
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"io"
	"net"
	"net/http"
	"net/netip"
	"net/url"
	"strings"
	"sync/atomic"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"golang.org/x/sync/errgroup"

	"pineledger/api"
	"pineledger/core/roster"
	"pineledger/demo"
	"pineledger/store"
	"pineledger/store/giverows"
	"pineledger/store/recordrows"
)

// Bodies that are begun and never end take nobody's place: whoever else comes is served
// meanwhile, and each of them is let go in its time.
func TestHalfSentBodiesLockNobodyOut(t *testing.T) {
	s := serveAs(t, func(c *api.Config) { c.Demo, c.BodyTime = true, 500*time.Millisecond })
	host := strings.TrimPrefix(s.base, "http://")
	var ended errgroup.Group
	for range 300 {
		conn, err := net.Dial("tcp", host)
		require.NoError(t, err)
		t.Cleanup(func() { conn.Close() }) // which the server has done before
		_, err = fmt.Fprintf(conn, "POST /api/session HTTP/1.1\r\nHost: %s\r\nContent-Type: application/json\r\nContent-Length: 80\r\n\r\n{\"as\":", host)
		require.NoError(t, err)
		ended.Go(func() error {
			if err := conn.SetReadDeadline(time.Now().Add(time.Minute)); err != nil {
				return err
			}
			answer, err := io.ReadAll(conn)
			if err == nil && !strings.HasPrefix(string(answer), "HTTP/1.1 4") {
				return fmt.Errorf("a body that never came is answered with %q", answer)
			}
			return err
		})
	}
	coordinator := s.as(roster.DistrictCoordinator, 0)
	status, body := coordinator.do(http.MethodGet, "/api/today", "")
	assert.Equal(t, http.StatusOK, status, body)
	require.NoError(t, ended.Wait(), "each is closed by the server")
}

func TestNobodyGetsAnythingWithoutASession(t *testing.T) {
	c := serve(t, false).client()
	for _, path := range []string{"/api/today", "/api/items", "/api/items/1", "/api/tray", "/api/assessments", "/api/assessments/1", "/api/band-sets", "/api/results", "/api/results/1/matrix.csv",
		"/api/schools", "/api/sittings/1", "/api/my/sittings", "/api/imports", "/api/ledger", "/api/frameworks"} {
		status, body := c.do(http.MethodGet, path, "")
		assert.Equal(t, http.StatusUnauthorized, status, path)
		assert.Contains(t, body, "urn:pineledger:problem:signed-out", path)
	}
	status, _ := c.do(http.MethodPost, "/api/demo/session", `{"personId":1}`)
	assert.Equal(t, http.StatusNotFound, status, "outside the demo nobody is picked")
	status, _ = c.do(http.MethodGet, "/api/demo/people", "")
	assert.Equal(t, http.StatusNotFound, status)
	status, _ = c.do(http.MethodGet, "/api/nothing", "")
	assert.Equal(t, http.StatusNotFound, status)
}

// Who signs out is out at once, also while something long is written.
func TestSigningOutWaitsForNobody(t *testing.T) {
	s := serve(t, true)
	c := s.as("district-coordinator", 0)
	began, goOn, ended := make(chan struct{}), make(chan struct{}), make(chan error)
	go func() {
		ended <- s.store.Write(t.Context(), func(*store.Tx) error {
			close(began)
			<-goOn
			return nil
		})
	}()
	<-began
	status, _ := c.do(http.MethodGet, "/api/today", "")
	require.Equal(t, http.StatusOK, status)
	base, err := url.Parse(s.base)
	require.NoError(t, err)
	kept := c.http.Jar.Cookies(base)
	status, _ = c.do(http.MethodDelete, "/api/session", "")
	require.Equal(t, http.StatusNoContent, status)
	c.http.Jar.SetCookies(base, kept) // who has copied the cookie
	status, _ = c.do(http.MethodGet, "/api/today", "")
	assert.Equal(t, http.StatusUnauthorized, status)
	close(goOn)
	require.NoError(t, <-ended)
}

func TestSigningInAndOut(t *testing.T) {
	s := serve(t, false)
	c := s.client()
	status, body := c.do(http.MethodPost, "/api/session", `{"as":"staff","name":"ines.okafor@tamarackbay.example","secret":"wrong"}`)
	assert.Equal(t, http.StatusUnauthorized, status, body)
	status, body = c.do(http.MethodPost, "/api/session", `{"as":"staff","name":"ines.okafor@tamarackbay.example","secret":"`+demo.Password+`"}`)
	require.Equal(t, http.StatusOK, status, body)
	var session struct {
		SignedIn bool
		Name     string
		Rights   []string
	}
	c.get("/api/session", &session)
	assert.True(t, session.SignedIn)
	assert.Contains(t, session.Rights, "import")
	status, _ = c.do(http.MethodDelete, "/api/session", "")
	assert.Equal(t, http.StatusNoContent, status)
	status, _ = c.do(http.MethodGet, "/api/today", "")
	assert.Equal(t, http.StatusUnauthorized, status)
}

func TestGuessingIsSlowedDown(t *testing.T) {
	s := serve(t, false)
	c := s.client()
	for i := range 8 {
		// Spaces and capitals make no other name of it.
		name := strings.Repeat(" ", i) + "100001" + strings.Repeat(" ", i%3)
		got, _ := c.do(http.MethodPost, "/api/session", fmt.Sprintf(`{"as":"student","name":%q,"secret":"0000"}`, name))
		want := http.StatusUnauthorized
		if i >= 6 {
			want = http.StatusTooManyRequests
		}
		assert.Equal(t, want, got, "try %d", i+1)
	}
	tries, err := recordrows.Ledger(t.Context(), s.store.Reader, recordrows.LedgerFilter{Thing: "person", Limit: 50})
	require.NoError(t, err)
	wrong := 0
	for _, e := range tries {
		if e.Act == "person.wrong-try" {
			wrong++
		}
	}
	assert.Equal(t, 6, wrong, "each wrong try is written down")
	status, _ := c.do(http.MethodPost, "/api/session", `{"as":"student","name":"100002","secret":"0000"}`)
	assert.Equal(t, http.StatusUnauthorized, status, "another student of the same school is not held up")
}

func TestRequestsFromOtherSitesAreRefused(t *testing.T) {
	c := serve(t, true).as(roster.DistrictCoordinator, 0)
	status, _ := c.do(http.MethodDelete, "/api/session", "", "Sec-Fetch-Site", "cross-site", "Origin", "https://elsewhere.example")
	assert.Equal(t, http.StatusForbidden, status)
}

func TestPagesCarryAStrictPolicy(t *testing.T) {
	s := serve(t, false)
	res, err := http.Get(s.base + "/bank?words=x")
	require.NoError(t, err)
	defer res.Body.Close()
	body, err := io.ReadAll(res.Body)
	require.NoError(t, err)
	policy := res.Header.Get("Content-Security-Policy")
	assert.Contains(t, policy, "default-src 'self'")
	assert.NotContains(t, policy, "unsafe")
	nonce := strings.Split(strings.Split(policy, "'nonce-")[1], "'")[0]
	assert.Contains(t, string(body), nonce, "the page is told its nonce")
	assert.Equal(t, "nosniff", res.Header.Get("X-Content-Type-Options"))

	res2, err := http.Get(s.base + "/assets/app.js")
	require.NoError(t, err)
	defer res2.Body.Close()
	assert.Contains(t, res2.Header.Get("Cache-Control"), "immutable")
	res3, err := http.Get(s.base + "/assets/none.js")
	require.NoError(t, err)
	defer res3.Body.Close()
	assert.Equal(t, http.StatusNotFound, res3.StatusCode)
}

func TestTheContractRefusesWhatItDoesNotKnow(t *testing.T) {
	c := serve(t, true).as(roster.DistrictCoordinator, 0)
	for _, q := range []struct {
		method, path, body string
		status             int
		want               string
	}{
		{http.MethodGet, "/api/items?limit=5000", "", 422, `"pointer":"/limit"`},
		{http.MethodGet, "/api/items/x", "", 422, `"pointer":"/id"`},
		{http.MethodPost, "/api/assessments", `{"title":"x"}`, 422, `"message":"Subject: fill this in."`},
		{http.MethodPost, "/api/tray", `{"items":[1],"more":true}`, 422, "more"},
		{http.MethodPost, "/api/tray", `{"items":`, 422, "problem:invalid"},
		{http.MethodPost, "/api/tray", `{"items":[99999]}`, 404, "not-found"},
		{http.MethodPut, "/api/assessments/1/lines", `{"lines":[]}`, 422, "If-Match"},
		{http.MethodPut, "/api/assessments/1/lines", `{"lines":[{"itemId":1,"points":1.005}]}`, 422, "two decimal places"},
		{http.MethodGet, "/api/results/1/matrix?sort=sideways", "", 422, "is not student, section, raw"},
	} {
		headers := []string{}
		if strings.Contains(q.want, "decimal") {
			headers = []string{"If-Match", "5"}
		}
		status, body := c.do(q.method, q.path, q.body, headers...)
		assert.Equal(t, q.status, status, "%s %s: %s", q.method, q.path, body)
		assert.Contains(t, body, q.want, "%s %s", q.method, q.path)
	}
	status, _ := c.do(http.MethodPost, "/api/tray", `{"items":[`+strings.Repeat("1,", 2<<20)+`1]}`)
	assert.Equal(t, http.StatusRequestEntityTooLarge, status)
	var contract map[string]any
	c.get("/api/openapi.json", &contract)
	assert.Equal(t, "3.0.3", contract["openapi"])
}

// Whatever a student's browser can ask for, no key, credit or score comes with it.
func TestAStudentNeverGetsAKey(t *testing.T) {
	s := serve(t, true)
	people, err := giverows.Sittings(context.Background(), s.store.Reader, roster.Scope{District: true}, giverows.SittingFilter{OpenAfter: time.Now(), Limit: 50})
	require.NoError(t, err)
	var open giverows.Sitting
	for _, g := range people {
		if g.Door == "open" && g.Done < g.Seats {
			open = g
		}
	}
	require.NotZero(t, open.ID)
	room, err := giverows.Room(context.Background(), s.store.Reader, open.ID)
	require.NoError(t, err)
	var student int64
	for _, seat := range room {
		if seat.State != "scored" {
			student = seat.StudentID
		}
	}
	c := s.person(student)
	status, body := c.do(http.MethodPost, fmt.Sprintf("/api/my/sittings/%d/attempt", open.ID), "")
	require.Equal(t, http.StatusOK, status, body)
	var take struct {
		AttemptID int64 `json:"attemptId"`
		Lines     []struct {
			Shown struct {
				Body []struct {
					Interaction *struct{ Choices []struct{ ID string } }
				}
			}
		}
	}
	require.NoError(t, json.Unmarshal([]byte(body), &take))
	require.NotEmpty(t, take.Lines)
	for _, word := range []string{"correct", `"key`, "declaration", "credit", "score", "difficulty", "standards", "tolerance"} {
		assert.NotContains(t, strings.ToLower(body), word)
	}
	answers := fmt.Sprintf("/api/my/attempts/%d", take.AttemptID)
	status, body = c.do(http.MethodPut, answers+"/answers", `{"answers":[{"line":1,"number":9000000000000,"response":{"RESPONSE":["A"]},"marked":true}]}`)
	require.Equal(t, http.StatusOK, status, body)
	status, body = c.do(http.MethodPost, answers+"/hand-in", "")
	require.Equal(t, http.StatusOK, status, body)
	assert.Contains(t, body, `"lines":[]`)

	for path, want := range map[string]int{"/api/items": 403, "/api/items/1": 403, "/api/results": 403, "/api/results/1/bands": 403, "/api/assessments/1": 404, "/api/today": 403,
		fmt.Sprintf("/api/sittings/%d", open.ID): 403, "/api/schools": 403, "/api/ledger": 403, "/api/frameworks": 403} {
		status, _ := c.do(http.MethodGet, path, "")
		assert.Equal(t, want, status, path)
	}
	other := s.as(roster.Student, 0)
	status, _ = other.do(http.MethodPost, answers+"/hand-in", "")
	assert.Equal(t, http.StatusNotFound, status, "a stranger's attempt is not there")
}

func TestExportsHoldWhatIsSeen(t *testing.T) {
	s := serve(t, true)
	c := s.as(roster.DistrictCoordinator, 0)
	var m struct {
		Total int
		Rows  []struct {
			Student string
			Raw     float64
		}
	}
	c.get("/api/results/3/matrix?sort=-raw&band=2&limit=5", &m)
	require.Positive(t, m.Total)
	status, csv := c.do(http.MethodGet, "/api/results/3/matrix.csv?sort=-raw&band=2", "")
	require.Equal(t, http.StatusOK, status)
	rows := strings.Split(strings.TrimSpace(csv), "\n")
	assert.Len(t, rows, m.Total+1, "all rows of the filter, not a page")
	assert.True(t, strings.HasPrefix(rows[0], "\ufeffFamily name,Given name,Number,School,Section,Raw,Percent,Band,M6."), rows[0])
	assert.Contains(t, rows[0], ",Line 1 (1) M6.")
	assert.Contains(t, rows[1], strings.Replace(m.Rows[0].Student, ", ", ",", 1))
	assert.Contains(t, rows[1], "On course")
	res, err := c.http.Get(s.base + "/api/results/3/matrix.csv")
	require.NoError(t, err)
	require.NoError(t, res.Body.Close())
	assert.Regexp(t, `^attachment; filename="Grade 6 mathematics, fall benchmark, students and lines, \d{4}-\d\d-\d\d\.csv"$`, res.Header.Get("Content-Disposition"))
	status, csv = c.do(http.MethodGet, "/api/results/3/bands.csv", "")
	require.Equal(t, http.StatusOK, status)
	assert.Contains(t, csv, "all schools,all sections,")
}

func TestAFileComesInThroughTheScreen(t *testing.T) {
	s := serve(t, true)
	c := s.as(roster.DistrictCoordinator, 0)
	const file = "identifier,bank,kind,subject,grade,standards,stem,choice_1,choice_2,key\nX1,Own,single-choice,Science,05,S5.EW.1,=SUM(1)?,a,b,B\nX2,Own,single-choice,Science,05,S5.EW.1,x,a,b,C\n"
	status, body := s.as(roster.Teacher, 0).do(http.MethodPost, "/api/imports?kind=items&file=x.csv", file, "Content-Type", "application/octet-stream")
	assert.Equal(t, http.StatusForbidden, status, body)
	status, body = c.do(http.MethodPost, "/api/imports?kind=items&file=x.csv", file, "Content-Type", "application/octet-stream")
	require.Equal(t, http.StatusAccepted, status, body)
	var report struct {
		ID       int64
		State    string
		New      int
		Refusals []struct {
			Line          int
			Field, Reason string
		}
	}
	require.NoError(t, json.Unmarshal([]byte(body), &report))
	require.Eventually(t, func() bool {
		c.get(fmt.Sprint("/api/imports/", report.ID), &report)
		return report.State != "running"
	}, 5*time.Second, 10*time.Millisecond)
	assert.Equal(t, "done", report.State)
	assert.Equal(t, 1, report.New)
	require.Len(t, report.Refusals, 1)
	assert.Equal(t, 3, report.Refusals[0].Line)
	status, csv := c.do(http.MethodGet, fmt.Sprintf("/api/imports/%d/report.csv", report.ID), "")
	require.Equal(t, http.StatusOK, status)
	assert.Contains(t, csv, "3,key,")
}

// Behind a proxy that is named, each address counts for itself; whoever is not that
// proxy cannot say where they come from.
func TestAddressesBehindAProxy(t *testing.T) {
	s := serveAs(t, func(c *api.Config) {
		c.Secure, c.Proxies = true, []netip.Prefix{netip.MustParsePrefix("127.0.0.1/32")}
	})
	c := s.client()
	try := func(from string) int {
		status, _ := c.do(http.MethodPost, "/api/session", `{"as":"student","name":"100001","secret":"0000"}`, "X-Forwarded-For", from)
		return status
	}
	for range 6 {
		require.Equal(t, http.StatusUnauthorized, try("10.1.1.1"))
	}
	assert.Equal(t, http.StatusTooManyRequests, try("10.1.1.1"))
	assert.Equal(t, http.StatusTooManyRequests, try("192.0.2.7, 10.1.1.1"), "what a client writes before the proxy's own word counts for nothing")
	assert.Equal(t, http.StatusUnauthorized, try("10.1.1.2"))

	res, err := c.http.Get(s.base + "/signin")
	require.NoError(t, err)
	require.NoError(t, res.Body.Close())
	assert.Equal(t, "max-age=31536000", res.Header.Get("Strict-Transport-Security"))
	body, err := json.Marshal(map[string]string{"as": "staff", "name": "ines.okafor@tamarackbay.example", "secret": demo.Password})
	require.NoError(t, err)
	signedIn, err := http.Post(s.base+"/api/session", "application/json", bytes.NewReader(body))
	require.NoError(t, err)
	require.NoError(t, signedIn.Body.Close())
	require.Len(t, signedIn.Cookies(), 1)
	assert.Equal(t, "__Host-pineledger", signedIn.Cookies()[0].Name)
	assert.True(t, signedIn.Cookies()[0].Secure)
}

// A shared device forgets a student who has gone, and sooner one who has handed in.
func TestAStudentsSessionEndsByItself(t *testing.T) {
	var ahead atomic.Int64
	s := serveAs(t, func(c *api.Config) {
		c.Demo = true
		c.App.Now = func() time.Time { return time.Now().Add(time.Duration(ahead.Load())) }
	})
	student, teacher := s.as(roster.Student, 0), s.as(roster.Teacher, 0)
	signedIn := func(c *client) int {
		status, _ := c.do(http.MethodGet, "/api/my/sittings", "")
		return status
	}
	for range 3 { // used again and again it lasts
		ahead.Add(int64(89 * time.Minute))
		require.Equal(t, http.StatusOK, signedIn(student))
	}
	ahead.Add(int64(90 * time.Minute))
	assert.Equal(t, http.StatusUnauthorized, signedIn(student))
	assert.Equal(t, http.StatusForbidden, signedIn(teacher), "staff stay signed in")
}
