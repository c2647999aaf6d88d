package table_test

import (
	"encoding/csv"
	"errors"
	"io"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"pineledger/formats/table"
)

// What is written is read again as it was, white space around it aside; no
// spreadsheet runs a cell of it.
func TestWhatIsWrittenIsReadAgain(t *testing.T) {
	cell := rapid.StringOfN(rapid.RuneFrom([]rune("ab 1,;\"\n=+-@'é漢")), 0, 12, -1)
	rapid.Check(t, func(t *rapid.T) {
		rows := rapid.SliceOfN(rapid.SliceOfN(cell, 3, 3), 0, 8).Draw(t, "rows")
		var out strings.Builder
		require.NoError(t, table.Write(&out, []string{"a", "b", "c"}, rows))
		read, err := csv.NewReader(strings.NewReader(out.String())).ReadAll()
		require.NoError(t, err)
		require.Len(t, read, len(rows)+1)
		for i, row := range rows {
			for j, cell := range row {
				got := read[i+1][j]
				if got != "'"+cell {
					require.Equal(t, cell, got)
				}
				require.False(t, got != "" && strings.ContainsRune("=@\t\r", rune(got[0])), "%q is written as a formula", cell)
			}
		}
		r, err := table.NewReader("x.csv", strings.NewReader(out.String()))
		require.NoError(t, err)
		seen := 0
		require.NoError(t, r.Each(func(row table.Row, bad *table.RowError) error {
			require.Nil(t, bad)
			want := strings.TrimSpace(rows[seen][1])
			if !strings.HasPrefix(rows[seen][1], " ") && !strings.HasPrefix(rows[seen][1], "\n") {
				require.Equal(t, want, row.Get("b"))
			}
			seen++
			return nil
		}))
		require.Equal(t, len(rows), seen)
	})
}

func TestACellTooLongIsRefusedAlone(t *testing.T) {
	r, err := table.NewReader("x.csv", strings.NewReader("a,b\n"+strings.Repeat("x", 200_001)+",1\n2,3\n"), "a")
	require.NoError(t, err)
	_, err = r.Next()
	var bad *table.RowError
	require.ErrorAs(t, err, &bad)
	assert.Equal(t, "a", bad.Field)
	row, err := r.Next()
	require.NoError(t, err)
	assert.Equal(t, "2", row.Get("a"))
	_, err = r.Next()
	assert.ErrorIs(t, err, io.EOF)
}

func TestTooManyColumnsAreNoTable(t *testing.T) {
	_, err := table.NewReader("x.csv", strings.NewReader(strings.Repeat(",", 501)))
	assert.ErrorContains(t, err, "more than 500 columns")
}

func TestAnErrorOfTheReaderEndsTheReading(t *testing.T) {
	r, err := table.NewReader("x.csv", strings.NewReader("a,b\n1,2\n3,4\n"), "a")
	require.NoError(t, err)
	stop := errors.New("stop")
	read := 0
	assert.ErrorIs(t, r.Each(func(table.Row, *table.RowError) error { read++; return stop }), stop)
	assert.Equal(t, 1, read)
}

func FuzzReadingNeverPanicsAndNamesItsLine(f *testing.F) {
	for _, s := range []string{"a,b\n1,2\n", "a\n\"", "\xef\xbb\xbfa,b\n\xff,1\n", "a,b\n1\n\n,,\n"} {
		f.Add(s)
	}
	f.Fuzz(func(t *testing.T, in string) {
		r, err := table.NewReader("x.csv", strings.NewReader(in))
		if err != nil {
			return
		}
		before := 0
		err = r.Each(func(row table.Row, bad *table.RowError) error {
			line := row.Line
			if bad != nil {
				line = bad.Line
			}
			if line < before {
				t.Fatalf("line %d after line %d", line, before)
			}
			before = line
			return nil
		})
		if err != nil {
			t.Fatal(err)
		}
	})
}
