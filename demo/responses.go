package demo

import (
	"context"
	"fmt"
	"hash/fnv"
	"math"
	"strings"
	"time"

	"pineledger/app/take"
	"pineledger/core/attempt"
	"pineledger/core/item"
	"pineledger/core/roster"
	"pineledger/store/buildrows"
	"pineledger/store/giverows"
	"pineledger/store/officerows"
)

// sittingStory is what happens in one sitting.
type sittingStory struct {
	at     time.Time
	absent float64 // share of students who never begin
	done   float64 // share of those who begin that hand in
	door   attempt.DoorState
}

// sit tells a sitting: the teacher opens the door, students work, the door ends as told.
func (g *generator) sit(ctx context.Context, s giverows.Sitting, story sittingStory) error {
	teachers, err := officerows.PeopleOfSitting(ctx, g.store.Reader, s.ID, 0)
	if err != nil {
		return err
	}
	teacher := g.district
	if len(teachers) > 0 {
		if teacher, err = g.app.Viewer(ctx, teachers[0].ID); err != nil {
			return err
		}
	}
	seats, err := giverows.Room(ctx, g.store.Reader, s.ID)
	if err != nil {
		return err
	}
	move := func(door attempt.DoorState) func() error {
		return func() error {
			_, err := g.app.Take.MoveDoor(ctx, teacher, s.ID, door)
			return err
		}
	}
	g.at(story.at, move(attempt.Open))
	first := true
	for i, seat := range seats {
		if g.r.Float64() < story.absent {
			continue
		}
		done := g.r.Float64() < story.done || first && story.done > 0 // however small the district, somebody is done
		first = false
		g.work(ctx, s, seat.StudentID, story.at.Add(time.Duration(i+1)*2*time.Second), done)
	}
	switch story.door {
	case attempt.Closed:
		g.at(story.at.Add(58*time.Minute), move(attempt.Closed))
	case attempt.Held:
		g.at(g.now.Add(-4*time.Minute), move(attempt.Held))
	}
	return nil
}

// ability of a student: schools differ a little, students a lot.
func (g *generator) ability(s giverows.Sitting, student int64) float64 {
	if a, ok := g.abilities[student]; ok {
		return a
	}
	h := fnv.New32a()
	fmt.Fprint(h, s.School)
	school := (float64(h.Sum32()%1000)/1000 - .5) * .8
	g.abilities[student] = school + g.r.NormFloat64()
	return g.abilities[student]
}

// work tells one student's attempt: begun, answered, and handed in or not.
func (g *generator) work(ctx context.Context, s giverows.Sitting, student int64, begins time.Time, handsIn bool) {
	var v roster.Viewer
	var id int64
	g.at(begins, func() (err error) {
		if v, err = g.app.Viewer(ctx, student); err != nil {
			return err
		}
		view, err := g.app.Take.Begin(ctx, v, s.ID, take.Entry{})
		if err != nil {
			return err
		}
		id = view.Attempt.ID
		answers, err := g.answers(ctx, s, student, view, handsIn)
		if err != nil || len(answers) == 0 {
			return err
		}
		saved, err := g.app.Take.SaveAnswers(ctx, v, id, "", answers)
		if len(saved.Refused) > 0 {
			return fmt.Errorf("answers of the demo are saved.Refused: %v", saved.Refused)
		}
		return err
	})
	if !handsIn {
		return
	}
	ends := begins.Add(time.Duration(between(g.r, 20*60, 52*60)) * time.Second)
	if latest := g.now.Add(-5 * time.Minute); ends.After(latest) {
		ends = latest.Add(-time.Duration(g.r.IntN(300)) * time.Second)
	}
	g.at(ends, func() error {
		_, err := g.app.Take.HandIn(ctx, v, id)
		return err
	})
}

// answers of one student: of a certain ability, some lines omitted, some not reached.
func (g *generator) answers(ctx context.Context, s giverows.Sitting, student int64, view take.TakeView, handsIn bool) ([]take.Answered, error) {
	theta := g.ability(s, student)
	reached := len(view.Lines)
	if !handsIn {
		reached = between(g.r, 1, len(view.Lines)-1)
	} else if g.r.Float64() < .05 {
		reached -= between(g.r, 1, 4) // ran out of time
	}
	lines, err := buildrows.Lines(ctx, g.store.Reader, s.AssessmentID)
	if err != nil {
		return nil, err
	}
	var answers []take.Answered
	for i, l := range view.Lines[:reached] {
		if g.r.Float64() < .025 {
			continue // omitted
		}
		response := g.respond(lines[l.Line-1].Identifier, l.Item, theta)
		answers = append(answers, take.Answered{Line: l.Line, Number: int64(i + 1), Response: response, Marked: g.r.Float64() < .04})
	}
	return answers, nil
}

// respond answers as a student of an ability would: right by a logistic curve
// with some guessing on choices, else a mistake that others make too.
func (g *generator) respond(identifier string, shown item.Shown, theta float64) item.Response {
	it := g.items[identifier]
	difficulty := -math.Log(it.p / (1 - it.p))
	guess := 0.0
	if it.kind == "single-choice" {
		guess = .12
	}
	p := guess + (1-guess)/(1+math.Exp(-1.3*(theta-difficulty-guess)))
	right := g.r.Float64() < p
	for _, block := range shown.Body {
		if block.Interaction == nil {
			continue
		}
		in := block.Interaction
		if it.kind == "number" {
			return item.Response{in.Response: {g.typed(it, right)}}
		}
		return item.Response{in.Response: g.chosen(it, in.Choices, right)}
	}
	return item.Response{}
}

func (g *generator) typed(it draftItem, right bool) string {
	if right {
		return it.right[0]
	}
	return pick(g.r, it.right[0]+"0", "1"+it.right[0], num(between(g.r, 2, 60)))
}

// chosen gives the ids of the choices that a student picks. The first distractor
// of an item comes from the commonest mistake.
func (g *generator) chosen(it draftItem, choices []item.Choice, right bool) []string {
	texts := it.right
	switch {
	case it.kind == "multiple-choice" && !right:
		texts = append(append([]string{}, it.right[:1]...), it.wrong[:1+g.r.IntN(2)]...)
	case !right:
		texts = []string{it.wrong[min(len(it.wrong)-1, int(math.Abs(g.r.NormFloat64())*1.2))]}
	}
	var ids []string
	for _, c := range choices {
		for _, text := range texts {
			if strings.TrimSpace(item.PlainText(c.HTML)) == strings.TrimSpace(item.PlainText(text)) {
				ids = append(ids, c.ID)
			}
		}
	}
	return ids
}
