package store

import (
	"context"
	"errors"
	"fmt"
	"time"

	"pineledger/store/sqlite"
)

// Bounds of what shares one commit beside answers: so many writes, and no further one
// after so long, for answers wait behind it.
const (
	mostInGroup = 128
	groupTime   = 15 * time.Millisecond
	mostQueued  = 10_000 // small writes that wait behind a long transaction
)

type smallWrite struct {
	ctx  context.Context
	f    func(*sqlite.Tx) error
	done func(error)
}

// groupWriter commits small writes of many people in groups, so that a thousand who come
// at once wait for a few commits and not for a thousand.
type groupWriter struct {
	store *Store
	queue *queue[smallWrite]
}

func newGroupWriter(s *Store) *groupWriter {
	w := &groupWriter{store: s}
	w.queue = newQueue(mostQueued, w.commit)
	return w
}

// WriteTogether is Write for what is small and what many do at once: sign in, begin, hand in.
// Each f is all or nothing by itself, and what succeeded is on disk when this returns. An
// f must not write by another way, and one that has begun is written though its caller has gone.
func (s *Store) WriteTogether(ctx context.Context, f func(*sqlite.Tx) error) error {
	done := make(chan error, 1)
	if err := s.group.queue.put(ctx, smallWrite{ctx, f, func(err error) { done <- err }}); err != nil {
		return err
	}
	return <-done
}

// WriteSoon is WriteTogether for what nobody has to wait for, and what may be lost with the program. What
// is written so is written in the order in which it came; failed hears of what was not.
func (s *Store) WriteSoon(f func(*sqlite.Tx) error, failed func(error)) {
	heard := func(err error) {
		if err != nil {
			failed(err)
		}
	}
	heard(s.group.queue.put(context.Background(), smallWrite{context.Background(), f, heard}))
}

// commit writes the first and whatever else is queued by then in one transaction.
func (w *groupWriter) commit(first smallWrite) {
	var group []smallWrite
	results := []error{}
	w.store.gate.enter(shortTurn, 0)
	err := w.store.transact(context.Background(), func(tx *sqlite.Tx) error {
		began := time.Now()
		for next, more := first, true; more; {
			group = append(group, next)
			results = append(results, next.run(tx))
			if len(group) == mostInGroup || time.Since(began) > groupTime {
				return nil
			}
			next, more = w.queue.next()
		}
		return nil
	})
	w.store.gate.leave()
	for i, write := range group {
		write.done(errors.Join(results[i], err))
	}
	if len(group) == 0 { // the transaction did not even begin
		first.done(err)
	}
}

// run writes one of a group. What fails is undone alone.
func (s smallWrite) run(tx *sqlite.Tx) error {
	if err := s.ctx.Err(); err != nil {
		return err
	}
	return tx.Within(context.WithoutCancel(s.ctx), func(tx *sqlite.Tx) (err error) {
		defer func() {
			if fault := recover(); fault != nil {
				err = fmt.Errorf("a write panicked: %v", fault)
			}
		}()
		return s.f(tx)
	})
}
