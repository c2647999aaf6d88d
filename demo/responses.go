package demo

import (
	"context"
	"fmt"
	"hash/fnv"
	"math"
	"strings"
	"time"

	"pineledger/app"
	"pineledger/core/attempt"
	"pineledger/core/item"
	"pineledger/core/roster"
	"pineledger/store"
)

// sittingStory is what happens in one sitting.
type sittingStory struct {
	at     time.Time
	absent float64 // share of students who never begin
	done   float64 // share of those who begin that hand in
	door   attempt.DoorState
}

// sit plays a sitting: the teacher opens the door, students work, the door ends as told.
func (g *generator) sit(ctx context.Context, s store.Sitting, story sittingStory) error {
	teachers, err := g.store.PeopleOfSitting(ctx, s.ID, 0)
	if err != nil {
		return err
	}
	teacher := g.district
	if len(teachers) > 0 {
		if teacher, err = g.app.Viewer(ctx, teachers[0].ID); err != nil {
			return err
		}
	}
	room, err := g.app.MoveDoor(ctx, teacher, s.ID, attempt.Open)
	if err != nil {
		return err
	}
	opened := g.clock
	for i, seat := range room.Seats {
		if g.r.Float64() < story.absent {
			continue
		}
		g.clock = opened.Add(time.Duration(i) * 2 * time.Second)
		if err := g.work(ctx, s, seat.StudentID, g.r.Float64() < story.done); err != nil {
			return err
		}
	}
	if story.door == attempt.Open {
		return nil
	}
	if story.door == attempt.Closed {
		g.clock = opened.Add(58 * time.Minute)
	}
	_, err = g.app.MoveDoor(ctx, teacher, s.ID, story.door)
	return err
}

// ability of a student: schools differ a little, students a lot.
func (g *generator) ability(s store.Sitting, student int64) float64 {
	if a, ok := g.abilities[student]; ok {
		return a
	}
	h := fnv.New32a()
	fmt.Fprint(h, s.School)
	school := (float64(h.Sum32()%1000)/1000 - .5) * .8
	g.abilities[student] = school + g.r.NormFloat64()
	return g.abilities[student]
}

// work plays one student's attempt.
func (g *generator) work(ctx context.Context, s store.Sitting, student int64, handsIn bool) error {
	v := roster.Viewer{PersonID: student, Name: "", Posts: []roster.Post{{Role: roster.Student, SchoolID: s.SchoolID}}}
	named, err := g.app.Viewer(ctx, student)
	if err != nil {
		return err
	}
	v.Name = named.Name
	view, err := g.app.Begin(ctx, v, s.ID)
	if err != nil {
		return err
	}
	theta := g.ability(s, student)
	reached := len(view.Lines)
	if !handsIn {
		reached = between(g.r, 1, len(view.Lines)-1)
	} else if g.r.Float64() < .05 {
		reached -= between(g.r, 1, 4) // ran out of time
	}
	lines, err := g.store.Lines(ctx, s.AssessmentID)
	if err != nil {
		return err
	}
	var answers []app.Answered
	for i, l := range view.Lines[:reached] {
		if g.r.Float64() < .025 {
			continue // omitted
		}
		response := g.respond(lines[i].Identifier, l.Item, theta)
		answers = append(answers, app.Answered{Line: i + 1, Number: int64(i + 1), Response: response, Marked: g.r.Float64() < .04})
	}
	if len(answers) > 0 {
		if _, err := g.app.SaveAnswers(ctx, v, view.Attempt.ID, answers); err != nil {
			return err
		}
	}
	if !handsIn {
		return nil
	}
	g.clock = g.clock.Add(time.Duration(between(g.r, 22, 50)) * time.Minute)
	_, err = g.app.HandIn(ctx, v, view.Attempt.ID)
	g.clock = g.clock.Add(-50 * time.Minute)
	return err
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
