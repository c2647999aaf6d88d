package stats

import (
	"slices"

	"pineledger/core/results"
)

// Answers gathers what calibration needs of students' marks, so that they need not be held all at once: it grows with the forms
// that were taken and with the square of the lines, not with the students.
type Answers struct {
	students     int
	right, wrong []int    // by line
	beats        [][]bool // somebody got the first line right and the second wrong
	forms        map[string]*taken
	order        []*taken // as they were first taken
}

// NewAnswers is for so many lines.
func NewAnswers(lines int) *Answers {
	a := &Answers{right: make([]int, lines), wrong: make([]int, lines), beats: make([][]bool, lines), forms: map[string]*taken{}}
	for i := range a.beats {
		a.beats[i] = make([]bool, lines)
	}
	return a
}

// Add counts one student's marks, one for each line.
func (a *Answers) Add(marks []Mark) {
	a.students++
	key := make([]byte, len(marks))
	var lines, right, wrong []int
	for l, m := range marks {
		if m == NotTaken {
			continue
		}
		key[l] = 1
		lines = append(lines, l)
		if m == Right {
			right = append(right, l)
			a.right[l]++
		} else {
			wrong = append(wrong, l)
			a.wrong[l]++
		}
	}
	for _, i := range right {
		for _, j := range wrong {
			a.beats[i][j] = true
		}
	}
	f := a.forms[string(key)]
	if f == nil {
		f = newTaken(lines)
		a.forms[string(key)] = f
		a.order = append(a.order, f)
	}
	f.n[len(right)]++
	for i, l := range lines {
		if marks[l] == Right {
			f.right[i][len(right)]++
		}
	}
}

// Calibrate estimates difficulties as the function of that name does.
func (a *Answers) Calibrate() (scale []*RaschLine, because string) {
	if a.students < results.Fewest {
		return nil, tooFew(a.students)
	}
	kept := a.varying()
	if len(kept) < 2 {
		return nil, "it needs two lines that some get right and some do not"
	}
	if len(a.Linked()) < len(kept) {
		return nil, "the answers do not link all lines: nobody got one of some lines right and one of the others wrong"
	}
	c := calibration{lines: len(kept)}
	for _, f := range a.order {
		c.forms = append(c.forms, f.only(kept, a.wrong))
	}
	return c.scale(len(a.right), kept)
}

// varying are the lines that some of those who took them got right, and some not.
func (a *Answers) varying() (kept []int) {
	for l := range a.right {
		if a.right[l] > 0 && a.wrong[l] > 0 {
			kept = append(kept, l)
		}
	}
	return kept
}

// Linked gives the most lines that have a scale in common, rising; of equally many those with the first line. Difficulties exist just
// where lines cannot be parted into two sets so that nobody got a line of the one right and a line of the other wrong (Fischer 1981).
func (a *Answers) Linked() (most []int) {
	kept := a.varying()
	done := map[int]bool{}
	for _, first := range kept {
		if done[first] {
			continue
		}
		from := a.reached(kept, first, func(i, j int) bool { return a.beats[i][j] })
		to := a.reached(kept, first, func(i, j int) bool { return a.beats[j][i] })
		var part []int
		for _, l := range kept {
			if from[l] && to[l] {
				part = append(part, l)
				done[l] = true
			}
		}
		if len(part) > len(most) {
			most = part
		}
	}
	return most
}

// reached are the lines that edges lead to from a first one.
func (a *Answers) reached(kept []int, first int, edge func(i, j int) bool) map[int]bool {
	seen, next := map[int]bool{first: true}, []int{first}
	for len(next) > 0 {
		i := next[len(next)-1]
		next = next[:len(next)-1]
		for _, j := range kept {
			if !seen[j] && edge(i, j) {
				seen[j] = true
				next = append(next, j)
			}
		}
	}
	return seen
}

// taken are the students who took the same lines: of each raw score how many, and how many of them had each line right.
type taken struct {
	lines []int   // rising
	n     []int   // by raw score
	right [][]int // by place in lines, then by raw score
}

func newTaken(lines []int) *taken {
	f := &taken{lines: lines, n: make([]int, len(lines)+1), right: make([][]int, len(lines))}
	for i := range f.right {
		f.right[i] = make([]int, len(lines)+1)
	}
	return f
}

// only leaves the lines that vary, named by their places among those, and the students whose score on them says which line is harder: none
// and all right do not. wrong counts, of each line, who had it wrong: what nobody had wrong adds 1 to every score.
func (f *taken) only(kept, wrong []int) *taken {
	sure := 0
	var lines, from []int
	for i, l := range f.lines {
		if place, ok := slices.BinarySearch(kept, l); ok {
			lines, from = append(lines, place), append(from, i)
		} else if wrong[l] == 0 {
			sure++
		}
	}
	out := newTaken(lines)
	for r := 1; r < len(lines); r++ {
		out.n[r] = f.n[r+sure]
		for i, was := range from {
			out.right[i][r] = f.right[was][r+sure]
		}
	}
	return out
}
