package bank

import (
	"context"
	"errors"
	"slices"

	"pineledger/app/desk"
	"pineledger/core/item"
	"pineledger/core/roster"
	"pineledger/store/bankrows"
)

// writtenKinds are read by a rubric.
var writtenKinds = []string{string(item.ShortWritten), string(item.LongWritten)}

// asLast begins an item with what its author wrote last: subject, grade, course, standards and language,
// of a draft or of what was kept, whichever is newer; and with the rubric of the last written item.
func (a *Writing) asLast(ctx context.Context, v roster.Viewer, it *item.Item, meta *ItemMeta) error {
	last, err := bankrows.LastWrittenBy(ctx, a.Store.Reader, v.PersonID)
	if err != nil && !errors.Is(err, desk.ErrNotFound) {
		return err
	}
	if err == nil {
		meta.Subject, meta.Grade, meta.Course, meta.Standards, meta.Language = last.Subject, last.Grade, last.Course, desk.Codes(last.Standards), last.Language
	}
	drafts, err := bankrows.ItemDrafts(ctx, a.Store.Reader, v.PersonID)
	if err != nil {
		return err
	}
	if at := slices.IndexFunc(drafts, func(d bankrows.ItemDraft) bool { return d.ItemID == 0 && d.AssessmentID == 0 && d.Meta.V.Subject != "" }); at >= 0 && drafts[at].ChangedAt >= last.At {
		d := drafts[at].Meta.V
		meta.Subject, meta.Grade, meta.Course, meta.Standards, meta.Language = d.Subject, d.Grade, d.Course, d.Standards, d.Language
	}
	if slices.Contains(writtenKinds, string(it.Kind)) {
		return a.withLastRubric(ctx, v, it)
	}
	return nil
}

func (a *Writing) withLastRubric(ctx context.Context, v roster.Viewer, it *item.Item) error {
	last, err := bankrows.LastWrittenBy(ctx, a.Store.Reader, v.PersonID, string(it.Kind))
	if errors.Is(err, desk.ErrNotFound) {
		return nil
	}
	if err != nil {
		return err
	}
	was, err := item.Read([]byte(last.Document))
	if err != nil {
		return err
	}
	if r := was.Declarations[0].Rubric; r != nil {
		it.Declarations[0].Rubric = r
	}
	return nil
}

// RubricOffered is the rubric of an item, to be used for another.
type RubricOffered struct {
	Identifier, Stem string
	Rubric           item.Rubric
}

// mostRubrics is how many written items are looked at for their rubrics.
const mostRubrics = 60

// Rubrics are those of written items that a viewer may find, each once, of the newest items first.
func (a *Writing) Rubrics(ctx context.Context, v roster.Viewer, words string) ([]RubricOffered, error) {
	if !v.MayBuild() {
		return nil, desk.ErrForbidden
	}
	q, err := a.bank.query(ctx, v, ItemSearch{Words: words, Kinds: writtenKinds, Limit: mostRubrics})
	if err != nil {
		return nil, err
	}
	items, _, err := bankrows.Items(ctx, a.Store.Reader, q)
	if err != nil {
		return nil, err
	}
	ids := make([]int64, len(items))
	for i, it := range items {
		ids[i] = it.ID
	}
	versions, err := bankrows.NewestVersions(ctx, a.Store.Reader, ids)
	if err != nil {
		return nil, err
	}
	slices.SortFunc(versions, func(a, b bankrows.ItemVersion) int { return slices.Index(ids, a.ItemID) - slices.Index(ids, b.ItemID) })
	out := []RubricOffered{}
	for _, version := range versions {
		it, err := item.Read([]byte(version.Document))
		if err != nil {
			return nil, err
		}
		for _, d := range it.Declarations {
			same := func(o RubricOffered) bool { return o.Rubric.Equal(*d.Rubric) }
			if d.Rubric != nil && !slices.ContainsFunc(out, same) {
				out = append(out, RubricOffered{version.Identifier, version.Stem, *d.Rubric})
			}
		}
	}
	return out, nil
}
