package jobs_test

import (
	"bytes"
	"context"
	"errors"
	"log/slog"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"pineledger/run/jobs"
)

var draws = jobs.Kind{Name: "draw", Most: 1}

func started(t *testing.T, r *jobs.Runner, ctx context.Context, id int64, work func(context.Context, *jobs.Job) error) (*jobs.Job, <-chan error) {
	t.Helper()
	place, ok := r.Take(draws)
	require.True(t, ok)
	ended := make(chan error, 1)
	return place.Start(ctx, id, work, func(_ context.Context, err error) { ended <- err }), ended
}

func TestAJobTellsHowFarItIsAndIsFoundWhileItRuns(t *testing.T) {
	r := jobs.New(slog.New(slog.DiscardHandler))
	defer r.Close()
	goOn := make(chan struct{})
	job, ended := started(t, r, t.Context(), 7, func(_ context.Context, j *jobs.Job) error {
		j.Tell("half")
		<-goOn
		return nil
	})
	require.Eventually(t, func() bool { return job.Told() == "half" }, time.Second, time.Millisecond)
	found, ok := r.Find(draws, 7)
	assert.True(t, ok)
	assert.Same(t, job, found)
	_, ok = r.Find(draws, 8)
	assert.False(t, ok)
	_, ok = r.Take(draws)
	assert.False(t, ok, "one at a time")
	close(goOn)
	<-job.Done()
	assert.NoError(t, <-ended)
	_, ok = r.Find(draws, 7)
	assert.False(t, ok)
	place, ok := r.Take(draws)
	assert.True(t, ok, "there is room again")
	place.Give()
}

func TestAJobOutlivesTheRequestAndEndsWhenItIsStopped(t *testing.T) {
	r := jobs.New(slog.New(slog.DiscardHandler))
	defer r.Close()
	request, leave := context.WithCancel(t.Context())
	began := make(chan struct{})
	job, ended := started(t, r, request, 1, func(ctx context.Context, _ *jobs.Job) error {
		leave()
		close(began)
		<-ctx.Done()
		return ctx.Err()
	})
	<-began
	select {
	case <-job.Done():
		t.Fatal("the request took the job along")
	case <-time.After(10 * time.Millisecond):
	}
	job.Stop()
	require.ErrorIs(t, <-ended, context.Canceled)
}

func TestAPanicEndsItsJobAlone(t *testing.T) {
	var log bytes.Buffer
	r := jobs.New(slog.New(slog.NewTextHandler(&log, nil)))
	defer r.Close()
	job, ended := started(t, r, t.Context(), 1, func(context.Context, *jobs.Job) error { panic("no such row") })
	var fault *jobs.PanicError
	require.ErrorAs(t, <-ended, &fault)
	assert.Equal(t, "no such row", fault.Value)
	<-job.Done()
	assert.Contains(t, log.String(), "no such row")
	assert.Contains(t, log.String(), "jobs_test.go", "the stack says where")

	err := r.Do(t.Context(), draws, func(context.Context) error { panic("again") })
	require.ErrorAs(t, err, &fault)
	place, ok := r.Take(draws)
	require.True(t, ok, "no panic keeps its place")
	job = place.Start(t.Context(), 2, func(context.Context, *jobs.Job) error { return nil }, func(context.Context, error) { panic("at its end") })
	<-job.Done()
	assert.Contains(t, log.String(), "at its end")
}

func TestWhoWaitsForAPlaceGetsItInTurnOrLeaves(t *testing.T) {
	r := jobs.New(slog.New(slog.DiscardHandler))
	defer r.Close()
	place, _ := r.Take(draws)
	done := make(chan error, 1)
	go func() { done <- r.Do(t.Context(), draws, func(context.Context) error { return errors.New("its own") }) }()
	impatient, leave := context.WithTimeout(t.Context(), 10*time.Millisecond)
	defer leave()
	assert.ErrorIs(t, r.Do(impatient, draws, func(context.Context) error { return nil }), context.DeadlineExceeded)
	place.Give()
	assert.EqualError(t, <-done, "its own")
}

func TestClosingStopsAllAndWaitsUntilWhatCameOfItIsKept(t *testing.T) {
	r := jobs.New(slog.New(slog.DiscardHandler))
	kept := false
	place, _ := r.Take(draws)
	place.Start(t.Context(), 1, func(ctx context.Context, _ *jobs.Job) error {
		<-ctx.Done()
		return ctx.Err()
	}, func(ctx context.Context, err error) {
		time.Sleep(20 * time.Millisecond)
		kept = errors.Is(err, context.Canceled) && ctx.Err() == nil
	})
	r.Close()
	assert.True(t, kept)
	_, ok := r.Take(draws)
	assert.False(t, ok, "nothing begins any more")
	assert.Error(t, r.Do(t.Context(), draws, func(context.Context) error { return nil }))
}
