package give

import (
	"cmp"
	"context"
	"slices"
	"time"

	"pineledger/app/desk"
	"pineledger/core/attempt"
	"pineledger/core/roster"
	"pineledger/store/giverows"
)

// Progress is how far an assessment is, over the schools or sections that one may see.
type Progress struct {
	Assessment int64
	Title      string
	At         time.Time
	Schools    []ProgressRow
	Total      ProgressRow
	Unopened   []Unopened // sections that should have opened by now
}

// ProgressRow counts sections by their door and students by how far they are.
type ProgressRow struct {
	SchoolID int64
	Name     string
	Sections int
	Waiting  int // sections whose door was not opened yet
	Open     int
	Paused   int
	Closed   int
	Students int
	Begun    int // and not handed in
	Done     int
	Late     int // sections that should have opened by now
}

// Unopened is a section whose door is still waiting although its time has begun.
type Unopened struct {
	Sitting int64
	Section string
	School  string
	Teacher string
	Since   time.Time
	Seats   int
}

func (p *ProgressRow) add(s giverows.Sitting, late bool) {
	p.Students, p.Done, p.Begun = p.Students+s.Seats, p.Done+s.Done, p.Begun+s.Begun-s.Done
	if late {
		p.Late++
	}
	if s.Makeup {
		return // it is no section of its own
	}
	p.Sections++
	switch s.Door {
	case attempt.Open:
		p.Open++
	case attempt.Held:
		p.Paused++
	case attempt.Closed:
		p.Closed++
	default:
		p.Waiting++
	}
}

// mostSittings bounds how many sections one page is about.
const mostSittings = 20_000

// Progress tells how far an assessment is in the sections of who asks.
func (a *Give) Progress(ctx context.Context, v roster.Viewer, id int64) (Progress, error) {
	row, err := desk.Assessment(ctx, a.Store.Reader, v, id)
	if err != nil {
		return Progress{}, err
	}
	sittings, err := giverows.Sittings(ctx, a.Store.Reader, v.Scope(), giverows.SittingFilter{AssessmentID: id, Limit: mostSittings})
	if err != nil {
		return Progress{}, err
	}
	out := Progress{Assessment: id, Title: row.Title, At: a.Now(), Schools: []ProgressRow{}, Unopened: []Unopened{}}
	for _, s := range giverows.ByRoom(sittings) {
		since, late := s.Setup.V.DueSince(s.Door, s.Begun > 0, a.Now())
		if late {
			out.Unopened = append(out.Unopened, Unopened{s.ID, s.Called(), s.School, "", since, s.Seats})
		}
		at := slices.IndexFunc(out.Schools, func(r ProgressRow) bool { return r.SchoolID == s.SchoolID })
		if at < 0 {
			at = len(out.Schools)
			out.Schools = append(out.Schools, ProgressRow{SchoolID: s.SchoolID, Name: s.School})
		}
		out.Schools[at].add(s, late)
		out.Total.add(s, late)
	}
	slices.SortFunc(out.Schools, func(a, b ProgressRow) int { return cmp.Compare(a.Name, b.Name) })
	return out, a.nameTeachers(ctx, out.Unopened)
}

func (a *Give) nameTeachers(ctx context.Context, list []Unopened) error {
	ids := make([]int64, len(list))
	for i, u := range list {
		ids[i] = u.Sitting
	}
	names, err := giverows.TeachersAt(ctx, a.Store.Reader, ids)
	for i, u := range list {
		list[i].Teacher = names[u.Sitting]
	}
	return err
}
