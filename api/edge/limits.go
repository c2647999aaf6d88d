package edge

import (
	"sync"
	"time"

	lru "github.com/hashicorp/golang-lru/v2"
	"golang.org/x/time/rate"
)

// Limits slow down guessing at the door. Wrong tries count against three things: the
// name from this address, the name from anywhere, and the address, from which a whole
// school may come. What is right counts against nothing, and a try that one of them
// refuses spends nothing of the others, so that nobody is shut out by a neighbor.
type Limits struct {
	mu     sync.Mutex
	pairs  *lru.Cache[[2]string, *rate.Limiter]
	names  *lru.Cache[string, *rate.Limiter]
	places *lru.Cache[string, *rate.Limiter]
}

// How many wrong tries there are at once, and how often there is one more.
const (
	triesOfPair   = 6
	againForPair  = 12 * time.Second
	triesOfName   = 30
	againForName  = 10 * time.Minute
	triesOfPlace  = 600
	againForPlace = 50 * time.Millisecond
)

// What is remembered of names and addresses; past it those unseen for longest are
// forgotten. To push one out takes that many wrong tries, which the address has not.
const mostRemembered = 100_000

// NewLimits begins with nobody refused.
func NewLimits() *Limits {
	return &Limits{pairs: remember[[2]string](), names: remember[string](), places: remember[string]()}
}

func remember[K comparable]() *lru.Cache[K, *rate.Limiter] {
	c, err := lru.New[K, *rate.Limiter](mostRemembered)
	if err != nil {
		panic(err) // a size below one
	}
	return c
}

// Try takes one try of a name from an address. It gives false where one is refused;
// else the caller tells right when the try was.
func (l *Limits) Try(name, place string) (right func(), ok bool) {
	l.mu.Lock()
	defer l.mu.Unlock()
	pair := limiter(l.pairs, [2]string{name, place}, rate.Every(againForPair), triesOfPair)
	all := []*rate.Limiter{pair, limiter(l.names, name, rate.Every(againForName), triesOfName), limiter(l.places, place, rate.Every(againForPlace), triesOfPlace)}
	now := time.Now()
	for _, one := range all {
		if one.TokensAt(now) < 1 {
			return nil, false
		}
	}
	var taken []*rate.Reservation
	for _, one := range all {
		taken = append(taken, one.ReserveN(now, 1)) // at once, so that tries side by side count each
	}
	return func() {
		l.mu.Lock()
		defer l.mu.Unlock()
		for _, r := range taken {
			r.CancelAt(now)
		}
		l.pairs.Remove([2]string{name, place})
	}, true
}

func limiter[K comparable](in *lru.Cache[K, *rate.Limiter], key K, every rate.Limit, burst int) *rate.Limiter {
	if found, ok := in.Get(key); ok {
		return found
	}
	made := rate.NewLimiter(every, burst)
	in.Add(key, made)
	return made
}
