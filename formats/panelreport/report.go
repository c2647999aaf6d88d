// Package panelreport sets what a panel of judges did as a report on pages, and as a table of all that was given.
package panelreport

import (
	"context"
	"fmt"
	"html"
	"io"
	"slices"
	"strings"

	"pineledger/core/panel"
	"pineledger/core/points"
	"pineledger/formats/paper"
	"pineledger/formats/table"
)

// Report is what a panel did.
type Report struct {
	Title   string
	About   string // which form, by whom, when
	Method  panel.Method
	Asked   string // how judges were asked, in a sentence
	Cuts    []string
	Lines   []Line
	Booklet []panel.Entry
	Judges  []Judge
	Rounds  []Round
	Notes   []Note
}

// Line is a line of the form.
type Line struct {
	Item   string
	Stem   string
	Points points.Points
}

// Judge is one of the panel; Left says when and why they left, "" for nothing.
type Judge struct{ Name, Left string }

// Round is a round with what came of it. Works are judge by judge.
type Round struct {
	Name    string
	Works   []panel.Work
	Result  panel.Round
	Shares  []Share // of students in each band with the round's cuts; none where that is not known
	Remarks []string
}

// Share is a band's part of all students.
type Share struct {
	Band  string
	Share float64
}

// Note is a judge's note of a line, or with Line 0 of the whole; lines count from 1.
type Note struct {
	Judge int // from 1
	Line  int
	Words string
}

// WriteCSV writes every rating or mark of every round, whole or not.
func (r Report) WriteCSV(w io.Writer) error {
	head := []string{"Round", "Judge", "Name", "Counted", "Cut", "Line", "Item", "Points", "Rating, percent"}
	if r.Method == panel.ByMarks {
		head = []string{"Round", "Judge", "Name", "Counted", "Cut", "Place", "Line", "Item", "Location, logits"}
	}
	var rows [][]string
	for _, round := range r.Rounds {
		for j, work := range round.Works {
			counted := "no"
			if slices.Contains(round.Result.Counted, j) {
				counted = "yes"
			}
			for c, cut := range r.Cuts {
				first := []string{round.Name, fmt.Sprint(j + 1), r.Judges[j].Name, counted, cut}
				for _, given := range r.given(work, c) {
					rows = append(rows, slices.Concat(first, given))
				}
			}
		}
	}
	return table.Write(w, head, rows)
}

// given are the last cells of the rows of what a judge gave of a cut.
func (r Report) given(work panel.Work, cut int) (rows [][]string) {
	if r.Method == panel.ByMarks {
		if mark := work.Marks[cut]; mark != panel.None {
			e := r.Booklet[mark-1]
			rows = append(rows, []string{fmt.Sprint(mark), fmt.Sprint(e.Line + 1), r.Lines[e.Line].Item, fmt.Sprintf("%.4f", e.Location)})
		}
		return rows
	}
	for l, share := range work.Ratings[cut] {
		if share != panel.None {
			rows = append(rows, []string{fmt.Sprint(l + 1), r.Lines[l].Item, r.Lines[l].Points.String(), fmt.Sprint(share)})
		}
	}
	return rows
}

// setting is a report while it is set.
type setting struct {
	*paper.Paper
	size  float64
	slabs []paper.Slab
}

func (s *setting) say(look paper.Look, format string, args ...any) {
	s.slabs = append(s.slabs, s.Plain(fmt.Sprintf(format, args...), s.Width(), look)...)
}

func (s *setting) gap(sizes float64) { s.slabs = append(s.slabs, paper.Gap(sizes*s.size)) }

func (s *setting) head(text string) {
	s.gap(1)
	s.slabs = append(s.slabs, paper.Kept(s.Plain(text, s.Width(), paper.Look{Bold: true, Scale: 1.15}))...)
	s.gap(0.3)
}

func (s *setting) table(head []string, rows [][]string) {
	cells := [][]paper.Cell{nil}
	for _, text := range head {
		cells[0] = append(cells[0], paper.Cell{HTML: html.EscapeString(text), Look: paper.Look{Bold: true}})
	}
	for _, row := range rows {
		set := make([]paper.Cell, len(row))
		for i, text := range row {
			set[i] = paper.Cell{HTML: html.EscapeString(text)}
		}
		cells = append(cells, set)
	}
	s.slabs = append(s.slabs, s.Table(cells, s.Width(), paper.Look{})...)
}

// WritePDF sets the report on pages.
func (r Report) WritePDF(ctx context.Context, w io.Writer, o paper.Options) error {
	o.Title, o.Foot, o.Columns = r.Title, r.Title+": report of the panel", 1
	s := setting{Paper: paper.New(o), size: o.Size}
	s.say(paper.Look{Bold: true, Scale: 1.4}, "%s: report of the panel", r.Title)
	s.say(paper.Look{}, "%s", r.About)
	s.say(paper.Look{}, "%s", r.Asked)
	s.head("Judges")
	var judges [][]string
	for i, j := range r.Judges {
		judges = append(judges, []string{fmt.Sprint(i + 1), j.Name, j.Left})
	}
	s.table([]string{"No.", "Name", "Left"}, judges)
	for _, round := range r.Rounds {
		if err := ctx.Err(); err != nil {
			return err
		}
		r.round(&s, round)
	}
	if len(r.Notes) > 0 {
		s.head("What judges noted")
		var notes [][]string
		for _, n := range r.Notes {
			about := "the whole"
			if n.Line > 0 {
				about = fmt.Sprintf("line %d, %s", n.Line, r.Lines[n.Line-1].Item)
			}
			notes = append(notes, []string{fmt.Sprint(n.Judge), about, n.Words})
		}
		s.table([]string{"Judge", "About", "Note"}, notes)
	}
	return s.Write(w, s.slabs)
}

func (r Report) round(s *setting, round Round) {
	s.head(round.Name)
	for _, remark := range round.Remarks {
		s.say(paper.Look{}, "%s", remark)
	}
	if len(round.Result.Cuts) == 0 {
		s.say(paper.Look{}, "Nobody's work is whole, so nothing came of it.")
		return
	}
	rows := [][]string{}
	for i, c := range round.Result.Cuts {
		rows = append(rows, []string{r.Cuts[i], fmt.Sprintf("%.2f", c.Mean), fmt.Sprintf("%.2f", c.Median), optional(c.SD), optional(c.SE),
			fmt.Sprintf("%.2f to %.2f", c.Low, c.High), c.Raw.String(), fmt.Sprintf("%d.%d%%", c.Tenths/10, c.Tenths%10)})
	}
	s.table([]string{"Cut", "Mean", "Median", "SD", "SE", "Range", "Raw score", "Percent"}, rows)
	unit := "points"
	if r.Method == panel.ByMarks {
		unit = "logits"
	}
	s.say(paper.Look{}, "Mean, median, SD, SE and range are in %s. SE is the standard error.", unit)
	if len(round.Shares) > 0 {
		var shares []string
		for _, b := range round.Shares {
			shares = append(shares, fmt.Sprintf("%s %.1f%%", b.Band, 100*b.Share))
		}
		s.say(paper.Look{}, "Expected shares of students with these cuts: %s.", strings.Join(shares, ", "))
	}
	s.gap(0.6)
	rows = rows[:0]
	for k, at := range round.Result.Counted {
		row := []string{fmt.Sprint(at + 1)}
		for _, c := range round.Result.Cuts {
			row = append(row, fmt.Sprintf("%.2f", c.Values[k]))
		}
		rows = append(rows, row)
	}
	s.table(append([]string{"Judge"}, r.Cuts...), rows)
	if len(round.Result.Lines) == 0 {
		return
	}
	s.gap(0.6)
	rows = nil
	for l, rated := range round.Result.Lines {
		row := []string{fmt.Sprint(l + 1), r.Lines[l].Item}
		for c := range r.Cuts {
			row = append(row, fmt.Sprintf("%.0f%% (%s)", 100*rated.Mean[c], percent(rated.SD[c])))
		}
		rows = append(rows, row)
	}
	s.table(append([]string{"Line", "Item"}, r.Cuts...), rows)
	s.say(paper.Look{}, "Of each line the mean rating and, in brackets, the SD.")
}

func optional(v *float64) string {
	if v == nil {
		return "–"
	}
	return fmt.Sprintf("%.2f", *v)
}

func percent(v *float64) string {
	if v == nil {
		return "–"
	}
	return fmt.Sprintf("%.0f", 100**v)
}
