package demo

import (
	"fmt"
	"html"
	"math/big"
	"math/rand/v2"
	"regexp"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// A solver answers a question from its words alone, as a careful student would:
// it knows nothing of the template that made it.
type solver struct {
	stem  *regexp.Regexp
	solve func(n []*big.Rat) *big.Rat
}

func rat(a, b int64) *big.Rat    { return big.NewRat(a, b) }
func add(a, b *big.Rat) *big.Rat { return new(big.Rat).Add(a, b) }
func sub(a, b *big.Rat) *big.Rat { return new(big.Rat).Sub(a, b) }
func mul(a, b *big.Rat) *big.Rat { return new(big.Rat).Mul(a, b) }
func quo(a, b *big.Rat) *big.Rat { return new(big.Rat).Quo(a, b) }
func half(a *big.Rat) *big.Rat   { return quo(a, rat(2, 1)) }
func whole(a *big.Rat) int64     { return new(big.Int).Quo(a.Num(), a.Denom()).Int64() }
func rounded(a, to int64) int64  { return (a + to/2) / to * to }
func sorted(n []*big.Rat) []*big.Rat {
	return slices.SortedFunc(slices.Values(n), func(a, b *big.Rat) int { return a.Cmp(b) })
}

var solvers = []solver{
	{regexp.MustCompile(`^There are (\d+) rows of crab pots.* has (\d+) pots`), func(n []*big.Rat) *big.Rat { return mul(n[0], n[1]) }},
	{regexp.MustCompile(`^(\d+) oars are shared equally among (\d+) boats`), func(n []*big.Rat) *big.Rat { return quo(n[0], n[1]) }},
	{regexp.MustCompile(`^A cook buys (\d+) boxes of (\d+) rolls. The crew eats (\d+)`), func(n []*big.Rat) *big.Rat { return sub(mul(n[0], n[1]), n[2]) }},
	{regexp.MustCompile(`folded into (\d+) equal parts. (\d+) of them`), func(n []*big.Rat) *big.Rat { return quo(n[1], n[0]) }},
	{regexp.MustCompile(`cut from equal ropes: (\S+), (\S+), (\S+) and (\S+) of a rope. Which is the longest`), func(n []*big.Rat) *big.Rat { return sorted(n)[3] }},
	{regexp.MustCompile(`leaves at (\d+):(\d+) and sails for (\d+) minutes`), func(n []*big.Rat) *big.Rat { return add(add(mul(n[0], rat(60, 1)), n[1]), n[2]) }},
	{regexp.MustCompile(`net is (\d+) meters long and (\d+) meters wide. What is its perimeter`), func(n []*big.Rat) *big.Rat { return mul(rat(2, 1), add(n[0], n[1])) }},
	{regexp.MustCompile(`had (\d+) visitors last year. What is that rounded to the nearest hundred`), func(n []*big.Rat) *big.Rat { return rat(rounded(whole(n[0]), 100), 1) }},
	{regexp.MustCompile(`^A ferry makes (\d+) crossings each week with room for (\d+) cars`), func(n []*big.Rat) *big.Rat { return mul(n[0], n[1]) }},
	{regexp.MustCompile(`^(\d+) students go out in skiffs that hold (\d+) each`), func(n []*big.Rat) *big.Rat { return rat((whole(n[0])+whole(n[1])-1)/whole(n[1]), 1) }},
	{regexp.MustCompile(`^Which fraction is equal to (\S+)\?`), func(n []*big.Rat) *big.Rat { return n[0] }},
	{regexp.MustCompile(`filled (\S+) of a rain barrel and a storm filled (\S+) more`), func(n []*big.Rat) *big.Rat { return add(n[0], n[1]) }},
	{regexp.MustCompile(`channel is (\d+) kilometers long. How many meters`), func(n []*big.Rat) *big.Rat { return mul(n[0], rat(1000, 1)) }},
	{regexp.MustCompile(`area of (\d+) square meters and is (\d+) meters wide`), func(n []*big.Rat) *big.Rat { return quo(n[0], n[1]) }},
	{regexp.MustCompile(`^What is (\S+) × 100\?`), func(n []*big.Rat) *big.Rat { return mul(n[0], rat(100, 1)) }},
	{regexp.MustCompile(`High water was at (\S+) meters and low water at (\S+) meters`), func(n []*big.Rat) *big.Rat { return sub(n[0], n[1]) }},
	{regexp.MustCompile(`used (\S+) of a can of varnish on the mast and (\S+) on the rail`), func(n []*big.Rat) *big.Rat { return add(n[0], n[1]) }},
	{regexp.MustCompile(`lantern needs (\S+) of a liter of oil. How many liters do (\d+) lanterns`), func(n []*big.Rat) *big.Rat { return mul(n[0], n[1]) }},
	{regexp.MustCompile(`fish box is (\d+) decimeters long, (\d+) wide and (\d+) high`), func(n []*big.Rat) *big.Rat { return mul(mul(n[0], n[1]), n[2]) }},
	{regexp.MustCompile(`March (\d+) April \d+ May (\d+) How many more herons were counted in May than in March`), func(n []*big.Rat) *big.Rat { return sub(n[1], n[0]) }},
	{regexp.MustCompile(`has (\d+) sailboats and (\d+) motorboats. What is the ratio of sailboats to motorboats`), func(n []*big.Rat) *big.Rat { return quo(n[0], n[1]) }},
	{regexp.MustCompile(`ratios are equal to (\d+) : (\d+)`), func(n []*big.Rat) *big.Rat { return quo(n[0], n[1]) }},
	{regexp.MustCompile(`sails (\d+) kilometers in (\d+) hours`), func(n []*big.Rat) *big.Rat { return quo(n[0], n[1]) }},
	{regexp.MustCompile(`Of (\d+) seats on a ferry, (\d+)% are taken`), func(n []*big.Rat) *big.Rat { return quo(mul(n[0], n[1]), rat(100, 1)) }},
	{regexp.MustCompile(`rope is (\S+) meters long. How many centimeters`), func(n []*big.Rat) *big.Rat { return mul(n[0], rat(100, 1)) }},
	{regexp.MustCompile(`^What is (\S+) ÷ (\S+)\?`), func(n []*big.Rat) *big.Rat { return quo(n[0], n[1]) }},
	{regexp.MustCompile(`readings of a tide gauge are (\S+), (\S+), (\S+) and (\S+) decimeters. Which is the lowest`), func(n []*big.Rat) *big.Rat { return sorted(n)[0] }},
	{regexp.MustCompile(`the pier read (\S+) °C, and at night (\S+) °C. By how many degrees did the temperature fall`), func(n []*big.Rat) *big.Rat { return sub(n[0], n[1]) }},
	{regexp.MustCompile(`flashes every (\d+) seconds and another every (\d+) seconds`), func(n []*big.Rat) *big.Rat {
		for t := int64(1); ; t++ {
			if t%whole(n[0]) == 0 && t%whole(n[1]) == 0 {
				return rat(t, 1)
			}
		}
	}},
	{regexp.MustCompile(`^What is (\d+) × \((\d+) \+ (\d+)\^2\)`), func(n []*big.Rat) *big.Rat { return mul(n[0], add(n[1], mul(n[2], n[2]))) }},
	{regexp.MustCompile(`^Solve x \+ (\d+) = (\d+)`), func(n []*big.Rat) *big.Rat { return sub(n[1], n[0]) }},
	{regexp.MustCompile(`triangular sail is (\d+) meters wide at its foot and (\d+) meters high`), func(n []*big.Rat) *big.Rat { return half(mul(n[0], n[1])) }},
	{regexp.MustCompile(`crate is (\d+) meters long, (\d+) meters wide and half a meter high`), func(n []*big.Rat) *big.Rat { return half(mul(n[0], n[1])) }},
	{regexp.MustCompile(`wind were (\d+), (\d+), (\d+) and (\d+) knots. What is their mean`), func(n []*big.Rat) *big.Rat { return quo(add(add(n[0], n[1]), add(n[2], n[3])), rat(4, 1)) }},
	{regexp.MustCompile(`five places: (\d+), (\d+), (\d+), (\d+) and (\d+). What is the median`), func(n []*big.Rat) *big.Rat { return sorted(n)[2] }},
	{regexp.MustCompile(`^(\d+) kilograms of clams cost \$(\d+). At the same price, how many dollars do (\d+)`), func(n []*big.Rat) *big.Rat { return mul(quo(n[1], n[0]), n[2]) }},
	{regexp.MustCompile(`had (\d+) visitors in May and (\d+)% more in June`), func(n []*big.Rat) *big.Rat { return add(n[0], quo(mul(n[0], n[1]), rat(100, 1))) }},
	{regexp.MustCompile(`^What is (\S+) − \((\S+)\)\?`), func(n []*big.Rat) *big.Rat { return sub(n[0], n[1]) }},
	{regexp.MustCompile(`^Solve (\d+)x \+ (\d+) = (\d+)\.$`), func(n []*big.Rat) *big.Rat { return quo(sub(n[2], n[1]), n[0]) }},
	{regexp.MustCompile(`radius of (\d+) meters. What is its area`), func(n []*big.Rat) *big.Rat { return mul(n[0], n[0]) }}, // in π
	{regexp.MustCompile(`holds (\d+) white floats and (\d+) blue ones`), func(n []*big.Rat) *big.Rat { return quo(n[0], add(n[0], n[1])) }},
	{regexp.MustCompile(`equal to (\d+)\^(\d+) × (\d+)\^(\d+)`), func(n []*big.Rat) *big.Rat {
		power := rat(1, 1)
		for range whole(n[1]) {
			power = mul(power, n[0])
		}
		for range whole(n[3]) {
			power = mul(power, n[2])
		}
		return power
	}},
	{regexp.MustCompile(`^Solve (\d+)x \+ (\d+) = (\d+)x \+ (\d+)\.$`), func(n []*big.Rat) *big.Rat { return quo(sub(n[3], n[1]), sub(n[0], n[2])) }},
	{regexp.MustCompile(`passes through \((\S+), (\S+)\) and \((\S+), (\S+)\). What is its slope`), func(n []*big.Rat) *big.Rat { return quo(sub(n[3], n[1]), sub(n[2], n[0])) }},
	{regexp.MustCompile(`holds (\d+) liters and loses (\d+) liters each hour. How many liters does it hold after (\d+)`), func(n []*big.Rat) *big.Rat { return sub(n[0], mul(n[1], n[2])) }},
	{regexp.MustCompile(`mast of (\d+) meters to a point on the deck (\d+) meters from its foot`), func(n []*big.Rat) *big.Rat {
		for c := int64(1); ; c++ {
			if mul(rat(c, 1), rat(c, 1)).Cmp(add(mul(n[0], n[0]), mul(n[1], n[1]))) >= 0 {
				return rat(c, 1)
			}
		}
	}},
	{regexp.MustCompile(`packed (\d+) cans in a week. What is that rounded to the nearest thousand`), func(n []*big.Rat) *big.Rat { return rat(rounded(whole(n[0]), 1000), 1) }},
	{regexp.MustCompile(`^Each of (\d+) shelves in the net loft holds (\d+) floats`), func(n []*big.Rat) *big.Rat { return mul(n[0], n[1]) }},
	{regexp.MustCompile(`runs (\d+) lines, and each fills (\d+) cans an hour`), func(n []*big.Rat) *big.Rat { return mul(n[0], n[1]) }},
	{regexp.MustCompile(`^(\d+) lanterns are packed into crates of (\d+)`), func(n []*big.Rat) *big.Rat { return rat(whole(n[0])%whole(n[1]), 1) }},
	{regexp.MustCompile(`rope of (\d+) meters is cut into pieces of (\d+) meters. How many whole`), func(n []*big.Rat) *big.Rat { return rat(whole(n[0])/whole(n[1]), 1) }},
	{regexp.MustCompile(`anchor weighs (\d+) kilograms. How many grams`), func(n []*big.Rat) *big.Rat { return mul(n[0], rat(1000, 1)) }},
	{regexp.MustCompile(`takes (\d+) hours and (\d+) minutes. How many minutes`), func(n []*big.Rat) *big.Rat { return add(mul(n[0], rat(60, 1)), n[1]) }},
	{regexp.MustCompile(`lighthouse is (\d+) meters long and (\d+) meters wide. What is its area`), func(n []*big.Rat) *big.Rat { return mul(n[0], n[1]) }},
	{regexp.MustCompile(`perimeter of (\d+) meters and is (\d+) meters wide`), func(n []*big.Rat) *big.Rat { return sub(half(n[0]), n[1]) }},
	{regexp.MustCompile(`empties (\d+) liters out of a hold in (\d+) minutes`), func(n []*big.Rat) *big.Rat { return quo(n[0], n[1]) }},
	{regexp.MustCompile(`^(\d+) of the (\d+) boats in a harbor are blue`), func(n []*big.Rat) *big.Rat { return mul(quo(n[0], n[1]), rat(100, 1)) }},
	{regexp.MustCompile(`Seven equal crates weigh (\d+) kilograms`), func(n []*big.Rat) *big.Rat { return quo(n[0], rat(7, 1)) }},
}

var tag = regexp.MustCompile(`<[^>]*>`)

// words is a stem without its markup; powers are written with ^.
func words(stem string) string {
	s := strings.ReplaceAll(stem, "<sup>", "^")
	for _, inline := range []string{"</sup>", "<em>", "</em>"} {
		s = strings.ReplaceAll(s, inline, "")
	}
	return strings.Join(strings.Fields(html.UnescapeString(tag.ReplaceAllString(s, " "))), " ")
}

var clock = regexp.MustCompile(`^(\d+):(\d\d)$`)

// value reads a choice or a number in a stem as an exact number.
func value(text string) (*big.Rat, bool) {
	s := strings.TrimSuffix(strings.ReplaceAll(words(text), "−", "-"), "π")
	if m := clock.FindStringSubmatch(s); m != nil {
		h, _ := new(big.Rat).SetString(m[1])
		minutes, _ := new(big.Rat).SetString(m[2])
		return add(mul(h, rat(60, 1)), minutes), true
	}
	if base, exponent, ok := strings.Cut(s, "^"); ok {
		b, okB := new(big.Int).SetString(base, 10)
		e, okE := new(big.Int).SetString(exponent, 10)
		if !okB || !okE {
			return nil, false
		}
		return new(big.Rat).SetInt(new(big.Int).Exp(b, e, nil)), true
	}
	return new(big.Rat).SetString(strings.ReplaceAll(s, " : ", "/"))
}

// Every item of the mathematics bank is solved from its words, and its key is the
// only right answer among its choices.
func TestEveryKeyIsRight(t *testing.T) {
	for seed := range uint64(20) {
		items := mathItems(rand.New(rand.NewPCG(seed, 1)))
		require.Greater(t, len(items), 250)
		bySolver := map[int]int{}
		for _, it := range items {
			stem := words(it.stem)
			which := slices.IndexFunc(solvers, func(s solver) bool { return s.stem.MatchString(stem) })
			if which < 0 {
				continue
			}
			bySolver[which]++
			var n []*big.Rat
			for _, text := range solvers[which].stem.FindStringSubmatch(stem)[1:] {
				v, ok := value(text)
				require.True(t, ok, "%q in %q", text, stem)
				n = append(n, v)
			}
			want := solvers[which].solve(n)
			for _, right := range it.right {
				got, ok := value(right)
				require.True(t, ok, "the key %q of %q is no number", right, stem)
				assert.Zero(t, want.Cmp(got), "%s: the key is %s and should be %s", stem, right, want.RatString())
			}
			for _, wrong := range it.wrong {
				if got, ok := value(wrong); assert.True(t, ok, "%q of %q is no number", wrong, stem) {
					assert.NotZero(t, want.Cmp(got), "%s: %s is right too", stem, wrong)
				}
			}
		}
		assert.Len(t, bySolver, len(solvers), "every solver has met its items")
	}
}

// The few that are not a number: points on a chart and expressions.
func TestKeysThatAreNoNumbers(t *testing.T) {
	chart := regexp.MustCompile(`buoy lies at \((\d+), (\d+)\). A boat is (\d+) squares to the right of it and (\d+) squares up`)
	kayak := regexp.MustCompile(`kayak costs \$(\d+) to rent and \$(\d+) more for each hour`)
	met := map[string]int{}
	unsolved := map[string]bool{}
	for _, it := range mathItems(rand.New(rand.NewPCG(8, 1))) {
		stem := words(it.stem)
		if m := chart.FindStringSubmatch(stem); m != nil {
			met["chart"]++
			var n [4]int
			for i, text := range m[1:] {
				_, err := fmt.Sscan(text, &n[i])
				require.NoError(t, err)
			}
			assert.Equal(t, []string{fmt.Sprintf("(%d, %d)", n[0]+n[2], n[1]+n[3])}, it.right, stem)
		} else if m := kayak.FindStringSubmatch(stem); m != nil {
			met["kayak"]++
			assert.Equal(t, []string{m[1] + " + " + m[2] + "n"}, it.right, stem)
		} else if !slices.ContainsFunc(solvers, func(s solver) bool { return s.stem.MatchString(stem) }) {
			unsolved[it.standard] = true
		}
	}
	assert.Empty(t, unsolved, "no item goes unchecked")
	assert.Len(t, met, 2)
}

// Two choices of one value make an item that cannot be answered by thinking alone.
func TestChoicesDifferInValueAndNotInSpellingAlone(t *testing.T) {
	for seed := range uint64(20) {
		for _, it := range mathItems(rand.New(rand.NewPCG(seed, 2))) {
			if it.kind != "single-choice" {
				continue
			}
			seen := map[string]string{}
			for _, text := range append(slices.Clone(it.right), it.wrong...) {
				if v, ok := value(text); ok {
					key := v.RatString()
					assert.Empty(t, seen[key], "%s: %s and %s are one value", words(it.stem), text, seen[key])
					seen[key] = text
				}
			}
		}
	}
}

// Written items: passages, texts and keys that a reader can check are all there.
func TestWrittenItemsAreWhole(t *testing.T) {
	passages := map[string]int{}
	for _, it := range append(writtenItems("reading.txt", "reading"), writtenItems("science.txt", "science")...) {
		assert.NotEmpty(t, it.stem, it.identifier)
		assert.NotEmpty(t, it.standard, it.identifier)
		if it.kind != "number" {
			assert.GreaterOrEqual(t, len(it.wrong), 1, it.identifier)
			assert.True(t, sound(it), "%s has two equal choices", it.identifier)
		}
		if it.passage != "" {
			passages[it.passage]++
		}
	}
	assert.GreaterOrEqual(t, len(passages), 4)
	for name, n := range passages {
		assert.GreaterOrEqual(t, n, 3, "items on %s", name)
	}
}
