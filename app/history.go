package app

import (
	"context"
	"encoding/json"
	"fmt"
	"strings"

	"pineledger/core/blueprint"
	"pineledger/core/ledger"
	"pineledger/core/points"
	"pineledger/core/roster"
	"pineledger/store"
)

// Happened is an entry of an assessment's history.
type Happened struct {
	ledger.Entry
	// Restores names the part that can be brought back as this entry left it; "" for none.
	Restores string
}

// restorable are the acts that leave a part of an assessment whole in the ledger.
var restorable = map[string]string{"assessment.outline": "outline", "assessment.blueprint": "blueprint", "assessment.lines": "lines", "assessment.draw": "lines"}

// mostHistory is how many entries of a history are read at once.
const mostHistory = 200

// History lists what was done to an assessment, by whom and when, the newest first.
func (a *App) History(ctx context.Context, v roster.Viewer, id int64) ([]Happened, error) {
	if _, err := assessment(ctx, a.store.Reader, v, id); err != nil {
		return nil, err
	}
	entries, err := a.store.Ledger(ctx, store.LedgerFilter{Thing: "assessment", ThingID: id, Limit: mostHistory})
	if err != nil {
		return nil, err
	}
	out := []Happened{}
	for _, e := range entries {
		out = append(out, Happened{e, restorable[e.Act]})
	}
	return out, nil
}

// Restore brings a part back as an entry left it, as a new change: what came after stays in the history.
func (a *App) Restore(ctx context.Context, v roster.Viewer, id int64, version int, number int64) (Sheet, error) {
	list, err := a.History(ctx, v, id)
	if err != nil {
		return Sheet{}, err
	}
	for _, h := range list {
		if h.Number != number {
			continue
		}
		switch h.Restores {
		case "outline":
			return a.restoreOutline(ctx, v, id, version, h)
		case "blueprint":
			return a.restoreBlueprint(ctx, v, id, version, h)
		case "lines":
			return a.restoreLines(ctx, v, id, version, h)
		}
		return Sheet{}, conflict("This entry left no part of the assessment that could be brought back.")
	}
	return Sheet{}, ErrNotFound
}

func (a *App) restoreOutline(ctx context.Context, v roster.Viewer, id int64, version int, h Happened) (Sheet, error) {
	var in Outline
	if err := json.Unmarshal([]byte(h.After), &in); err != nil {
		return Sheet{}, fmt.Errorf("history entry %d: %w", h.Number, err)
	}
	in.Instructions = formatted(in.Instructions) // older entries hold plain paragraphs
	return a.PutOutline(ctx, v, id, version, in)
}

func (a *App) restoreBlueprint(ctx context.Context, v roster.Viewer, id int64, version int, h Happened) (Sheet, error) {
	var stored []store.BlueprintRow
	if err := json.Unmarshal([]byte(h.After), &stored); err != nil {
		return Sheet{}, fmt.Errorf("history entry %d: %w", h.Number, err)
	}
	rows := make([]RowInput, len(stored))
	for i, r := range stored {
		rows[i] = RowInput{Title: r.Title, ByPoints: r.ByPoints, Min: points.Points(r.Least), Max: points.Points(r.Most)}
		var f blueprint.Filter
		if err := json.Unmarshal([]byte(r.Filter), &f); err != nil {
			return Sheet{}, fmt.Errorf("history entry %d: %w", h.Number, err)
		}
		rows[i].Filter = f
	}
	return a.PutBlueprint(ctx, v, id, version, rows)
}

func (a *App) restoreLines(ctx context.Context, v roster.Viewer, id int64, version int, h Happened) (Sheet, error) {
	note, err := readLinesNote(h.After)
	if err != nil {
		return Sheet{}, fmt.Errorf("history entry %d: %w", h.Number, err)
	}
	lines := make([]LineInput, len(note.Lines))
	for i, l := range note.Lines {
		lines[i] = LineInput{ItemID: l.ItemID, VersionID: l.VersionID, Points: points.Points(l.Points), Part: l.Part, Pool: l.Pool}
	}
	return a.PutLayout(ctx, v, id, version, lines, note.Layout)
}

// readLinesNote reads what the ledger keeps of lines; before there were parts and pools, a list alone.
func readLinesNote(after string) (note linesNote, err error) {
	if strings.HasPrefix(after, "[") {
		return note, json.Unmarshal([]byte(after), &note.Lines)
	}
	return note, json.Unmarshal([]byte(after), &note)
}
