// Package compute is the JSON form of the core's computations: what
// `pineledger compute` reads and writes. It runs the very code that the
// application runs. Unknown keys are refused; errors name the place.
package compute

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"math/big"
	"slices"
	"strings"
)

// A PlaceError tells which part of the input is refused and why.
type PlaceError struct{ Place, Reason string }

func (e *PlaceError) Error() string {
	if e.Place == "" {
		return "input: " + e.Reason
	}
	return e.Place + ": " + e.Reason
}

// reading keeps the first thing found wrong; after it, reads give zero values.
type reading struct{ err error }

func (r *reading) refuse(place, format string, args ...any) {
	if r.err == nil {
		r.err = &PlaceError{place, fmt.Sprintf(format, args...)}
	}
}

// node is a value at its place in the input.
type node struct {
	place string
	value any // as encoding/json gives it, numbers as json.Number
	given bool
}

func parse(input io.Reader) (node, error) {
	data, err := io.ReadAll(input)
	if err != nil {
		return node{}, err
	}
	d := json.NewDecoder(bytes.NewReader(data))
	d.UseNumber()
	var v any
	if err := d.Decode(&v); err != nil {
		return node{}, &PlaceError{"", "is not JSON: " + err.Error()}
	}
	if _, err := d.Token(); !errors.Is(err, io.EOF) {
		return node{}, &PlaceError{"", "something follows the JSON value"}
	}
	return node{"", v, true}, nil
}

// absent is a key that was left out or is null.
func (n node) absent() bool { return !n.given || n.value == nil }

// object gives the members; keys beyond those known are refused.
func (n node) object(r *reading, known ...string) map[string]node {
	m, ok := n.value.(map[string]any)
	if !ok {
		r.refuse(n.place, "is not an object")
		return map[string]node{}
	}
	out := map[string]node{}
	for _, key := range known {
		v, given := m[key]
		out[key] = node{strings.TrimPrefix(n.place+"."+key, "."), v, given}
	}
	for _, key := range sortedKeys(m) {
		if !slices.Contains(known, key) {
			r.refuse(strings.TrimPrefix(n.place+"."+key, "."), "is not a known key")
		}
	}
	return out
}

func sortedKeys(m map[string]any) []string {
	var keys []string
	for k := range m {
		keys = append(keys, k)
	}
	slices.Sort(keys)
	return keys
}

// list gives the elements of a list that must be there.
func (n node) list(r *reading) []node {
	l, ok := n.value.([]any)
	if !ok {
		r.refuse(n.place, "is not a list")
		return nil
	}
	out := make([]node, len(l))
	for i, v := range l {
		out[i] = node{fmt.Sprintf("%s[%d]", n.place, i), v, true}
	}
	return out
}

func (n node) text(r *reading) string {
	s, ok := n.value.(string)
	if !ok {
		r.refuse(n.place, "is not a text")
	}
	return s
}

// texts gives a list of texts, nil where it is left out.
func (n node) texts(r *reading) []string {
	if n.absent() {
		return nil
	}
	out := []string{}
	for _, e := range n.list(r) {
		out = append(out, e.text(r))
	}
	return out
}

func (n node) boolean(r *reading) bool {
	if n.absent() {
		return false
	}
	b, ok := n.value.(bool)
	if !ok {
		r.refuse(n.place, "is not true or false")
	}
	return b
}

// decimal gives a number exactly, times 10 to the number of places.
func (n node) decimal(r *reading, places int) int64 {
	number, ok := n.value.(json.Number)
	if !ok {
		r.refuse(n.place, "is not a number")
		return 0
	}
	if at := strings.IndexAny(number.String(), "eE"); len(number) > 40 || at >= 0 && len(number)-at > 4 {
		r.refuse(n.place, "is out of range")
		return 0
	}
	v, ok := new(big.Rat).SetString(number.String())
	if !ok {
		r.refuse(n.place, "is not a number")
		return 0
	}
	scale := new(big.Int).Exp(big.NewInt(10), big.NewInt(int64(places)), nil)
	v.Mul(v, new(big.Rat).SetInt(scale))
	switch {
	case !v.IsInt():
		r.refuse(n.place, "%s has more than %d decimal places", number, places)
		return 0
	case !v.Num().IsInt64() || v.Num().Int64() > 1e11 || v.Num().Int64() < -1e11:
		r.refuse(n.place, "%s is out of range", number)
		return 0
	}
	return v.Num().Int64()
}

func (n node) integer(r *reading) int { return int(n.decimal(r, 0)) }

// thousandth is written as a decimal with three places.
type thousandth int

// MarshalJSON writes three places, as in 0.601.
func (t thousandth) MarshalJSON() ([]byte, error) {
	return fmt.Appendf(nil, "%d.%03d", int(t)/1000, int(t)%1000), nil
}

// float gives a number between two bounds.
func (n node) float(r *reading, low, high float64) float64 {
	number, ok := n.value.(json.Number)
	if !ok {
		r.refuse(n.place, "is not a number")
		return 0
	}
	v, err := number.Float64()
	if err != nil || v < low || v > high {
		r.refuse(n.place, "%s is not from %v to %v", number, low, high)
		return 0
	}
	return v
}

// whole gives a whole number between two bounds.
func (n node) whole(r *reading, low, high int) int {
	v := n.integer(r)
	if v < low || v > high {
		r.refuse(n.place, "%d is not from %d to %d", v, low, high)
	}
	return v
}

// sized gives the elements of a list that has as many as another.
func (n node) sized(r *reading, count int, of string) []node {
	list := n.list(r)
	if len(list) != count {
		r.refuse(n.place, "has %d, and there are %d %s", len(list), count, of)
		return nil
	}
	return list
}
