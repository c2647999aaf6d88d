package store

import (
	"context"
	"errors"
	"fmt"
	"sync"

	"github.com/jmoiron/sqlx"

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
	db      *sqlx.DB
	gate    *gate
	queue   chan answerRequest
	stopped sync.WaitGroup

	mu     sync.RWMutex
	closed bool
}

func newAnswerWriter(db *sqlx.DB, g *gate) *answerWriter {
	w := &answerWriter{db: db, gate: g, queue: make(chan answerRequest, 4*mostTogether)}
	w.stopped.Go(w.run)
	return w
}

func (w *answerWriter) close() {
	w.mu.Lock()
	closing := !w.closed
	w.closed = true
	w.mu.Unlock()
	if closing {
		close(w.queue)
	}
	w.stopped.Wait()
}

// SaveAnswers keeps answers of an attempt and returns when they are on disk. An
// answer with a number no higher than the kept one changes nothing. It fails
// with ErrAttemptClosed when the attempt is not being worked on.
func (s *Store) SaveAnswers(ctx context.Context, attempt, at int64, answers []takerows.Answer) error {
	w := s.answers
	request := answerRequest{attempt, at, answers, make(chan error, 1)}
	w.mu.RLock()
	if w.closed {
		w.mu.RUnlock()
		return errors.New("the store is closing")
	}
	select {
	case w.queue <- request:
		w.mu.RUnlock()
	case <-ctx.Done():
		w.mu.RUnlock()
		return ctx.Err()
	}
	// Queued work is written whether or not the caller still waits.
	select {
	case err := <-request.done:
		return err
	case <-ctx.Done():
		return ctx.Err()
	}
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

func (w *answerWriter) write(group []answerRequest, results []error) error {
	ctx := context.Background() // a caller that went away must not undo its neighbors
	w.gate.enter(true)
	defer w.gate.leave()
	tx, err := w.db.BeginTxx(ctx, nil)
	if err != nil {
		return fmt.Errorf("save answers: %w", err)
	}
	if err := writeAnswers(ctx, tx, group, results); err != nil {
		return errors.Join(fmt.Errorf("save answers: %w", err), tx.Rollback())
	}
	if err := tx.Commit(); err != nil {
		return fmt.Errorf("save answers: %w", err)
	}
	return nil
}

func writeAnswers(ctx context.Context, tx *sqlx.Tx, group []answerRequest, results []error) error {
	state, err := tx.PrepareContext(ctx, "SELECT state = 'working' FROM attempt WHERE id = ?")
	if err != nil {
		return err
	}
	defer state.Close()
	upsert, err := tx.PrepareContext(ctx, answerUpsert)
	if err != nil {
		return err
	}
	defer upsert.Close()
	for i, request := range group {
		var working bool
		if err := state.QueryRowContext(ctx, request.attempt).Scan(&working); err != nil {
			return err
		}
		if !working {
			results[i] = ErrAttemptClosed
			continue
		}
		for _, a := range request.answers {
			if _, err := upsert.ExecContext(ctx, request.attempt, a.Line, a.Number, a.Response, a.Marked, request.at); err != nil {
				return err
			}
		}
	}
	return nil
}

const answerUpsert = `INSERT INTO answer (attempt_id, line, number, response, marked, saved_at) VALUES (?, ?, ?, ?, ?, ?)
	ON CONFLICT (attempt_id, line) DO UPDATE SET number = excluded.number, response = excluded.response,
		marked = excluded.marked, saved_at = excluded.saved_at
	WHERE excluded.number > answer.number`

func (w *answerWriter) run() {
	for first := range w.queue {
		group := append(make([]answerRequest, 0, mostTogether), first)
	fill:
		for len(group) < mostTogether {
			select {
			case next, ok := <-w.queue:
				if !ok {
					break fill
				}
				group = append(group, next)
			default:
				break fill
			}
		}
		w.commit(group)
	}
}
