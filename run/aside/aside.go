// Package aside reads files of strangers in a child process of the same program,
// with bounded memory and time: a file that was made to fill the machine ends its
// reader, and nothing else.
package aside

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"io"
	"os"
	"os/exec"
	"runtime/debug"
	"strings"
	"syscall"
	"time"
)

// Bounds of one reading.
const (
	mostTime   = 20 * time.Second
	mostMemory = 1 << 30   // bytes beyond what the program has when it starts
	softMemory = 400 << 20 // from which on the reader collects its garbage ever more often
	mostAnswer = 16 << 20
)

// Command is the word with which the program is started to read: pineledger aside NAME.
const Command = "aside"

// refusedCode is the exit code of a file that is refused with words for a person.
const refusedCode = 3

// ErrTooHeavy is given for a file that takes more memory or time to read than it gets.
var ErrTooHeavy = errors.New("takes more memory or time to read than a file of its kind should")

// Refused is what a reader says of a file that it cannot take.
type Refused struct{ Why string }

func (e *Refused) Error() string { return e.Why }

// Reader reads a file and answers with bytes of its own choosing. An error refuses it.
type Reader func(file []byte) ([]byte, error)

// Program is the program that is started to read; the zero value is the one that runs.
type Program struct{ Path string }

// Read starts the named reader on a file. It gives *Refused, ErrTooHeavy, or another
// error where no reader could be started.
func (p Program) Read(ctx context.Context, name string, file []byte) ([]byte, error) {
	path := p.Path
	if path == "" {
		self, err := os.Executable()
		if err != nil {
			return nil, fmt.Errorf("read aside: %w", err)
		}
		path = self
	}
	ctx, stop := context.WithTimeout(ctx, mostTime)
	defer stop()
	child := exec.CommandContext(ctx, path, Command, name)
	child.Stdin = bytes.NewReader(file)
	var said strings.Builder
	child.Stderr = &said
	answer := &bounded{most: mostAnswer}
	child.Stdout = answer
	err := child.Run()
	var exit *exec.ExitError
	switch {
	case err == nil && !answer.full:
		return answer.kept.Bytes(), nil
	case errors.As(err, &exit) && exit.ExitCode() == refusedCode:
		return nil, &Refused{strings.TrimSpace(said.String())}
	case err == nil, errors.As(err, &exit), errors.Is(err, context.DeadlineExceeded):
		return nil, ErrTooHeavy
	}
	return nil, fmt.Errorf("read aside: %w", err)
}

// Serve is the child's side: it bounds itself, reads the file from in and answers on
// out. It gives the exit code.
func Serve(read Reader, in io.Reader, out, said io.Writer) int {
	debug.SetMemoryLimit(softMemory)
	if err := boundMemory(); err != nil {
		fmt.Fprintln(said, err)
		return 1
	}
	file, err := io.ReadAll(in)
	if err != nil {
		fmt.Fprintln(said, err)
		return 1
	}
	answer, err := read(file)
	if err != nil {
		fmt.Fprintln(said, err)
		return refusedCode
	}
	if _, err := out.Write(answer); err != nil {
		fmt.Fprintln(said, err)
		return 1
	}
	return 0
}

// boundMemory lets the process grow by so much and no more. What the runtime has put
// aside of address space when it starts is not counted.
func boundMemory() error {
	statm, err := os.ReadFile("/proc/self/statm")
	if err != nil {
		return err
	}
	var pages uint64
	if _, err := fmt.Sscan(string(statm), &pages); err != nil {
		return err
	}
	most := pages*uint64(os.Getpagesize()) + mostMemory
	return syscall.Setrlimit(syscall.RLIMIT_AS, &syscall.Rlimit{Cur: most, Max: most})
}

// bounded keeps so many bytes and drops the rest.
type bounded struct {
	kept bytes.Buffer
	most int
	full bool
}

func (b *bounded) Write(p []byte) (int, error) {
	if b.kept.Len()+len(p) > b.most {
		b.full = true
		return len(p), nil
	}
	return b.kept.Write(p)
}
