package table_test

import (
	"io"
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"pineledger/formats/table"
)

func TestASheetIsReadAsItWasWritten(t *testing.T) {
	path := filepath.Join(t.TempDir(), "items.xlsx")
	file, err := os.Create(path)
	require.NoError(t, err)
	rows := [][]string{{"I1", "0012", "=1+1"}, {"I2", "−7 < \"3\"", ""}, {"", "", ""}, {"I3", "", "x"}}
	require.NoError(t, table.WriteSheet(file, "Items", []string{"identifier", "stem", "key"}, rows))
	require.NoError(t, file.Close())

	type taken struct {
		line  int
		cells []string
	}
	read := func(path string) (all []taken, err error) {
		err = table.ReadSheets(path, func(_ string, line int, cells []string) error {
			all = append(all, taken{line, cells})
			return nil
		})
		return all, err
	}
	all, err := read(path)
	require.NoError(t, err)
	again := func() table.Rows {
		next := -1
		return func() ([]string, int, error) {
			if next++; next == len(all) {
				return nil, 0, io.EOF
			}
			return all[next].cells, all[next].line, nil
		}
	}
	s, err := table.FromRows("items.xlsx", again(), "identifier", "key")
	require.NoError(t, err)
	var got [][]string
	var lines []int
	require.NoError(t, s.Each(func(row table.Row, bad *table.RowError) error {
		require.Nil(t, bad)
		got = append(got, []string{row.Get("identifier"), row.Get("stem"), row.Get("key")})
		lines = append(lines, row.Line)
		return nil
	}))
	assert.Equal(t, [][]string{rows[0], rows[1], rows[3]}, got, "text stays text, and an empty row is none")
	assert.Equal(t, []int{2, 3, 5}, lines)

	_, err = table.FromRows("items.xlsx", again(), "identifier", "grade")
	assert.ErrorContains(t, err, "items.xlsx lacks the columns grade")
	broken := filepath.Join(t.TempDir(), "broken.xlsx")
	require.NoError(t, os.WriteFile(broken, []byte("PK\x03\x04 no workbook"), 0o600))
	_, err = read(broken)
	assert.ErrorContains(t, err, "cannot be read as a workbook")
}
