// Package aside reads files of strangers in a child process of the same program,
// with bounded memory and time: a file that was made to fill the machine ends its
// reader, and nothing else.
package aside

import (
	"bufio"
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
	mostStream = 15 * time.Minute // of a file that is taken over piece by piece
	mostMemory = 1 << 30          // bytes beyond what the program has when it starts
	softMemory = 400 << 20        // from which on the reader collects its garbage ever more often
	mostAnswer = 32 << 20
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

// FileReader reads the file at a path, which its user calls by a name, and writes what it finds in it, piece
// by piece. An error refuses it.
type FileReader func(path, name string, out io.Writer) error

// Program is the program that is started to read; the zero value is the one that runs.
type Program struct{ Path string }

// Read starts the named reader on a file. It gives *Refused, ErrTooHeavy, or another
// error where no reader could be started.
func (p Program) Read(ctx context.Context, name string, file []byte) ([]byte, error) {
	ctx, stop := context.WithTimeout(ctx, mostTime)
	defer stop()
	child, said, err := p.start(ctx, name)
	if err != nil {
		return nil, err
	}
	child.Stdin = bytes.NewReader(file)
	answer := &bounded{most: mostAnswer}
	child.Stdout = answer
	if err := outcome(child.Run(), said); err != nil {
		return nil, err
	}
	if answer.full {
		return nil, ErrTooHeavy
	}
	return answer.kept.Bytes(), nil
}

// Stream starts the named reader on a file that lies at a path, and hands what it writes to
// take while it comes. An error of take ends the reading and is given, but for a stream that
// breaks off: then the reader has the word, as in Read.
func (p Program) Stream(ctx context.Context, reader, path, name string, take func(io.Reader) error) error {
	bounded, stop := context.WithTimeout(ctx, mostStream)
	defer stop()
	child, said, err := p.start(bounded, reader, path, name)
	if err != nil {
		return err
	}
	out, err := child.StdoutPipe()
	if err != nil {
		return fmt.Errorf("read aside: %w", err)
	}
	if err := child.Start(); err != nil {
		return fmt.Errorf("read aside: %w", err)
	}
	taken := take(out)
	brokeOff := errors.Is(taken, io.ErrUnexpectedEOF) // the reader ends by itself, and says why
	if taken != nil && !brokeOff {
		stop()
	}
	ended := child.Wait()
	if err := ctx.Err(); err != nil {
		return err
	}
	if taken != nil && !brokeOff {
		return taken
	}
	if err := outcome(ended, said); err != nil {
		return err
	}
	return taken
}

// start readies the program to be started as a reader.
func (p Program) start(ctx context.Context, args ...string) (*exec.Cmd, *strings.Builder, error) {
	path := p.Path
	if path == "" {
		self, err := os.Executable()
		if err != nil {
			return nil, nil, fmt.Errorf("read aside: %w", err)
		}
		path = self
	}
	child := exec.CommandContext(ctx, path, append([]string{Command}, args...)...)
	said := &strings.Builder{}
	child.Stderr = said
	return child, said, nil
}

// outcome tells a reader that refused its file from one that was ended.
func outcome(err error, said *strings.Builder) error {
	var exit *exec.ExitError
	switch {
	case err == nil:
		return nil
	case errors.As(err, &exit) && exit.ExitCode() == refusedCode:
		return &Refused{strings.TrimSpace(said.String())}
	case errors.As(err, &exit), errors.Is(err, context.DeadlineExceeded):
		return ErrTooHeavy
	}
	return fmt.Errorf("read aside: %w", err)
}

// Serve is the child's side: it bounds itself, reads the file from in and answers on
// out. It gives the exit code.
func Serve(read Reader, in io.Reader, out, said io.Writer) int {
	return serve(said, func() error {
		file, err := io.ReadAll(in)
		if err != nil {
			return &broken{err}
		}
		answer, err := read(file)
		if err != nil {
			return err
		}
		if _, err := out.Write(answer); err != nil {
			return &broken{err}
		}
		return nil
	})
}

// ServeFile is Serve for a reader of a file at a path.
func ServeFile(read FileReader, path, name string, out, said io.Writer) int {
	return serve(said, func() error {
		buffered := bufio.NewWriterSize(out, 1<<16)
		if err := read(path, name, buffered); err != nil {
			return err
		}
		return buffered.Flush()
	})
}

// broken is what is no fault of the file.
type broken struct{ error }

func serve(said io.Writer, read func() error) int {
	debug.SetMemoryLimit(softMemory)
	err := boundMemory()
	if err != nil {
		err = &broken{err}
	} else {
		err = read()
	}
	if err == nil {
		return 0
	}
	fmt.Fprintln(said, err)
	if _, ours := errors.AsType[*broken](err); ours {
		return 1
	}
	return refusedCode
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
