package main

import (
	"archive/zip"
	"context"
	"encoding/xml"
	"errors"
	"fmt"
	"io"
	"os"
	"path/filepath"
	"strings"
	"time"

	"pineledger/app"
	"pineledger/app/bank"
	"pineledger/app/intake"
	"pineledger/core/item"
	"pineledger/core/roster"
	"pineledger/formats/qti"
	"pineledger/store"
)

// packageItems is how many items the measured package holds.
const packageItems = 2000

// measurePackages takes a QTI package in and brings it out again, beside unpacking
// it and reading its XML without looking at it.
func measurePackages(ctx context.Context, b *bench) (err error) {
	path := filepath.Join(b.dir, "items.zip")
	if err := writeItemsPackage(path); err != nil {
		return err
	}
	bare, err := median(3, func() error { return readPackageBarely(path) })
	if err != nil {
		return err
	}
	s, err := store.Open(ctx, filepath.Join(b.dir, "packages"))
	if err != nil {
		return err
	}
	defer func() { err = errors.Join(err, s.Close()) }()
	a, err := app.New(ctx, app.Config{Store: s, Secret: []byte(strings.Repeat("s", 32))})
	if err != nil {
		return err
	}
	v := roster.Viewer{Name: "bench", Posts: []roster.Post{{Role: roster.DistrictCoordinator}}}
	start := time.Now()
	report, err := a.Intake.Import(ctx, v, intake.File{Kind: intake.ImportItems, Name: "items.zip", Path: path}, nil)
	if err != nil {
		return err
	}
	took := time.Since(start)
	if report.Counts.New != packageItems {
		return fmt.Errorf("%d of %d items came in: %+v", report.Counts.New, packageItems, report.Refusals)
	}
	beside(fmt.Sprintf("import of a QTI package of %d items", packageItems), took, bare, " (aim: under 5 s)")

	start = time.Now()
	x, err := a.Bank.ExportItems(ctx, v, bank.ItemSearch{}, io.Discard)
	if err != nil {
		return err
	}
	if x.Items != packageItems {
		return fmt.Errorf("%d of %d items went out", x.Items, packageItems)
	}
	beside(fmt.Sprintf("export of %d items as a QTI package", packageItems), time.Since(start), bare, " (aim: under 5 s)")
	return nil
}

// writeItemsPackage writes items of every kind that needs no picture, in turn.
func writeItemsPackage(path string) error {
	file, err := os.Create(path)
	if err != nil {
		return err
	}
	w := qti.NewWriter(file, func(source string) (string, []byte, error) { return "", nil, fmt.Errorf("%s is not there", source) })
	kinds := everyKind()
	for i := range packageItems {
		it := kinds[i%len(kinds)].item
		if err := w.Write(qti.Writing{Identifier: fmt.Sprintf("P-%05d", i), Item: it, Meta: qti.Meta{Subject: "mathematics", Grade: "06", Bank: "Bench", Language: "en"}}); err != nil {
			return err
		}
	}
	return errors.Join(w.Close(), file.Close())
}

// readPackageBarely unpacks every file and reads it token by token.
func readPackageBarely(path string) error {
	z, err := zip.OpenReader(path)
	if err != nil {
		return err
	}
	defer z.Close()
	for _, f := range z.File {
		r, err := f.Open()
		if err != nil {
			return err
		}
		for d := xml.NewDecoder(r); ; {
			if _, err = d.Token(); err != nil {
				break
			}
		}
		if !errors.Is(err, io.EOF) {
			return err
		}
		if err := r.Close(); err != nil {
			return err
		}
	}
	return nil
}

// answered is an item with a right answer.
type answered struct {
	item     item.Item
	response item.Response
}

func right(it item.Item, values ...string) answered {
	return answered{it, item.Response{"RESPONSE": values}}
}

// everyKind is an item of each kind with a right answer; what a reader scores has none.
func everyKind() []answered {
	four := []string{"a", "b", "c", "d"}
	pairs := []item.Pair{{Choice: 0, Target: 1}, {Choice: 1, Target: 0}, {Choice: 2, Target: 1}, {Choice: 3, Target: 0}}
	parts := item.NewParts("Both.", []item.Item{item.NewTrueFalse("x", true), item.NewNumber("y", []string{"3"}, item.NumberKey{}, "")}, []int{-1, 0}, item.PerPart)
	return []answered{
		right(item.NewChoice(item.SingleChoice, "x", four, []int{2}, item.AllOrNothing), "C"),
		right(item.NewChoice(item.MultipleChoice, "x", four, []int{0, 2}, item.PerChoice), "A", "C"),
		right(item.NewTrueFalse("x", true), "true"),
		right(item.NewOrder("x", four, []int{3, 2, 0, 1}, item.LongestRun), "D", "C", "A", "B"),
		right(item.NewPairs(item.Match, "x", four, []string{"p", "q"}, pairs, 1, 0, item.PerPart), "A T2", "B T1", "C T2", "D T1"),
		right(item.NewPairs(item.Sort, "x", four, []string{"p", "q"}, pairs, 1, 0, item.PerPart), "A T2", "B T1", "C T2", "D T1"),
		right(item.NewPairs(item.BoxTable, "x", four, []string{"p", "q"}, pairs, 0, 0, item.PerPart), "A T2", "B T1", "C T2", "D T1"),
		right(item.NewText("x", []string{"harbor", "harbour"}, item.TextKey{Slips: true}), " Harbour"),
		right(item.NewNumber("x", []string{"3/4"}, item.NumberKey{Tolerance: "1/100"}, ""), "0.75"),
		right(item.NewNumberLine("x", item.Line{From: "0", To: "2", Step: "1/4", Labels: 4}, []string{"3/4"}, ""), "0.75"),
		right(item.NewSelectText("x", []item.Run{{HTML: "a", Selectable: true}, {HTML: " "}, {HTML: "b", Selectable: true}}, []int{1}, 0, item.KeyMinus), "B"),
		right(item.NewMenus("x", []string{"The ", " is ", "."}, []item.Menu{{Words: []string{"a", "b"}, Right: 1}, {Words: []string{"c", "d"}, Right: 0}}, item.PerPart), "B G1", "C G2"),
		{parts, item.Response{"RESPONSE1": {"true"}, "RESPONSE2": {"3.0"}}},
		right(item.NewExaminer("x", "Ask.", "yes"), item.RecordedRight),
	}
}
