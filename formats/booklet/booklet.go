// Package booklet sets an assessment as a booklet for students, or as its key, on
// pages for the print shop.
package booklet

import (
	"context"
	"errors"
	"fmt"
	"html"
	"io"
	"slices"
	"strings"

	"pineledger/core/form"
	"pineledger/core/points"
	"pineledger/formats/paper"
)

// Book is what is printed.
type Book struct {
	Title        string
	Instructions string // HTML
	Document     string // name of the document that holds the questions, "" without one
	Edition      int
	State        string
	Lines        []Line
	Passages     []form.Passage
	Layout       form.Layout
	Drawn        bool // the lines are what one attempt draws from the pools
	Total        points.Points
}

// Line is one line; where Refuse says why it may not be printed, nothing of it is.
type Line struct {
	form.Line
	Key    string
	Refuse string
}

// Group is lines that stand under one head: a part or a pool begins, or a passage.
type Group struct {
	Part    int           // which part begins here, counted from 1; 0 for none
	Pool    int           // which pool
	Of      int           // lines of the pool
	Passage *form.Passage // stands before these lines
	Again   bool          // the passage was printed before: only its title stands here
	Lines   []int         // counted from 0
}

// Groups puts lines under their heads: a passage stands before the first of its lines, and where
// others came between only its title stands again. Where one attempt's draw is printed, pools have no head.
func (b Book) Groups() []Group {
	var out []Group
	before, printed := Line{}, map[string]bool{}
	for i, l := range b.Lines {
		g := Group{Lines: []int{i}}
		if l.Part != before.Part {
			g.Part = l.Part
		}
		if !b.Drawn && l.Pool > 0 && l.Pool != before.Pool {
			g.Pool, g.Of = l.Pool, b.inPool(l.Pool)
		}
		if l.Passage != "" && (l.Passage != before.Passage || g.Part > 0) {
			if at := slices.IndexFunc(b.Passages, func(p form.Passage) bool { return p.Identifier == l.Passage }); at >= 0 {
				g.Passage, g.Again = &b.Passages[at], printed[l.Passage]
				printed[l.Passage] = true
			}
		}
		samePool := b.Drawn || l.Pool == before.Pool
		if i > 0 && l.Passage == before.Passage && g.Part == 0 && g.Pool == 0 && samePool {
			last := &out[len(out)-1]
			last.Lines = append(last.Lines, i)
		} else {
			out = append(out, g)
		}
		before = l
	}
	return out
}

func (b Book) inPool(pool int) int {
	n := 0
	for _, l := range b.Lines {
		if l.Pool == pool {
			n++
		}
	}
	return n
}

// WriteBooklet writes the booklet as PDF. A drawing that cannot be set is an error that names its line or passage.
// It leaves off between two parts of the book when the context ends.
func (b Book) WriteBooklet(ctx context.Context, w io.Writer, o paper.Options) error {
	o.Title, o.Foot = b.Title, b.Title
	s := setting{Paper: paper.New(o), book: b, size: o.Size}
	s.width = s.Paper.Width()
	s.head()
	for _, g := range b.Groups() {
		if err := ctx.Err(); err != nil {
			return err
		}
		s.group(g)
	}
	if s.err != nil {
		return s.err
	}
	return s.Write(w, s.slabs)
}

// setting is a book while it is set.
type setting struct {
	*paper.Paper
	book  Book
	size  float64
	width float64
	slabs []paper.Slab
	err   error
}

func (s *setting) put(slabs ...paper.Slab) { s.slabs = append(s.slabs, slabs...) }

// gap is room of so many sizes of the text.
func (s *setting) gap(sizes float64) { s.put(paper.Gap(sizes * s.size)) }

// check notes what went wrong in the part that was just set.
func (s *setting) check(where string) {
	if err := s.Err(); err != nil && s.err == nil {
		s.err = fmt.Errorf("%s: %w", where, err)
	}
}

func (s *setting) head() {
	b := s.book
	s.put(paper.Kept(s.Plain(b.Title, s.width, paper.Look{Bold: true, Scale: 1.4}))...)
	s.gap(0.5)
	s.who()
	s.gap(0.8)
	if b.Instructions != "" {
		s.put(s.HTML(b.Instructions, s.width, paper.Look{})...)
		s.gap(0.8)
	}
	if b.Document != "" {
		s.put(s.Plain("The questions are in "+b.Document+".", s.width, paper.Look{})...)
		s.gap(0.8)
	}
	s.check("the instructions")
}

// who sets lines for the student's name, class and date: on one line, or on two where letters are large.
func (s *setting) who() {
	const words, room = 18, 44 // the words between the lines, and what lines of a useful length need, in letters
	letters := 2 * s.width / s.size
	if rest := letters - words; rest >= room {
		s.put(s.Inline(s.width, paper.Look{}).HTML("Name ").Line(rest / 2).HTML(" Class ").Line(rest / 4).HTML(" Date ").Line(rest / 4).Slabs()...)
		return
	}
	s.put(s.Inline(s.width, paper.Look{}).HTML("Name ").Line(letters - 7).Slabs()...)
	s.gap(0.4)
	rest := letters - 14
	s.put(s.Inline(s.width, paper.Look{}).HTML("Class ").Line(rest * 0.55).HTML(" Date ").Line(rest * 0.45).Slabs()...)
}

func (s *setting) group(g Group) {
	b := s.book
	if g.Part > 0 {
		part := b.Layout.Parts[g.Part-1]
		tool := "Do not use a calculator."
		if part.Calculator {
			tool = "You may use a calculator."
		}
		s.gap(0.6)
		head := append([]paper.Slab{s.Ruled(s.width, 1.2)}, s.Plain(fmt.Sprintf("Part %d: %s", g.Part, part.Title), s.width, paper.Look{Bold: true, Scale: 1.15})...)
		head = append(append(head, s.Plain(tool, s.width, paper.Look{})...), s.HTML(part.Directions, s.width, paper.Look{})...)
		s.put(withNext(append(head, paper.Gap(0.6*s.size)))...)
		s.check(fmt.Sprintf("the directions of part %d", g.Part))
	}
	if g.Pool > 0 {
		s.put(withNext(append(s.Plain(fmt.Sprintf("Each student gets %d of these %d items.", b.Layout.Pools[g.Pool-1].Choose, g.Of), s.width, paper.Look{Italic: true}), paper.Gap(0.6*s.size)))...)
	}
	if p := g.Passage; p != nil && g.Again {
		s.put(withNext(append(s.Plain("These questions are about the passage “"+p.Title+"” above.", s.width, paper.Look{Italic: true}), paper.Gap(0.6*s.size)))...)
	} else if p != nil {
		s.put(withNext(append([]paper.Slab{s.Ruled(s.width, 0.7)}, s.Plain(p.Title, s.width, paper.Look{Bold: true, Scale: 1.15})...))...)
		s.put(s.HTML(p.Body, s.width, paper.Look{})...)
		s.gap(0.8)
		s.check("the passage " + p.Title)
	}
	for _, i := range g.Lines {
		s.line(i)
	}
}

// withNext keeps slabs together with what follows them.
func withNext(slabs []paper.Slab) []paper.Slab {
	for i := range slabs {
		slabs[i].Keep = true
	}
	return slabs
}

func (s *setting) line(i int) {
	numbers, worths := 2.0, 4.2 // room for the number and the points, in sizes of the text
	l := s.book.Lines[i]
	worth := pluralPoints(l.Points)
	if s.Columns == 2 {
		worth, worths = l.Points.String()+" pt", 2.6
	}
	var slabs []paper.Slab
	if l.Refuse != "" {
		slabs, worth = s.Plain("This item is not printed.", s.width-numbers*s.size, paper.Look{}), ""
	} else {
		slabs = s.item(l.Item.Shown(""), s.width-(numbers+worths)*s.size)
	}
	slabs = s.Marked(slabs, fmt.Sprint(i+1), paper.Look{Bold: true}, numbers)
	s.put(paper.Kept(s.AtRight(slabs, worth, s.width))...)
	s.gap(1.2)
	s.check(fmt.Sprintf("line %d, %s", i+1, l.Identifier))
}

func pluralPoints(p points.Points) string {
	if p == points.One {
		return "1 point"
	}
	return p.String() + " points"
}

// WriteKey writes the key as PDF: for each line its key, points, credit, standards and item.
func (b Book) WriteKey(ctx context.Context, w io.Writer, o paper.Options) error {
	o.Title, o.Foot, o.Columns = b.Title+": key", b.Title+": key. Not for students.", 1
	p := paper.New(o)
	width := p.Width()
	slabs := p.Plain(o.Title, width, paper.Look{Bold: true, Scale: 1.4})
	lines := fmt.Sprintf("%d lines", len(b.Lines))
	if len(b.Lines) == 1 {
		lines = "1 line"
	}
	slabs = append(slabs, p.Plain(fmt.Sprintf("Edition %d, %s · %s, %s. Not for students.", b.Edition, b.State, lines, pluralPoints(b.Total)), width, paper.Look{})...)
	slabs = append(slabs, paper.Gap(0.8*o.Size))
	rows := [][]paper.Cell{{}}
	for _, head := range []string{"No.", "Key", "Points", "Credit", "Standards", "Item"} {
		rows[0] = append(rows[0], paper.Cell{HTML: head, Look: paper.Look{Bold: true}})
	}
	for i, l := range b.Lines {
		key, credit := l.Key, strings.ReplaceAll(string(l.Item.Credit), "-", " ")
		if l.Refuse != "" {
			key, credit = "not printed", ""
		}
		row := make([]paper.Cell, 0, 6)
		for _, text := range []string{fmt.Sprint(i + 1), key, l.Points.String(), credit, strings.Join(l.Standards, ", "), l.Identifier} {
			row = append(row, paper.Cell{HTML: html.EscapeString(text)})
		}
		rows = append(rows, row)
	}
	if err := ctx.Err(); err != nil {
		return err
	}
	return p.Write(w, append(slabs, p.Table(rows, width, paper.Look{})...))
}

// Refusal is what a book that cannot be set says: where, and why.
func Refusal(err error) (string, bool) {
	var drawing *paper.DrawingError
	if errors.As(err, &drawing) {
		return fmt.Sprintf("A drawing cannot be set as PDF (%v). Print it from the browser, or put a simpler drawing in its place.", err), true
	}
	return "", false
}
