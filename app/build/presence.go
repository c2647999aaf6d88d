package build

import (
	"context"
	"sort"
	"sync"
	"time"

	"pineledger/app/desk"
	"pineledger/core/roster"
	"pineledger/store"
	"pineledger/store/buildrows"
)

// presentFor is how long somebody counts as being at an assessment after they were last heard of.
const presentFor = 25 * time.Second

// Present is somebody who has an assessment open.
type Present struct {
	Name string
	Part string
}

// presences remember who is where. They are of the moment: a program that starts again knows of nobody.
type presences struct {
	mu sync.Mutex
	at map[int64]map[int64]presence // assessment → person
}

type presence struct {
	Present
	last time.Time
}

func newPresences() *presences { return &presences{at: map[int64]map[int64]presence{}} }

// arrives tells whether somebody was not here yet.
func (p *presences) arrives(assessment, person int64) bool {
	p.mu.Lock()
	defer p.mu.Unlock()
	_, here := p.at[assessment][person]
	return !here
}

// Attend says that a viewer has a part of an assessment open, and gives who else has.
// An empty part says that they leave.
func (a *Build) Attend(ctx context.Context, v roster.Viewer, id int64, part string) ([]Present, error) {
	if _, err := desk.Assessment(ctx, a.Store.Reader, v, id); err != nil {
		return nil, err
	}
	now := a.Now()
	if part != "" && a.present.arrives(id, v.PersonID) {
		if err := a.Store.Write(ctx, func(tx *store.Tx) error { return buildrows.Opened(ctx, tx, v.PersonID, id, store.Millis(now)) }); err != nil {
			return nil, err
		}
	}
	a.present.mu.Lock()
	defer a.present.mu.Unlock()
	here := a.present.at[id]
	if here == nil {
		here = map[int64]presence{}
		a.present.at[id] = here
	}
	if part == "" {
		delete(here, v.PersonID)
	} else {
		here[v.PersonID] = presence{Present{v.Name, part}, now}
	}
	out := []Present{}
	for person, p := range here {
		switch {
		case now.Sub(p.last) > presentFor:
			delete(here, person)
		case person != v.PersonID:
			out = append(out, p.Present)
		}
	}
	if len(here) == 0 {
		delete(a.present.at, id)
	}
	sort.Slice(out, func(i, j int) bool { return out[i].Name < out[j].Name })
	return out, nil
}
