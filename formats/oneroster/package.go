// Package oneroster reads rosters in the OneRoster CSV format, 1.2 and 1.1: a zip or a
// folder of CSV files, with all there is or with what has changed.
package oneroster

import (
	"archive/zip"
	"fmt"
	"io"
	"io/fs"
	"path"
	"slices"
	"strings"
	"time"
	"unicode/utf8"

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
	Manifest         = "manifest.csv"
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

var manifestColumns = []string{"propertyName", "value"}

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
	files    fs.FS
	dir      string
	manifest map[string]string
	eleven   bool
}

// Eleven tells whether the roster is of version 1.1, where users bear their roles.
func (p *Package) Eleven() bool { return p.eleven }

func (p *Package) isEleven() (bool, error) {
	if version := p.manifest["oneroster.version"]; version != "" {
		return strings.HasPrefix(version, "1.1"), nil
	}
	if p.Has(Roles) || !p.Has(Users) {
		return false, nil
	}
	file, err := p.files.Open(path.Join(p.dir, Users))
	if err != nil {
		return false, fmt.Errorf("open %s: %w", Users, err)
	}
	defer file.Close()
	head, err := table.NewReader(Users, file)
	return err == nil && slices.Contains(head.Columns, "role"), err
}

// wants tells whether a file must be there: not one that the manifest calls absent, and not in a
// roster of what has changed.
func (p *Package) wants(name string) bool {
	if slices.Contains(optional, name) || name == Roles && p.Eleven() {
		return false
	}
	switch p.manifest["file."+strings.TrimSuffix(name, ".csv")] {
	case "absent", "delta":
		return false
	case "bulk":
		return true
	}
	return p.manifest == nil
}

// Open finds the roster's files in a folder or an opened zip, at its top or in
// its only folder, and names those that are missing.
func Open(files fs.FS) (*Package, error) {
	if z, ok := files.(*zip.Reader); ok {
		if err := bounded(z); err != nil {
			return nil, err
		}
	}
	dir, err := findRoster(files)
	if err != nil {
		return nil, err
	}
	p := &Package{files: files, dir: dir}
	if err := p.readManifest(); err != nil {
		return nil, err
	}
	if p.eleven, err = p.isEleven(); err != nil {
		return nil, err
	}
	var missing []string
	for name := range columns {
		if !p.Has(name) && p.wants(name) {
			missing = append(missing, name)
		}
	}
	if len(missing) > 0 {
		slices.Sort(missing)
		return nil, fmt.Errorf("no %s in the package", strings.Join(missing, ", "))
	}
	return p, nil
}

// findRoster gives the folder of the roster's files: the top, or the only folder in it.
func findRoster(files fs.FS) (string, error) {
	for _, name := range []string{Manifest, Orgs} {
		if _, err := fs.Stat(files, name); err == nil {
			return ".", nil
		}
	}
	for _, name := range []string{Manifest, Orgs} {
		matches, err := fs.Glob(files, "*/"+name)
		matches = slices.DeleteFunc(matches, func(m string) bool { return strings.HasPrefix(m, "__MACOSX/") })
		if err == nil && len(matches) == 1 {
			return path.Dir(matches[0]), nil
		}
	}
	return "", fmt.Errorf("no %s in the package", Orgs)
}

// readManifest reads which version the roster is of, and which of its files hold all there is.
func (p *Package) readManifest() error {
	if !p.Has(Manifest) {
		return nil
	}
	p.manifest = map[string]string{}
	return p.Each(Manifest, func(row table.Row, bad *table.RowError) error {
		if bad != nil {
			return bad
		}
		p.manifest[row.Get("propertyName")] = row.Get("value")
		return nil
	})
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
	wanted := columns[name]
	if name == Manifest {
		wanted = manifestColumns
	}
	rows, err := table.NewReader(name, io.LimitReader(file, mostBytes), wanted...)
	if err != nil {
		return err
	}
	return rows.Each(f)
}

// Truth reads a cell that says true or false; "" is true, as a user is who is not said to be none.
func Truth(row table.Row, column string) (bool, error) {
	switch v := row.Get(column); v {
	case "true", "":
		return true, nil
	case "false":
		return false, nil
	default:
		return false, row.Refuse(column, "%q is not true or false", v)
	}
}

// Day reads a date such as 2026-09-01, which may have a time after it.
func Day(row table.Row, column string) (string, error) {
	v := row.Get(column)
	day, _, _ := strings.Cut(v, "T")
	if _, err := time.Parse(time.DateOnly, day); err == nil {
		return day, nil
	}
	if len(day) == len(time.DateOnly) && strings.Count(day, "-") == 2 {
		return "", row.Refuse(column, "%q is not a day of the calendar", v)
	}
	return "", row.Refuse(column, "%q is not a date such as 2026-09-01", v)
}

// mostName bounds names, in letters.
const mostName = 200

// Name gives a cell that holds a name.
func Name(row table.Row, column string) (string, error) {
	v, err := Need(row, column)
	if err == nil && utf8.RuneCountInString(v) > mostName {
		return "", row.Refuse(column, "is longer than %d letters", mostName)
	}
	return v, err
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
