package panel

import (
	"slices"

	"pineledger/core/points"
	"pineledger/core/predict"
)

// Method is how judges say where a cut lies.
type Method string

const (
	// ByRatings is the modified Angoff method: judges rate each line.
	ByRatings Method = "angoff"
	// ByMarks is that of ordered items: judges mark a place in a booklet.
	ByMarks Method = "orderedItems"
)

// None is a rating or a mark that is not given yet.
const None = -1

// Task is what the judges of a panel are asked.
type Task struct {
	Method      Method
	Form        Form
	Cuts        int            // how many
	Lines       []predict.Line // of ByMarks: the form's lines, one for one, on the scale
	Probability float64        // of ByMarks: that with which a student reaches an entry of the booklet
	booklet     []Entry
}

// Booklet is that of ByMarks, made once; nil for ByRatings.
func (t *Task) Booklet() []Entry {
	if t.booklet == nil && t.Method == ByMarks {
		t.booklet = Booklet(t.Lines, t.Probability)
	}
	return t.booklet
}

// Work is what one judge gave in a round, by the method: ratings or marks. None stands where nothing is given.
type Work struct {
	Ratings Ratings
	Marks   []int
	Done    bool // the judge said so
}

// counts tells whether the work is a judgment: what stands from the round before is none until its judge is done with it.
func (w Work) counts() bool {
	given, of := w.Given()
	return w.Done && given == of
}

// Empty is the work of a judge who has not begun.
func (t *Task) Empty() Work {
	var w Work
	for range t.Cuts {
		if t.Method == ByMarks {
			w.Marks = append(w.Marks, None)
			continue
		}
		w.Ratings = append(w.Ratings, slices.Repeat([]int{None}, len(t.Form.Lines)))
	}
	return w
}

// Given counts what a judge gave of all that is asked.
func (w Work) Given() (given, of int) {
	for _, part := range append(slices.Clone(w.Ratings), w.Marks) {
		of += len(part)
		for _, v := range part {
			if v != None {
				given++
			}
		}
	}
	return given, of
}

// Fits tells whether a rating can be given of a cut and a line, or with ByMarks a mark of a cut; all count from 0.
func (t *Task) Fits(cut, line, value int) bool {
	if cut < 0 || cut >= t.Cuts {
		return false
	}
	if t.Method == ByMarks {
		return value == None || value >= 1 && value <= len(t.Booklet())
	}
	return line >= 0 && line < len(t.Form.Lines) && (value == None || value >= 0 && value <= 100)
}

// Round is what the judges of a round made of the cuts.
type Round struct {
	Counted   []int      // places of the judges whose work counts: those who are done with all that was asked
	Cuts      []Cut      // nil where nobody's counts; values follow Counted
	Lines     []Rated    // of ByRatings
	Disorders []Disorder // Judge is a place among all
}

// Round adds up the work of all judges. Who is not done counts in nothing, and can be told from Counted.
func (t *Task) Round(works []Work) Round {
	var out Round
	var ratings []Ratings
	var marks [][]int
	for i, w := range works {
		if w.counts() {
			out.Counted = append(out.Counted, i)
			ratings = append(ratings, w.Ratings)
			marks = append(marks, w.Marks)
		}
	}
	if len(out.Counted) == 0 {
		return out
	}
	if t.Method == ByMarks {
		out.Cuts, out.Disorders = OrderedItems(t.Form, t.Lines, t.Booklet(), marks)
	} else {
		out.Cuts, out.Lines, out.Disorders = Angoff(t.Form, ratings)
	}
	for i, d := range out.Disorders {
		out.Disorders[i].Judge = out.Counted[d.Judge]
	}
	return out
}

// middle is the raw score that the median of exact values becomes by the rule, all in integers.
func (f Form) middle(values []int64) points.Points {
	sorted := slices.Sorted(slices.Values(values))
	n := len(sorted)
	return f.fromExact([]int64{sorted[(n-1)/2], sorted[n/2]})
}
