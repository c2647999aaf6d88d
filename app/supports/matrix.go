package supports

import (
	"cmp"
	"context"
	"errors"
	"slices"
	"strconv"
	"strings"
	"time"

	"pineledger/app/build"
	"pineledger/app/desk"
	"pineledger/core/attempt"
	"pineledger/core/form"
	"pineledger/core/roster"
	"pineledger/core/settings"
	"pineledger/core/support"
	"pineledger/core/window"
	"pineledger/store"
	"pineledger/store/buildrows"
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

// GapGroup is one thing that is missing, for all whom it concerns.
type GapGroup struct {
	Letter string
	support.Gap
	Sections int // that it concerns
	Students []int64
}

// Balance is what is needed of people and paper, and what there is.
type Balance struct {
	Key        string
	Name       string
	Need, Have int
}

// Place is what a section needs of people or paper, and who or what there is.
type Place struct {
	SectionID int64
	Section   string
	School    string
	Key       string
	Name      string
	Need      int
	Provider  string // "" for nobody yet
	Have      int
}

// Changing is an entry that changes while the window is open.
type Changing struct {
	StudentID int64
	Student   string
	Says      string
	What      string // begins, ends, entered
	Day       string
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

// around is what the supports of an assessment are looked at in.
type around struct {
	row    buildrows.Assessment
	d      giverows.Distribution
	f      form.Form
	offer  support.Offer
	rules  []support.Construct
	ruling map[string]support.Ruling
	made   []giverows.RulingMade
	zone   *time.Location
	day    string
	setups map[int64]attempt.Setup // by section
	book   *settings.Book
	has    map[provided]giverows.Provider
	need   map[provided]int
	told   map[string]answer // what is found of the same supports in the same section, which many share
}

// answer is what an assessment offers to who has some supports in a section.
type answer struct {
	minutes int
	gaps    []support.Gap
	cells   []Cell // but for what is the student's own: letters, and whether it ends by itself
}

// answers works out what an assessment offers.
func (w *around) answers(section int64, asked []support.Given, stand support.Standing) answer {
	key := strconv.FormatInt(section, 10)
	for _, g := range asked {
		key += "\x00" + g.Key + "=" + string(g.Value) + string(g.Source)
	}
	if known, has := w.told[key]; has {
		return known
	}
	out := answer{minutes: support.Needs(stand.Times, w.offer.Lets(asked, w.rules, w.ruling), stand.Shut), gaps: w.offer.Gaps(asked, stand)}
	for _, g := range asked {
		if one, known := support.ByKey(g.Key); known {
			out.cells = append(out.cells, Cell{Key: g.Key, Words: one.Words(g.Value), Short: support.Short(g), Source: g.Source, Still: true,
				Apart: w.ruling[g.Key] == support.Allow && w.offer.Breaks(g, w.rules) != nil})
		}
	}
	w.told[key] = out
	return out
}

type provided struct {
	section int64
	key     string
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

// lookAround gathers what an assessment offers, when it is taken and what was decided.
func (a *Supports) lookAround(ctx context.Context, r store.Reader, row buildrows.Assessment) (*around, error) {
	w := &around{row: row, setups: map[int64]attempt.Setup{}, has: map[provided]giverows.Provider{}, need: map[provided]int{}, told: map[string]answer{}}
	var err error
	if w.zone, err = a.Zone(ctx); err != nil {
		return nil, err
	}
	w.d, err = giverows.SentLast(ctx, r, row.ID)
	if errors.Is(err, desk.ErrNotFound) {
		if w.d, err = giverows.DraftDistribution(ctx, r, row.ID); errors.Is(err, desk.ErrNotFound) {
			err = nil
		}
	}
	if err != nil {
		return nil, err
	}
	if w.d.FormID > 0 {
		w.f, err = a.FormByID(ctx, w.d.FormID)
	} else {
		w.f, err = build.FormOf(ctx, r, row)
	}
	if err != nil {
		return nil, err
	}
	w.offer = w.f.Offer()
	if w.rules, w.ruling, err = ruled(ctx, r, row.ID); err != nil {
		return nil, err
	}
	if w.made, err = giverows.Rulings(ctx, r, row.ID); err != nil {
		return nil, err
	}
	providers, err := giverows.Providers(ctx, r, row.ID)
	if err != nil {
		return nil, err
	}
	for _, p := range providers {
		w.has[provided{p.SectionID, p.Key}] = p
	}
	if w.book, err = giverows.BookOf(ctx, r, []int64{row.ID}); err != nil {
		return nil, err
	}
	day := a.Now()
	if w.d.Opens.After(day) {
		day = w.d.Opens
	}
	w.day = day.In(w.zone).Format(time.DateOnly)
	if w.d.State != "sent" {
		return w, nil
	}
	sats, err := giverows.SatBy(ctx, r, settings.Scope{Level: settings.Distribution, Assessment: row.ID, Thing: w.d.ID}, store.Millis(a.Now()))
	for _, s := range sats {
		w.setups[s.SectionID] = s.Setup.V
	}
	return w, err
}

// seats lists who takes it and has supports, with their profiles by student and what was added by seat.
func (a *Supports) seats(ctx context.Context, r store.Reader, v roster.Viewer, w *around, m *Matrix) ([]giverows.SeatOf, []officerows.ProfileEntry, []giverows.AddedSupport, error) {
	if w.d.State == "sent" {
		seats, all, err := giverows.SeatsWithSupports(ctx, r, v.Scope(), w.d.ID)
		if err != nil {
			return nil, nil, nil, err
		}
		m.Students = all
		entries, err := officerows.StandingSeated(ctx, r, v.Scope(), w.d.ID)
		if err != nil {
			return nil, nil, nil, err
		}
		added, err := giverows.AddedIn(ctx, r, v.Scope(), w.d.ID)
		return seats, entries, added, err
	}
	if w.d.ID == 0 {
		return nil, nil, nil, nil
	}
	aim, err := giverows.AimOf(ctx, r, w.d.ID)
	if err != nil {
		return nil, nil, nil, err
	}
	seats, all, err := giverows.EnrolledWithSupports(ctx, r, v.Scope(), aim)
	if err != nil {
		return nil, nil, nil, err
	}
	m.Students = all
	entries, err := officerows.StandingEnrolled(ctx, r, aim.Sections)
	return seats, entries, nil, err
}

// setup is what is in force in a section.
func (w *around) setup(s giverows.SeatOf) attempt.Setup {
	if setup, known := w.setups[s.SectionID]; known {
		return setup
	}
	place := settings.Place{Purpose: w.row.Purpose, Assessment: w.row.ID, Distribution: w.d.ID, School: s.SchoolID, Section: s.SectionID}
	setup := attempt.NewSetup(w.book.Values(place), w.book.Shut(place), w.d.Opens, w.d.Closes, w.zone)
	w.setups[s.SectionID] = setup
	return setup
}

// times are what a section's window holds; nothing where there is no window yet.
func (w *around) times(setup attempt.Setup) support.Times {
	if w.d.Opens.IsZero() || !w.d.Closes.After(w.d.Opens) {
		return support.Times{Minutes: setup.Minutes()}
	}
	return support.TimesOf(setup.Minutes(), window.Window{From: setup.Opens, To: setup.Closes}, setup.Spans, w.zone)
}

// mostChanging is how many entries that change are told one by one.
const mostChanging = 100

// fill works out rows, gaps and the balance.
func (m *Matrix) fill(w *around, seats []giverows.SeatOf, entries []officerows.ProfileEntry, added []giverows.AddedSupport) {
	profiles := map[int64][]officerows.ProfileEntry{}
	for _, e := range entries {
		if !slices.ContainsFunc(profiles[e.StudentID], func(o officerows.ProfileEntry) bool { return o.ID == e.ID }) {
			profiles[e.StudentID] = append(profiles[e.StudentID], e)
		}
	}
	asked := make([][]support.Given, len(seats))
	for i, s := range seats {
		var own []giverows.AddedSupport
		for _, one := range added {
			if one.SittingID == s.SittingID && one.StudentID == s.StudentID {
				own = append(own, one)
			}
		}
		asked[i] = given(profiles[s.StudentID], own, w.f.Subject, w.day)
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

// isProvided tells whether a section has as much of a support as it needs. A group needs one adult.
func (w *around) isProvided(section int64, key string) bool {
	p, named := w.has[provided{section, key}]
	need := w.need[provided{section, key}]
	if key == support.SmallGroup {
		need = min(need, 1)
	}
	return named && p.Number >= need
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

// changing counts what of a profile begins, ends or was entered between the window's ends, and lists the first.
func (w *around) changing(m *Matrix, s giverows.SeatOf, profile []officerows.ProfileEntry) {
	if w.d.Opens.IsZero() || w.d.Closes.IsZero() {
		return
	}
	from, to := w.d.Opens.In(w.zone).Format(time.DateOnly), w.d.Closes.In(w.zone).Format(time.DateOnly)
	inside := func(day string) bool { return day > from && day <= to }
	for _, e := range profile {
		if !e.In(w.f.Subject) {
			continue
		}
		one := Changing{StudentID: s.StudentID, Student: s.Name}
		entered := store.Time(e.EnteredAt)
		switch {
		case inside(e.From):
			one.What, one.Day = "begins", e.From
		case e.To >= from && e.To < to && e.To != "":
			one.What, one.Day = "ends", e.To
		case entered.After(w.d.Opens) && entered.Before(w.d.Closes):
			one.What, one.Day = "entered", entered.In(w.zone).Format(time.DateOnly)
		default:
			continue
		}
		if m.Changes++; m.Changes <= mostChanging {
			one.Says = support.Given{Key: e.Key, Value: e.Value}.Said()
			m.Changing = append(m.Changing, one)
		}
	}
}

// groups gathers gaps that are one.
type groups struct {
	at     map[string]int
	in     map[gapAt]bool
	list   []GapGroup
	letter map[string]string
}

type gapAt struct {
	gap     string
	section int64
}

func newGroups() *groups {
	return &groups{at: map[string]int{}, in: map[gapAt]bool{}, letter: map[string]string{}}
}

// add counts a student in, and gives the gap's key.
func (g *groups) add(gap support.Gap, s giverows.SeatOf) string {
	key := gap.Key + "\x00" + gap.Title + "\x00" + gap.Detail
	at, seen := g.at[key]
	if !seen {
		at = len(g.list)
		g.at[key] = at
		g.list = append(g.list, GapGroup{Letter: key, Gap: gap})
	}
	if where := (gapAt{key, s.SectionID}); !g.in[where] {
		g.in[where] = true
		g.list[at].Sections++
	}
	if n := len(g.list[at].Students); n == 0 || g.list[at].Students[n-1] != s.StudentID { // students come one after the other
		g.list[at].Students = append(g.list[at].Students, s.StudentID)
	}
	return key
}

// lettered orders the gaps, those that concern most first, and gives each its letter.
func (g *groups) lettered() []GapGroup {
	slices.SortStableFunc(g.list, func(a, b GapGroup) int { return cmp.Compare(len(b.Students), len(a.Students)) })
	for i := range g.list {
		key := g.list[i].Letter
		g.list[i].Letter = letterOf(i)
		g.letter[key] = g.list[i].Letter
	}
	return g.list
}

// letterOf counts a, b … z, aa, ab …
func letterOf(at int) string {
	out := ""
	for at++; at > 0; at = (at - 1) / 26 {
		out = string(rune('a'+(at-1)%26)) + out
	}
	return out
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

// balance adds up what is needed of people and paper, and what there is.
func (m *Matrix) balance(w *around, seats []giverows.SeatOf) {
	for _, s := range support.Catalog {
		if !s.Provided() {
			continue
		}
		b := Balance{Key: s.Key, Name: s.Name}
		seen := map[int64]bool{}
		for _, seat := range seats {
			at := provided{seat.SectionID, s.Key}
			n := w.need[at]
			if n == 0 || seen[seat.SectionID] {
				continue
			}
			seen[seat.SectionID] = true
			if s.Key == support.SmallGroup {
				n = 1
			}
			p := w.has[at]
			m.Places = append(m.Places, Place{seat.SectionID, seat.Section, seat.School, s.Key, s.Name, n, p.Provider, min(n, p.Number)})
			b.Need, b.Have = b.Need+n, b.Have+min(n, p.Number)
		}
		if b.Need > 0 {
			m.Balance = append(m.Balance, b)
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
