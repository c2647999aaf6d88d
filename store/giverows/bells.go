package giverows

import (
	"context"
	"time"

	"pineledger/core/window"
	"pineledger/store/sqlite"
)

// BellsOf gives the periods of a school's week, in order.
func BellsOf(ctx context.Context, r sqlite.Reader, school int64) (window.Bells, error) {
	var rows []struct {
		Weekday int    `db:"weekday"`
		From    string `db:"from_time"`
		To      string `db:"to_time"`
		Name    string `db:"name"`
	}
	err := r.List(ctx, &rows, "SELECT weekday, from_time, to_time, name FROM bell WHERE school_id = ? ORDER BY weekday, from_time", school)
	var out window.Bells
	for _, row := range rows {
		out = append(out, window.Bell{Name: row.Name, Weekday: time.Weekday(row.Weekday), Stretch: window.Stretch{From: row.From, To: row.To}})
	}
	return out, err
}

// PutBells replaces the periods of a school.
func PutBells(ctx context.Context, t *sqlite.Tx, school int64, bells window.Bells) error {
	if err := t.Exec(ctx, "DELETE FROM bell WHERE school_id = ?", school); err != nil {
		return err
	}
	for _, b := range bells {
		if err := t.Exec(ctx, "INSERT INTO bell (school_id, weekday, from_time, to_time, name) VALUES (?, ?, ?, ?, ?)", school, int(b.Weekday), b.From, b.To, b.Name); err != nil {
			return err
		}
	}
	return nil
}

// CloseByItself sets when an open door closes by itself; the zero time: it does not.
func CloseByItself(ctx context.Context, t *sqlite.Tx, sitting int64, at time.Time) error {
	var ms int64
	if !at.IsZero() {
		ms = sqlite.Millis(at)
	}
	return t.Exec(ctx, "UPDATE sitting SET door_until = ? WHERE id = ?", ms, sitting)
}

// DoorsOver lists the sittings whose door should have closed by itself.
func DoorsOver(ctx context.Context, r sqlite.Reader, now time.Time) ([]int64, error) {
	var out []int64
	err := r.List(ctx, &out, "SELECT id FROM sitting WHERE door_until > 0 AND door_until <= ? ORDER BY id", sqlite.Millis(now))
	return out, err
}
