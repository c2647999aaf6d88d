package bank

import (
	"context"
	"fmt"
	"io"
	"slices"
	"strings"

	"pineledger/app/desk"
	"pineledger/core/bank"
	"pineledger/core/item"
	"pineledger/core/roster"
	"pineledger/formats/qti"
	"pineledger/run/jobs"
	"pineledger/store"
	"pineledger/store/bankrows"
)

// ExportItems writes what a search finds as a QTI 3.0 package and gives how many
// items are in it. It reads page by page, so that a bank of any size goes out.
func (a *Bank) ExportItems(ctx context.Context, v roster.Viewer, in ItemSearch, out io.Writer) (int, error) {
	if !v.MayBuild() {
		return 0, desk.ErrForbidden
	}
	q, err := a.query(ctx, v, in)
	if err != nil {
		return 0, err
	}
	if err := a.copiesOnly(ctx, v, &q); err != nil {
		return 0, err
	}
	n := 0
	err = a.Jobs.Do(ctx, exporting, func(ctx context.Context) error {
		n, err = a.writeItems(ctx, q, out)
		return err
	})
	return n, err
}

// exporting is the kind of work of packages that go out; each lasts as long as its download.
var exporting = jobs.Kind{Name: "export", Most: 8}

func (a *Bank) writeItems(ctx context.Context, q bankrows.ItemQuery, out io.Writer) (int, error) {
	w := qti.NewWriter(out, func(source string) (string, []byte, error) {
		m, err := bankrows.MediaByHash(ctx, a.Store.Reader, strings.TrimPrefix(source, mediaPath))
		if err != nil {
			return "", nil, fmt.Errorf("%s is not on the media shelf: %w", source, err)
		}
		return m.Hash[:16] + m.Ending, m.Data, nil
	})
	n := 0
	passages := map[int64]*qti.Passage{}
	for q.Limit, q.Cursor = mostItems, ""; ; {
		items, next, err := bankrows.Items(ctx, a.Store.Reader, q)
		if err != nil {
			return n, err
		}
		if err := a.exportPage(ctx, w, items, passages); err != nil {
			return n, err
		}
		n += len(items)
		if next == "" {
			return n, w.Close()
		}
		q.Cursor = next
	}
}

// copiesOnly narrows a search to what its viewer may copy: terms and holds keep
// the rest in.
func (a *Bank) copiesOnly(ctx context.Context, v roster.Viewer, q *bankrows.ItemQuery) error {
	open, err := BanksFor(ctx, a.Store.Reader, v)
	if err != nil {
		return err
	}
	q.Scope.Banks = slices.DeleteFunc(q.Scope.Banks, func(id int64) bool { return !bank.May(v, bank.Copy, open.By[id], bank.Item{}).May })
	holds, err := bankrows.HoldsInForce(ctx, a.Store.Reader, v.PersonID, store.Millis(a.Now()))
	for _, h := range holds {
		if !bank.May(v, bank.Copy, open.By[h.BankID], bank.Item{OwnerID: h.ItemOwnerID, Held: coreHold(h)}).May {
			q.Scope.Held = append(q.Scope.Held, h.ItemID)
		}
	}
	return err
}

func (a *Bank) exportPage(ctx context.Context, w *qti.Writer, items []bankrows.Item, passages map[int64]*qti.Passage) error {
	ids := make([]int64, len(items))
	for i, it := range items {
		ids[i] = it.ID
	}
	versions, err := bankrows.NewestVersions(ctx, a.Store.Reader, ids)
	if err != nil {
		return err
	}
	byItem := map[int64]bankrows.ItemVersion{}
	for _, v := range versions {
		byItem[v.ItemID] = v
	}
	for _, row := range items {
		v := byItem[row.ID]
		tags, err := everyonesTags(ctx, a.Store.Reader, row)
		if err != nil {
			return err
		}
		out := qti.Writing{Identifier: row.Identifier, Meta: qti.Meta{Standards: desk.Codes(row.Standards), Subject: row.Subject, Grade: row.Grade,
			Bank: row.Bank, Depth: row.Depth, Language: row.Language, Tags: tags}}
		if row.Difficulty != nil {
			out.Meta.Difficulty = Thousandths(*row.Difficulty)
		}
		if out.Item, err = item.Read([]byte(v.Document)); err != nil {
			return fmt.Errorf("%s: %w", row.Identifier, err)
		}
		if row.PassageID > 0 {
			if passages[row.PassageID] == nil {
				list, err := bankrows.Passages(ctx, a.Store.Reader, []int64{row.PassageID})
				if err != nil {
					return err
				}
				for _, p := range list {
					passages[p.ID] = &qti.Passage{Identifier: p.Identifier, Title: p.Title, Body: p.Body}
				}
			}
			out.Passage = passages[row.PassageID]
		}
		if err := w.Write(out); err != nil {
			return err
		}
	}
	return nil
}
