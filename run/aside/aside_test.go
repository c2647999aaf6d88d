package aside_test

import (
	"bufio"
	"bytes"
	"context"
	"errors"
	"fmt"
	"io"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"pineledger/run/aside"
)

// The test's own program is the child: these are its readers.
var readers = map[string]aside.Reader{
	"upper":   func(file []byte) ([]byte, error) { return bytes.ToUpper(file), nil },
	"refuses": func([]byte) ([]byte, error) { return nil, errors.New("is not a PDF document") },
	"fills": func([]byte) ([]byte, error) {
		var all [][]byte
		for {
			block := make([]byte, 64<<20)
			for i := range block {
				block[i] = 1
			}
			all = append(all, block)
			if len(all) > 1000 {
				return nil, nil
			}
		}
	},
	"panics": func([]byte) ([]byte, error) { panic("a file that breaks its reader") },
	"floods": func([]byte) ([]byte, error) { return make([]byte, 33<<20), nil },
}

var fileReaders = map[string]aside.FileReader{
	"lines": func(path, name string, out io.Writer) error {
		file, err := os.ReadFile(path)
		if err != nil {
			return err
		}
		for line := range strings.Lines(string(file)) {
			if strings.Contains(line, "bad") {
				return fmt.Errorf("%s holds a bad line", name)
			}
			fmt.Fprint(out, line)
		}
		return nil
	},
	"endless": func(_, _ string, out io.Writer) error {
		for {
			if _, err := fmt.Fprintln(out, "more"); err != nil {
				return err
			}
		}
	},
	"fills": func(_, _ string, _ io.Writer) error { _, err := readers["fills"](nil); return err },
}

func TestMain(m *testing.M) {
	if len(os.Args) > 2 && os.Args[1] == aside.Command {
		if len(os.Args) == 5 {
			os.Exit(aside.ServeFile(fileReaders[os.Args[2]], os.Args[3], os.Args[4], os.Stdout, os.Stderr))
		}
		os.Exit(aside.Serve(readers[os.Args[2]], os.Stdin, os.Stdout, os.Stderr))
	}
	os.Exit(m.Run())
}

func TestAFileIsReadAside(t *testing.T) {
	var here aside.Program
	answer, err := here.Read(t.Context(), "upper", []byte("tide"))
	require.NoError(t, err)
	assert.Equal(t, "TIDE", string(answer))

	_, err = here.Read(t.Context(), "refuses", nil)
	var refused *aside.Refused
	require.ErrorAs(t, err, &refused)
	assert.Equal(t, "is not a PDF document", refused.Why)

	for _, name := range []string{"fills", "panics", "floods"} {
		_, err = here.Read(t.Context(), name, nil)
		assert.ErrorIs(t, err, aside.ErrTooHeavy, name)
	}
	_, err = aside.Program{Path: "/nowhere"}.Read(t.Context(), "upper", nil)
	assert.ErrorContains(t, err, "read aside")
}

func TestAFileIsTakenOverPieceByPiece(t *testing.T) {
	var here aside.Program
	file := func(text string) string {
		path := filepath.Join(t.TempDir(), "upload")
		require.NoError(t, os.WriteFile(path, []byte(text), 0o600))
		return path
	}
	var got []string
	take := func(from io.Reader) error {
		got = nil
		for lines := bufio.NewScanner(from); lines.Scan(); {
			got = append(got, lines.Text())
		}
		return nil
	}
	require.NoError(t, here.Stream(t.Context(), "lines", file("ebb\nflood\n"), "tides.txt", take))
	assert.Equal(t, []string{"ebb", "flood"}, got)

	var refused *aside.Refused
	require.ErrorAs(t, here.Stream(t.Context(), "lines", file("ebb\nbad\nflood\n"), "tides.txt", take), &refused)
	assert.Equal(t, "tides.txt holds a bad line", refused.Why)
	assert.ErrorIs(t, here.Stream(t.Context(), "fills", "", "", take), aside.ErrTooHeavy)

	enough := errors.New("enough")
	assert.ErrorIs(t, here.Stream(t.Context(), "endless", "", "", func(from io.Reader) error {
		_, err := io.ReadFull(from, make([]byte, 100))
		require.NoError(t, err)
		return enough
	}), enough, "who takes it over may end it")
	ctx, cancel := context.WithCancel(t.Context())
	assert.ErrorIs(t, here.Stream(ctx, "endless", "", "", func(from io.Reader) error {
		cancel()
		_, err := io.Copy(io.Discard, from)
		return err
	}), context.Canceled)
}
