package take

import (
	"context"
	"crypto/rand"
	"math/big"
	"sync"
	"time"

	"github.com/hashicorp/golang-lru/v2/expirable"

	"pineledger/app/desk"
	"pineledger/core/attempt"
	"pineledger/core/roster"
	"pineledger/core/settings"
	"pineledger/store"
	"pineledger/store/giverows"
	"pineledger/store/takerows"
)

// Bounds on guessing the code of a door.
const (
	freeWrong = 5                // wrong ones before it slows down
	firstWait = 30 * time.Second // doubles with each further one
	mostWait  = 15 * time.Minute
)

// guesses counts the wrong codes of each seat.
type guesses struct {
	mu    sync.Mutex
	wrong *expirable.LRU[takerows.Seat, guess]
}

type guess struct {
	n     int
	until time.Time
}

func newGuesses() *guesses {
	return &guesses{wrong: expirable.NewLRU[takerows.Seat, guess](mostLive, nil, time.Hour)}
}

// wait is how long a seat has to wait before the next code is looked at.
func (g *guesses) wait(seat takerows.Seat, now time.Time) time.Duration {
	g.mu.Lock()
	defer g.mu.Unlock()
	one, _ := g.wrong.Get(seat)
	return max(0, one.until.Sub(now))
}

// miss notes a wrong code.
func (g *guesses) miss(seat takerows.Seat, now time.Time) {
	g.mu.Lock()
	defer g.mu.Unlock()
	one, _ := g.wrong.Get(seat)
	one.n++
	if over := one.n - freeWrong; over >= 0 {
		one.until = now.Add(min(mostWait, firstWait<<min(over, 10)))
	}
	g.wrong.Add(seat, one)
}

func (g *guesses) right(seat takerows.Seat) {
	g.mu.Lock()
	defer g.mu.Unlock()
	g.wrong.Remove(seat)
}

// WrongCodeError refuses a code. Wait is how long the next one has to wait.
type WrongCodeError struct{ Wait time.Duration }

func (e *WrongCodeError) Error() string {
	if e.Wait > 0 {
		return "That was not the code a few times. Wait a little, and ask your teacher."
	}
	return "That is not the code of this room. Ask your teacher."
}

// mayEnter looks at what a student needs at the door besides that it is open.
func (a *Take) mayEnter(s takerows.StudentSitting, student int64, entry Entry) error {
	v := s.Setup.V.Settings
	if v.Flag(settings.ManagedOnly) && !entry.Managed {
		return desk.Conflict("%s", desk.Sentence(attempt.ErrNotManaged.Error()))
	}
	if !v.Flag(settings.AccessCode) || entry.ByStaff {
		return nil
	}
	seat, now := takerows.Seat{SittingID: s.ID, StudentID: student}, a.Now()
	if wait := a.codes.wait(seat, now); wait > 0 {
		return &WrongCodeError{wait}
	}
	if !attempt.SameCode(entry.Code, s.Code) {
		if entry.Code != "" {
			a.codes.miss(seat, now)
		}
		return &WrongCodeError{a.codes.wait(seat, now)}
	}
	a.codes.right(seat)
	return nil
}

// Entry is what a student brings to the door.
type Entry struct {
	Code    string
	Managed bool // the device is one that the district manages
	ByStaff bool // an adult opens the work of a child
}

// RenewCode gives a sitting another access code.
func (a *Take) RenewCode(ctx context.Context, v roster.Viewer, id int64) (Room, error) {
	if !v.IsStaff() {
		return Room{}, desk.ErrForbidden
	}
	err := a.Store.Write(ctx, func(tx *store.Tx) error {
		in, err := behindDoor(ctx, tx.Reader, v.Scope(), id)
		if err != nil {
			return err
		}
		if !in[0].Setup.V.Settings.Flag(settings.AccessCode) {
			return desk.Conflict("No code is asked at this door.")
		}
		code := newCode()
		for _, s := range in {
			if err := giverows.SetCode(ctx, tx, s.ID, code); err != nil {
				return err
			}
		}
		return a.Record(ctx, tx, v, desk.Act{Name: "sitting.code", Thing: "sitting", ID: id, Title: nameOf(in[0])})
	})
	if err != nil {
		return Room{}, err
	}
	a.roomChanged(id)
	return a.Room(ctx, v, id)
}

func newCode() string {
	return attempt.NewCode(func(n int) int {
		k, err := rand.Int(rand.Reader, big.NewInt(int64(n)))
		if err != nil {
			panic(err) // the system has no randomness
		}
		return int(k.Int64())
	})
}
