package supports

import (
	"context"
	"slices"
	"strings"

	"pineledger/app/desk"
	"pineledger/core/roster"
	"pineledger/core/support"
	"pineledger/store"
	"pineledger/store/giverows"
	"pineledger/store/officerows"
)

// Matrix is who gets what at an assessment, from where, and what is not possible yet.
type Matrix struct {
	Students int // who take it, in scope
	With     int // of them with supports
	Sent     bool
	Day      string // for which it is told
	Columns  []Column
	Rows     []Row
	Found    int // rows that the filter leaves
	Gaps     []GapGroup
	Balance  []Balance
	Places   []Place
	Rulings  []giverows.RulingMade
	MayRule  bool
	// Changing are the entries of profiles that begin, end or were entered while the window is open.
	Changing []Changing // the first of them
	Changes  int        // all of them
	Schools  []string
}

// Column is a support that somebody has.
type Column struct {
	support.Support
	Students int
	Missing  int // of them it is not possible yet
}

// Row is a student.
type Row struct {
	giverows.SeatOf
	Cells   []Cell
	Minutes int // their own time limit; 0: none
	Longer  bool
}

// Cell is a support of a student.
type Cell struct {
	Key       string
	Words     string
	Short     string // for a narrow cell: "1½", "3"
	Letters   []string
	Still     bool // it is given, but for what is missing
	Temporary bool
	Source    support.Source
	Apart     bool
}

// MatrixFilter narrows rows; zero values do not.
type MatrixFilter struct {
	School string
	Key    string
	Words  string
	Gaps   bool // only students with something that is not possible
	From   int  // the first row, from 0
	Limit  int
}

// Matrix gives the supports of an assessment, as far as the viewer's scope reaches. Each look is in the ledger.
func (a *Supports) Matrix(ctx context.Context, v roster.Viewer, id int64, f MatrixFilter) (Matrix, error) {
	m, _, err := a.matrix(ctx, a.Store.Reader, v, id, f)
	if err != nil {
		return m, err
	}
	return m, nil
}

func (a *Supports) matrix(ctx context.Context, r store.Reader, v roster.Viewer, id int64, filter MatrixFilter) (Matrix, *around, error) {
	var m Matrix
	if !v.MayReadSupports() {
		return m, nil, desk.ErrForbidden
	}
	row, err := desk.Assessment(ctx, r, v, id)
	if err != nil {
		return m, nil, err
	}
	w, err := a.lookAround(ctx, r, row)
	if err != nil {
		return m, nil, err
	}
	if err := a.looked(ctx, v, "assessment", id, row.Title); err != nil {
		return m, nil, err
	}
	seats, entries, added, err := a.seats(ctx, r, v, w, &m)
	if err != nil {
		return m, nil, err
	}
	m.Sent, m.Day, m.Rulings, m.MayRule = w.d.State == "sent", w.day, w.made, v.MayChange(row.Owned())
	m.fill(w, seats, entries, added)
	m.narrow(filter)
	return m, w, nil
}

// fill works out rows, gaps and the balance.
func (m *Matrix) fill(w *around, seats []giverows.SeatOf, entries []officerows.ProfileEntry, added []giverows.AddedSupport) {
	profiles := map[int64][]officerows.ProfileEntry{}
	for _, e := range entries {
		if !slices.ContainsFunc(profiles[e.StudentID], func(o officerows.ProfileEntry) bool { return o.ID == e.ID }) {
			profiles[e.StudentID] = append(profiles[e.StudentID], e)
		}
	}
	type seat struct{ sitting, student int64 }
	own := map[seat][]giverows.AddedSupport{}
	for _, one := range added {
		at := seat{one.SittingID, one.StudentID}
		own[at] = append(own[at], one)
	}
	asked := make([][]support.Given, len(seats))
	for i, s := range seats {
		asked[i] = given(profiles[s.StudentID], own[seat{s.SittingID, s.StudentID}], w.f.Subject, w.day)
		for _, g := range asked[i] {
			w.need[provided{s.SectionID, g.Key}]++
		}
	}
	groups := newGroups()
	times := map[int64]support.Times{}
	for i, s := range seats {
		if len(asked[i]) == 0 {
			continue
		}
		setup := w.setup(s)
		if _, measured := times[s.SectionID]; !measured {
			times[s.SectionID] = w.times(setup)
		}
		stand := support.Standing{Times: times[s.SectionID], Shut: setup.Shut, Rules: w.rules, Rulings: w.ruling, Provided: func(key string) bool { return w.isProvided(s.SectionID, key) }}
		m.Rows = append(m.Rows, w.rowOf(s, asked[i], stand, profiles[s.StudentID], groups))
		w.changing(m, s, profiles[s.StudentID])
		if !slices.Contains(m.Schools, s.School) {
			m.Schools = append(m.Schools, s.School)
		}
	}
	m.With, m.Gaps = len(m.Rows), groups.lettered()
	for i := range m.Rows {
		for k := range m.Rows[i].Cells {
			c := &m.Rows[i].Cells[k]
			for j, key := range c.Letters {
				c.Letters[j] = groups.letter[key]
			}
		}
	}
	m.columns()
	m.balance(w, seats)
}

func (w *around) rowOf(s giverows.SeatOf, asked []support.Given, stand support.Standing, profile []officerows.ProfileEntry, groups *groups) Row {
	found := w.answers(s.SectionID, asked, stand)
	row := Row{SeatOf: s, Minutes: found.minutes, Longer: found.minutes != stand.Times.Minutes}
	for _, c := range found.cells {
		c.Temporary = slices.ContainsFunc(profile, func(e officerows.ProfileEntry) bool {
			return e.Key == c.Key && e.Temporary() && e.On(w.day) && e.In(w.f.Subject)
		})
		for _, gap := range found.gaps {
			if gap.Key == c.Key {
				c.Letters = append(c.Letters, groups.add(gap, s))
				c.Still = c.Still && gap.Still
			}
		}
		row.Cells = append(row.Cells, c)
	}
	return row
}

func (m *Matrix) columns() {
	count, missing := map[string]int{}, map[string]int{}
	for _, row := range m.Rows {
		for _, c := range row.Cells {
			count[c.Key]++
			if len(c.Letters) > 0 {
				missing[c.Key]++
			}
		}
	}
	for _, s := range support.Catalog {
		if count[s.Key] > 0 {
			m.Columns = append(m.Columns, Column{s, count[s.Key], missing[s.Key]})
		}
	}
}

// narrow keeps the rows that are asked for.
func (m *Matrix) narrow(f MatrixFilter) {
	words := strings.ToLower(strings.TrimSpace(f.Words))
	rows := m.Rows[:0:0]
	for _, row := range m.Rows {
		if f.School != "" && row.School != f.School || words != "" && !strings.Contains(strings.ToLower(row.Name+" "+row.Number+" "+row.Section), words) {
			continue
		}
		if f.Key != "" && !slices.ContainsFunc(row.Cells, func(c Cell) bool { return c.Key == f.Key }) {
			continue
		}
		if f.Gaps && !slices.ContainsFunc(row.Cells, func(c Cell) bool { return len(c.Letters) > 0 }) {
			continue
		}
		rows = append(rows, row)
	}
	m.Found = len(rows)
	from := min(max(0, f.From), len(rows))
	m.Rows = rows[from:]
	if f.Limit > 0 {
		m.Rows = m.Rows[:min(f.Limit, len(m.Rows))]
	}
}
