package app

import (
	"context"
	"encoding/json"
	"fmt"
	"os"
	"strings"

	"pineledger/formats/caseframework"
	"pineledger/store"
)

// readStandards compares a framework file with what is there.
func (a *App) readStandards(ctx context.Context, run *importRun, name, path string) error {
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
	known, err := a.store.Known(ctx, "standard")
	if err != nil {
		return err
	}
	taken, err := a.store.CodesElsewhere(ctx, f.Identifier)
	if err != nil {
		return err
	}
	var framework int64
	ids := map[string]int64{}
	run.later(func(ctx context.Context, tx *store.Tx) error {
		framework, _, err = tx.PutFramework(ctx, store.Framework{Identifier: f.Identifier, Title: f.Title, Subject: f.Subject, Version: f.Version})
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
		grades := jsonList(s.Grades)
		digest := a.digest(f.Identifier, f.Title, f.Version, s.Identifier, s.Code, s.Text, s.Level, grades, s.Parent, fmt.Sprint(s.Place, s.Last))
		old, exists := known[s.Identifier]
		if ids[s.Identifier] = old.ID; !run.compare(old, exists, digest) {
			continue
		}
		writes++
		run.later(func(ctx context.Context, tx *store.Tx) (err error) {
			ids[s.Identifier], err = tx.PutStandard(ctx, store.Standard{FrameworkID: framework, Identifier: s.Identifier, Code: s.Code,
				Text: s.Text, Level: s.Level, Grades: grades, ParentID: ids[s.Parent], Place: s.Place, Last: s.Last}, digest)
			return err
		})
	}
	links := make([]store.StandardLink, len(f.Links))
	for i, l := range f.Links {
		links[i] = store.StandardLink{From: l.From, To: l.To, Kind: string(l.Kind)}
	}
	same, err := a.store.HasLinks(ctx, f.Identifier, links)
	if err != nil {
		return err
	}
	if writes == 0 && same {
		run.writes = nil // the same file again
		return nil
	}
	run.later(func(ctx context.Context, tx *store.Tx) error { return tx.PutLinks(ctx, framework, links) })
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

// jsonList writes a list as a JSON array, as lists of short codes are stored.
func jsonList(list []string) string {
	if list == nil {
		list = []string{}
	}
	data, err := json.Marshal(list)
	if err != nil {
		panic(err) // strings always marshal
	}
	return string(data)
}

// subjectCode is how a subject is kept: "mathematics", "reading", "science".
func subjectCode(s string) string { return strings.ToLower(strings.TrimSpace(s)) }
