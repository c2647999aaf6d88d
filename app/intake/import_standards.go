package intake

import (
	"cmp"
	"context"
	"errors"
	"fmt"
	"os"
	"slices"
	"strconv"
	"strings"
	"time"

	"pineledger/app/desk"
	"pineledger/formats/caseframework"
	"pineledger/formats/table"
	"pineledger/store"
	"pineledger/store/bankrows"
	"pineledger/store/intakerows"
)

// readStandards compares a framework file with what is there.
func (a *Intake) readStandards(ctx context.Context, run *importRun, name, path string) error {
	file, err := os.Open(path)
	if err != nil {
		return err
	}
	defer file.Close()
	run.begin("standards")
	zone, err := a.Zone(ctx)
	if err != nil {
		return err
	}
	f, refused, err := caseframework.Read(name, file, a.Now().In(zone).Format(time.DateOnly))
	if err != nil {
		return err
	}
	if err := a.isNewer(ctx, run, f); err != nil {
		return err
	}
	for i := range refused {
		run.counts.Read++
		run.refuse(&refused[i])
	}
	for _, r := range f.Remarks {
		if r.Aside {
			run.counts.Read++
			run.counts.Aside++
			run.notes = remark(run.notes, intakerows.Aside, &r.Row)
		} else {
			run.notes = remark(run.notes, intakerows.Assumed, &r.Row)
		}
	}
	im := &standardsImport{app: a, run: run, f: f, ids: map[string]int64{}}
	run.later(func(ctx context.Context, tx *store.Tx) (err error) {
		im.framework, _, err = bankrows.PutFramework(ctx, tx, bankrows.Framework{Identifier: f.Identifier, Title: f.Title, Subject: f.Subject, Version: f.Version, Changed: f.Changed})
		return err
	})
	for _, step := range []func(context.Context) error{im.standards, im.retire, im.links} {
		if err := step(ctx); err != nil {
			return err
		}
	}
	if im.writes == 0 {
		run.writes = nil // the same file again
	}
	return nil
}

// isNewer asks before an older edition takes the place of a newer one.
func (a *Intake) isNewer(ctx context.Context, run *importRun, f caseframework.Framework) error {
	here, err := bankrows.FrameworkCalled(ctx, a.Store.Reader, f.Identifier)
	if errors.Is(err, store.ErrNotFound) || run.file.Older {
		return nil
	}
	if err != nil {
		return err
	}
	of := func(changed, version string) string {
		if changed != "" {
			return "of " + changed
		}
		return version
	}
	older := here.Changed != "" && f.Changed != "" && f.Changed < here.Changed
	if here.Changed == "" || f.Changed == "" {
		now, errNow := strconv.ParseFloat(f.Version, 64)
		then, errThen := strconv.ParseFloat(here.Version, 64)
		older = errNow == nil && errThen == nil && now < then
	}
	if older {
		return desk.Conflict("%s: this edition (%s) is older than the one that is here (%s). If it should take its place, import it as an older edition",
			run.file.Name, of(f.Changed, f.Version), of(here.Changed, here.Version))
	}
	return nil
}

// standardsImport is a framework on its way in.
type standardsImport struct {
	app       *Intake
	run       *importRun
	f         caseframework.Framework
	framework int64            // once it is written
	ids       map[string]int64 // of standards, once they are written
	writes    int
}

func (im *standardsImport) later(f write) {
	im.writes++
	im.run.later(f)
}

func (im *standardsImport) standards(ctx context.Context) error {
	f := im.f
	known, err := intakerows.KnownBy(ctx, im.app.Store.Reader, "standard")
	if err != nil {
		return err
	}
	taken, err := bankrows.CodesElsewhere(ctx, im.app.Store.Reader, f.Identifier)
	if err != nil {
		return err
	}
	for _, s := range f.Standards {
		if err := im.run.take(ctx, nil, func() error { return nil }); err != nil {
			return err
		}
		if taken[s.Code] {
			s.Code += "@" + edition(f)
		}
		grades := desk.JsonList(s.Grades) // as digests have always had it
		digest := im.app.Digest(f.Identifier, f.Title, f.Version, s.Identifier, s.Code, s.Text, s.Level, grades, s.Parent, fmt.Sprint(s.Place, s.Last))
		old, exists := known[s.Identifier]
		if im.ids[s.Identifier] = old.ID; !im.run.compare(old, exists, digest) {
			continue
		}
		im.later(func(ctx context.Context, tx *store.Tx) (err error) {
			im.ids[s.Identifier], err = bankrows.PutStandard(ctx, tx, bankrows.Standard{FrameworkID: im.framework, Identifier: s.Identifier, Code: s.Code,
				Text: s.Text, Level: s.Level, Grades: s.Grades, ParentID: im.ids[s.Parent], Place: s.Place, Last: s.Last}, digest)
			return err
		})
	}
	return nil
}

// retire takes out of the tree what this edition holds no more.
func (im *standardsImport) retire(ctx context.Context) error {
	here, err := bankrows.FrameworkCalled(ctx, im.app.Store.Reader, im.f.Identifier)
	if errors.Is(err, store.ErrNotFound) {
		return nil
	}
	if err != nil {
		return err
	}
	standards, err := bankrows.Standards(ctx, im.app.Store.Reader, here.ID)
	if err != nil {
		return err
	}
	for _, s := range standards {
		if im.f.Held[s.Identifier] {
			continue
		}
		items, err := bankrows.ItemsAlignedTo(ctx, im.app.Store.Reader, s.ID)
		if err != nil {
			return err
		}
		im.run.counts.Changed++
		im.run.notes = remark(im.run.notes, intakerows.Assumed, &table.RowError{File: im.run.file.Name, Field: "standard",
			Reason: fmt.Sprintf("%s is not in this edition, so it is retired; %s aligned to it", cmp.Or(s.Code, s.Identifier), areAligned(len(items)))})
		im.later(func(ctx context.Context, tx *store.Tx) error { return bankrows.RetireStandard(ctx, tx, s.ID) })
	}
	return nil
}

func areAligned(items int) string {
	switch items {
	case 0:
		return "no item is"
	case 1:
		return "1 item stays"
	}
	return fmt.Sprintf("%d items stay", items)
}

// links counts what the crosswalks of the file bring, as its standards are counted.
func (im *standardsImport) links(ctx context.Context) error {
	there, err := bankrows.LinksBroughtBy(ctx, im.app.Store.Reader, im.f.Identifier)
	if err != nil {
		return err
	}
	links := make([]bankrows.StandardLink, len(im.f.Links))
	fresh := 0
	for i, l := range im.f.Links {
		links[i] = bankrows.StandardLink{From: l.From, To: l.To, Kind: string(l.Kind)}
		im.run.counts.Read++
		if slices.Contains(there, links[i]) {
			im.run.counts.Unchanged++
		} else {
			im.run.counts.New++
			fresh++
		}
	}
	if fresh > 0 || len(there) != len(links) {
		im.later(func(ctx context.Context, tx *store.Tx) error { return bankrows.PutLinks(ctx, tx, im.framework, links) })
	}
	return nil
}

// edition marks the codes of a framework that another one uses too, as new editions
// do: items, blueprints and files name standards by their codes, so that a code is
// one standard's.
func edition(f caseframework.Framework) string {
	if mark := strings.Join(strings.Fields(f.Version), "-"); mark != "" {
		return mark
	}
	return f.Identifier[:min(len(f.Identifier), 8)]
}
