package main

import (
	"context"
	"database/sql"
	"encoding/json"
	"fmt"
	"net/http"
	"path/filepath"
	"time"

	"pineledger/app"
	"pineledger/app/bank"
	"pineledger/app/build"
	"pineledger/app/intake"
	"pineledger/core/blueprint"
	"pineledger/core/points"
	"pineledger/demo"
	"pineledger/store"
)

const readAim = " (aim: under 200 ms)"

// coordinator adds a district coordinator, to sign in as.
func coordinator(ctx context.Context, s *store.Store, secret []byte) (*app.App, error) {
	a, err := app.New(ctx, app.Config{Store: s, Secret: secret})
	if err != nil {
		return nil, err
	}
	return a, a.Office.AddCoordinator(ctx, "Ada", "Bench", "ada@tamarackbay.example", "a long enough one")
}

// asCoordinator starts the program on a folder and signs the coordinator in.
func (b *bench) asCoordinator(ctx context.Context, data string) (*program, *client, error) {
	p, err := b.start(ctx, data)
	if err != nil {
		return nil, nil, err
	}
	list, err := (&client{http.DefaultClient, p.base}).people()
	if err != nil {
		return nil, nil, err
	}
	c, err := p.signIn(list[0].ID, nil)
	return p, c, err
}

// bareQuery is the middle time of queries that are read to their ends.
func bareQuery(ctx context.Context, data string, queries ...string) (time.Duration, error) {
	s, err := store.Open(ctx, data)
	if err != nil {
		return 0, err
	}
	defer s.Close()
	return median(9, func() error {
		for _, query := range queries {
			if err := readAll(ctx, s.Unguarded(), query); err != nil {
				return err
			}
		}
		return nil
	})
}

func readAll(ctx context.Context, db *sql.DB, query string) error {
	rows, err := db.QueryContext(ctx, query)
	if err != nil {
		return err
	}
	defer rows.Close()
	for rows.Next() {
	}
	return rows.Err()
}

const stepAim = " (aim: under 150 ms)"

// inBanks is what every search of a person is narrowed by.
const inBanks = "bank_id IN (SELECT id FROM bank WHERE kind = 'district')"

// measureBank searches a small and a large bank by each way there is, beside the
// same bare SQL.
func measureBank(ctx context.Context, b *bench) error {
	for _, items := range []int{300, 100_000} {
		data, err := b.bank(ctx, items)
		if err != nil {
			return err
		}
		p, c, err := b.asCoordinator(ctx, data)
		if err != nil {
			return err
		}
		if err := searches(ctx, c, data, items); err != nil {
			return err
		}
		if err := counts(ctx, c, data, items); err != nil {
			return err
		}
		if err := plans(ctx, c, data, items); err != nil {
			return err
		}
		if err := p.stop(); err != nil {
			return err
		}
	}
	return nil
}

// searches measures a first page with its facets.
func searches(ctx context.Context, c *client, data string, items int) error {
	const below = `alignment_id IN (SELECT x.alignment_id FROM standard top JOIN standard s ON s.framework_id = top.framework_id AND s.place BETWEEN top.place AND top.last
		JOIN alignment_standard x ON x.standard_id = s.id WHERE top.id = 60)`
	for _, s := range []struct{ name, query, where, order string }{
		{"all", "limit=60", "1", "changed_at"},
		{"a word", "limit=60&words=clams", "id IN (SELECT rowid FROM item_words WHERE item_words MATCH 'clams*')", "changed_at"},
		{"two words, of which one is in a third of the items", "limit=60&words=how+many", `id IN (SELECT rowid FROM item_words WHERE item_words MATCH '"how" "many"*')`, "changed_at"},
		{"a standard with all below", "limit=60&standard=60", below, "changed_at"},
		{"a facet", "limit=60&grade=06", "grade = '06'", "changed_at"},
		{"three facets, hardest first", "limit=60&grade=06&kind=number&ease=medium&sort=difficulty", "grade = '06' AND kind = 'number' AND ease = 'medium'", "difficulty"},
		{"a tag", "limit=60&tag=bench-3", "tag_set_id IN (SELECT tag_set_id FROM tag_set_tag m JOIN tag t ON t.id = m.tag_id WHERE t.name = 'bench-3')", "changed_at"},
		{"never used", "limit=60&usesTo=0", "uses = 0", "changed_at"},
	} {
		took, err := median(9, func() error { return c.get("/api/items?" + s.query) })
		if err != nil {
			return err
		}
		bare, err := bareQuery(ctx, data, "SELECT id, stem FROM item WHERE "+inBanks+" AND "+s.where+" ORDER BY "+s.order+" DESC, id DESC LIMIT 60",
			"SELECT subject, grade, course, kind, depth, language, ease, bank_id, COUNT(*) FROM item WHERE "+inBanks+" AND "+s.where+" GROUP BY 1, 2, 3, 4, 5, 6, 7, 8")
		if err != nil {
			return err
		}
		beside(fmt.Sprintf("bank of %d, %s, first page and counts", items, s.name), took, bare, stepAim)
	}
	return nil
}

// counts measures the tree, the tags, twins and an item's page.
func counts(ctx context.Context, c *client, data string, items int) error {
	for _, s := range []struct{ name, path, bare string }{
		{"standards tree with counts", "/api/frameworks/1/standards", "SELECT alignment_id, COUNT(*) FROM item WHERE " + inBanks + " GROUP BY 1"},
		{"standards tree with the counts of a facet", "/api/frameworks/1/standards?grade=06", "SELECT alignment_id, COUNT(*) FROM item WHERE " + inBanks + " AND grade = '06' GROUP BY 1"},
		{"standards tree with the counts of a word", "/api/frameworks/1/standards?words=clams",
			"SELECT alignment_id, COUNT(*) FROM item WHERE " + inBanks + " AND id IN (SELECT rowid FROM item_words WHERE item_words MATCH 'clams*') GROUP BY 1"},
		{"tags with counts", "/api/item-tags", "SELECT tag_set_id, COUNT(*) FROM item WHERE " + inBanks + " GROUP BY 1"},
		{"the twins of an item", "/api/items/7/twins", "SELECT DISTINCT item_id FROM item_sketch WHERE key IN (SELECT key FROM item_sketch WHERE item_id = 7)"},
		{"an item", "/api/items/7", "SELECT document FROM item_version WHERE item_id = 7"},
	} {
		took, err := median(9, func() error { return c.get(s.path) })
		if err != nil {
			return err
		}
		bare, err := bareQuery(ctx, data, s.bare)
		if err != nil {
			return err
		}
		beside(fmt.Sprintf("bank of %d, %s", items, s.name), took, bare, stepAim)
	}
	return nil
}

func (b *bench) bank(ctx context.Context, items int) (string, error) {
	return b.fill(ctx, fmt.Sprint("bank-", items), func(s *store.Store, secret []byte) error {
		a, err := coordinator(ctx, s, secret)
		if err != nil {
			return err
		}
		standards, file, err := demo.WriteManyItems(b.dir, items)
		if err != nil {
			return err
		}
		for _, path := range standards {
			if _, err := a.Intake.Import(ctx, demo.System, intake.File{Kind: intake.ImportStandards, Name: filepath.Base(path), Path: path}, nil); err != nil {
				return err
			}
		}
		start := time.Now()
		report, err := a.Intake.Import(ctx, demo.System, intake.File{Kind: intake.ImportItems, Name: filepath.Base(file), Path: file}, nil)
		took := time.Since(start)
		if err != nil {
			return err
		}
		if err := planned(ctx, a); err != nil {
			return err
		}
		say(fmt.Sprintf("import of %d items, twins looked for", report.Counts.New), "%s, %.0f items a second", brief(took), float64(report.Counts.New)/took.Seconds())
		return s.Optimize(ctx)
	})
}

// planRows are the standards that the blueprint of a bank's one assessment plans.
var planRows = []string{"M6.RR", "M6.NP", "M6.EX", "M6.FS", "M6.DC"}

// planned starts an assessment, the first, with a blueprint and a line.
func planned(ctx context.Context, a *app.App) error {
	s, err := a.Build.StartAssessment(ctx, demo.System, build.Outline{Title: "Planned", Subject: "mathematics", Grades: []string{"06"}, Purpose: "benchmark", Language: "en"})
	if err != nil {
		return err
	}
	var rows []build.RowInput
	for _, code := range planRows {
		rows = append(rows, build.RowInput{Filter: blueprint.Filter{Standards: []string{code}, Depth: []int{1, 2}}, Min: 4 * points.One, Max: 6 * points.One})
	}
	if s, err = a.Build.PutBlueprint(ctx, demo.System, s.Assessment.ID, s.Assessment.Version, rows); err != nil {
		return err
	}
	page, err := a.Bank.Items(ctx, demo.System, bank.ItemSearch{Subjects: []string{"mathematics"}, Grades: []string{"06"}})
	if err != nil {
		return err
	}
	_, err = a.Build.PutLines(ctx, demo.System, s.Assessment.ID, s.Assessment.Version, []build.LineInput{{ItemID: page.Items[0].ID, Points: points.One}})
	return err
}

// plans measures what a blueprint asks of a bank each time its sheet changes.
func plans(ctx context.Context, c *client, data string, items int) error {
	const bare = "SELECT i.id, i.depth, i.difficulty, v.standards FROM item i JOIN item_version v ON v.id = i.version_id WHERE i.subject = 'mathematics' AND i.grade = '06'"
	for _, s := range []struct{ name, path string }{{"pools of a blueprint", "/api/assessments/1/pools"}, {"the sheet with its balance", "/api/assessments/1"}} {
		took, err := median(9, func() error { return c.get(s.path) })
		if err != nil {
			return err
		}
		reading, err := bareQuery(ctx, data, bare)
		if err != nil {
			return err
		}
		beside(fmt.Sprintf("bank of %d, %s", items, s.name), took, reading, stepAim)
	}
	return nil
}

// measureMatrix reads the results of 3,000 students on 40 lines.
func measureMatrix(ctx context.Context, b *bench) error {
	const students = 3000
	data, err := b.fill(ctx, "matrix", func(s *store.Store, secret []byte) error {
		if _, err := coordinator(ctx, s, secret); err != nil {
			return err
		}
		attempts, err := demo.Hall(ctx, s, secret, b.dir, students, formLines)
		if err != nil {
			return err
		}
		return demo.ScoreAll(ctx, s, secret, attempts)
	})
	if err != nil {
		return err
	}
	p, c, err := b.asCoordinator(ctx, data)
	if err != nil {
		return err
	}
	bare, err := bareQuery(ctx, data, "SELECT raw, band, credits FROM result")
	if err != nil {
		return err
	}
	for _, view := range []struct{ name, path string }{
		{"first page by student", "/api/results/1/matrix?limit=100"},
		{"first page by a line's credit", "/api/results/1/matrix?limit=100&sort=-7"},
		{"all rows as CSV", "/api/results/1/matrix.csv"},
		{"bands by school and section", "/api/results/1/bands"},
	} {
		took, err := median(9, func() error { return c.get(view.path) })
		if err != nil {
			return err
		}
		beside(fmt.Sprintf("%d students × %d lines, %s", students, formLines, view.name), took, bare, readAim)
	}
	return p.stop()
}

// measureBalance balances 100 lines over 40 overlapping rows.
func measureBalance(context.Context, *bench) error {
	standards := []blueprint.Standard{{Code: "ALL"}}
	for i := range 20 {
		standards = append(standards, blueprint.Standard{Code: fmt.Sprint("S", i), Parent: "ALL"})
	}
	tree, err := blueprint.NewTree(standards)
	if err != nil {
		return err
	}
	var rows []blueprint.Row
	for i := range 40 {
		two := []string{fmt.Sprint("S", i%20), fmt.Sprint("S", (i*7+3)%20)}
		rows = append(rows, blueprint.Row{ID: fmt.Sprint("r", i), Filter: blueprint.Filter{Standards: two}, Min: 2 * points.One, Max: 3 * points.One})
	}
	var lines []blueprint.Item
	for i := range 100 {
		lines = append(lines, blueprint.Item{ID: fmt.Sprint("l", i), Standards: []string{fmt.Sprint("S", i*i%20)}, Points: points.One})
	}
	took, err := median(9, func() error {
		_, err := blueprint.Compute(tree, rows, lines)
		return err
	})
	say("balance of 100 lines over 40 rows", "%s", brief(took))
	return err
}

// measureRoster brings a district of 60,000 students in.
func measureRoster(ctx context.Context, b *bench) error {
	const students = 60_000
	_, err := b.fill(ctx, "roster", func(s *store.Store, secret []byte) error {
		a, err := app.New(ctx, app.Config{Store: s, Secret: secret})
		if err != nil {
			return err
		}
		path, err := demo.WriteRoster(filepath.Join(b.dir, "district"), students)
		if err != nil {
			return err
		}
		for _, time := range []string{"first", "second"} {
			if err := bringIn(ctx, a, path, time); err != nil {
				return err
			}
		}
		return nil
	})
	return err
}

func bringIn(ctx context.Context, a *app.App, path, which string) error {
	start := time.Now()
	r, err := a.Intake.Import(ctx, demo.System, intake.File{Kind: intake.ImportRoster, Name: filepath.Base(path), Path: path}, nil)
	say(fmt.Sprintf("import of a roster of 60,000 students, the %s time", which), "%s: read %d rows, new %d, unchanged %d, refused %d (aim: under a minute)",
		brief(time.Since(start)), r.Counts.Read, r.Counts.New, r.Counts.Unchanged, r.Counts.Refused)
	return err
}

// measureStart starts the program on the demo district.
func measureStart(ctx context.Context, b *bench) error {
	data := filepath.Join(b.dir, "demo")
	p, err := b.start(ctx, data) // makes it
	if err != nil {
		return err
	}
	if err := p.stop(); err != nil {
		return err
	}
	took, err := median(5, func() error {
		p, err := b.start(ctx, data)
		if err != nil {
			return err
		}
		return p.stop()
	})
	if err != nil {
		return err
	}
	say("start and stop with the demo district", "%s (aim: under 2 s)", brief(took))
	return b.measureScreens(ctx, data)
}

// measureScreens asks for what each screen of the demo asks for.
func (b *bench) measureScreens(ctx context.Context, data string) error {
	p, c, err := b.asCoordinator(ctx, data)
	if err != nil {
		return err
	}
	var slowest time.Duration
	which := ""
	paths := []string{"/today", "/frameworks", "/frameworks/1/standards", "/items?limit=50", "/items?words=ferry&limit=50", "/items/1", "/tray", "/band-sets", "/assessments", "/assessments/1",
		"/assessments/2", "/assessments/2/distribution", "/settings", "/settings?assessment=4", "/sittings/1", "/results", "/results/1/bands", "/results/1/matrix?limit=500", "/schools", "/schools/1/sections", "/sections/1/students", "/imports", "/ledger?limit=100"}
	for _, path := range paths {
		took, err := median(5, func() error { return c.get("/api" + path) })
		if err != nil {
			return err
		}
		if took > slowest {
			slowest, which = took, path
		}
	}
	say(fmt.Sprintf("the slowest of %d screens of the demo: %s", len(paths), which), "%s%s", brief(slowest), readAim)
	return p.stop()
}

type person struct {
	ID   int64  `json:"id"`
	Role string `json:"role"`
}

func (c *client) people() (list []person, err error) {
	got, err := c.do(http.MethodGet, "/api/demo/people", nil)
	if err != nil {
		return nil, err
	}
	return list, json.Unmarshal(got, &list)
}
