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
	"pineledger/formats/table"
	"pineledger/run/jobs"
	"pineledger/store"
	"pineledger/store/bankrows"
)

// Exported is what went out, and what the search found beside it.
type Exported struct {
	Items   int
	LeftOut []string // identifiers of items that may not be copied
}

// LeftOutName is the file of a package that names what was left out of it.
const LeftOutName = "left-out.csv"

// ExportItems writes what a search finds as a QTI 3.0 package. It reads page by page, so that a bank of
// any size goes out. What may not be copied is left out, and named in a file of the package.
func (a *Bank) ExportItems(ctx context.Context, v roster.Viewer, in ItemSearch, out io.Writer) (Exported, error) {
	if !v.MayBuild() {
		return Exported{}, desk.ErrForbidden
	}
	found, err := a.query(ctx, v, in)
	if err != nil {
		return Exported{}, err
	}
	open := found
	open.Scope.Banks, open.Scope.Held = slices.Clone(open.Scope.Banks), slices.Clone(open.Scope.Held)
	if err := a.copiesOnly(ctx, v, &open); err != nil {
		return Exported{}, err
	}
	var x Exported
	err = a.Jobs.Do(ctx, exporting, func(ctx context.Context) error {
		x, err = a.writeItems(ctx, open, found, out)
		return err
	})
	return x, err
}

// exporting is the kind of work of packages that go out; each lasts as long as its download.
var exporting = jobs.Kind{Name: "export", Most: 8}

// eachItem goes through what a search finds, page by page.
func (a *Bank) eachItem(ctx context.Context, q bankrows.ItemQuery, take func([]bankrows.Item) error) error {
	for q.Limit, q.Cursor = mostItems, ""; ; {
		items, next, err := bankrows.Items(ctx, a.Store.Reader, q)
		if err != nil {
			return err
		}
		if err := take(items); err != nil || next == "" {
			return err
		}
		q.Cursor = next
	}
}

func (a *Bank) writeItems(ctx context.Context, open, found bankrows.ItemQuery, out io.Writer) (Exported, error) {
	w := qti.NewWriter(out, func(source string) (string, []byte, error) {
		m, err := bankrows.MediaByHash(ctx, a.Store.Reader, strings.TrimPrefix(source, mediaPath))
		if err != nil {
			return "", nil, fmt.Errorf("%s is not on the media shelf: %w", source, err)
		}
		return m.Hash[:16] + m.Ending, m.Data, nil
	})
	var x Exported
	written := map[int64]bool{}
	passages := map[int64]*qti.Passage{}
	err := a.eachItem(ctx, open, func(items []bankrows.Item) error {
		for _, it := range items {
			written[it.ID] = true
		}
		x.Items += len(items)
		return a.exportPage(ctx, w, items, passages)
	})
	if err != nil {
		return x, err
	}
	rows := [][]string{}
	err = a.eachItem(ctx, found, func(items []bankrows.Item) error {
		for _, it := range items {
			if !written[it.ID] {
				x.LeftOut = append(x.LeftOut, it.Identifier)
				rows = append(rows, []string{it.Identifier, it.Bank, "is on hold, or its bank does not let it be copied"})
			}
		}
		return nil
	})
	if err != nil {
		return x, err
	}
	if len(rows) > 0 {
		file, err := w.Beside(LeftOutName)
		if err != nil {
			return x, err
		}
		if err := table.Write(file, []string{"identifier", "bank", "why"}, rows); err != nil {
			return x, err
		}
	}
	return x, w.Close()
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
