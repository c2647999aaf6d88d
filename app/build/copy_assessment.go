package build

import (
	"cmp"
	"context"
	"fmt"
	"regexp"
	"slices"
	"strconv"
	"strings"

	"pineledger/app/desk"
	"pineledger/core/bank"
	"pineledger/core/points"
	"pineledger/core/roster"
	"pineledger/core/settings"
	"pineledger/store"
	"pineledger/store/bankrows"
	"pineledger/store/buildrows"
	"pineledger/store/giverows"
)

// ProposeCopy gives the title that a copy would get, with the next free version number.
func (a *Build) ProposeCopy(ctx context.Context, v roster.Viewer, from int64) (string, error) {
	if !v.MayBuild() {
		return "", desk.ErrForbidden
	}
	row, err := desk.Assessment(ctx, a.Store.Reader, v, from)
	if err != nil {
		return "", err
	}
	return nextTitle(ctx, a.Store.Reader, row.Title)
}

// CopyAssessment starts a draft from another assessment, of this year or an earlier
// one: its outline, blueprint, lines with their pinned versions and points, and bands.
// Dates, sections and everything that students did stay behind. Own copies stay with the
// assessment that they live on; the copy holds the items that they came from.
func (a *Build) CopyAssessment(ctx context.Context, v roster.Viewer, from int64, title string) (Sheet, error) {
	var id int64
	err := a.Store.Write(ctx, func(tx *store.Tx) (err error) {
		id, err = a.CopyIn(ctx, tx, v, from, title)
		return err
	})
	if err != nil {
		return Sheet{}, err
	}
	return a.Sheet(ctx, v, id)
}

// CopyIn is CopyAssessment inside a transaction; it gives the draft.
func (a *Build) CopyIn(ctx context.Context, tx *store.Tx, v roster.Viewer, from int64, title string) (int64, error) {
	if !v.MayBuild() {
		return 0, desk.ErrForbidden
	}
	d, err := a.District(ctx)
	if err != nil {
		return 0, err
	}
	row, err := desk.Assessment(ctx, tx.Reader, v, from)
	if err != nil {
		return 0, err
	}
	if !v.MayCopy(row.Owned()) {
		return 0, desk.Refusal(bank.Verdict{Why: "It is shared with you, but not to be copied."})
	}
	if strings.TrimSpace(title) == "" {
		if title, err = nextTitle(ctx, tx.Reader, row.Title); err != nil {
			return 0, err
		}
	}
	copied := row
	outline := Outline{Title: title, Description: row.Description, Instructions: row.Instructions, Subject: row.Subject, Purpose: row.Purpose, Language: row.Language, Year: d.Year, Course: row.Course, Grades: row.Grades, Labels: row.Labels}
	if err := a.checkOutline(ctx, &outline, row.Purpose); err != nil {
		return 0, err
	}
	outline.write(&copied)
	copied.SchoolID, copied.OwnerID = v.HomeSchool(), v.PersonID
	copied.ChangedAt, copied.ChangedBy = store.Millis(a.Now()), v.Name
	copied.CopiedFrom, copied.TwinOf, copied.FormLetter = from, 0, ""
	id, err := buildrows.AddAssessment(ctx, tx, copied)
	if err != nil {
		return 0, err
	}
	if err := giverows.CopySettings(ctx, tx, from, id, settings.Dated); err != nil {
		return 0, err
	}
	left, err := a.copyParts(ctx, tx, v, from, id)
	if err != nil {
		return 0, err
	}
	return id, a.Record(ctx, tx, v, desk.Act{Name: "assessment.copy", Thing: "assessment", ID: id, Title: title, After: copyNote{from, left}})
}

type copyNote struct {
	From    int64    `json:"from"`
	LeftOut []string `json:"leftOut,omitempty"` // identifiers of lines that may not be placed
}

// copyParts copies blueprint and lines; lines that the viewer may not place are left out and named.
func (a *Build) copyParts(ctx context.Context, tx *store.Tx, v roster.Viewer, from, to int64) (left []string, err error) {
	rows, err := buildrows.Blueprint(ctx, tx.Reader, from)
	if err != nil {
		return nil, err
	}
	if err := buildrows.PutBlueprint(ctx, tx, to, rows); err != nil {
		return nil, err
	}
	if err := buildrows.CopyCuts(ctx, tx, from, to); err != nil {
		return nil, err
	}
	lines, err := buildrows.Lines(ctx, tx.Reader, from)
	if err != nil {
		return nil, err
	}
	questions, err := a.copyKey(ctx, tx, v, to, lines)
	if err != nil {
		return nil, err
	}
	lines = slices.DeleteFunc(lines, func(l buildrows.Line) bool { _, is := questions[l.ItemID]; return is })
	var ids []int64
	for i, l := range lines {
		if l.Own && l.OriginID > 0 {
			lines[i].ItemID, lines[i].ID = l.OriginID, 0
		}
		ids = append(ids, lines[i].ItemID)
	}
	rights, err := a.bank.RightsTo(ctx, tx.Reader, v, ids)
	if err != nil {
		return nil, err
	}
	items, _, err := bankrows.Items(ctx, tx.Reader, bankrows.ItemQuery{Scope: bankrows.ItemScope{All: true}, Only: ids, Limit: len(ids)})
	if err != nil {
		return nil, err
	}
	may := map[int64]bool{}
	for _, it := range items {
		may[it.ID] = rights.MayPlaceOn(it, to).May
	}
	var in []LineInput
	for _, l := range lines {
		if !may[l.ItemID] {
			left = append(left, l.Identifier)
			continue
		}
		in = append(in, LineInput{ItemID: l.ItemID, VersionID: l.ID, Points: points.Points(l.Points), Part: l.Part, Pool: l.Pool, Without: strings.Fields(l.Without)})
	}
	pinned, err := a.pin(ctx, tx, v, to, nil, in)
	if err != nil {
		return nil, err
	}
	var keyed []buildrows.LineRow
	for _, q := range questions {
		keyed = append(keyed, q)
	}
	slices.SortFunc(keyed, func(x, y buildrows.LineRow) int { return cmp.Compare(x.ItemID, y.ItemID) }) // made in their order
	row, err := buildrows.AssessmentByID(ctx, tx.Reader, to)
	if err != nil {
		return nil, err
	}
	layout := row.Layout.V
	return left, buildrows.PutLines(ctx, tx, to, settled(layout, append(keyed, pinned...)))
}

// copyKey makes the questions of a keyed document anew for a copy, by the items that they were.
func (a *Build) copyKey(ctx context.Context, tx *store.Tx, v roster.Viewer, to int64, lines []buildrows.Line) (map[int64]buildrows.LineRow, error) {
	on, err := buildrows.AssessmentByID(ctx, tx.Reader, to)
	if err != nil {
		return nil, err
	}
	out := map[int64]buildrows.LineRow{}
	for _, l := range lines {
		keyed, ok, err := keyedLine(l)
		if err != nil {
			return nil, err
		}
		if !ok {
			continue
		}
		r := KeyRow{Keyed: keyed, Points: points.Points(l.Points), Standards: desk.Codes(l.Standards)}
		standards, err := bankrows.StandardsCoded(ctx, tx.Reader, r.Standards)
		if err != nil {
			return nil, err
		}
		k := keying{a: a, tx: tx, v: v, on: on, standards: standards}
		question, err := k.question(ctx, nil, r)
		if err != nil {
			return nil, err
		}
		question.Part, question.Pool, question.Without = l.Part, l.Pool, l.Without
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
	titles, err := buildrows.TitlesLike(ctx, r, base)
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
