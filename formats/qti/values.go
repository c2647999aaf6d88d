package qti

import (
	"regexp"
	"strconv"
	"strings"

	"pineledger/core/item"
)

func bounds(m node) *item.Mapping {
	return &item.Mapping{Default: plain(m.attr["defaultValue"]), Lower: plain(m.attr["lowerBound"]), Upper: plain(m.attr["upperBound"])}
}

// plain writes a number without exponent and without idle noughts; what is no
// number stays, to be refused where it is checked.
func plain(s string) string {
	s = strings.TrimSpace(s)
	if s == "" || len(s) > 40 {
		return s
	}
	v, err := strconv.ParseFloat(s, 64)
	if err != nil {
		return s
	}
	if strings.ContainsAny(s, "eE") {
		return strconv.FormatFloat(v, 'f', -1, 64)
	}
	if strings.Contains(s, ".") {
		s = strings.TrimRight(strings.TrimRight(s, "0"), ".")
	}
	if s == "" || s == "-" || s == "-0" {
		return "0"
	}
	return s
}

func decimal(base, s string) string {
	if base == "float" || base == "integer" {
		return plain(s)
	}
	return s
}

func whole(s string) (int, bool) {
	n, err := strconv.Atoi(s)
	return n, err == nil
}

// area reads shape and coords, whose numbers may have decimals that are all noughts.
func (r *itemReader) area(n node) (item.Area, *Refusal) {
	a := item.Area{Shape: n.attr["shape"]}
	if a.Shape == "rect" {
		a.Shape = item.Rectangle
	}
	if a.Shape == "poly" {
		a.Shape = item.Polygon
	}
	for _, c := range strings.FieldsFunc(n.attr["coords"], func(r rune) bool { return r == ',' || r == ' ' }) {
		v, err := strconv.ParseFloat(c, 64)
		if err != nil || v != float64(int(v)) {
			return a, r.refuse(n, "has coordinates %q, which are not whole numbers", n.attr["coords"])
		}
		a.At = append(a.At, int(v))
	}
	if a.Shape == "default" {
		return item.Area{Shape: item.Rectangle, At: []int{0, 0, 10_000, 10_000}}, nil // the whole picture
	}
	if a.Shape != item.Circle && a.Shape != item.Rectangle && a.Shape != item.Polygon {
		return a, r.refuse(n, "has the shape %q; circle, rect and poly are read", n.attr["shape"])
	}
	return a, nil
}

var token = regexp.MustCompile(`^[^\s]{1,200}$`)
