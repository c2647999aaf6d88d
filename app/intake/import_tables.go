package intake

import (
	"archive/zip"
	"context"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"os"

	"pineledger/core/official"
	"pineledger/formats/officialtable"
	"pineledger/formats/table"
	"pineledger/store"
	"pineledger/store/cutrows"
	"pineledger/store/intakerows"
	"pineledger/store/officerows"
)

// tableImport reads the conversion tables that a state publishes, from a CSV file or every sheet of a workbook.
type tableImport struct {
	run      *importRun
	given    official.Key
	subjects []string
	known    map[official.Key]string // digests of the tables in force
	seen     map[official.Key]bool
	sheets   []officialtable.Sheet
}

func (a *Intake) readTables(ctx context.Context, run *importRun, name, path string) error {
	assumed := run.file.Assume
	im := &tableImport{run: run, given: official.Key{Subject: assumed.Subject, Grade: assumed.Grade, Year: assumed.Year}, known: map[official.Key]string{}, seen: map[official.Key]bool{}}
	var err error
	if im.subjects, err = officerows.Subjects(ctx, a.Store.Reader); err != nil {
		return err
	}
	tables, err := cutrows.OfficialTables(ctx, a.Store.Reader)
	if err != nil {
		return err
	}
	for _, t := range tables {
		im.known[t.Key()] = t.Digest
	}
	run.begin("official tables")
	if err := a.sheetsOf(ctx, im, name, path); err != nil {
		return err
	}
	for _, s := range im.sheets {
		if err := im.take(s, store.Millis(a.Now())); err != nil {
			return fmt.Errorf("%s: %w", named(name, s), err)
		}
	}
	return nil
}

// named is how a report calls a sheet of a file.
func named(file string, s officialtable.Sheet) string {
	if s.Name == "" {
		return file
	}
	return file + ", " + s.Name
}

// sheetsOf reads all sheets of a file into memory: an official table has some hundred rows.
func (a *Intake) sheetsOf(ctx context.Context, im *tableImport, name, path string) error {
	if z, err := zip.OpenReader(path); err == nil {
		if err := z.Close(); err != nil {
			return err
		}
		return a.archive(ctx, path, name, im.gather)
	}
	file, err := os.Open(path)
	if err != nil {
		return err
	}
	defer file.Close()
	return table.Grid(name, file, func(line int, cells []string) error { return im.line("", line, cells) })
}

func (im *tableImport) gather(from io.Reader) error {
	pieces := json.NewDecoder(from)
	for {
		var p piece
		if err := pieces.Decode(&p); errors.Is(err, io.EOF) {
			return nil
		} else if err != nil {
			return err
		}
		if p.Row == nil {
			return errors.New("it is a package of items, not a workbook")
		}
		if err := im.line(p.Row.Sheet, p.Row.Line, p.Row.Cells); err != nil {
			return err
		}
	}
}

// mostTableRows bounds the rows of all sheets of a file.
const mostTableRows = 200_000

func (im *tableImport) line(sheet string, line int, cells []string) error {
	if im.run.counts.Read++; im.run.counts.Read > mostTableRows {
		return fmt.Errorf("it has more than %d rows", mostTableRows)
	}
	if n := len(im.sheets); n == 0 || im.sheets[n-1].Name != sheet {
		im.sheets = append(im.sheets, officialtable.Sheet{Name: sheet})
	}
	at := &im.sheets[len(im.sheets)-1]
	at.Rows = append(at.Rows, officialtable.Line{Number: line, Cells: cells})
	return nil
}

// take keeps the tables of a sheet that are new or other than those in force. One with a row that cannot be is refused whole.
func (im *tableImport) take(s officialtable.Sheet, at int64) error {
	found, err := officialtable.Read(s, im.given, im.subjects)
	if err != nil {
		return err
	}
	file := named(im.run.file.Name, s)
	told := func(p official.Problem) *table.RowError {
		return &table.RowError{File: file, Line: p.Line, Field: p.Field, Reason: p.Reason}
	}
	for _, c := range found.Understood {
		as := c.As
		if as == "" {
			as = "nothing; it is left aside"
		}
		im.run.notes = remark(im.run.notes, intakerows.Assumed, &table.RowError{File: file, Field: c.Head, Reason: "was read as " + as})
	}
	for _, p := range found.Aside {
		im.run.counts.Aside++
		im.run.notes = remark(im.run.notes, intakerows.Aside, told(p))
	}
	for _, p := range found.Problems {
		im.run.refuse(told(p))
	}
	for _, t := range found.Tables {
		im.takeTable(t, file, told, len(found.Problems) > 0, at)
	}
	return nil
}

func (im *tableImport) takeTable(t official.Table, file string, told func(official.Problem) *table.RowError, spoiled bool, at int64) {
	if len(t.Rows) == 0 {
		return // each of its rows was refused already
	}
	if im.seen[t.Key] {
		im.run.refuse(told(official.Problem{Line: t.Rows[0].Line, Field: "table", Reason: fmt.Sprintf("the table of %s, grade %s, %s is in the file twice", t.Subject, t.Grade, t.Year)}))
		return
	}
	im.seen[t.Key] = true
	problems := t.Check()
	for _, p := range problems {
		im.run.refuse(told(p))
	}
	if spoiled || len(problems) > 0 {
		return
	}
	digest := digestOf(t)
	known, there := im.known[t.Key]
	if !im.run.compare(intakerows.Known{Digest: known}, there, digest) {
		return
	}
	im.run.later(func(ctx context.Context, tx *store.Tx) error {
		return cutrows.AddOfficialTable(ctx, tx, t, file, digest, im.run.report.ID, at)
	})
}

// digestOf tells two tables apart by their rows.
func digestOf(t official.Table) string {
	sum := sha256.New()
	for _, r := range t.Rows {
		scale := "-"
		if r.Scale != nil {
			scale = r.Scale.String()
		}
		fmt.Fprintf(sum, "%s %s %s\n", r.Raw, scale, r.Band)
	}
	return hex.EncodeToString(sum.Sum(nil))
}
