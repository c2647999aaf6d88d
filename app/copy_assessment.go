package app

import (
	"cmp"
	"context"
	"encoding/json"
	"fmt"
	"regexp"
	"slices"
	"strconv"
	"strings"

	"pineledger/core/bank"
	"pineledger/core/points"
	"pineledger/core/roster"
	"pineledger/store"
)

// ProposeCopy gives the title that a copy would get, with the next free version number.
func (a *App) ProposeCopy(ctx context.Context, v roster.Viewer, from int64) (string, error) {
	if !v.MayBuild() {
		return "", ErrForbidden
	}
	row, err := assessment(ctx, a.store.Reader, v, from)
	if err != nil {
		return "", err
	}
	return nextTitle(ctx, a.store.Reader, row.Title)
}

// CopyAssessment starts a draft from another assessment, of this year or an earlier
// one: its outline, blueprint, lines with their pinned versions and points, and bands.
// Dates, sections and everything that students did stay behind. Own copies stay with the
// assessment that they live on; the copy holds the items that they came from.
func (a *App) CopyAssessment(ctx context.Context, v roster.Viewer, from int64, title string) (Sheet, error) {
	if !v.MayBuild() {
		return Sheet{}, ErrForbidden
	}
	d, err := a.District(ctx)
	if err != nil {
		return Sheet{}, err
	}
	var id int64
	err = a.store.Write(ctx, func(tx *store.Tx) error {
		row, err := assessment(ctx, tx.Reader, v, from)
		if err != nil {
			return err
		}
		if !v.MayCopy(row.Owned()) {
			return refusal(bank.Verdict{Why: "It is shared with you, but not to be copied."})
		}
		if strings.TrimSpace(title) == "" {
			if title, err = nextTitle(ctx, tx.Reader, row.Title); err != nil {
				return err
			}
		}
		copied := row
		outline := Outline{Title: title, Description: row.Description, Instructions: row.Instructions, Subject: row.Subject, Purpose: row.Purpose, Language: row.Language, Year: d.Year, Course: row.Course}
		if err := json.Unmarshal([]byte(row.Grades), &outline.Grades); err != nil {
			return err
		}
		if err := json.Unmarshal([]byte(row.Labels), &outline.Labels); err != nil {
			return err
		}
		if err := a.checkOutline(ctx, &outline, row.Purpose); err != nil {
			return err
		}
		outline.write(&copied)
		copied.SchoolID, copied.OwnerID = v.HomeSchool(), v.PersonID
		copied.ChangedAt, copied.ChangedBy = store.Millis(a.now()), v.Name
		copied.CopiedFrom, copied.TwinOf, copied.FormLetter = from, 0, ""
		if id, err = tx.AddAssessment(ctx, copied); err != nil {
			return err
		}
		left, err := a.copyParts(ctx, tx, v, from, id)
		if err != nil {
			return err
		}
		return a.record(ctx, tx, v, act{name: "assessment.copy", thing: "assessment", id: id, title: title, after: copyNote{from, left}})
	})
	if err != nil {
		return Sheet{}, err
	}
	return a.Sheet(ctx, v, id)
}

type copyNote struct {
	From    int64    `json:"from"`
	LeftOut []string `json:"leftOut,omitempty"` // identifiers of lines that may not be placed
}

// copyParts copies blueprint and lines; lines that the viewer may not place are left out and named.
func (a *App) copyParts(ctx context.Context, tx *store.Tx, v roster.Viewer, from, to int64) (left []string, err error) {
	rows, err := tx.Blueprint(ctx, from)
	if err != nil {
		return nil, err
	}
	if err := tx.PutBlueprint(ctx, to, rows); err != nil {
		return nil, err
	}
	lines, err := tx.Lines(ctx, from)
	if err != nil {
		return nil, err
	}
	questions, err := a.copyKey(ctx, tx, v, to, lines)
	if err != nil {
		return nil, err
	}
	lines = slices.DeleteFunc(lines, func(l store.Line) bool { _, is := questions[l.ItemID]; return is })
	var ids []int64
	for i, l := range lines {
		if l.Own && l.OriginID > 0 {
			lines[i].ItemID, lines[i].ID = l.OriginID, 0
		}
		ids = append(ids, lines[i].ItemID)
	}
	rights, err := a.rightsTo(ctx, tx.Reader, v, ids)
	if err != nil {
		return nil, err
	}
	items, _, err := tx.Items(ctx, store.ItemQuery{Scope: store.ItemScope{All: true}, Only: ids, Limit: len(ids)})
	if err != nil {
		return nil, err
	}
	may := map[int64]bool{}
	for _, it := range items {
		may[it.ID] = rights.mayPlaceOn(it, to).May
	}
	var in []LineInput
	for _, l := range lines {
		if !may[l.ItemID] {
			left = append(left, l.Identifier)
			continue
		}
		in = append(in, LineInput{ItemID: l.ItemID, VersionID: l.ID, Points: points.Points(l.Points), Part: l.Part, Pool: l.Pool})
	}
	pinned, err := a.pin(ctx, tx, v, to, nil, in)
	if err != nil {
		return nil, err
	}
	var keyed []store.LineRow
	for _, q := range questions {
		keyed = append(keyed, q)
	}
	slices.SortFunc(keyed, func(x, y store.LineRow) int { return cmp.Compare(x.ItemID, y.ItemID) }) // made in their order
	row, err := tx.AssessmentByID(ctx, to)
	if err != nil {
		return nil, err
	}
	layout, err := layoutOf(row)
	if err != nil {
		return nil, err
	}
	return left, tx.PutLines(ctx, to, settled(layout, append(keyed, pinned...)))
}

// copyKey makes the questions of a keyed document anew for a copy, by the items that they were.
func (a *App) copyKey(ctx context.Context, tx *store.Tx, v roster.Viewer, to int64, lines []store.Line) (map[int64]store.LineRow, error) {
	on, err := tx.AssessmentByID(ctx, to)
	if err != nil {
		return nil, err
	}
	out := map[int64]store.LineRow{}
	for _, l := range lines {
		keyed, ok, err := keyedLine(l)
		if err != nil {
			return nil, err
		}
		if !ok {
			continue
		}
		r := KeyRow{Keyed: keyed, Points: points.Points(l.Points), Standards: codes(l.Standards)}
		standards, err := tx.StandardsCoded(ctx, r.Standards)
		if err != nil {
			return nil, err
		}
		k := keying{a: a, tx: tx, v: v, on: on, standards: standards}
		question, err := k.question(ctx, nil, r)
		if err != nil {
			return nil, err
		}
		question.Part, question.Pool = l.Part, l.Pool
		out[l.ItemID] = question
	}
	return out, nil
}

var versioned = regexp.MustCompile(`^(.*?), version (\d+)$`)

// nextTitle proposes a title with the next free version number.
func nextTitle(ctx context.Context, r store.Reader, title string) (string, error) {
	base := title
	if m := versioned.FindStringSubmatch(title); m != nil {
		base = m[1]
	}
	titles, err := r.TitlesLike(ctx, base)
	if err != nil {
		return "", err
	}
	most := 1
	for _, t := range titles {
		if m := versioned.FindStringSubmatch(t); m != nil && m[1] == base {
			if n, err := strconv.Atoi(m[2]); err == nil {
				most = max(most, n)
			}
		}
	}
	return fmt.Sprintf("%s, version %d", base, most+1), nil
}
