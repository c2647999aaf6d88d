// Package officialtable reads the conversion tables that a state publishes, in the shapes that offices use: several grades
// one below the other or side by side, one per sheet, with heads over heads, footnote marks, ranges and decimal commas.
package officialtable

import (
	"fmt"
	"regexp"
	"slices"
	"strconv"
	"strings"

	"pineledger/core/official"
	"pineledger/core/points"
)

// Sheet is a grid of cells: a CSV file, or one sheet of a workbook.
type Sheet struct {
	Name string // of the sheet; "" for a CSV file
	Rows []Line
}

// Line is a row of a sheet that is not empty.
type Line struct {
	Number int // in the file, from 1
	Cells  []string
}

// Found is what a sheet holds.
type Found struct {
	Tables []official.Table
	// Understood says how each column was read, for a person to look at.
	Understood []Column
	Problems   []official.Problem // of rows that cannot be read; their tables are refused
	Aside      []official.Problem // lines that are no rows: notes below a table
}

// Column is a column with what it was taken for.
type Column struct {
	Head string // as the file has it
	As   string // raw, scale, band, grade, year, subject, test, total; "" where it is left aside
	Of   string // the heading above it, "" where there is none
}

// mostInRange bounds the raw scores that one row can stand for.
const mostInRange = 1000 * points.One

// mostHead is how far down a head row is looked for.
const mostHead = 25

// Read finds the tables of a sheet. What neither the rows nor the headings nor the sheet's name say of a table is taken from given.
// subjects are those that the district has.
func Read(s Sheet, given official.Key, subjects []string) (Found, error) {
	at := slices.IndexFunc(s.Rows[:min(len(s.Rows), mostHead)], func(l Line) bool {
		return slices.ContainsFunc(l.Cells, func(c string) bool { return role(c) == "raw" })
	})
	if at < 0 {
		return Found{}, fmt.Errorf("no row names a column of raw scores, such as “Raw score”")
	}
	r := reader{given: given, subjects: subjects}
	for _, l := range s.Rows[:at] { // titles above the head
		r.given = r.told(r.given, strings.Join(l.Cells, " "))
	}
	r.given = r.told(r.given, s.Name)
	var above []string
	if at > 0 {
		above = spread(s.Rows[at-1].Cells, len(s.Rows[at].Cells))
	}
	r.columns(s.Rows[at].Cells, above)
	for _, l := range s.Rows[at+1:] {
		r.row(l)
	}
	return r.found(), nil
}

// reader gathers tables while it goes down a sheet.
type reader struct {
	given    official.Key
	subjects []string
	groups   []group
	tables   []*official.Table // in the order in which they begin
	out      Found
}

// group is columns that stand side by side for one table: those under one heading.
type group struct {
	name string
	at   map[string]int // column by role
}

// roles are the words that a head may use, folded.
var roles = map[string][]string{
	"raw":     {"raw", "raw score", "raw scores", "raw points", "raw score points", "total raw score", "points", "points earned", "number correct", "rs"},
	"scale":   {"scale", "scale score", "scaled score", "scale scores", "scaled", "ss"},
	"band":    {"band", "level", "performance level", "performance band", "achievement level", "proficiency level", "category", "performance category"},
	"grade":   {"grade", "grade level", "gr", "tested grade"},
	"year":    {"year", "school year", "administration", "test year"},
	"subject": {"subject", "content area"},
	"test":    {"test", "test name", "assessment", "form"},
	"total":   {"total", "total points", "maximum", "maximum points", "points possible", "max"},
}

// role is what a head says that its column holds, "" for none.
func role(head string) string {
	head = folded(head)
	for as, words := range roles {
		if slices.Contains(words, head) {
			return as
		}
	}
	return ""
}

// marks are what footnotes are marked with.
const marks = "*†‡§¶#¹²³⁴⁵⁶⁷⁸⁹ᵃᵇᶜ"

var unitsInHead = regexp.MustCompile(`\s*\([^)]*\)\s*$`)

func folded(text string) string {
	text = unitsInHead.ReplaceAllString(strings.Trim(strings.TrimSpace(text), marks), "")
	return strings.ToLower(strings.Join(strings.Fields(strings.NewReplacer("_", " ", "-", " ").Replace(text)), " "))
}

// spread lets a merged heading stand over all its columns, as many as there are: a cell without text has that of the cell before it.
func spread(cells []string, columns int) []string {
	out := make([]string, max(len(cells), columns))
	copy(out, cells)
	for i := 1; i < len(out); i++ {
		if strings.TrimSpace(out[i]) == "" {
			out[i] = out[i-1]
		}
	}
	return out
}

func (r *reader) columns(heads, above []string) {
	shared := map[string]int{}
	for i, head := range heads {
		of := ""
		if i < len(above) {
			of = strings.TrimSpace(above[i])
		}
		as := role(head)
		r.out.Understood = append(r.out.Understood, Column{strings.TrimSpace(head), as, of})
		if as == "" {
			continue
		}
		k := slices.IndexFunc(r.groups, func(g group) bool { return g.name == of })
		if k < 0 {
			r.groups = append(r.groups, group{of, map[string]int{}})
			k = len(r.groups) - 1
		}
		if _, twice := r.groups[k].at[as]; !twice {
			r.groups[k].at[as] = i
		}
		if _, there := shared[as]; !there {
			shared[as] = i
		}
	}
	// A column of raw scores or grades that stands once, before the others, belongs to all of them.
	r.groups = slices.DeleteFunc(r.groups, func(g group) bool {
		_, scale := g.at["scale"]
		_, named := g.at["band"]
		return !scale && !named && len(r.groups) > 1
	})
	for _, g := range r.groups {
		for _, as := range []string{"raw", "grade", "year", "subject", "test", "total"} {
			if _, own := g.at[as]; !own {
				if i, there := shared[as]; there {
					g.at[as] = i
				}
			}
		}
	}
}

var (
	gradeWords = regexp.MustCompile(`(?i)\bgr(?:ade)?\.?\s*(k|\d{1,2})\b|\b(\d{1,2})(?:st|nd|rd|th)\s+grade\b`)
	yearWords  = regexp.MustCompile(`\b(20\d\d)\s*[–—/-]\s*(?:20)?(\d\d)\b`)
	oneYear    = regexp.MustCompile(`\b(20\d\d)\b`)
)

// told adds to a key what a heading says of it.
func (r *reader) told(k official.Key, heading string) official.Key {
	if m := gradeWords.FindStringSubmatch(heading); m != nil {
		k.Grade = gradeCode(m[1] + m[2])
	}
	if y := yearOf(heading); y != "" {
		k.Year = y
	}
	lower := strings.ToLower(heading)
	for _, s := range r.subjects {
		if stem := strings.ToLower(s); strings.Contains(lower, stem) || len(stem) > 4 && strings.Contains(lower, stem[:4]) {
			k.Subject = s
		}
	}
	return k
}

func gradeCode(text string) string {
	text = strings.ToUpper(strings.TrimSpace(text))
	if text == "K" || text == "KG" {
		return "KG"
	}
	if n, err := strconv.Atoi(text); err == nil && n >= 1 && n <= 12 {
		return fmt.Sprintf("%02d", n)
	}
	return ""
}

func yearOf(text string) string {
	if m := yearWords.FindStringSubmatch(text); m != nil {
		return m[1] + "–" + m[2]
	}
	if m := oneYear.FindStringSubmatch(text); m != nil {
		return m[1]
	}
	return ""
}

// row reads one line into the tables that it stands for.
func (r *reader) row(l Line) {
	cell := func(g group, as string) string {
		if i, there := g.at[as]; there && i < len(l.Cells) {
			return strings.TrimSpace(l.Cells[i])
		}
		return ""
	}
	read := false
	for _, g := range r.groups {
		raw, scale, name := cell(g, "raw"), cell(g, "scale"), strings.Trim(cell(g, "band"), marks+" ")
		if raw == "" || scale == "" && name == "" {
			continue // a shorter table beside a longer one ends here
		}
		from, to, err := interval(raw)
		if err == nil && to-from > mostInRange {
			err = points.ErrTooLarge
		}
		if err != nil {
			if !strings.ContainsAny(raw, "0123456789") {
				continue // a note, or a heading that is repeated
			}
			r.refuse(l.Number, "raw", "%q is no raw score", raw)
			read = true
			continue
		}
		read = true
		t := r.table(l, g, cell)
		if t == nil {
			continue
		}
		row := official.Row{Line: l.Number, Band: name}
		if scale != "" {
			value, err := number(scale)
			if err != nil {
				r.refuse(l.Number, "scale", "%q is no scale score", scale)
				continue
			}
			row.Scale = &value
		}
		for at := from; at <= to; at += points.One {
			row.Raw = at
			t.Rows = append(t.Rows, row)
		}
		if total := cell(g, "total"); total != "" {
			if value, err := number(total); err == nil {
				t.Total = &value
			} else {
				r.refuse(l.Number, "total", "%q is no total", total)
			}
		}
	}
	if text := strings.TrimSpace(strings.Join(l.Cells, " ")); !read && text != "" {
		r.out.Aside = append(r.out.Aside, official.Problem{Line: l.Number, Field: "", Reason: text})
	}
}

// table is the one that a row belongs to, by what the row, its columns' heading and all above them say; nil where that is too little.
func (r *reader) table(l Line, g group, cell func(group, string) string) *official.Table {
	k := r.told(r.given, g.name)
	if text := cell(g, "grade"); text != "" {
		code := gradeCode(text)
		if code == "" {
			code = r.told(official.Key{}, text).Grade
		}
		if code == "" {
			r.refuse(l.Number, "grade", "%q is no grade", text)
			return nil
		}
		k.Grade = code
	}
	if text := cell(g, "year"); text != "" {
		if k.Year = yearOf(text); k.Year == "" {
			r.refuse(l.Number, "year", "%q is no year such as 2025–26", text)
			return nil
		}
	}
	if text := cell(g, "subject"); text != "" {
		if k.Subject = r.told(official.Key{}, text).Subject; k.Subject == "" {
			r.refuse(l.Number, "subject", "%q is no subject of the district", text)
			return nil
		}
	}
	if text := cell(g, "test"); text != "" {
		k.Test = text
	}
	for _, missing := range []struct{ field, value string }{{"subject", k.Subject}, {"grade", k.Grade}, {"year", k.Year}} {
		if missing.value == "" {
			r.refuse(l.Number, missing.field, "neither the row nor a heading says the %s", missing.field)
			return nil
		}
	}
	at := slices.IndexFunc(r.tables, func(t *official.Table) bool { return t.Key == k })
	if at < 0 {
		r.tables = append(r.tables, &official.Table{Key: k})
		at = len(r.tables) - 1
	}
	return r.tables[at]
}

func (r *reader) refuse(line int, field, format string, args ...any) {
	r.out.Problems = append(r.out.Problems, official.Problem{Line: line, Field: field, Reason: fmt.Sprintf(format, args...)})
}

func (r *reader) found() Found {
	for _, t := range r.tables {
		if len(t.Rows) > 1 && t.Rows[0].Raw > t.Rows[len(t.Rows)-1].Raw { // published from the top down
			slices.Reverse(t.Rows)
		}
		r.out.Tables = append(r.out.Tables, *t)
	}
	return r.out
}

var ranges = regexp.MustCompile(`^(\S+?)\s*(?:–|—|-|to)\s*(\S+)$`)

// interval reads "12", "0–12" or "0 to 12".
func interval(text string) (from, to points.Points, err error) {
	text = strings.TrimSpace(strings.Trim(text, marks+" "))
	if m := ranges.FindStringSubmatch(text); m != nil {
		if from, err = number(m[1]); err == nil {
			to, err = number(m[2])
		}
		if err == nil && to < from {
			err = points.ErrNotDecimal
		}
		return from, to, err
	}
	from, err = number(text)
	return from, from, err
}

var thousands = regexp.MustCompile(`^\d{1,3}(,\d{3})+$`)

// number reads a number with footnote marks behind it, a decimal comma, or commas between thousands.
func number(text string) (points.Points, error) {
	text = strings.TrimSpace(strings.Trim(text, marks+" "))
	if thousands.MatchString(text) {
		text = strings.ReplaceAll(text, ",", "")
	}
	v, err := points.Parse(strings.Replace(text, ",", ".", 1))
	if err == nil && v < 0 {
		err = points.ErrNotDecimal
	}
	return v, err
}
