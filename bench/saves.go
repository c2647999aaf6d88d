package main

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"io"
	"math"
	"net"
	"net/http"
	"os"
	"os/exec"
	"slices"
	"sync"
	"time"

	"pineledger/demo"
	"pineledger/store"
)

const (
	formLines = 40
	warmUp    = 2 * time.Second
	measured  = 8 * time.Second
	batch     = 256 // rows in one commit of the bare limit
)

// measureSaves lets many students save at once: one answer in a save and the next
// as soon as the last is acknowledged, which is as much as the machine can; ten
// answers in a save, as devices send them after a lost network; and one a second,
// which is still ten times what people do.
func measureSaves(ctx context.Context, b *bench) error {
	for _, students := range []int{500, 2000} {
		var attempts map[int64]int64
		data, err := b.fill(ctx, fmt.Sprint("saves-", students), func(s *store.Store, secret []byte) (err error) {
			attempts, err = demo.Hall(ctx, s, secret, b.dir, students, formLines)
			return err
		})
		if err != nil {
			return err
		}
		bare, err := bareSaves(ctx, data, attempts)
		if err != nil {
			return err
		}
		floor, err := bareHTTP(ctx, students)
		if err != nil {
			return err
		}
		say(fmt.Sprintf("%d students, a server that does nothing but answer", students), "%.0f answers a second, p99 %s", floor.perSecond, brief(floor.p99))
		for _, w := range []work{
			{"one answer a save, without a pause", 1, 0},
			{"ten answers a save, without a pause", 10, 0},
			{"one answer a save, one save a second", 1, time.Second},
		} {
			f, err := b.saves(ctx, data, attempts, w)
			if err != nil {
				return err
			}
			aim := ""
			if w.pace == 0 {
				aim = fmt.Sprintf(", bare %.0f, %.2f of the bare limit (aim: 0.50 or better)", bare, f.perSecond/bare)
			}
			say(fmt.Sprintf("%d students, %s", students, w.name), "%.0f answers a second%s, p99 of a save %s%s", f.perSecond, aim, brief(f.p99), p99Aim(students))
		}
	}
	return nil
}

// work is how students save: answers in a save, and the time from one save of a
// student to the next; 0 sends at once.
type work struct {
	name    string
	answers int
	pace    time.Duration
}

func p99Aim(students int) string {
	if students == 500 {
		return " (aim: under 50 ms)"
	}
	return ""
}

type saveFigures struct {
	perSecond float64 // acknowledged answers
	p99       time.Duration
}

// saves measures acknowledged saves.
func (b *bench) saves(ctx context.Context, data string, attempts map[int64]int64, w work) (f saveFigures, err error) {
	p, err := b.start(ctx, data)
	if err != nil {
		return f, err
	}
	var devices []*wire
	for person, attempt := range attempts {
		c, err := p.signIn(person, nil)
		if err != nil {
			return f, err
		}
		device, err := newWire(c, attempt)
		if err != nil {
			return f, err
		}
		devices = append(devices, device)
	}
	if f, err = saveFrom(devices, w); err != nil {
		return f, err
	}
	return f, p.stop()
}

// saveFrom lets devices save for the measured time, and closes them.
func saveFrom(devices []*wire, w work) (f saveFigures, err error) {
	begin := time.Now()
	from, until := begin.Add(warmUp), begin.Add(warmUp+measured)
	var mu sync.Mutex
	var took []time.Duration
	var failure error
	var wait sync.WaitGroup
	for i, device := range devices {
		first := begin.Add(w.pace * time.Duration(i) / time.Duration(len(devices)))
		wait.Go(func() {
			defer device.conn.Close()
			mine, err := saveUntil(device, first, w, from, until)
			mu.Lock()
			defer mu.Unlock()
			took = append(took, mine...)
			if err != nil {
				failure = err
			}
		})
	}
	wait.Wait()
	if failure != nil {
		return f, failure
	}
	slices.Sort(took)
	return saveFigures{float64(w.answers*len(took)) / measured.Seconds(), took[int(math.Ceil(.99*float64(len(took))))-1]}, nil
}

// bareHTTP is the bare limit of the network's side: the same requests, from as
// many devices, to a process whose handler reads the body and answers.
func bareHTTP(ctx context.Context, students int) (f saveFigures, err error) {
	self, err := os.Executable()
	if err != nil {
		return f, err
	}
	p, err := startProgram(exec.CommandContext(ctx, self, "answer"))
	if err != nil {
		return f, err
	}
	var devices []*wire
	for range students {
		device, err := dial(p.base, 1, "pineledger=none")
		if err != nil {
			return f, err
		}
		devices = append(devices, device)
	}
	if f, err = saveFrom(devices, work{answers: 1}); err != nil {
		return f, err
	}
	return f, p.stop()
}

// answerOnly is that process.
func answerOnly(ctx context.Context) error {
	listener, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		return err
	}
	fmt.Println("http://" + listener.Addr().String())
	server := &http.Server{Handler: http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		if _, err := io.Copy(io.Discard, r.Body); err != nil {
			return // the device has gone
		}
		fmt.Fprint(w, `{"savedAt":"2026-10-13T16:00:00Z"}`)
	})}
	context.AfterFunc(ctx, func() { server.Close() })
	if err := server.Serve(listener); !errors.Is(err, http.ErrServerClosed) {
		return err
	}
	return nil
}

// saveUntil gives how long each save took that began in the measured time.
func saveUntil(device *wire, next time.Time, w work, from, until time.Time) (took []time.Duration, err error) {
	for number := time.Now().UnixNano(); ; number++ {
		if w.pace > 0 {
			time.Sleep(time.Until(next))
			next = next.Add(w.pace)
		}
		start := time.Now()
		if start.After(until) {
			return took, nil
		}
		if err := device.save(answers(number, w.answers)); err != nil {
			return took, err
		}
		if start.After(from) {
			took = append(took, time.Since(start))
		}
	}
}

// answers are the newest to so many lines, as a device sends them.
func answers(number int64, n int) []byte {
	out := []byte(`{"answers":[`)
	for i := range int64(n) {
		if i > 0 {
			out = append(out, ',')
		}
		out = fmt.Appendf(out, `{"line":%d,"number":%d,"response":{},"marked":%t}`, (number+i)%formLines+1, number, number%7 == 0)
	}
	return append(out, "]}"...)
}

// bareSaves writes the same rows to the same database in batches, without a server.
func bareSaves(ctx context.Context, data string, attempts map[int64]int64) (perSecond float64, err error) {
	s, err := store.Open(ctx, data)
	if err != nil {
		return 0, err
	}
	defer s.Close()
	var ids []int64
	for _, id := range attempts {
		ids = append(ids, id)
	}
	rows := 0
	start := time.Now()
	for time.Since(start) < measured {
		if err := bareBatch(ctx, s.Unguarded(), ids, rows); err != nil {
			return 0, err
		}
		rows += batch
	}
	return float64(rows) / time.Since(start).Seconds(), nil
}

func bareBatch(ctx context.Context, db *sql.DB, attempts []int64, from int) error {
	tx, err := db.BeginTx(ctx, nil)
	if err != nil {
		return err
	}
	defer tx.Rollback() //nolint:errcheck // after a commit there is nothing to roll back
	put, err := tx.PrepareContext(ctx, `INSERT INTO answer (attempt_id, line, number, response, marked, saved_at) VALUES (?, ?, ?, ?, ?, ?)
		ON CONFLICT (attempt_id, line) DO UPDATE SET number = excluded.number, response = excluded.response,
			marked = excluded.marked, saved_at = excluded.saved_at WHERE excluded.number > answer.number`)
	if err != nil {
		return err
	}
	number := time.Now().UnixNano()
	for i := from; i < from+batch; i++ {
		if _, err := put.ExecContext(ctx, attempts[i%len(attempts)], i/len(attempts)%formLines+1, number, "{}", i%7 == 0, time.Now().UnixMilli()); err != nil {
			return err
		}
	}
	return tx.Commit()
}
