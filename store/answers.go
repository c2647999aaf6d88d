package store

import (
	"context"
	"errors"
	"fmt"
	"time"

	"pineledger/store/sqlite"
	"pineledger/store/takerows"
)

// ErrAttemptClosed is given for answers to an attempt that is no longer worked on.
var ErrAttemptClosed = errors.New("the attempt is not being worked on")

// mostTogether is how many requests share one commit at most.
const mostTogether = 256

type answerRequest struct {
	attempt int64
	at      int64
	answers []takerows.Answer
	done    chan error
}

// answerWriter commits answers in groups: it takes what is queued, without
// waiting for more, and tells each request when the commit is on disk.
type answerWriter struct {
	store *Store
	queue *queue[answerRequest]
}

func newAnswerWriter(s *Store) *answerWriter {
	w := &answerWriter{store: s}
	w.queue = newQueue(4*mostTogether, w.serve)
	return w
}

// SaveAnswers keeps answers of an attempt and returns when they are on disk. An
// answer with a number no higher than the kept one changes nothing. It fails
// with ErrAttemptClosed when the attempt is not being worked on.
func (s *Store) SaveAnswers(ctx context.Context, attempt, at int64, answers []takerows.Answer) error {
	request := answerRequest{attempt, at, answers, make(chan error, 1)}
	if err := s.answers.queue.put(ctx, request); err != nil {
		return err
	}
	// Queued work is written whether or not the caller still waits.
	select {
	case err := <-request.done:
		return err
	case <-ctx.Done():
		return ctx.Err()
	}
}

func (w *answerWriter) serve(first answerRequest) {
	group := append(make([]answerRequest, 0, mostTogether), first)
	for len(group) < mostTogether {
		next, more := w.queue.next()
		if !more {
			break
		}
		group = append(group, next)
	}
	w.commit(group)
}

// commit writes a group in one transaction. A request that is refused is told so
// alone; a failure of the transaction is told to all.
func (w *answerWriter) commit(group []answerRequest) {
	results := make([]error, len(group))
	err := w.write(group, results)
	for i, request := range group {
		if err != nil {
			request.done <- err
			continue
		}
		request.done <- results[i]
	}
}

// patience is how long answers wait for a long transaction before they are kept beside the database.
const patience = 40 * time.Millisecond

func (w *answerWriter) write(group []answerRequest, results []error) error {
	ctx := context.Background() // a caller that went away must not undo its neighbors
	wait := patience
	if w.store.ahead.any() {
		wait = time.Millisecond // the same transaction is still at work
	}
	if !w.store.gate.enter(answersTurn, wait) {
		return w.keepAhead(ctx, group, results)
	}
	defer w.store.gate.leave()
	err := w.store.transact(ctx, func(tx *sqlite.Tx) error { return writeAnswers(ctx, tx, group, results) })
	if err != nil {
		return fmt.Errorf("save answers: %w", err)
	}
	return nil
}

// keepAhead keeps answers beside the database. What holds its writer is a long transaction, which
// ends no attempt: those that are worked on now are so when it is over.
func (w *answerWriter) keepAhead(ctx context.Context, group []answerRequest, results []error) error {
	var entries []aheadEntry
	for i, request := range group {
		working, err := takerows.IsWorking(ctx, w.store.Reader, request.attempt)
		if err != nil {
			return err
		}
		if !working {
			results[i] = ErrAttemptClosed
			continue
		}
		entries = append(entries, aheadEntry{request.attempt, request.at, request.answers})
	}
	return w.store.ahead.add(entries)
}

func writeAnswers(ctx context.Context, tx *sqlite.Tx, group []answerRequest, results []error) error {
	for i, request := range group {
		working, err := takerows.StillWorking(ctx, tx, request.attempt)
		if err != nil {
			return err
		}
		if !working {
			results[i] = ErrAttemptClosed
			continue
		}
		for _, a := range request.answers {
			if err := takerows.PutAnswer(ctx, tx, request.attempt, a, request.at); err != nil {
				return err
			}
		}
	}
	return nil
}
