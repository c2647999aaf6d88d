package intake

import (
	"context"

	"pineledger/core/bank"
	"pineledger/store"
	"pineledger/store/bankrows"
)

// mostNoted bounds the pairs that are noted of one import.
const mostNoted = 500

// mostPerKey bounds how many items of the file are compared for one key of a
// sketch, so that a file of ten thousand alike does not compare each with each.
const mostPerKey = 8

// importTwins finds which new items of a file are nearly the same as another, in
// the bank or earlier in the file.
type importTwins struct {
	empty bool // there is no bank to compare with yet
	noted int
	keys  map[int64][]int // by key of the sketch: places in items
	items []twinText
	ids   map[string]int64 // of the file's new items, once they are written
}

type twinText struct {
	identifier string
	shingles   []uint64
}

func newImportTwins(known int) *importTwins {
	return &importTwins{empty: known == 0, keys: map[int64][]int{}, ids: map[string]int64{}}
}

// look gives the item that a new one is most like, "" and 0 for none.
func (t *importTwins) look(ctx context.Context, r store.Reader, v bankrows.NewVersion) (twin int64, inFile string, likeness int, err error) {
	shingles := bank.Shingles(v.Words.Stem + " " + v.Words.Choices)
	for _, key := range v.Sketch {
		for _, at := range t.keys[key] {
			if like := bank.Likeness(shingles, t.items[at].shingles); like > likeness && like >= bank.NearlySame {
				likeness, inFile = like, t.items[at].identifier
			}
		}
	}
	if !t.empty {
		near, err := bankrows.SharingKeys(ctx, r, v.Sketch, 0)
		if err != nil {
			return 0, "", 0, err
		}
		for _, n := range near {
			if like := bank.Likeness(shingles, bank.Shingles(n.Stem+" "+n.Choices)); like > likeness && like >= bank.NearlySame {
				likeness, twin, inFile = like, n.ItemID, ""
			}
		}
	}
	t.items = append(t.items, twinText{v.Identifier, shingles})
	for _, key := range v.Sketch {
		if at := t.keys[key]; len(at) < mostPerKey {
			t.keys[key] = append(at, len(t.items)-1)
		}
	}
	return twin, inFile, likeness, nil
}

// note gathers the writing of a pair, after the new item's own.
func (im *itemImport) note(ctx context.Context, v bankrows.NewVersion) error {
	if im.twins.noted >= mostNoted {
		return nil
	}
	twin, inFile, likeness, err := im.twins.look(ctx, im.app.Store.Reader, v)
	if err != nil || likeness == 0 {
		return err
	}
	im.twins.noted++
	im.run.counts.Twins++
	im.run.later(func(ctx context.Context, tx *store.Tx) error {
		if inFile != "" {
			twin = im.twins.ids[inFile]
		}
		return bankrows.AddImportTwin(ctx, tx, im.run.report.ID, bankrows.ImportTwin{ItemID: im.twins.ids[v.Identifier], TwinID: twin, Likeness: likeness})
	})
	return nil
}
