package table_test

import (
	"io"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"pineledger/formats/table"
)

// endless is a file whose one cell never ends, as a small zip can hold it.
type endless struct{ read int64 }

func (e *endless) Read(p []byte) (int, error) {
	for i := range p {
		p[i] = 'x'
		if i%80 == 79 {
			p[i] = '\n'
		}
	}
	e.read += int64(len(p))
	return len(p), nil
}

func TestARowThatNeverEndsIsNotGathered(t *testing.T) {
	file := &endless{}
	r, err := table.NewReader("users.csv", io.MultiReader(strings.NewReader("sourcedId,name\n1,\""), file))
	require.NoError(t, err)
	_, err = r.Next()
	assert.ErrorContains(t, err, "is longer than 8 MB; is a quotation mark not closed?")
	assert.Less(t, file.read, int64(9<<20))

	whole := strings.Repeat("1,\""+strings.Repeat("a line\n", 1000)+"\"\n", 2000) // 14 MB of rows that end
	r, err = table.NewReader("users.csv", strings.NewReader("sourcedId,name\n"+whole))
	require.NoError(t, err)
	rows := 0
	for {
		if _, err := r.Next(); err == io.EOF {
			break
		} else {
			require.NoError(t, err)
		}
		rows++
	}
	assert.Equal(t, 2000, rows)
}
