package intake

import (
	"context"
	"fmt"
	"os"
	"strings"

	"pineledger/app/desk"
	"pineledger/formats/caseframework"
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
	f, refused, err := caseframework.Read(name, file)
	if err != nil {
		return err
	}
	for i := range refused {
		run.counts.Read++
		run.refuse(&refused[i])
	}
	known, err := intakerows.KnownBy(ctx, a.Store.Reader, "standard")
	if err != nil {
		return err
	}
	taken, err := bankrows.CodesElsewhere(ctx, a.Store.Reader, f.Identifier)
	if err != nil {
		return err
	}
	var framework int64
	ids := map[string]int64{}
	run.later(func(ctx context.Context, tx *store.Tx) error {
		framework, _, err = bankrows.PutFramework(ctx, tx, bankrows.Framework{Identifier: f.Identifier, Title: f.Title, Subject: f.Subject, Version: f.Version})
		return err
	})
	writes := 0
	for _, s := range f.Standards {
		if err := run.take(ctx, nil, func() error { return nil }); err != nil {
			return err
		}
		if taken[s.Code] {
			s.Code += "@" + edition(f)
		}
		grades := desk.JsonList(s.Grades) // as digests have always had it
		digest := a.Digest(f.Identifier, f.Title, f.Version, s.Identifier, s.Code, s.Text, s.Level, grades, s.Parent, fmt.Sprint(s.Place, s.Last))
		old, exists := known[s.Identifier]
		if ids[s.Identifier] = old.ID; !run.compare(old, exists, digest) {
			continue
		}
		writes++
		run.later(func(ctx context.Context, tx *store.Tx) (err error) {
			ids[s.Identifier], err = bankrows.PutStandard(ctx, tx, bankrows.Standard{FrameworkID: framework, Identifier: s.Identifier, Code: s.Code,
				Text: s.Text, Level: s.Level, Grades: s.Grades, ParentID: ids[s.Parent], Place: s.Place, Last: s.Last}, digest)
			return err
		})
	}
	links := make([]bankrows.StandardLink, len(f.Links))
	for i, l := range f.Links {
		links[i] = bankrows.StandardLink{From: l.From, To: l.To, Kind: string(l.Kind)}
	}
	same, err := bankrows.HasLinks(ctx, a.Store.Reader, f.Identifier, links)
	if err != nil {
		return err
	}
	if writes == 0 && same {
		run.writes = nil // the same file again
		return nil
	}
	run.later(func(ctx context.Context, tx *store.Tx) error { return bankrows.PutLinks(ctx, tx, framework, links) })
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
