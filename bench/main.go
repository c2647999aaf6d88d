// Command bench measures what Pine Ledger promises, each figure beside the bare
// limit of the same machine in the same run. It drives the built program, over
// HTTP, as browsers do.
package main

import (
	"context"
	"errors"
	"flag"
	"fmt"
	"os"
	"os/signal"
	"slices"
	"syscall"
	"time"
)

type bench struct {
	bin string // the built program
	dir string // a folder of our own, removed at the end
}

var measures = []struct {
	name string
	run  func(context.Context, *bench) error
}{
	{"start", measureStart},
	{"saves", measureSaves},
	{"mixed", measureMixed},
	{"bank", measureBank},
	{"matrix", measureMatrix},
	{"balance", measureBalance},
	{"draw", measureDraw},
	{"cuts", measureCuts},
	{"settings", measureSettings},
	{"supports", measureSupports},
	{"distribute", measureDistribute},
	{"score", measureScore},
	{"packages", measurePackages},
	{"roster", measureRoster},
}

func main() {
	bin := flag.String("bin", "bin/pineledger", "the built program")
	flag.Usage = func() {
		fmt.Fprintln(flag.CommandLine.Output(), "bench [-bin FILE] [start|saves|mixed|bank|matrix|balance|draw|cuts|settings|supports|distribute|score|packages|roster]...")
	}
	flag.Parse()
	ctx, stop := signal.NotifyContext(context.Background(), os.Interrupt, syscall.SIGTERM)
	defer stop()
	do := func() error { return run(ctx, *bin, flag.Args()) }
	if flag.Arg(0) == "answer" {
		do = func() error { return answerOnly(ctx) }
	}
	if err := do(); err != nil {
		fmt.Fprintln(os.Stderr, err)
		os.Exit(1)
	}
}

func run(ctx context.Context, bin string, only []string) (err error) {
	dir, err := os.MkdirTemp("", "pineledger-bench-")
	if err != nil {
		return err
	}
	defer func() { err = errors.Join(err, os.RemoveAll(dir)) }()
	for _, m := range measures {
		if len(only) > 0 && !slices.Contains(only, m.name) {
			continue
		}
		if err := m.run(ctx, &bench{bin: bin, dir: dir}); err != nil {
			return fmt.Errorf("%s: %w", m.name, err)
		}
	}
	return nil
}

// say prints one figure: what was measured, and what came out.
func say(what, format string, args ...any) {
	fmt.Printf("%-66s %s\n", what, fmt.Sprintf(format, args...))
}

// beside prints a time, its bare limit and how many times the limit it is.
func beside(what string, took, bare time.Duration, aim string) {
	say(what, "%s, bare %s, %.1f× the bare limit%s", brief(took), brief(bare), took.Seconds()/bare.Seconds(), aim)
}

func brief(d time.Duration) string {
	if d < 10*time.Millisecond {
		return fmt.Sprintf("%.2f ms", float64(d.Microseconds())/1000)
	}
	if d < 10*time.Second {
		return fmt.Sprintf("%d ms", d.Milliseconds())
	}
	return fmt.Sprintf("%.1f s", d.Seconds())
}

// median runs f a few times and gives its middle time.
func median(times int, f func() error) (time.Duration, error) {
	var took []time.Duration
	for range times {
		start := time.Now()
		if err := f(); err != nil {
			return 0, err
		}
		took = append(took, time.Since(start))
	}
	slices.Sort(took)
	return took[len(took)/2], nil
}
