package aside_test

import (
	"bytes"
	"errors"
	"os"
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
	"floods": func([]byte) ([]byte, error) { return make([]byte, 17<<20), nil },
}

func TestMain(m *testing.M) {
	if len(os.Args) == 3 && os.Args[1] == aside.Command {
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
