package table_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"pineledger/formats/table"
)

func TestRowsAreReadByColumnAndBadOnesRefusedAlone(t *testing.T) {
	r, err := table.NewReader("x.csv", strings.NewReader("\xef\xbb\xbfa, b\n1,\"two\nlines\"\n\nonly one\n3, 4 \n\"un\"closed,5\n6,\xff\n7,8\n"), "a", "b")
	require.NoError(t, err)
	var got, refused []string
	err = r.Each(func(row table.Row, bad *table.RowError) error {
		if bad != nil {
			refused = append(refused, bad.Error())
			return nil
		}
		got = append(got, row.Get("a")+"|"+row.Get("b")+"@"+string(rune('0'+row.Line)))
		assert.Empty(t, row.Get("no such column"))
		return nil
	})
	require.NoError(t, err)
	assert.Equal(t, []string{"1|two\nlines@2", "3|4@6", "7|8@9"}, got)
	assert.Equal(t, []string{
		"x.csv line 5, row: has 1 cells where the head row has 2",
		"x.csv line 7, row: cannot be read as CSV: extraneous or missing \" in quoted-field",
		"x.csv line 8, b: is not UTF-8 text; save the file as UTF-8",
	}, refused)
}

func TestBadHeads(t *testing.T) {
	for in, want := range map[string]string{
		"":      "x.csv is empty",
		"a,a\n": `x.csv has the column "a" twice`,
		"c\n":   "x.csv lacks the columns a, b",
	} {
		_, err := table.NewReader("x.csv", strings.NewReader(in), "a", "b")
		assert.EqualError(t, err, want)
	}
}

func TestSpreadsheetsRunNothingThatIsExported(t *testing.T) {
	var out strings.Builder
	require.NoError(t, table.Write(&out, []string{"name"}, [][]string{{"=1+1"}, {"-3.5"}, {"@x"}, {"a,b"}}))
	assert.Equal(t, "name\n'=1+1\n-3.5\n'@x\n\"a,b\"\n", out.String())
}
