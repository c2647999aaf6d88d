// Package table reads and writes tables with a head row: CSV (RFC 4180, UTF-8) and
// sheets of XLSX workbooks.
package table

import (
	"bufio"
	"bytes"
	"encoding/csv"
	"errors"
	"fmt"
	"io"
	"strings"
	"unicode/utf8"

	"golang.org/x/text/encoding/unicode"
	"golang.org/x/text/transform"
)

// A RowError is one row that is refused: where it is, which field and why.
type RowError struct {
	File   string
	Line   int // in the file, the head row is line 1
	Field  string
	Reason string
}

func (e *RowError) Error() string {
	return fmt.Sprintf("%s line %d, %s: %s", e.File, e.Line, e.Field, e.Reason)
}

// Bounds of a cell and a row, against files made to exhaust memory.
const (
	mostColumns = 500
	mostCell    = 200_000
)

// Reader reads one table row by row.
type Reader struct {
	file    string
	source  source
	columns map[string]int
	Columns []string
}

// source gives the cells of a table: of a CSV file, or of a sheet.
type source interface {
	// next gives a row with the line it stands in, io.EOF at the end.
	next() (cells []string, line int, err error)
}

type csvSource struct{ *csv.Reader }

func (s csvSource) next() (cells []string, line int, err error) {
	if cells, err = s.Read(); err == nil {
		line, _ = s.FieldPos(0)
	}
	return cells, line, err
}

// NewReader reads the head row of a CSV file: UTF-8, or UTF-16 with its mark; its cells parted by commas,
// or by semicolons or tabs where the head row has those and no comma. required columns that are missing
// are named in the error.
func NewReader(file string, r io.Reader, required ...string) (*Reader, error) {
	// A mark at the begin tells UTF-16, and is taken away from UTF-8.
	decoded := transform.NewReader(r, unicode.BOMOverride(transform.Nop))
	buffered := bufio.NewReaderSize(decoded, 1<<16)
	c := csv.NewReader(&recordBound{r: buffered})
	head, err := buffered.Peek(1 << 14)
	if err != nil && !errors.Is(err, io.EOF) && !errors.Is(err, bufio.ErrBufferFull) {
		return nil, fmt.Errorf("%s cannot be read as a table: %w", file, err)
	}
	c.Comma = parting(head)
	c.FieldsPerRecord = -1
	c.ReuseRecord = true
	return newReader(file, csvSource{c}, required)
}

// Grid reads a CSV file without taking any row for its head: each row with the line it stands in. Empty rows are none.
// The file is decoded as NewReader does; its cells are parted by what the first row that has a comma, semicolon or tab has.
func Grid(file string, r io.Reader, take func(line int, cells []string) error) error {
	buffered := bufio.NewReaderSize(transform.NewReader(r, unicode.BOMOverride(transform.Nop)), 1<<16)
	c := csv.NewReader(&recordBound{r: buffered})
	head, err := buffered.Peek(1 << 14)
	if err != nil && !errors.Is(err, io.EOF) && !errors.Is(err, bufio.ErrBufferFull) {
		return fmt.Errorf("%s cannot be read as a table: %w", file, err)
	}
	for line := range bytes.Lines(head) {
		if bytes.ContainsAny(line, ",;\t") {
			c.Comma = parting(line)
			break
		}
	}
	c.FieldsPerRecord = -1
	for {
		cells, err := c.Read()
		if errors.Is(err, io.EOF) {
			return nil
		}
		if err != nil {
			return fmt.Errorf("%s cannot be read as a table: %w", file, err)
		}
		if strings.TrimSpace(strings.Join(cells, "")) == "" {
			continue
		}
		line, _ := c.FieldPos(0)
		if err := take(line, cells); err != nil {
			return err
		}
	}
}

// parting is what parts the cells of a head row.
func parting(head []byte) rune {
	line, _, _ := bytes.Cut(head, []byte("\n"))
	for _, part := range []byte{',', ';', '\t'} {
		if bytes.IndexByte(line, part) >= 0 {
			return rune(part)
		}
	}
	return ','
}

// Rows gives the cells of a table with the line they stand in, io.EOF at the end.
type Rows func() (cells []string, line int, err error)

func (r Rows) next() ([]string, int, error) { return r() }

// FromRows reads the head row of a table that somebody else takes apart, as NewReader does.
func FromRows(file string, rows Rows, required ...string) (*Reader, error) {
	return newReader(file, rows, required)
}

func newReader(file string, from source, required []string) (*Reader, error) {
	head, _, err := from.next()
	if errors.Is(err, io.EOF) {
		return nil, fmt.Errorf("%s is empty", file)
	}
	if err != nil {
		return nil, fmt.Errorf("%s cannot be read as a table: %w", file, err)
	}
	if len(head) > mostColumns {
		return nil, fmt.Errorf("%s has more than %d columns", file, mostColumns)
	}
	t := &Reader{file: file, source: from, columns: map[string]int{}}
	for i, name := range head {
		name = strings.TrimSpace(name)
		if _, twice := t.columns[name]; twice && name != "" {
			return nil, fmt.Errorf("%s has the column %q twice", file, name)
		}
		t.columns[name] = i
		t.Columns = append(t.Columns, name)
	}
	var missing []string
	for _, name := range required {
		if _, ok := t.columns[name]; !ok {
			missing = append(missing, name)
		}
	}
	if missing != nil {
		return nil, fmt.Errorf("%s lacks the columns %s", file, strings.Join(missing, ", "))
	}
	return t, nil
}

// Row is one row. It is valid until the next call of Next.
type Row struct {
	reader *Reader
	Line   int
	cells  []string
}

// Next gives the next row, io.EOF at the end, a *RowError for a row that cannot
// be read (the rows after it can), or another error when the file is broken.
func (t *Reader) Next() (Row, error) {
	for {
		cells, line, err := t.source.next()
		if err != nil {
			return Row{}, t.readError(err)
		}
		row := Row{t, line, cells}
		if len(cells) == 1 && strings.TrimSpace(cells[0]) == "" && len(t.Columns) > 1 {
			continue // a blank line
		}
		if len(cells) != len(t.Columns) {
			return row, row.Refuse("row", "has %d cells where the head row has %d", len(cells), len(t.Columns))
		}
		for i, cell := range cells {
			if len(cell) > mostCell {
				return row, row.Refuse(t.Columns[i], "is longer than %d bytes", mostCell)
			}
			if !utf8.ValidString(cell) {
				return row, row.Refuse(t.Columns[i], "is not UTF-8 text; save the file as UTF-8")
			}
		}
		return row, nil
	}
}

// Each reads all rows. A row that cannot be read comes with its *RowError; an
// error from f ends the reading.
func (t *Reader) Each(f func(row Row, bad *RowError) error) error {
	for {
		row, err := t.Next()
		var bad *RowError
		switch {
		case errors.Is(err, io.EOF):
			return nil
		case err != nil && !errors.As(err, &bad):
			return err
		}
		if err := f(row, bad); err != nil {
			return err
		}
	}
}

func (t *Reader) readError(err error) error {
	var parse *csv.ParseError
	if errors.As(err, &parse) {
		return &RowError{t.file, parse.StartLine, "row", "cannot be read as CSV: " + parse.Err.Error()}
	}
	return err
}

// Get gives a cell by its column, trimmed; "" where there is no such column.
func (r Row) Get(column string) string {
	i, ok := r.reader.columns[column]
	if !ok || i >= len(r.cells) {
		return ""
	}
	cell := strings.TrimSpace(r.cells[i])
	if bare, marked := strings.CutPrefix(cell, "'"); marked && runs(bare) {
		return bare // Write marked it
	}
	return cell
}

// Columns are the names in the head row.
func (r Row) Columns() []string { return r.reader.Columns }

// Whole is the row as one text, to tell whether it changed.
func (r Row) Whole() string { return strings.Join(r.cells, "\x1f") }

// Refuse makes the error that refuses this row.
func (r Row) Refuse(field, format string, args ...any) *RowError {
	return &RowError{r.reader.file, r.Line, field, fmt.Sprintf(format, args...)}
}

// Write writes a head row and rows as CSV. Cells that a spreadsheet would run as
// a formula are written with a leading apostrophe.
func Write(w io.Writer, head []string, rows [][]string) error {
	c := csv.NewWriter(w)
	if err := c.Write(head); err != nil {
		return err
	}
	for _, row := range rows {
		safe := make([]string, len(row))
		for i, cell := range row {
			safe[i] = harmless(cell)
		}
		if err := c.Write(safe); err != nil {
			return err
		}
	}
	c.Flush()
	return c.Error()
}

func harmless(cell string) string {
	if runs(cell) {
		return "'" + cell
	}
	return cell
}

// runs tells whether a spreadsheet would run a cell, or a reader of ours would take
// its apostrophe for a mark.
func runs(cell string) bool {
	switch {
	case cell == "":
		return false
	case cell[0] == '\'':
		return runs(cell[1:])
	case !strings.ContainsRune("=+-@\t\r", rune(cell[0])):
		return false
	}
	digits := strings.TrimSpace(cell[1:])
	signedNumber := (cell[0] == '-' || cell[0] == '+') && digits != "" && strings.Trim(digits, "0123456789.") == ""
	return !signedNumber
}
