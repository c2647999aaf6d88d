package take

import (
	"sync"
	"time"

	"github.com/hashicorp/golang-lru/v2/expirable"
)

// companyTime is how long a device counts as being at an attempt after it last showed itself.
const companyTime = 30 * time.Minute

// devices remembers which devices show themselves at an attempt, to tell a student who works on two.
type devices struct {
	mu   sync.Mutex
	seen *expirable.LRU[int64, map[string]time.Time]
}

func newDevices() *devices {
	return &devices{seen: expirable.NewLRU[int64, map[string]time.Time](mostLive, nil, companyTime)}
}

// meet notes a device and gives when another one was last there; the zero time for none. A
// device without a name is not noted.
func (d *devices) meet(attempt int64, device string, now time.Time) (other time.Time) {
	if device == "" {
		return time.Time{}
	}
	d.mu.Lock()
	defer d.mu.Unlock()
	at, ok := d.seen.Get(attempt)
	if !ok {
		at = map[string]time.Time{}
	}
	for name, seen := range at {
		switch {
		case now.Sub(seen) > companyTime:
			delete(at, name)
		case name != device && seen.After(other):
			other = seen
		}
	}
	at[device] = now
	d.seen.Add(attempt, at)
	return other
}
