package giverows

import (
	"context"
	"time"

	"pineledger/core/roster"
	"pineledger/store/officerows"
	"pineledger/store/sqlite"
)

// Group is a list of students with a name of its owner's.
type Group struct {
	ID      int64                         `db:"id"`
	OwnerID int64                         `db:"owner_id"`
	Owner   string                        `db:"owner"`
	Name    string                        `db:"name"`
	Rule    sqlite.JSON[roster.GroupRule] `db:"rule"`
	Members int                           `db:"members"` // of a list; a rule's are worked out
}

const groupSelect = `SELECT g.id, g.owner_id, p.given || ' ' || p.family AS owner, g.name, g.rule,
	(SELECT COUNT(*) FROM student_group_member m WHERE m.group_id = g.id) AS members
	FROM student_group g JOIN person p ON p.id = g.owner_id`

// GroupsOf lists the groups of a person by name, and others by their ids.
func GroupsOf(ctx context.Context, r sqlite.Reader, owner int64, others []int64) ([]Group, error) {
	named, args := sqlite.In("g.id", others)
	var out []Group
	err := r.List(ctx, &out, groupSelect+" WHERE g.owner_id = ? OR "+named+" ORDER BY g.name, g.id", append([]any{owner}, args...)...)
	return out, err
}

// PutGroup makes a group, or gives one of the same owner and name another rule and other members.
func PutGroup(ctx context.Context, t *sqlite.Tx, owner int64, name string, rule roster.GroupRule, members []int64, at time.Time) (int64, error) {
	var id int64
	if err := t.Get(ctx, &id, `INSERT INTO student_group (owner_id, name, rule, made_at) VALUES (?, ?, ?, ?)
		ON CONFLICT (owner_id, name) DO UPDATE SET rule = excluded.rule RETURNING id`, owner, name, sqlite.JSON[roster.GroupRule]{V: rule}, sqlite.Millis(at)); err != nil {
		return 0, err
	}
	if err := t.Exec(ctx, "DELETE FROM student_group_member WHERE group_id = ?", id); err != nil {
		return 0, err
	}
	for _, m := range members {
		if err := t.Exec(ctx, "INSERT INTO student_group_member (group_id, student_id) VALUES (?, ?)", id, m); err != nil {
			return 0, err
		}
	}
	return id, nil
}

// MembersOf gives the students of groups who are in scope now, by group. day is today, as profiles count it.
func MembersOf(ctx context.Context, r sqlite.Reader, scope roster.Scope, groups []int64, day string) (map[int64][]int64, error) {
	out := map[int64][]int64{}
	if len(groups) == 0 {
		return out, nil
	}
	named, args := sqlite.In("id", groups)
	var rows []struct {
		ID   int64                         `db:"id"`
		Rule sqlite.JSON[roster.GroupRule] `db:"rule"`
	}
	if err := r.List(ctx, &rows, "SELECT id, rule FROM student_group WHERE "+named, args...); err != nil {
		return nil, err
	}
	for _, g := range rows {
		members, err := membersOf(ctx, r, scope, g.ID, g.Rule.V, day)
		if err != nil {
			return nil, err
		}
		out[g.ID] = members
	}
	return out, nil
}

func membersOf(ctx context.Context, r sqlite.Reader, scope roster.Scope, group int64, rule roster.GroupRule, day string) ([]int64, error) {
	var w sqlite.Where
	w.Add("e.role = 'student' AND e.active = 1 AND s.active = 1")
	officerows.InScope(&w, scope)
	switch {
	case rule.Support != "":
		w.Add(`EXISTS (SELECT 1 FROM student_support x WHERE x.student_id = e.person_id AND x.key = ? AND x.ended_at IS NULL
			AND (x.from_day = '' OR x.from_day <= ?) AND (x.to_day = '' OR x.to_day >= ?))`, rule.Support, day, day)
	case rule.Assessment > 0:
		w.Add(`EXISTS (SELECT 1 FROM result x JOIN attempt t ON t.id = x.attempt_id JOIN form f ON f.id = t.form_id
			WHERE x.student_id = e.person_id AND x.final = 1 AND f.assessment_id = ? AND x.band < ?)`, rule.Assessment, rule.Below)
	default:
		w.Add("EXISTS (SELECT 1 FROM student_group_member m WHERE m.group_id = ? AND m.student_id = e.person_id)", group)
	}
	var out []int64
	err := r.List(ctx, &out, "SELECT DISTINCT e.person_id FROM enrolment e JOIN section s ON s.id = e.section_id"+w.String()+" ORDER BY e.person_id", w.Args...)
	return out, err
}
