// Package oneroster reads rosters in the OneRoster 1.2 CSV format: a zip or a
// folder of CSV files.
package oneroster

import (
	"archive/zip"
	"fmt"
	"io"
	"io/fs"
	"path"
	"slices"
	"strings"

	"pineledger/core/roster"
	"pineledger/formats/table"
)

// The files of a package, in the order in which their rows refer to each other.
const (
	Orgs             = "orgs.csv"
	AcademicSessions = "academicSessions.csv"
	Courses          = "courses.csv"
	Classes          = "classes.csv"
	Users            = "users.csv"
	Roles            = "roles.csv"
	Enrollments      = "enrollments.csv"
	Demographics     = "demographics.csv"
)

var columns = map[string][]string{
	Orgs:             {"sourcedId", "name", "type"},
	AcademicSessions: {"sourcedId", "title", "type", "startDate", "endDate", "schoolYear"},
	Courses:          {"sourcedId", "title", "subjects"},
	Classes:          {"sourcedId", "title", "grades", "courseSourcedId", "schoolSourcedId"},
	Users:            {"sourcedId", "enabledUser", "givenName", "familyName"},
	Roles:            {"userSourcedId", "role", "orgSourcedId"},
	Enrollments:      {"sourcedId", "classSourcedId", "userSourcedId", "role"},
	Demographics:     {"sourcedId"},
}

// optional files may be missing.
var optional = []string{AcademicSessions, Demographics}

// Bounds on a package, against archives made to exhaust memory or disk.
const (
	mostFiles = 200
	mostBytes = 2 << 30
	mostRatio = 200
)

// Package is an opened roster.
type Package struct {
	files fs.FS
	dir   string
}

// Open finds the roster's files in a folder or an opened zip, at its top or in
// its only folder, and names those that are missing.
func Open(files fs.FS) (*Package, error) {
	if z, ok := files.(*zip.Reader); ok {
		if err := bounded(z); err != nil {
			return nil, err
		}
	}
	p := &Package{files: files, dir: "."}
	if _, err := fs.Stat(files, Orgs); err != nil {
		matches, globErr := fs.Glob(files, "*/"+Orgs)
		if globErr != nil || len(matches) != 1 {
			return nil, fmt.Errorf("no %s in the package", Orgs)
		}
		p.dir = path.Dir(matches[0])
	}
	for name := range columns {
		if !p.Has(name) && !slices.Contains(optional, name) {
			return nil, fmt.Errorf("no %s in the package", name)
		}
	}
	return p, nil
}

func bounded(z *zip.Reader) error {
	if len(z.File) > mostFiles {
		return fmt.Errorf("the zip holds more than %d files", mostFiles)
	}
	var total uint64
	for _, f := range z.File {
		total += f.UncompressedSize64
		if f.UncompressedSize64 > 1<<20 && f.UncompressedSize64 > mostRatio*max(f.CompressedSize64, 1) {
			return fmt.Errorf("%s in the zip unpacks to more than %d times its size", f.Name, mostRatio)
		}
	}
	if total > mostBytes {
		return fmt.Errorf("the zip unpacks to more than %d bytes", mostBytes)
	}
	return nil
}

// Has tells whether a file is there.
func (p *Package) Has(name string) bool {
	_, err := fs.Stat(p.files, path.Join(p.dir, name))
	return err == nil
}

// Each reads a file row by row. A row that cannot be read comes with a
// *table.RowError; an error from f ends the reading.
func (p *Package) Each(name string, f func(row table.Row, bad *table.RowError) error) error {
	file, err := p.files.Open(path.Join(p.dir, name))
	if err != nil {
		return fmt.Errorf("open %s: %w", name, err)
	}
	defer file.Close()
	rows, err := table.NewReader(name, io.LimitReader(file, mostBytes), columns[name]...)
	if err != nil {
		return err
	}
	return rows.Each(f)
}

// Need gives a cell that must not be empty.
func Need(row table.Row, column string) (string, error) {
	v := row.Get(column)
	if v == "" {
		return "", row.Refuse(column, "is empty")
	}
	return v, nil
}

// Active tells whether a row is current: not marked as to be deleted.
func Active(row table.Row) bool { return row.Get("status") != "tobedeleted" }

// List splits a cell that holds several values.
func List(cell string) []string {
	out := []string{}
	for _, v := range strings.Split(cell, ",") {
		if v = strings.TrimSpace(v); v != "" {
			out = append(out, v)
		}
	}
	return out
}

// Grades gives a cell's grade codes.
func Grades(row table.Row, column string) ([]string, error) {
	out := List(row.Get(column))
	for _, g := range out {
		if !slices.Contains(roster.Grades, g) {
			return nil, row.Refuse(column, "%q is not a grade code such as KG, 03 or 11", g)
		}
	}
	return out, nil
}
