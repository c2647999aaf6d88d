package table

import (
	"fmt"
	"io"
)

// mostRecord bounds a row of a CSV file, in bytes: more than any row of ours, and
// little enough that a file cannot fill the memory with one cell.
const mostRecord = 8 << 20

// recordBound passes a CSV file on, and ends it with an error where a row grows beyond
// the bound: the reader behind it gathers a row, with line breaks in quotes, before
// anybody can look at its length.
type recordBound struct {
	r      io.Reader
	length int
	quoted bool
	line   int // ended so far
}

func (b *recordBound) Read(p []byte) (int, error) {
	n, err := b.r.Read(p)
	for _, c := range p[:n] {
		b.length++
		switch c {
		case '"':
			b.quoted = !b.quoted
		case '\n':
			b.line++
			if !b.quoted {
				b.length = 0
			}
		}
		if b.length > mostRecord {
			return 0, fmt.Errorf("the row that ends after line %d is longer than %d MB; is a quotation mark not closed?", b.line+1, mostRecord>>20)
		}
	}
	return n, err
}
