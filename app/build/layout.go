package build

import (
	"fmt"
	"strings"
	"unicode/utf8"

	"pineledger/app/desk"
	"pineledger/core/form"
	"pineledger/core/points"
	"pineledger/store/buildrows"
)

// Bounds of what is typed of parts and pools, in characters.
const (
	mostPartTitle  = 120
	mostDirections = 10_000
)

// checkLayout tidies what was typed of parts and pools and refuses what cannot be meant.
func checkLayout(l *form.Layout, in []LineInput) error {
	for i := range l.Parts {
		p := &l.Parts[i]
		p.Title = strings.TrimSpace(p.Title)
		switch {
		case p.Title == "" || utf8.RuneCountInString(p.Title) > mostPartTitle:
			return desk.Invalid(fmt.Sprintf("/parts/%d/title", i), "Part %d needs a title of at most %d characters.", i+1, mostPartTitle)
		case utf8.RuneCountInString(p.Directions) > mostDirections:
			return desk.Invalid(fmt.Sprintf("/parts/%d/directions", i), "Part %d: directions have at most %d characters.", i+1, mostDirections)
		}
		p.Directions = desk.CleanBlocks(p.Directions)
	}
	for i := range l.Pools {
		p := &l.Pools[i]
		if p.Title = strings.TrimSpace(p.Title); utf8.RuneCountInString(p.Title) > mostPartTitle {
			return desk.Invalid(fmt.Sprintf("/pools/%d/title", i), "Pool %d: a title has at most %d characters.", i+1, mostPartTitle)
		}
	}
	places := make([]form.Placed, len(in))
	for i, line := range in {
		places[i] = form.Placed{Part: line.Part, Pool: line.Pool, Points: line.Points}
	}
	if err := l.Check(places); err != nil {
		return desk.Invalid("/lines", "%s", desk.Sentence(err.Error()))
	}
	return nil
}

// settled gives rows that the program put together places that the layout allows.
func settled(l form.Layout, rows []buildrows.LineRow) []buildrows.LineRow {
	places := make([]form.Placed, len(rows))
	for i, r := range rows {
		places[i] = form.Placed{Part: r.Part, Pool: r.Pool, Points: points.Points(r.Points)}
	}
	for i, p := range l.Settled(places) {
		rows[i].Part, rows[i].Pool = p.Part, p.Pool
	}
	return rows
}
