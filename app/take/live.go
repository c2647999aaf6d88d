package take

import (
	"context"
	"slices"
	"sync"

	"pineledger/core/form"
	"pineledger/store/takerows"
)

// liveAttempts remembers what saving an answer needs to know of an attempt, so
// that a save reads nothing. Doors and hand-ins make it forget.
type liveAttempts struct {
	mu   sync.RWMutex
	rows map[int64]*liveAttempt
	// epoch counts the forgetting: what was read before is not remembered after.
	epoch int64
}

type liveAttempt struct {
	row   takerows.Attempt
	form  form.Form
	asked []int // places of the lines that it asks, nil for all
}

// gives tells whether the attempt has a line, counted from 1.
func (l *liveAttempt) gives(line int) bool {
	if line < 1 || line > len(l.form.Lines) {
		return false
	}
	return l.asked == nil || slices.Contains(l.asked, line-1)
}

// mostLive bounds the memory; past it all are forgotten and read again.
const mostLive = 50_000

func newLiveAttempts() *liveAttempts { return &liveAttempts{rows: map[int64]*liveAttempt{}} }

func (l *liveAttempts) get(ctx context.Context, a *Take, id int64) (*liveAttempt, error) {
	l.mu.RLock()
	live, ok := l.rows[id]
	epoch := l.epoch
	l.mu.RUnlock()
	if ok {
		return live, nil
	}
	row, err := takerows.AttemptByID(ctx, a.Store.Reader, id)
	if err != nil {
		return nil, err
	}
	f, err := a.FormByID(ctx, row.FormID)
	if err != nil {
		return nil, err
	}
	asked := row.Asked()
	if asked == nil {
		asked = row.Given()
	}
	live = &liveAttempt{row, f, asked}
	l.mu.Lock()
	defer l.mu.Unlock()
	if len(l.rows) >= mostLive {
		clear(l.rows)
	}
	if l.epoch == epoch {
		l.rows[id] = live
	}
	return live, nil
}

func (l *liveAttempts) forget(id int64) {
	l.mu.Lock()
	defer l.mu.Unlock()
	l.epoch++
	delete(l.rows, id)
}

func (l *liveAttempts) forgetSitting(sitting int64) {
	l.mu.Lock()
	defer l.mu.Unlock()
	l.epoch++
	for id, live := range l.rows {
		if live.row.SittingID == sitting {
			delete(l.rows, id)
		}
	}
}
