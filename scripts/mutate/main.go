// Mutate asks how much the tests of the core notice: it puts small mistakes into a
// package, one at a time, runs the package's own tests and prints the mistakes that
// they let through. The sample is drawn from a seed, so that a run can be repeated.
//
//	go run ./scripts/mutate [-each 40] [-seed 1] [-minutes 15] [-at file:line,…] [package folder …]
package main

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"flag"
	"fmt"
	"log"
	"math/rand/v2"
	"os"
	"os/exec"
	"path/filepath"
	"runtime"
	"slices"
	"strings"
	"sync"
	"time"
)

func main() {
	log.SetFlags(0)
	each := flag.Int("each", 40, "mutants tried in a package; 0 tries all")
	seed := flag.Uint64("seed", 1, "seed of the sample")
	minutes := flag.Int("minutes", 15, "ends after so many minutes with what was tried")
	at := flag.String("at", "", "tries only the mistakes on these lines, as survivors are printed: file:line,…")
	flag.Parse()
	folders := flag.Args()
	if len(folders) == 0 {
		found, err := filepath.Glob("core/*")
		if err != nil {
			log.Fatal(err)
		}
		folders = found
	}
	ctx, cancel := context.WithTimeout(context.Background(), time.Duration(*minutes)*time.Minute)
	defer cancel()
	for _, folder := range folders {
		if err := try(ctx, folder, *each, *seed, strings.FieldsFunc(*at, func(r rune) bool { return r == ',' })); err != nil {
			log.Fatal(err)
		}
	}
}

type outcome int

const (
	notTried outcome = iota
	notGo            // does not compile
	killed
	survived
)

// try runs a sample of a package's mutants and prints how many its tests killed, and which they did not.
func try(ctx context.Context, folder string, each int, seed uint64, at []string) error {
	all, err := mutantsOf(folder)
	if len(at) > 0 {
		all = slices.DeleteFunc(all, func(m mutant) bool { return !slices.Contains(at, fmt.Sprintf("%s:%d", m.file, m.line)) })
	}
	if err != nil || len(all) == 0 {
		return err
	}
	if out, err := exec.CommandContext(ctx, "go", "test", "-count=1", "./"+folder).CombinedOutput(); err != nil && ctx.Err() == nil {
		return fmt.Errorf("the tests of %s are red without a mutant:\n%s", folder, out)
	}
	rand.New(rand.NewPCG(seed, 0)).Shuffle(len(all), func(i, j int) { all[i], all[j] = all[j], all[i] })

	outcomes := make([]outcome, len(all))
	var mu sync.Mutex
	next, counted := 0, 0
	var workers sync.WaitGroup
	failed := make(chan error, runtime.NumCPU())
	for range runtime.NumCPU() {
		workers.Go(func() {
			for {
				mu.Lock()
				i := next
				next++
				done := i >= len(all) || each > 0 && counted >= each || ctx.Err() != nil
				mu.Unlock()
				if done {
					return
				}
				o, err := run(ctx, folder, all[i])
				if err != nil {
					failed <- err
					return
				}
				mu.Lock()
				outcomes[i] = o
				if o == killed || o == survived {
					counted++
				}
				mu.Unlock()
			}
		})
	}
	workers.Wait()
	close(failed)
	if err := <-failed; err != nil {
		return err
	}
	report(folder, all, outcomes)
	return nil
}

func report(folder string, all []mutant, outcomes []outcome) {
	count := map[outcome]int{}
	for _, o := range outcomes {
		count[o]++
	}
	tried := count[killed] + count[survived]
	if tried == 0 {
		fmt.Printf("%-16s none of %d tried: the time was up\n", folder, len(all))
		return
	}
	fmt.Printf("%-16s %3d of %3d killed, %d%% (%d mutants in all)\n", folder, count[killed], tried, 100*count[killed]/tried, len(all)-count[notGo])
	for i, o := range outcomes {
		if o == survived {
			fmt.Printf("    %s:%d  %s  →  %s\n", all[i].file, all[i].line, oneLine(all[i].was), oneLine(all[i].is))
		}
	}
}

func oneLine(text string) string { return strings.Join(strings.Fields(text), " ") }

func mutantsOf(folder string) ([]mutant, error) {
	names, err := filepath.Glob(filepath.Join(folder, "*.go"))
	if err != nil {
		return nil, err
	}
	var all []mutant
	for _, name := range names {
		if strings.HasSuffix(name, "_test.go") {
			continue
		}
		source, err := os.ReadFile(name)
		if err != nil {
			return nil, err
		}
		more, err := mutants(name, source)
		if err != nil {
			return nil, err
		}
		all = append(all, more...)
	}
	return all, nil
}

// run tests a package with one mutant laid over its file; the file itself stays as it is.
func run(ctx context.Context, folder string, m mutant) (outcome, error) {
	dir, err := os.MkdirTemp("", "mutant-")
	if err != nil {
		return notTried, err
	}
	defer os.RemoveAll(dir)
	source, err := os.ReadFile(m.file)
	if err != nil {
		return notTried, err
	}
	changed, overlay := filepath.Join(dir, "mutant.go"), filepath.Join(dir, "overlay.json")
	whole, err := filepath.Abs(m.file)
	if err != nil {
		return notTried, err
	}
	over, err := json.Marshal(map[string]any{"Replace": map[string]string{whole: changed}})
	if err != nil {
		return notTried, err
	}
	if err := errors.Join(os.WriteFile(changed, m.in(source), 0o600), os.WriteFile(overlay, over, 0o600)); err != nil {
		return notTried, err
	}
	tests := exec.CommandContext(ctx, "go", "test", "-vet=off", "-count=1", "-failfast", "-timeout=60s", "-overlay="+overlay, "./"+folder)
	tests.Env = append(os.Environ(), "RAPID_NOFAILFILE=true") // a case that fails on a mistake put in is none to keep
	out, err := tests.CombinedOutput()
	switch {
	case ctx.Err() != nil:
		return notTried, nil
	case err == nil:
		return survived, nil
	case bytes.Contains(out, []byte("[build failed]")):
		return notGo, nil
	}
	return killed, nil
}
