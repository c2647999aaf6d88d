package store

import (
	"context"
	"errors"
	"sync"
)

// errClosing is given to what comes when the store is being closed.
var errClosing = errors.New("the store is closing")

// queue hands what many put in to one goroutine, in the order in which it came.
type queue[T any] struct {
	waiting chan T
	stopped sync.WaitGroup

	mu     sync.RWMutex
	closed bool
}

// newQueue has room for so many that wait. serve gets the first of them, and may take more with next.
func newQueue[T any](room int, serve func(first T)) *queue[T] {
	q := &queue[T]{waiting: make(chan T, room)}
	q.stopped.Go(func() {
		for first := range q.waiting {
			serve(first)
		}
	})
	return q
}

// put waits for room; it fails when the context ends before, or the queue is closed.
func (q *queue[T]) put(ctx context.Context, one T) error {
	q.mu.RLock()
	defer q.mu.RUnlock()
	if q.closed {
		return errClosing
	}
	select {
	case q.waiting <- one:
		return nil
	case <-ctx.Done():
		return ctx.Err()
	}
}

// next gives one more that waits already.
func (q *queue[T]) next() (one T, more bool) {
	select {
	case one, more = <-q.waiting:
	default:
	}
	return one, more
}

// close lets nothing more in and waits until what is in has been served.
func (q *queue[T]) close() {
	q.mu.Lock()
	closing := !q.closed
	q.closed = true
	q.mu.Unlock()
	if closing {
		close(q.waiting)
	}
	q.stopped.Wait()
}
