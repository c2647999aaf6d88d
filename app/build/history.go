package build

import (
	"context"
	"fmt"
	"strings"

	"pineledger/app/desk"
	"pineledger/core/ledger"
	"pineledger/core/points"
	"pineledger/core/roster"
	"pineledger/store/recordrows"
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
func (a *Build) History(ctx context.Context, v roster.Viewer, id int64) ([]Happened, error) {
	if _, err := desk.Assessment(ctx, a.Store.Reader, v, id); err != nil {
		return nil, err
	}
	entries, err := recordrows.Ledger(ctx, a.Store.Reader, recordrows.LedgerFilter{Thing: "assessment", ThingID: id, Limit: mostHistory})
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
func (a *Build) Restore(ctx context.Context, v roster.Viewer, id int64, version int, number int64) (Sheet, error) {
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
		return Sheet{}, desk.Conflict("This entry left no part of the assessment that could be brought back.")
	}
	return Sheet{}, desk.ErrNotFound
}

func (a *Build) restoreOutline(ctx context.Context, v roster.Viewer, id int64, version int, h Happened) (Sheet, error) {
	in, err := readOutlineNote(h.After)
	if err != nil {
		return Sheet{}, fmt.Errorf("history entry %d: %w", h.Number, err)
	}
	return a.PutOutline(ctx, v, id, version, in)
}

func (a *Build) restoreBlueprint(ctx context.Context, v roster.Viewer, id int64, version int, h Happened) (Sheet, error) {
	rows, err := readRowNotes(h.After)
	if err != nil {
		return Sheet{}, fmt.Errorf("history entry %d: %w", h.Number, err)
	}
	return a.PutBlueprint(ctx, v, id, version, rows)
}

func (a *Build) restoreLines(ctx context.Context, v roster.Viewer, id int64, version int, h Happened) (Sheet, error) {
	note, err := readLinesNote(h.After)
	if err != nil {
		return Sheet{}, fmt.Errorf("history entry %d: %w", h.Number, err)
	}
	lines := make([]LineInput, len(note.Lines))
	for i, l := range note.Lines {
		lines[i] = LineInput{ItemID: l.ItemID, VersionID: l.VersionID, Points: points.Points(l.Points), Part: l.Part, Pool: l.Pool, Without: strings.Fields(l.Without)}
	}
	return a.PutLayout(ctx, v, id, version, lines, note.Layout)
}
