package demo

import (
	"context"
	"fmt"
	"math/rand/v2"
	"path/filepath"
	"time"

	bankroom "pineledger/app/bank"
	"pineledger/app/intake"
	"pineledger/core/bank"
	"pineledger/core/item"
	"pineledger/core/roster"
	"pineledger/store/intakerows"
	"pineledger/store/officerows"
)

// The banks beside the district's.
const (
	givenBank  = "Lantern Coast collection"
	schoolBank = "Quarry Road Middle bank"
	groupBank  = "Ratio and rate, item writers"
)

// banks makes a school's, a group's and a given bank, with items.
func (g *generator) banks(ctx context.Context, dir string) error {
	g.say("more banks")
	school, err := g.schoolNamed(ctx, "Quarry Road Middle")
	if err != nil {
		return err
	}
	head, err := g.headOf(ctx, "Quarry Road Middle")
	if err != nil {
		return err
	}
	for _, b := range []struct {
		kind   bank.Kind
		school int64
		in     bankroom.BankInput
	}{
		{bank.Given, 0, bankroom.BankInput{Name: givenBank, About: "Bought in 2025; to be placed and copied, not to be printed.", NoPrint: true}},
		{bank.School, school, bankroom.BankInput{Name: schoolBank, About: "Quick checks of the school’s own."}},
		{bank.Group, 0, bankroom.BankInput{Name: groupBank, About: "Drafted here before they are offered to the district.",
			Members: []bankroom.MemberInput{{PersonID: g.second.PersonID, Standing: bank.Keeper}, {PersonID: head.PersonID, Standing: bank.Writer}}}},
	} {
		if _, err := g.app.Bank.AddBank(ctx, g.district, b.kind, b.school, b.in); err != nil {
			return err
		}
	}
	// Numbers of their own; their templates are those of the district's bank.
	r := rand.New(rand.NewPCG(uint64(g.now.Year()), 11))
	var items []draftItem
	for _, part := range []struct {
		bank, prefix string
		every, most  int
	}{{givenBank, "LC", 5, 24}, {schoolBank, "QR", 7, 12}, {groupBank, "RR", 11, 10}} {
		items = append(items, g.others(r, part.bank, part.prefix, part.every, part.most)...)
	}
	path, err := writeItems(filepath.Join(dir, "others"), r, items)
	if err != nil {
		return err
	}
	return g.take(ctx, g.district, intake.ImportItems, path)
}

// others makes items of every so-manieth template.
func (g *generator) others(r *rand.Rand, bankName, prefix string, every, most int) []draftItem {
	var out []draftItem
	for i := 0; i < len(templates) && len(out) < most; i++ {
		t := templates[(i*every+len(prefix))%len(templates)]
		it := t.make(r)
		for tries := 0; (!sound(it) || g.stems[it.stem]) && tries < 200; tries++ {
			it = t.make(r)
		}
		if !sound(it) || g.stems[it.stem] {
			continue
		}
		g.stems[it.stem] = true
		it.bank, it.identifier = bankName, fmt.Sprintf("%s-%03d", prefix, len(out)+1)
		it.standard, it.depth, it.subject, it.grade, it.p = t.standard, t.depth, "mathematics", gradeOf(t.standard), t.p
		if bankName == givenBank { // made for more states than one
			it.standard = elsewhere(t.standard)
		}
		out = append(out, it)
	}
	return out
}

func (g *generator) schoolNamed(ctx context.Context, name string) (int64, error) {
	schools, err := officerows.Schools(ctx, g.store.Reader, roster.Scope{District: true})
	for _, s := range schools {
		if s.Name == name {
			return s.ID, nil
		}
	}
	return 0, fmt.Errorf("no school %s: %w", name, err)
}

// headOf gives a school's coordinator.
func (g *generator) headOf(ctx context.Context, school string) (roster.Viewer, error) {
	heads, err := officerows.PeopleToTry(ctx, g.store.Reader, roster.SchoolCoordinator, 50)
	for _, p := range heads {
		if p.School == school {
			return g.app.Viewer(ctx, p.ID)
		}
	}
	return roster.Viewer{}, fmt.Errorf("%s has no coordinator: %w", school, err)
}

// talk lets people work with the bank: tags, holds, comments, a report, a new version.
func (g *generator) talk(ctx context.Context) error {
	g.say("tags, holds, comments and a report")
	head, err := g.headOf(ctx, "Quarry Road Middle")
	if err != nil {
		return err
	}
	known, err := intakerows.KnownBy(ctx, g.store.Reader, "item")
	if err != nil {
		return err
	}
	ids := func(identifiers ...string) (out []int64) {
		for _, i := range identifiers {
			out = append(out, known[i].ID)
		}
		return out
	}
	miskeyed := known["M6-EX-3-900"].ID
	if err := g.sources(ctx); err != nil {
		return err
	}
	at := func(daysAgo, hour int, do func() error) { g.at(g.day(daysAgo, hour, 20), do) }
	at(70, 9, func() error { return g.describe(ctx) })
	at(33, 15, func() error {
		return g.app.Bank.TagItems(ctx, g.district, ids("M6-RR-1a-001", "M6-RR-1a-002", "M6-RR-2-001", "M6-RR-3a-001"), "ferry, rates", bank.Tag{Scope: bank.ForEveryone}, nil)
	})
	at(20, 16, func() error {
		return g.app.Bank.TagItems(ctx, g.district, ids("M6-RR-1a-003", "M6-EX-1-001"), "ask tomás", bank.Tag{Scope: bank.ForPerson, ScopeID: g.district.PersonID}, nil)
	})
	at(19, 15, func() error {
		return g.app.Bank.TagItems(ctx, head, ids("M6-RR-1a-001", "M7-NP-1-001"), "bell work", bank.Tag{Scope: bank.ForSchool, ScopeID: head.Posts[0].SchoolID}, nil)
	})
	at(16, 10, func() error { return g.reword(ctx, known["M6-RR-1a-001"].ID) })
	at(15, 11, func() error {
		_, err := g.app.Bank.Comment(ctx, head, known["M6-RR-1a-001"].ID, "Our sixth graders read the old wording as a question about both ferries. The new one is clearer.")
		return err
	})
	at(4, 13, func() error {
		return g.app.Word.ReportItem(ctx, head, miskeyed, 0, "wrong key", "Twenty-eight kilograms in seven equal crates are 4 kilograms each, and the key says 10.")
	})
	at(2, 14, func() error {
		return g.app.Word.HoldItems(ctx, g.second, bankroom.HoldInput{Items: ids("M7-NP-1-002", "M7-NP-1-003"), Until: g.now.AddDate(0, 0, 40).Format(time.DateOnly), Reason: "For the grade 7 benchmark in January."})
	})
	return nil
}

// sources notes where the passages come from: all but one, whose source is still to be noted.
func (g *generator) sources(ctx context.Context) error {
	list, err := g.app.Shelf.Passages(ctx, g.district, "")
	if err != nil {
		return err
	}
	for i, row := range list {
		if i == 0 {
			continue
		}
		p, err := g.app.Shelf.Passage(ctx, g.district, row.ID)
		if err != nil {
			return err
		}
		if _, err := g.app.Shelf.PutPassage(ctx, g.district, p.ID, p.Version, bankroom.PassageInput{Identifier: p.Identifier, Title: p.Title, Body: p.Body, Language: p.Language, Bank: p.Bank,
			Source: "Written for Tamarack Bay Unified, 2025", Permission: "the district’s own"}); err != nil {
			return err
		}
	}
	return nil
}

// alternatives are what pictures of the shelf show; the others still want their words.
var alternatives = map[string]string{
	"corners.svg": "A square, a triangle and a hexagon in a row", "six.svg": "Six circles, five in a row and one below", "triangle.svg": "A right triangle",
	"wave.svg": "A wave along a line", "seals.svg": "A bar chart of seals at the pier, the reef and the sandbar", "herons.svg": "A bar chart of herons from March to June",
	"thermometer.svg": "A thermometer from −10 to 10 degrees",
}

func (g *generator) describe(ctx context.Context) error {
	files, _, err := g.app.Shelf.Shelf(ctx, g.district, "", false, 0)
	for _, f := range files {
		if alt := alternatives[f.Name]; alt != "" && err == nil {
			_, err = g.app.Shelf.DescribeMedia(ctx, g.district, f.Hash, f.Version, f.Name, alt)
		}
	}
	return err
}

// reword keeps a second version of an item.
func (g *generator) reword(ctx context.Context, id int64) error {
	d, err := g.app.Writing.BeginItem(ctx, g.district, "", id)
	if err != nil {
		return err
	}
	it := d.Document
	it.Body = append([]item.Block{}, it.Body...)
	it.Body[0].HTML = "<p>Read the question twice before you choose.</p><p>" + item.PlainText(it.Body[0].HTML) + "</p>"
	it.Notes = "Reworded after the fall benchmark."
	if d, err = g.app.Writing.PutItemDraft(ctx, g.district, d.ID, d.Version, it, d.Meta); err != nil {
		return err
	}
	if len(d.Problems) > 0 {
		return fmt.Errorf("the reworded item: %v", d.Problems)
	}
	_, err = g.app.Writing.KeepItem(ctx, g.district, d.ID, d.Version)
	return err
}
