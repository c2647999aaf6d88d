package oneroster_test

import (
	"archive/zip"
	"bytes"
	"fmt"
	"io"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"pineledger/formats/oneroster"
	"pineledger/formats/table"
)

// zipped makes a zip of files, in the order of their names.
func zipped(t *testing.T, names []string, content func(name string) string) *zip.Reader {
	t.Helper()
	var out bytes.Buffer
	w := zip.NewWriter(&out)
	for _, name := range names {
		f, err := w.Create(name)
		require.NoError(t, err)
		_, err = io.WriteString(f, content(name))
		require.NoError(t, err)
	}
	require.NoError(t, w.Close())
	r, err := zip.NewReader(bytes.NewReader(out.Bytes()), int64(out.Len()))
	require.NoError(t, err)
	return r
}

func names(dir string) (out []string) {
	for name := range files(dir) {
		out = append(out, name)
	}
	return out
}

func TestAZipIsReadAtItsTopOrInItsOnlyFolder(t *testing.T) {
	for _, dir := range []string{"", "district-export/"} {
		all := files(dir)
		p, err := oneroster.Open(zipped(t, names(dir), func(name string) string { return string(all[name].Data) }))
		require.NoError(t, err, dir)
		rows := 0
		require.NoError(t, p.Each(oneroster.Orgs, func(table.Row, *table.RowError) error { rows++; return nil }))
		assert.Equal(t, 3, rows)
	}
}

func TestTwoRostersInOneZipAreNotGuessedAt(t *testing.T) {
	_, err := oneroster.Open(zipped(t, append(names("north/"), names("south/")...), func(string) string { return "sourcedId\n" }))
	assert.EqualError(t, err, "no orgs.csv in the package")
}

func TestZipsMadeToExhaustUsAreRefused(t *testing.T) {
	bomb := strings.Repeat("0", 8<<20)
	_, err := oneroster.Open(zipped(t, names(""), func(name string) string {
		if name == "users.csv" {
			return bomb
		}
		return ""
	}))
	assert.ErrorContains(t, err, "users.csv in the zip unpacks to more than")

	var many []string
	for i := range 201 {
		many = append(many, fmt.Sprint(i, ".csv"))
	}
	_, err = oneroster.Open(zipped(t, many, func(string) string { return "" }))
	assert.EqualError(t, err, "the zip holds more than 200 files")
}

func TestPathsOutOfTheZipLeadNowhere(t *testing.T) {
	all := files("")
	p, err := oneroster.Open(zipped(t, append(names(""), "../../outside.csv"), func(name string) string {
		if f, ok := all[name]; ok {
			return string(f.Data)
		}
		return "sourcedId\n"
	}))
	require.NoError(t, err)
	for _, name := range []string{"../../outside.csv", "/etc/passwd", "../package.go"} {
		assert.False(t, p.Has(name), name)
		assert.Error(t, p.Each(name, func(table.Row, *table.RowError) error { return nil }), name)
	}
}

func TestListsOfACell(t *testing.T) {
	assert.Equal(t, []string{"06", "07"}, oneroster.List(" 06 ,,07,"))
	assert.Empty(t, oneroster.List(""))
}
