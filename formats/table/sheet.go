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

// ReadSheets reads the sheets of a workbook at a path one after the other: each row with its sheet and the line it stands in.
// Empty rows are none. A merged cell has its text at its begin alone.
func ReadSheets(path string, take func(sheet string, line int, cells []string) error) error {
	book, err := excelize.OpenFile(path, excelize.Options{UnzipSizeLimit: mostWorkbook, UnzipXMLSizeLimit: mostSheetXML})
	if err != nil {
		return fmt.Errorf("the file cannot be read as a workbook: %w", err)
	}
	return errors.Join(readBook(book, take), book.Close())
}

func readBook(book *excelize.File, take func(sheet string, line int, cells []string) error) error {
	names := book.GetSheetList()
	if len(names) == 0 {
		return errors.New("the workbook has no sheet")
	}
	for _, name := range names {
		rows, err := book.Rows(name)
		if err != nil {
			return err
		}
		read := func(line int, cells []string) error { return take(name, line, cells) }
		if err := errors.Join(readRows(rows, read), rows.Close()); err != nil {
			return err
		}
	}
	return nil
}

func readRows(rows *excelize.Rows, take func(line int, cells []string) error) error {
	width := 0 // of the head row: a sheet leaves out empty cells at the end
	for line := 1; rows.Next(); line++ {
		cells, err := rows.Columns()
		if err != nil {
			return err
		}
		if strings.TrimSpace(strings.Join(cells, "")) == "" {
			continue
		}
		if width == 0 {
			width = len(cells)
		}
		for len(cells) < width {
			cells = append(cells, "")
		}
		if err := take(line, cells); err != nil {
			return err
		}
	}
	return rows.Error()
}

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
