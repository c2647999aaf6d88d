package main

import (
	"context"
	"fmt"
	"net/http"
	"os"
	"path/filepath"
	"time"

	"pineledger/app/intake"
	"pineledger/core/roster"
	"pineledger/demo"
	"pineledger/formats/pnp"
	"pineledger/formats/table"
	"pineledger/store"
	"pineledger/store/officerows"
)

// supported is how many students of one assessment have supports.
const supported = 3000

// measureSupports asks over HTTP for the matrix of an assessment that 3,000 students with three supports each take, and brings in a file
// of their profiles once more.
func measureSupports(ctx context.Context, b *bench) error {
	path := filepath.Join(b.dir, "profiles.csv")
	var again time.Duration
	data, err := b.fill(ctx, "supports", func(s *store.Store, secret []byte) error {
		a, err := coordinator(ctx, s, secret)
		if err != nil {
			return err
		}
		if _, err := demo.Hall(ctx, s, secret, b.dir, supported, formLines); err != nil {
			return err
		}
		if err := writeProfiles(ctx, s, path); err != nil {
			return err
		}
		file := intake.File{Kind: intake.ImportProfiles, Name: "profiles.csv", Path: path}
		r, err := a.Intake.Import(ctx, demo.System, file, nil)
		if err != nil {
			return err
		}
		if r.Counts.New != 3*supported {
			return fmt.Errorf("%d of %d supports came in: %v", r.Counts.New, 3*supported, r.Refusals)
		}
		again, err = median(1, func() error {
			_, err := a.Intake.Import(ctx, demo.System, file, nil)
			return err
		})
		return err
	})
	if err != nil {
		return err
	}
	bare, err := bareQuery(ctx, data, "SELECT x.student_id, x.key, x.value, x.subjects FROM student_support x WHERE x.ended_at IS NULL ORDER BY x.student_id, x.id",
		"SELECT p.id, p.given, p.family FROM seat JOIN person p ON p.id = seat.student_id ORDER BY p.family, p.given, p.id")
	if err != nil {
		return err
	}
	p, c, err := b.asCoordinator(ctx, data)
	if err != nil {
		return err
	}
	for what, path := range map[string]string{"the first page of the matrix": "/api/assessments/1/supports?limit=300", "the matrix as CSV": "/api/assessments/1/supports.csv"} {
		took, err := median(9, func() error {
			_, err := c.do(http.MethodGet, path, nil)
			return err
		})
		if err != nil {
			return err
		}
		beside(fmt.Sprintf("%s, %d students with supports", what, supported), took, bare, readAim)
	}
	beside(fmt.Sprintf("a file of %d supports once more, nothing new", 3*supported), again, bare, "")
	return p.stop()
}

// writeProfiles gives every student three supports, in a file.
func writeProfiles(ctx context.Context, s *store.Store, path string) error {
	sections, err := officerows.Sections(ctx, s.Reader, roster.Scope{District: true}, officerows.SectionFilter{})
	if err != nil {
		return err
	}
	ids := make([]int64, len(sections))
	for i, one := range sections {
		ids[i] = one.ID
	}
	students, err := officerows.StudentsOf(ctx, s.Reader, ids)
	if err != nil {
		return err
	}
	var rows [][]string
	for _, one := range students {
		for _, has := range [][2]string{{"extraTime", "1.5"}, {"smallGroup", ""}, {"language", "es"}} {
			rows = append(rows, []string{one.Number, has[0], has[1], "", "", "", ""})
		}
	}
	file, err := os.Create(path)
	if err != nil {
		return err
	}
	defer file.Close()
	return table.Write(file, pnp.Head, rows)
}
