package main

import (
	"context"
	"database/sql"
	"fmt"
	"math"
	"net/http"
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

// measureSaves lets many students save at once, each sending the next answer as
// soon as the last is acknowledged, and then at the pace of people.
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
		flatOut, err := b.saves(ctx, data, attempts, 0)
		if err != nil {
			return err
		}
		paced, err := b.saves(ctx, data, attempts, time.Second)
		if err != nil {
			return err
		}
		bare, err := bareSaves(ctx, data, attempts)
		if err != nil {
			return err
		}
		say(fmt.Sprintf("saves, %d students without a pause", students), "%.0f a second, bare %.0f, %.2f of the bare limit (aim: 0.50 or better), p99 %s%s",
			flatOut.perSecond, bare, flatOut.perSecond/bare, brief(flatOut.p99), aimAt(students, " (aim at 500: under 50 ms)"))
		say(fmt.Sprintf("saves, %d students, each one every second", students), "%.0f a second, p99 %s", paced.perSecond, brief(paced.p99))
	}
	return nil
}

func aimAt(students int, aim string) string {
	if students == 500 {
		return aim
	}
	return ""
}

type saveFigures struct {
	perSecond float64
	p99       time.Duration
}

// saves measures acknowledged saves. pace is the time from one save of a student
// to the next; 0 sends at once.
func (b *bench) saves(ctx context.Context, data string, attempts map[int64]int64, pace time.Duration) (f saveFigures, err error) {
	p, err := b.start(ctx, data)
	if err != nil {
		return f, err
	}
	transport := &http.Transport{MaxIdleConnsPerHost: len(attempts), MaxConnsPerHost: len(attempts)}
	clients := map[int64]*client{}
	for person := range attempts {
		if clients[person], err = p.signIn(person, transport); err != nil {
			return f, err
		}
	}
	begin := time.Now()
	from, until := begin.Add(warmUp), begin.Add(warmUp+measured)
	var mu sync.Mutex
	var took []time.Duration
	var failure error
	var wait sync.WaitGroup
	offset := 0
	for person, attempt := range attempts {
		first := begin.Add(pace * time.Duration(offset) / time.Duration(len(attempts)))
		offset++
		wait.Go(func() {
			mine, err := saveUntil(clients[person], attempt, first, pace, from, until)
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
	return saveFigures{float64(len(took)) / measured.Seconds(), took[int(math.Ceil(.99*float64(len(took))))-1]}, p.stop()
}

// saveUntil gives how long each save took that began in the measured time.
func saveUntil(c *client, attempt int64, next time.Time, pace time.Duration, from, until time.Time) (took []time.Duration, err error) {
	path := fmt.Sprintf("/api/my/attempts/%d/answers", attempt)
	for number := time.Now().UnixNano(); ; number++ {
		if pace > 0 {
			time.Sleep(time.Until(next))
			next = next.Add(pace)
		}
		start := time.Now()
		if start.After(until) {
			return took, nil
		}
		if _, err := c.do(http.MethodPut, path, oneAnswer(number)); err != nil {
			return took, err
		}
		if start.After(from) {
			took = append(took, time.Since(start))
		}
	}
}

type answer struct {
	Line     int64               `json:"line"`
	Number   int64               `json:"number"`
	Response map[string][]string `json:"response"`
	Marked   bool                `json:"marked"`
}

func oneAnswer(number int64) map[string][]answer {
	return map[string][]answer{"answers": {{number%formLines + 1, number, map[string][]string{}, number%7 == 0}}}
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
		if err := bareBatch(ctx, s.SessionDB(), ids, rows); err != nil {
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
