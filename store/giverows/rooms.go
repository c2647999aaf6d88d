package giverows

import (
	"context"
	"time"

	"pineledger/core/attempt"
	"pineledger/core/roster"
	"pineledger/store/officerows"
	"pineledger/store/sqlite"
)

// atSittings narrows a query over sittings g of sections s to what a viewer reaches, to those that they are the proctor of, and to those
// of a teacher in whose place they are today.
func atSittings(w *sqlite.Where, scope roster.Scope) {
	rooms, args := sqlite.In("g.room_id", scope.Rooms)
	alone, more := sqlite.In("g.id", scope.Sittings)
	officerows.InScopeOr(w, scope, rooms+" OR "+alone, append(args, more...)...)
}

// AddRoom makes a room that holds several sittings; proctor is 0 where the teachers of their section see to it, by where
// the program made it.
func AddRoom(ctx context.Context, t *sqlite.Tx, name string, proctor, by int64, at time.Time) (int64, error) {
	return t.Insert(ctx, "INSERT INTO room (name, proctor_id, made_by, made_at) VALUES (?, ?, ?, ?)", name, sqlite.OptionalID(proctor), sqlite.OptionalID(by), sqlite.Millis(at))
}

// ShareRoom puts a sitting into a room.
func ShareRoom(ctx context.Context, t *sqlite.Tx, sitting, room int64) error {
	return t.Exec(ctx, "UPDATE sitting SET room_id = ? WHERE id = ?", room, sitting)
}

// AddMakeup makes a sitting of a section beside that of its distribution, in a room, without seats.
func AddMakeup(ctx context.Context, t *sqlite.Tx, home Sat, room int64, setup attempt.Setup) (int64, error) {
	id, err := t.Insert(ctx, "INSERT INTO sitting (distribution_id, section_id, school_id, door, room_id, makeup) VALUES (?, ?, ?, 'waiting', ?, 1)",
		home.DistributionID, home.SectionID, home.SchoolID, room)
	if err != nil {
		return 0, err
	}
	return id, SetSetup(ctx, t, id, setup)
}

// InRoom lists the sittings in scope that share a room and have seats, by school and section.
func InRoom(ctx context.Context, r sqlite.Reader, scope roster.Scope, room int64) ([]Sitting, error) {
	var w sqlite.Where
	w.Add("g.room_id = ? AND EXISTS (SELECT 1 FROM seat x WHERE x.sitting_id = g.id)", room)
	atSittings(&w, scope)
	var out []Sitting
	err := r.List(ctx, &out, sittingSelect+w.String()+" ORDER BY c.name, s.title, g.id", w.Args...)
	return out, err
}

// ByRoom makes one row of the sittings that share a room.
func ByRoom(list []Sitting) []Sitting {
	at := map[int64]int{}
	out := []Sitting{}
	for _, s := range list {
		i, seen := at[s.RoomID]
		if s.RoomID == 0 || !seen {
			at[s.RoomID] = len(out)
			s.Section = s.Called()
			out = append(out, s)
			continue
		}
		out[i].Seats, out[i].Begun, out[i].Done = out[i].Seats+s.Seats, out[i].Begun+s.Begun, out[i].Done+s.Done
	}
	return out
}

// SeatedAt lists whose seats are in a sitting.
func SeatedAt(ctx context.Context, r sqlite.Reader, sitting int64) ([]int64, error) {
	var out []int64
	err := r.List(ctx, &out, "SELECT student_id FROM seat WHERE sitting_id = ? ORDER BY student_id", sitting)
	return out, err
}

// DropNotices takes back what people were told of some sittings.
func DropNotices(ctx context.Context, t *sqlite.Tx, sittings []Sitting) error {
	for _, s := range sittings {
		if err := t.Exec(ctx, "DELETE FROM notice WHERE path = '/rooms/' || ?", s.ID); err != nil {
			return err
		}
	}
	return nil
}

// HomeOf gives the sitting that a section had of a distribution before any makeup.
func HomeOf(ctx context.Context, r sqlite.Reader, sitting int64) (Sitting, error) {
	var s Sitting
	err := r.Get(ctx, &s, sittingSelect+` JOIN sitting m ON m.distribution_id = g.distribution_id AND m.section_id = g.section_id
		WHERE g.makeup = 0 AND m.id = ?`, sitting)
	return s, err
}

// MoveSeat puts a student's seat into another sitting, with the supports that were added for it.
func MoveSeat(ctx context.Context, t *sqlite.Tx, from, to, student int64) error {
	if err := t.ChangeOne(ctx, "UPDATE seat SET sitting_id = ? WHERE sitting_id = ? AND student_id = ?", to, from, student); err != nil {
		return err
	}
	return t.Exec(ctx, "UPDATE sitting_support SET sitting_id = ? WHERE sitting_id = ? AND student_id = ?", to, from, student)
}

// Makeup is a room with the sittings of a makeup, as far as they are in scope.
type Makeup struct {
	RoomID    int64  `db:"room_id"`
	SittingID int64  `db:"sitting_id"` // one of them
	Name      string `db:"name"`
	Proctor   string `db:"proctor"`
	OpensAt   int64  `db:"opens_at"`
	ClosesAt  int64  `db:"closes_at"`
	Sections  int    `db:"sections"`
	Students  int    `db:"students"`
	Done      int    `db:"done"` // have handed in
}

const makeupSelect = `SELECT m.id AS room_id, MIN(g.id) AS sitting_id, m.name, p.given || ' ' || p.family AS proctor, MIN(g.opens_at) AS opens_at, MAX(g.closes_at) AS closes_at,
	COUNT(DISTINCT g.section_id) AS sections, COUNT(*) AS students,
	SUM(EXISTS (SELECT 1 FROM attempt t WHERE t.sitting_id = g.id AND t.student_id = seat.student_id AND t.state <> 'working')) AS done
	FROM room m JOIN sitting g ON g.room_id = m.id AND g.makeup = 1 JOIN seat ON seat.sitting_id = g.id
	JOIN distribution d ON d.id = g.distribution_id JOIN section s ON s.id = g.section_id JOIN person p ON p.id = m.proctor_id`

// MakeupsOf lists the makeups of an assessment and its twin forms that were sent with it, by window. One that was taken back has no seats and is left out.
func MakeupsOf(ctx context.Context, r sqlite.Reader, scope roster.Scope, assessment int64) ([]Makeup, error) {
	var w sqlite.Where
	w.Add(givenWith, assessment)
	atSittings(&w, scope)
	var out []Makeup
	err := r.List(ctx, &out, makeupSelect+w.String()+" GROUP BY m.id ORDER BY opens_at, m.id", w.Args...)
	return out, err
}

// MakeupsFor lists the makeups to which students of a sitting went.
func MakeupsFor(ctx context.Context, r sqlite.Reader, home Sitting) ([]Makeup, error) {
	var out []Makeup
	err := r.List(ctx, &out, makeupSelect+" WHERE g.distribution_id = ? AND g.section_id = ? GROUP BY m.id ORDER BY opens_at, m.id", home.DistributionID, home.SectionID)
	return out, err
}
