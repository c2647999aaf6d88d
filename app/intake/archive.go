package intake

import (
	"archive/zip"
	"context"
	"encoding/json"
	"fmt"
	"io"
	"slices"

	"pineledger/app/bank"
	"pineledger/core/item"
	"pineledger/formats/qti"
	"pineledger/formats/table"
	"pineledger/store/bankrows"
)

// ArchiveReader is the name of the reader of workbooks and packages that runs aside.
const ArchiveReader = "archive"

// mostShelved bounds the pictures and sounds of one package, in bytes.
const mostShelved = 512 << 20

// piece is one thing that the reader of archives finds; one of its fields is given.
type piece struct {
	Row     *row            `json:"row,omitempty"` // of a sheet
	Media   *bankrows.Media `json:"media,omitempty"`
	Found   *qti.Found      `json:"found,omitempty"`
	Refused *qti.Refusal    `json:"refused,omitempty"`
}

type row struct {
	Sheet string   `json:"sheet"`
	Line  int      `json:"line"`
	Cells []string `json:"cells"`
}

// ReadArchive is the reader of workbooks and QTI packages: it writes piece after piece, as JSON.
func ReadArchive(path, name string, out io.Writer) error {
	z, err := zip.OpenReader(path)
	if err != nil {
		return fmt.Errorf("%s cannot be opened: %w", name, err)
	}
	defer z.Close()
	pieces := json.NewEncoder(out)
	if slices.ContainsFunc(z.File, func(f *zip.File) bool { return f.Name == "xl/workbook.xml" }) {
		return table.ReadSheets(path, func(sheet string, line int, cells []string) error {
			return pieces.Encode(piece{Row: &row{sheet, line, cells}})
		})
	}
	size := 0
	p, err := qti.Open(&z.Reader, func(name string, data []byte) (item.Picture, error) {
		m, err := bank.MediaOf(name, data)
		if err != nil {
			return item.Picture{}, err
		}
		if size += len(m.Data); size > mostShelved {
			return item.Picture{}, fmt.Errorf("is one too many: a package brings %d MB of pictures and sounds at most", mostShelved>>20)
		}
		return bank.Shelved(m), pieces.Encode(piece{Media: &m})
	})
	if err != nil {
		return err
	}
	return p.Each(func(f qti.Found, refused *qti.Refusal) error {
		if refused != nil {
			return pieces.Encode(piece{Refused: refused})
		}
		return pieces.Encode(piece{Found: &f})
	})
}

// archive reads an archive, aside where there is a program for it.
func (a *Intake) archive(ctx context.Context, path, name string, take func(io.Reader) error) error {
	if a.Aside != nil {
		return a.Aside.Stream(ctx, ArchiveReader, path, name, take)
	}
	from, out := io.Pipe()
	go func() { out.CloseWithError(ReadArchive(path, name, out)) }()
	defer from.Close()
	return take(from)
}
