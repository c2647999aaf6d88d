package supports

import (
	"context"
	"fmt"
	"sync"
	"time"

	"pineledger/app/desk"
	"pineledger/core/roster"
	"pineledger/store"
)

// looks remembers who looked at what just now: a screen that asks again while it is open is one look.
type looks struct {
	mu   sync.Mutex
	last map[look]time.Time
}

type look struct {
	person int64
	thing  string
	id     int64
}

// oneLook is how long a look lasts.
const oneLook = 10 * time.Minute

// mostLooks bounds the memory; past it all begin anew.
const mostLooks = 10_000

func newLooks() *looks { return &looks{last: map[look]time.Time{}} }

// begins tells whether this is a look of its own.
func (l *looks) begins(one look, now time.Time) bool {
	l.mu.Lock()
	defer l.mu.Unlock()
	if at, looked := l.last[one]; looked && now.Sub(at) < oneLook {
		return false
	}
	if len(l.last) >= mostLooks {
		clear(l.last)
	}
	l.last[one] = now
	return true
}

// looked keeps in the ledger that somebody looked at the supports of a student, or of all who take an assessment.
func (a *Supports) looked(ctx context.Context, v roster.Viewer, thing string, id int64, title string) error {
	if !a.looks.begins(look{v.PersonID, thing, id}, a.Now()) {
		return nil
	}
	return a.Store.Write(ctx, func(tx *store.Tx) error {
		return a.Record(ctx, tx, v, desk.Act{Name: "supports.look", Thing: thing, ID: id, Title: title})
	})
}

// named is a student as the ledger names them.
func named(name, number string) string { return fmt.Sprintf("%s (%s)", name, number) }
