package main

import (
	"context"
	"encoding/json"
	"fmt"
	"net/http"
	"time"

	"pineledger/demo"
	"pineledger/store"
)

// measureDistribute chooses, checks and sends over HTTP to 60,000 students in 40 schools, and asks how far they are.
func measureDistribute(ctx context.Context, b *bench) error {
	data, err := b.fill(ctx, "distribute", func(s *store.Store, secret []byte) error {
		a, err := coordinator(ctx, s, secret)
		if err != nil {
			return err
		}
		if _, err := demo.Hall(ctx, s, secret, b.dir, cutStudents, formLines); err != nil {
			return err
		}
		copied, err := a.Build.CopyAssessment(ctx, demo.System, 1, "")
		if err != nil {
			return err
		}
		if _, err := a.Build.Seal(ctx, demo.System, copied.Assessment.ID, copied.Assessment.Version); err != nil {
			return err
		}
		if err := multiply(ctx, s, false); err != nil {
			return err
		}
		if err := part(ctx, s); err != nil {
			return err
		}
		return support(ctx, s)
	})
	if err != nil {
		return err
	}
	bare, err := bareQuery(ctx, data, "SELECT e.section_id, p.id, p.number, p.given, p.family, p.grade FROM enrolment e JOIN person p ON p.id = e.person_id WHERE e.role = 'student' AND e.active = 1")
	if err != nil {
		return err
	}
	p, c, err := b.asCoordinator(ctx, data)
	if err != nil {
		return err
	}
	const path = "/api/assessments/2/distribution"
	var view struct {
		Version  int
		Total    struct{ Sections, Students int }
		Findings []struct{ Code string }
	}
	put := func() error {
		wave := map[string]any{"name": "", "opens": time.Now().AddDate(0, 0, 1).Format("2006-01-02T15:04"), "closes": time.Now().AddDate(0, 0, 9).Format("2006-01-02T15:04"), "schools": []int{}, "sections": []int{}}
		none := []int{}
		entry := map[string]any{"out": false, "schools": none, "grades": []string{}, "courses": none, "sections": none, "groups": none, "students": none}
		body, err := c.do(http.MethodPut, path, map[string]any{"entries": []any{entry}, "follow": true, "waves": []any{wave}}, "If-Match", fmt.Sprint(view.Version))
		if err != nil {
			return err
		}
		return json.Unmarshal(body, &view)
	}
	took, err := median(3, put)
	if err != nil {
		return err
	}
	who := fmt.Sprintf("%d students in %d sections", view.Total.Students, view.Total.Sections)
	beside("choosing and preflight for "+who, took, bare, " (aim: under 2 s)")
	reasons := map[string]string{}
	for _, f := range view.Findings {
		reasons[f.Code] = "Measured"
	}
	if took, err = median(1, func() error {
		_, err := c.do(http.MethodPost, path, map[string]any{"reasons": reasons}, "If-Match", fmt.Sprint(view.Version))
		return err
	}); err != nil {
		return err
	}
	beside("sending it to "+who, took, bare, " (aim: under 10 s)")
	if took, err = median(5, func() error {
		_, err := c.do(http.MethodGet, "/api/assessments/2/progress", nil)
		return err
	}); err != nil {
		return err
	}
	beside("how far they are, "+who, took, bare, readAim)
	today := time.Now()
	if took, err = median(5, func() error {
		_, err := c.do(http.MethodGet, fmt.Sprintf("/api/calendar?from=%s&to=%s", today.AddDate(0, -1, 0).Format(time.DateOnly), today.AddDate(0, 3, 0).Format(time.DateOnly)), nil)
		return err
	}); err != nil {
		return err
	}
	beside("four months of the calendar, "+who, took, bare, "")
	return p.stop()
}

// part makes ten sections of each, with a tenth of its students.
func part(ctx context.Context, s *store.Store) error {
	const stride = 10_000
	return s.Write(ctx, func(tx *store.Tx) error {
		for n := 1; n < 10; n++ {
			if err := tx.Exec(ctx, `INSERT INTO section (id, sourced_id, school_id, course_id, title, grade, grades, active, digest)
				SELECT id + ?1, sourced_id || '/' || ?1, school_id, course_id, title || ' ' || ?1, grade, grades, active, digest FROM section WHERE sourced_id NOT LIKE '%/%'`, n*stride); err != nil {
				return err
			}
		}
		return tx.Exec(ctx, "UPDATE enrolment SET section_id = section_id + (person_id % 10) * ? WHERE role = 'student'", stride)
	})
}

// support gives every seventh student three supports, two of which need somebody.
func support(ctx context.Context, s *store.Store) error {
	return s.Write(ctx, func(tx *store.Tx) error {
		return tx.Exec(ctx, `INSERT INTO student_support (student_id, key, value, ground, subjects, from_day, to_day, came, entered_by, entered_name, entered_at)
			SELECT e.person_id, k.key, k.value, 'IEP', '[]', '', '', '', 1, 'bench', 0
			FROM (SELECT DISTINCT person_id FROM enrolment WHERE role = 'student' AND active = 1 AND person_id % 7 = 0) e
			CROSS JOIN (SELECT 'extraTime' AS key, '"1.5"' AS value UNION ALL SELECT 'smallGroup', 'true' UNION ALL SELECT 'scribe', 'true') k`)
	})
}
