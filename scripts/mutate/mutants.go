package main

import (
	"go/ast"
	"go/parser"
	"go/token"
	"strconv"
)

// A mutant is one small change of a source file that its tests ought to notice.
type mutant struct {
	file     string
	line     int
	from, to int    // bytes of the file that it replaces
	was, is  string // what stands there, and what the mutant puts there
}

// swaps are the operators that stand for each other, by what is looked for: boundaries, comparisons, arithmetic, logic.
var swaps = map[token.Token][]token.Token{
	token.LSS: {token.LEQ, token.GEQ}, token.LEQ: {token.LSS, token.GTR},
	token.GTR: {token.GEQ, token.LEQ}, token.GEQ: {token.GTR, token.LSS},
	token.EQL: {token.NEQ}, token.NEQ: {token.EQL},
	token.ADD: {token.SUB}, token.SUB: {token.ADD}, token.MUL: {token.QUO}, token.QUO: {token.MUL}, token.REM: {token.MUL},
	token.LAND: {token.LOR}, token.LOR: {token.LAND},
	token.INC: {token.DEC}, token.DEC: {token.INC},
	token.ADD_ASSIGN: {token.SUB_ASSIGN}, token.SUB_ASSIGN: {token.ADD_ASSIGN}, token.MUL_ASSIGN: {token.QUO_ASSIGN}, token.QUO_ASSIGN: {token.MUL_ASSIGN},
}

var compares = map[token.Token]bool{token.LSS: true, token.LEQ: true, token.GTR: true, token.GEQ: true, token.EQL: true, token.NEQ: true}

var opposites = map[string]string{"true": "false", "false": "true"}

// mutants gives all of a file, in the order of its text. Some do not compile, as a minus between texts; who runs them finds out.
func mutants(name string, source []byte) ([]mutant, error) {
	files := token.NewFileSet()
	tree, err := parser.ParseFile(files, name, source, parser.SkipObjectResolution)
	if err != nil {
		return nil, err
	}
	var all []mutant
	at := func(pos token.Pos) int { return files.Position(pos).Offset }
	add := func(pos token.Pos, length int, is string) {
		from := at(pos)
		all = append(all, mutant{name, files.Position(pos).Line, from, from + length, string(source[from : from+length]), is})
	}
	operator := func(pos token.Pos, op token.Token) {
		for _, other := range swaps[op] {
			add(pos, len(op.String()), other.String())
		}
	}
	ast.Inspect(tree, func(n ast.Node) bool {
		switch n := n.(type) {
		case *ast.BinaryExpr:
			operator(n.OpPos, n.Op)
			if number, is := n.Y.(*ast.BasicLit); is && compares[n.Op] {
				if whole, err := strconv.ParseInt(number.Value, 10, 64); err == nil {
					add(number.ValuePos, len(number.Value), strconv.FormatInt(whole+1, 10))
				}
			}
		case *ast.IncDecStmt:
			operator(n.TokPos, n.Tok)
		case *ast.AssignStmt:
			operator(n.TokPos, n.Tok)
		case *ast.IfStmt:
			// A condition that no operator makes is turned around; a guard that only leaves is passed by.
			if _, made := n.Cond.(*ast.BinaryExpr); !made {
				add(n.Cond.Pos(), at(n.Cond.End())-at(n.Cond.Pos()), "!("+string(source[at(n.Cond.Pos()):at(n.Cond.End())])+")")
			}
			if leaves(n.Body) && n.Else == nil {
				add(n.Cond.Pos(), at(n.Cond.End())-at(n.Cond.Pos()), "false && ("+string(source[at(n.Cond.Pos()):at(n.Cond.End())])+")")
			}
		case *ast.ReturnStmt:
			for _, result := range n.Results {
				if name, is := result.(*ast.Ident); is && opposites[name.Name] != "" {
					add(name.Pos(), len(name.Name), opposites[name.Name])
				}
			}
		}
		return true
	})
	return all, nil
}

// leaves says whether a block ends by going somewhere else.
func leaves(b *ast.BlockStmt) bool {
	if len(b.List) == 0 {
		return false
	}
	switch b.List[len(b.List)-1].(type) {
	case *ast.ReturnStmt, *ast.BranchStmt:
		return true
	}
	return false
}

// in gives the source with the mutant in it.
func (m mutant) in(source []byte) []byte {
	changed := append([]byte{}, source[:m.from]...)
	return append(append(changed, m.is...), source[m.to:]...)
}
