package app

import (
	"encoding/json"
	"fmt"
	"strings"
	"unicode/utf8"

	"pineledger/core/form"
	"pineledger/core/points"
	"pineledger/store"
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
			return invalid(fmt.Sprintf("/parts/%d/title", i), "Part %d needs a title of at most %d characters.", i+1, mostPartTitle)
		case utf8.RuneCountInString(p.Directions) > mostDirections:
			return invalid(fmt.Sprintf("/parts/%d/directions", i), "Part %d: directions have at most %d characters.", i+1, mostDirections)
		}
		p.Directions = cleanBlocks(p.Directions)
	}
	for i := range l.Pools {
		p := &l.Pools[i]
		if p.Title = strings.TrimSpace(p.Title); utf8.RuneCountInString(p.Title) > mostPartTitle {
			return invalid(fmt.Sprintf("/pools/%d/title", i), "Pool %d: a title has at most %d characters.", i+1, mostPartTitle)
		}
	}
	places := make([]form.Placed, len(in))
	for i, line := range in {
		places[i] = form.Placed{Part: line.Part, Pool: line.Pool, Points: line.Points}
	}
	if err := l.Check(places); err != nil {
		return invalid("/lines", "%s", sentence(err.Error()))
	}
	return nil
}

func layoutOf(row store.Assessment) (form.Layout, error) {
	var l form.Layout
	if err := json.Unmarshal([]byte(row.Layout), &l); err != nil {
		return l, fmt.Errorf("layout of assessment %d: %w", row.ID, err)
	}
	return l, nil
}

func setLayout(row *store.Assessment, l form.Layout) error {
	text, err := json.Marshal(l)
	row.Layout = string(text)
	return err
}

// settled gives rows that the program put together places that the layout allows.
func settled(l form.Layout, rows []store.LineRow) []store.LineRow {
	places := make([]form.Placed, len(rows))
	for i, r := range rows {
		places[i] = form.Placed{Part: r.Part, Pool: r.Pool, Points: points.Points(r.Points)}
	}
	for i, p := range l.Settled(places) {
		rows[i].Part, rows[i].Pool = p.Part, p.Pool
	}
	return rows
}
