package table

import (
	"bytes"
	"errors"
	"fmt"
	"io"
	"strings"

	"github.com/xuri/excelize/v2"
)

// Bounds of a workbook, against archives made to exhaust memory.
const (
	mostWorkbook = 200 << 20 // unpacked
	mostSheetXML = 50 << 20  // of one sheet in memory; larger ones go through a file
)

// Sheet is an open workbook whose first sheet is read as a table. Close it.
type Sheet struct {
	*Reader
	book *excelize.File
	rows *excelize.Rows
}

type sheetSource struct {
	rows  *excelize.Rows
	line  int
	width int // of the head row: a sheet leaves out empty cells at the end
}

func (s *sheetSource) next() ([]string, int, error) {
	for s.rows.Next() {
		s.line++
		cells, err := s.rows.Columns()
		if err != nil {
			return nil, s.line, err
		}
		if strings.TrimSpace(strings.Join(cells, "")) == "" {
			continue
		}
		if s.width == 0 {
			s.width = len(cells)
		}
		for len(cells) < s.width {
			cells = append(cells, "")
		}
		return cells, s.line, nil
	}
	if err := s.rows.Error(); err != nil {
		return nil, s.line, err
	}
	return nil, s.line, io.EOF
}

// OpenSheet reads the head row of the first sheet of a workbook.
func OpenSheet(file, path string, required ...string) (*Sheet, error) {
	book, err := excelize.OpenFile(path, excelize.Options{UnzipSizeLimit: mostWorkbook, UnzipXMLSizeLimit: mostSheetXML})
	if err != nil {
		return nil, fmt.Errorf("%s cannot be read as a workbook: %w", file, err)
	}
	names := book.GetSheetList()
	if len(names) == 0 {
		return nil, errors.Join(fmt.Errorf("%s has no sheet", file), book.Close())
	}
	rows, err := book.Rows(names[0])
	if err != nil {
		return nil, errors.Join(fmt.Errorf("%s: %w", file, err), book.Close())
	}
	t, err := newReader(file, &sheetSource{rows: rows}, required)
	if err != nil {
		return nil, errors.Join(err, rows.Close(), book.Close())
	}
	return &Sheet{t, book, rows}, nil
}

// Close lets go of the workbook.
func (s *Sheet) Close() error { return errors.Join(s.rows.Close(), s.book.Close()) }

// WriteSheet writes a head row and rows as a workbook of one sheet. Every cell is
// text, so that a spreadsheet neither runs nor rounds it.
func WriteSheet(w io.Writer, name string, head []string, rows [][]string) error {
	book := excelize.NewFile()
	defer book.Close()
	if err := book.SetSheetName("Sheet1", name); err != nil {
		return err
	}
	stream, err := book.NewStreamWriter(name)
	if err != nil {
		return err
	}
	for i, row := range append([][]string{head}, rows...) {
		cells := make([]any, len(row))
		for k, cell := range row {
			cells[k] = cell
		}
		at, err := excelize.CoordinatesToCellName(1, i+1)
		if err != nil {
			return err
		}
		if err := stream.SetRow(at, cells); err != nil {
			return err
		}
	}
	if err := stream.Flush(); err != nil {
		return err
	}
	var out bytes.Buffer
	if err := book.Write(&out); err != nil {
		return err
	}
	_, err = io.Copy(w, &out)
	return err
}
