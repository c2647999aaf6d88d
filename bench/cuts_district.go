package main

import (
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"net/http"
	"os"
	"path/filepath"
	"strings"
	"time"

	"pineledger/app"
	"pineledger/app/intake"
	"pineledger/demo"
	"pineledger/formats/table"
	"pineledger/store"
)

// Schools of the district that cuts are measured in, and students in each.
const (
	cutSchools  = 40
	cutStudents = 1500
)

// measureCutsOfDistrict weighs and changes cuts over HTTP, where 60,000 students in 40 schools have results.
func measureCutsOfDistrict(ctx context.Context, b *bench) error {
	data, err := b.fill(ctx, "cuts", func(s *store.Store, secret []byte) error {
		a, err := coordinator(ctx, s, secret)
		if err != nil {
			return err
		}
		attempts, err := demo.Hall(ctx, s, secret, b.dir, cutStudents, formLines)
		if err != nil {
			return err
		}
		if err := demo.ScoreAll(ctx, s, secret, attempts); err != nil {
			return err
		}
		// The next one is a draft: what its cuts would do follows from what the students got on the first.
		if _, err := a.Build.CopyAssessment(ctx, demo.System, 1, ""); err != nil {
			return err
		}
		return multiply(ctx, s, true)
	})
	if err != nil {
		return err
	}
	p, c, err := b.asCoordinator(ctx, data)
	if err != nil {
		return err
	}
	students := cutSchools * cutStudents
	bare, err := bareQuery(ctx, data, "SELECT x.raw, COUNT(*) FROM result x GROUP BY x.raw")
	if err != nil {
		return err
	}
	bands := func(at int) []map[string]any {
		cut := func(percent int) map[string]any { return map[string]any{"percent": percent} }
		return []map[string]any{{"name": "Launching", "cut": map[string]any{}}, {"name": "Underway", "cut": cut(20)}, {"name": "On course", "cut": cut(at)}, {"name": "Beyond", "cut": cut(86)}}
	}
	forecast := func(at int) error {
		_, err := c.do(http.MethodPost, "/api/assessments/2/forecast", map[string]any{"bands": bands(at), "mean": 0, "sd": 1})
		return err
	}
	took, err := median(1, func() error { return forecast(40) })
	if err != nil {
		return err
	}
	beside(fmt.Sprintf("the first forecast, %d students in %d schools, beside one pass over the scores", students, cutSchools), took, bare, "")
	at := 40
	if took, err = median(9, func() error { at++; return forecast(at) }); err != nil {
		return err
	}
	beside(fmt.Sprintf("a cut moved over HTTP, %d students in %d schools", students, cutSchools), took, bare, " (aim: under 50 ms)")
	if took, err = median(3, func() error {
		_, err := c.do(http.MethodPost, "/api/assessments/1/cuts-of-record/weigh", map[string]any{"bands": bands(30)})
		return err
	}); err != nil {
		return err
	}
	beside(fmt.Sprintf("who moves, of %d results", students), took, bare, "")
	took, err = median(1, func() error {
		_, err := c.do(http.MethodPost, "/api/assessments/1/cuts-of-record", map[string]any{"bands": bands(30), "reason": "Measured", "from": 0})
		return err
	})
	if err != nil {
		return err
	}
	beside(fmt.Sprintf("other cuts for %d results, each scored once more", students), took, bare, "")
	return p.stop()
}

// multiply copies the hall's school with its students, and their work and results where that is wanted, until there are as many as are measured. Ids of copy k
// lie k strides above those that they are copies of.
func multiply(ctx context.Context, s *store.Store, work bool) error {
	const stride = 1_000_000
	tables := []struct {
		name   string
		where  string
		moved  []string // ids
		unique []string // texts that may stand once
	}{
		{"school", "name = 'Hall'", []string{"id"}, []string{"sourced_id", "name"}},
		{"section", "TRUE", []string{"id", "school_id"}, []string{"sourced_id"}},
		{"person", "id IN (SELECT person_id FROM enrolment WHERE role = 'student' AND id < " + fmt.Sprint(stride) + ")", []string{"id"}, []string{"sourced_id", "number"}},
		{"enrolment", "role = 'student'", []string{"id", "section_id", "person_id"}, []string{"sourced_id"}},
		{"distribution_section", "TRUE", []string{"section_id"}, nil},
		{"sitting", "TRUE", []string{"id", "section_id", "school_id"}, nil},
		{"seat", "TRUE", []string{"sitting_id", "student_id"}, nil},
		{"attempt", "TRUE", []string{"id", "sitting_id", "student_id"}, nil},
		{"scoring", "TRUE", []string{"id", "attempt_id"}, nil},
		{"result", "TRUE", []string{"sitting_id", "student_id", "attempt_id", "scoring_id"}, nil},
		{"line_tally", "TRUE", []string{"sitting_id"}, nil},
	}
	if !work {
		tables = tables[:4]
	}
	return s.Write(ctx, func(tx *store.Tx) error {
		for _, t := range tables {
			var columns []string
			if err := tx.List(ctx, &columns, "SELECT name FROM pragma_table_info(?)", t.name); err != nil {
				return err
			}
			var from []string
			for _, c := range columns {
				expression := c
				for _, moved := range t.moved {
					if c == moved {
						expression = c + " + k.k * " + fmt.Sprint(stride)
					}
				}
				for _, unique := range t.unique {
					if c == unique {
						expression = c + " || '-' || k.k"
					}
				}
				from = append(from, expression)
			}
			// What is copied is read whole before copies come beside it.
			if err := tx.Exec(ctx, fmt.Sprintf("CREATE TEMP TABLE copied AS SELECT * FROM %s WHERE %s", t.name, t.where)); err != nil {
				return err
			}
			if err := tx.Exec(ctx, fmt.Sprintf(`WITH RECURSIVE k(k) AS (SELECT 1 UNION ALL SELECT k + 1 FROM k WHERE k < %d)
				INSERT INTO %s (%s) SELECT %s FROM copied, k`, cutSchools-1, t.name, strings.Join(columns, ", "), strings.Join(from, ", "))); err != nil {
				return fmt.Errorf("%s: %w", t.name, err)
			}
			if err := tx.Exec(ctx, "DROP TABLE copied"); err != nil {
				return err
			}
		}
		return nil
	})
}

// measureTables brings official tables with so many rows in, beside one pass over the file.
func measureTables(ctx context.Context, b *bench) error {
	for _, rows := range []int{10_000, 20_000} {
		path := filepath.Join(b.dir, fmt.Sprintf("tables-%d.csv", rows))
		written, err := officialRows(rows)
		if err != nil {
			return err
		}
		if err := os.WriteFile(path, written, 0o600); err != nil {
			return err
		}
		bare := taken(func() { err = table.Grid(path, bytes.NewReader(written), func(int, []string) error { return nil }) })
		if err != nil {
			return err
		}
		_, err = b.fill(ctx, fmt.Sprint("tables", rows), func(s *store.Store, secret []byte) error {
			a, err := app.New(ctx, app.Config{Store: s, Secret: secret})
			if err != nil {
				return err
			}
			start := time.Now()
			r, err := a.Intake.Import(ctx, demo.System, intake.File{Kind: intake.ImportTables, Name: filepath.Base(path), Path: path}, nil)
			if err != nil {
				return err
			}
			if r.Counts.Refused > 0 {
				told, _ := json.Marshal(r.Counts)
				return fmt.Errorf("rows were refused: %s", told)
			}
			beside(fmt.Sprintf("import of official tables with %d rows, beside one pass over the file", rows), time.Since(start), bare, "")
			return nil
		})
		if err != nil {
			return err
		}
	}
	return nil
}

// officialRows writes tables of 50 points, a test each, until there are so many rows.
func officialRows(rows int) ([]byte, error) {
	const most = 49
	var out [][]string
	for test := 0; len(out) < rows; test++ {
		for raw := range most + 1 {
			out = append(out, []string{fmt.Sprint("Test ", test), "Mathematics", fmt.Sprint(3 + test%6), "2025–26", fmt.Sprint(raw), fmt.Sprint(300 + 4*raw), []string{"Launching", "Underway", "On course", "Beyond"}[raw*4/(most+1)]})
		}
	}
	var file bytes.Buffer
	err := table.Write(&file, []string{"Test", "Subject", "Grade", "School year", "Raw score", "Scale score", "Performance level"}, out)
	return file.Bytes(), err
}
