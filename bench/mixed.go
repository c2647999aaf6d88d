package main

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"io"
	"math"
	"net/http"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"sync"
	"time"

	"pineledger/demo"
	"pineledger/store"
)

// A morning at nine o'clock: most students work, some still sign in and begin, teachers
// look at their rooms, and somebody brings a file in.
const (
	mixedTime = 24 * time.Second
	savePace  = 5 * time.Second // twice as often as people do
	rooms     = 8
	roomPace  = 3 * time.Second
	imported  = 20_000 // items
)

// measureMixed runs that morning on the disk as it is, and on one whose syncs take 2 and 5 ms more.
func measureMixed(ctx context.Context, b *bench) error {
	slow := filepath.Join(b.dir, "pineledger-slow")
	build := exec.CommandContext(ctx, "go", "build", "-tags", "slowdisk", "-o", slow, "./cmd/pineledger")
	build.Stderr = os.Stderr
	if err := build.Run(); err != nil {
		return err
	}
	_, file, err := demo.WriteManyItems(b.dir, imported)
	if err != nil {
		return err
	}
	items, err := os.ReadFile(file)
	if err != nil {
		return err
	}
	for _, students := range []int{2000, 5000} {
		m := morning{items: items}
		data, err := b.fill(ctx, fmt.Sprint("mixed-", students), func(s *store.Store, secret []byte) (err error) {
			if _, err := coordinator(ctx, s, secret); err != nil {
				return err
			}
			m.attempts, m.waiting, err = demo.HallWith(ctx, s, secret, b.dir, students, students/4, formLines)
			return err
		})
		if err != nil {
			return err
		}
		aim := "250"
		if students > 2000 {
			aim = "500"
		}
		for _, more := range []time.Duration{0, 2 * time.Millisecond, 5 * time.Millisecond} {
			copied := fmt.Sprint(data, "-", more)
			if err := os.CopyFS(copied, os.DirFS(data)); err != nil {
				return err
			}
			cmd := exec.CommandContext(ctx, b.bin, "demo", "--data", copied, "--address", "127.0.0.1:0")
			if more > 0 {
				cmd.Path = slow
				cmd.Env = append(os.Environ(), "PINELEDGER_SLOW_DISK="+more.String())
			}
			f, err := m.run(cmd)
			if err != nil {
				return err
			}
			say(fmt.Sprintf("%d students at nine, syncs %s slower", students, more), "p99 of %d saves %s (aim: under %s ms), longest %s; of %d sign-ins %s, of %d begins %s, of %d looks at rooms %s; import of %d items %s",
				f.saves.n(), brief(f.saves.p99()), aim, brief(f.saves.longest()), f.signIns.n(), brief(f.signIns.p99()), f.begins.n(), brief(f.begins.p99()), f.looks.n(), brief(f.looks.p99()), imported, f.imported)
		}
	}
	return nil
}

// times are how long things took.
type times struct {
	mu   sync.Mutex
	took []time.Duration
}

func (t *times) add(d time.Duration) {
	t.mu.Lock()
	defer t.mu.Unlock()
	t.took = append(t.took, d)
}

func (t *times) n() int { return len(t.took) }

func (t *times) p99() time.Duration {
	if len(t.took) == 0 {
		return 0
	}
	slices.Sort(t.took)
	return t.took[int(math.Ceil(.99*float64(len(t.took))))-1]
}

func (t *times) longest() time.Duration { return slices.Max(append(t.took, 0)) }

// morning is what takes part in it.
type morning struct {
	attempts map[int64]int64 // of those who work, by person
	waiting  demo.Waiting    // those who come
	items    []byte          // the file that is brought in
}

type mixedFigures struct {
	saves, signIns, begins, looks times
	imported                      string
}

func (m *morning) run(cmd *exec.Cmd) (f *mixedFigures, err error) {
	p, err := startProgram(cmd)
	if err != nil {
		return nil, err
	}
	defer func() { err = errors.Join(err, p.stop()) }()
	devices, err := m.devices(p)
	if err != nil {
		return nil, err
	}
	list, err := (&client{http.DefaultClient, p.base}).people()
	if err != nil {
		return nil, err
	}
	head, err := p.signIn(list[0].ID, nil)
	if err != nil {
		return nil, err
	}

	f = &mixedFigures{}
	begin := time.Now()
	until := begin.Add(mixedTime)
	var all sync.WaitGroup
	var mu sync.Mutex
	take := func(f func() error) {
		all.Go(func() {
			if failed := f(); failed != nil {
				mu.Lock()
				defer mu.Unlock()
				err = errors.Join(err, failed)
			}
		})
	}
	for i, device := range devices {
		first := begin.Add(savePace * time.Duration(i) / time.Duration(len(devices)))
		take(func() error {
			defer device.conn.Close()
			took, err := saveUntil(device, first, work{answers: 1, pace: savePace}, begin, until)
			for _, d := range took {
				f.saves.add(d)
			}
			return err
		})
	}
	transport := &http.Transport{MaxIdleConnsPerHost: 64}
	defer transport.CloseIdleConnections()
	for i, person := range m.waiting.Students {
		at := begin.Add(mixedTime * time.Duration(i) / time.Duration(len(m.waiting.Students)))
		take(func() error {
			time.Sleep(time.Until(at))
			return f.arrive(p, transport, person, m.waiting.SittingID)
		})
	}
	for i := range rooms {
		take(func() error {
			for next := begin.Add(roomPace * time.Duration(i) / rooms); next.Before(until); next = next.Add(roomPace) {
				time.Sleep(time.Until(next))
				start := time.Now()
				if err := head.get(fmt.Sprint("/api/sittings/", m.waiting.SittingID)); err != nil {
					return err
				}
				f.looks.add(time.Since(start))
			}
			return nil
		})
	}
	take(func() error {
		time.Sleep(mixedTime / 6)
		return f.bringIn(head, m.items)
	})
	all.Wait()
	return f, err
}

// devices signs in those who work and connects their devices. They connect at the end, for the
// server does not wait long for what a connection has to say.
func (m *morning) devices(p *program) ([]*wire, error) {
	clients := map[*client]int64{}
	for person, attempt := range m.attempts {
		c, err := p.signIn(person, nil)
		if err != nil {
			return nil, err
		}
		clients[c] = attempt
	}
	var devices []*wire
	for c, attempt := range clients {
		device, err := newWire(c, attempt)
		if err != nil {
			return nil, err
		}
		devices = append(devices, device)
	}
	return devices, nil
}

// arrive signs a student in and lets them begin.
func (f *mixedFigures) arrive(p *program, t http.RoundTripper, person, sitting int64) error {
	start := time.Now()
	c, err := p.signIn(person, t)
	if err != nil {
		return err
	}
	f.signIns.add(time.Since(start))
	start = time.Now()
	if _, err := c.do(http.MethodPost, fmt.Sprintf("/api/my/sittings/%d/attempt", sitting), struct{}{}); err != nil {
		return err
	}
	f.begins.add(time.Since(start))
	return nil
}

// bringIn imports the file and waits until it is in.
func (f *mixedFigures) bringIn(c *client, items []byte) error {
	start := time.Now()
	res, err := c.http.Post(c.base+"/api/imports?kind=items&file=items.csv", "application/octet-stream", bytes.NewReader(items))
	if err != nil {
		return err
	}
	answer, err := io.ReadAll(res.Body)
	res.Body.Close()
	if err != nil || res.StatusCode != http.StatusAccepted {
		return errors.Join(err, fmt.Errorf("import: %s %s", res.Status, answer))
	}
	for {
		list, err := c.do(http.MethodGet, "/api/imports", nil)
		switch {
		case err != nil:
			return err
		case bytes.Contains(list, []byte(`"state":"failed"`)):
			return fmt.Errorf("the import failed: %.400s", list)
		case !bytes.Contains(list, []byte(`"state":"running"`)):
			f.imported = brief(time.Since(start))
			return nil
		}
		time.Sleep(100 * time.Millisecond)
	}
}
