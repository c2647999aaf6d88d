// Package jobs runs work that outlives the request that asked for it. A job tells how
// far it is and can be stopped; a panic ends that job with an error and nothing else;
// whoever closes the runner waits until all work has ended.
package jobs

import (
	"context"
	"fmt"
	"log/slog"
	"runtime/debug"
	"sync"
	"time"
)

// Kind is a kind of work with how many of it may run at once.
type Kind struct {
	Name string
	Most int
}

// PanicError is what a job that panicked ends with.
type PanicError struct{ Value any }

func (e *PanicError) Error() string { return "the program has a fault here; it was written down" }

// Runner is safe for concurrent use.
type Runner struct {
	log     *slog.Logger
	ctx     context.Context
	stopAll context.CancelFunc
	working sync.WaitGroup

	mu      sync.Mutex
	closed  bool
	taken   map[string]int
	running map[key]*Job
}

type key struct {
	kind string
	id   int64
}

// New makes a runner. Faults of jobs are written to the log with their stack.
func New(log *slog.Logger) *Runner {
	ctx, stop := context.WithCancel(context.Background())
	return &Runner{log: log, ctx: ctx, stopAll: stop, taken: map[string]int{}, running: map[key]*Job{}}
}

// Close stops all jobs and waits until they have ended. No new one begins.
func (r *Runner) Close() {
	r.mu.Lock()
	r.closed = true
	r.mu.Unlock()
	r.stopAll()
	r.working.Wait()
}

// Take holds a place for one job of a kind, so that it can be noted before it begins.
// It is false where as many run as may, or the runner is closed. A place is either
// started or given back.
func (r *Runner) Take(kind Kind) (*Place, bool) {
	r.mu.Lock()
	defer r.mu.Unlock()
	if r.closed || r.taken[kind.Name] >= kind.Most {
		return nil, false
	}
	r.taken[kind.Name]++
	r.working.Add(1)
	return &Place{runner: r, kind: kind.Name}, true
}

// Place is room for one job.
type Place struct {
	runner *Runner
	kind   string
}

// Give gives a place back that is not needed.
func (p *Place) Give() {
	p.runner.mu.Lock()
	p.runner.taken[p.kind]--
	p.runner.mu.Unlock()
	p.runner.working.Done()
}

// Start runs work under an id of its kind. The context has the values of ctx and ends when the
// job is stopped, not when ctx does. Then end is called with the error of the work, a *PanicError where
// it panicked; its context does not end.
func (p *Place) Start(ctx context.Context, id int64, work func(context.Context, *Job) error, end func(context.Context, error)) *Job {
	values := context.WithoutCancel(ctx)
	working, stop := context.WithCancel(values)
	unhook := context.AfterFunc(p.runner.ctx, stop)
	job := &Job{Began: time.Now(), stop: stop, done: make(chan struct{})}
	at := key{p.kind, id}
	p.runner.mu.Lock()
	p.runner.running[at] = job
	p.runner.mu.Unlock()
	go func() {
		defer close(job.done)
		defer p.Give()
		defer func() {
			p.runner.mu.Lock()
			defer p.runner.mu.Unlock()
			delete(p.runner.running, at)
		}()
		defer stop()
		defer unhook()
		err := p.runner.guard(p.kind, id, func() error { return work(working, job) })
		if err := p.runner.guard(p.kind, id, func() error { end(values, err); return nil }); err != nil {
			p.runner.log.Error("the end of a job failed", "kind", p.kind, "job", id, "error", err)
		}
	}()
	return job
}

func (r *Runner) guard(kind string, id int64, work func() error) (err error) {
	defer func() {
		if fault := recover(); fault != nil {
			r.log.Error("a job panicked", "kind", kind, "job", id, "fault", fmt.Sprint(fault), "stack", string(debug.Stack()))
			err = &PanicError{fault}
		}
	}()
	return work()
}

// Do runs work while its caller waits, under the bounds of its kind: it waits for a place, and a
// panic is an error. The work is given a context that also ends when the runner closes.
func (r *Runner) Do(ctx context.Context, kind Kind, work func(context.Context) error) error {
	for {
		if place, ok := r.Take(kind); ok {
			defer place.Give()
			working, stop := context.WithCancel(ctx)
			defer stop()
			defer context.AfterFunc(r.ctx, stop)()
			return r.guard(kind.Name, 0, func() error { return work(working) })
		}
		select {
		case <-ctx.Done():
			return ctx.Err()
		case <-r.ctx.Done():
			return context.Canceled
		case <-time.After(wait):
		}
	}
}

// wait is how long it takes until a place that may have become free is looked for again.
const wait = 20 * time.Millisecond

// Find gives a job that runs.
func (r *Runner) Find(kind Kind, id int64) (*Job, bool) {
	r.mu.Lock()
	defer r.mu.Unlock()
	job, ok := r.running[key{kind.Name, id}]
	return job, ok
}

// Job is work that runs.
type Job struct {
	Began time.Time
	stop  context.CancelFunc
	done  chan struct{}

	mu   sync.Mutex
	told any
}

// Stop asks the job to end; it may take a moment.
func (j *Job) Stop() { j.stop() }

// Done is closed once the job has ended and what came of it is kept.
func (j *Job) Done() <-chan struct{} { return j.done }

// Tell says how far the job is.
func (j *Job) Tell(progress any) {
	j.mu.Lock()
	defer j.mu.Unlock()
	j.told = progress
}

// Told is what the job said last; nil before that.
func (j *Job) Told() any {
	j.mu.Lock()
	defer j.mu.Unlock()
	return j.told
}
