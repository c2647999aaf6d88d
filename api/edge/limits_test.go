package edge_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"

	"pineledger/api/edge"
)

// wrong tries a name wrongly until it is refused, at most so often, and counts.
func wrong(l *edge.Limits, name, place string, most int) int {
	for n := range most {
		if _, ok := l.Try(name, place); !ok {
			return n
		}
	}
	return most
}

func TestWrongTriesOfANameAreFew(t *testing.T) {
	l := edge.NewLimits()
	assert.Equal(t, 6, wrong(l, "1001", "10.0.0.1", 100), "exactly six")
	assert.Equal(t, 6, wrong(l, "1001", "10.0.0.2", 100), "the child at school still gets in while somebody guesses from elsewhere")
	total := 12
	for i := range 20 {
		total += wrong(l, "1001", fmt.Sprintf("10.0.1.%d", i), 100)
	}
	assert.Equal(t, 30, total, "from everywhere together there are thirty")
}

func TestWhatIsRightCountsAgainstNothing(t *testing.T) {
	l := edge.NewLimits()
	for range 2000 { // a school at nine o'clock, from one address
		right, ok := l.Try("1001", "10.0.0.1")
		assert.True(t, ok)
		right()
	}
	assert.Equal(t, 5, wrong(l, "1001", "10.0.0.1", 5))
	right, ok := l.Try("1001", "10.0.0.1")
	assert.True(t, ok)
	right()
	assert.Equal(t, 6, wrong(l, "1001", "10.0.0.1", 100), "after a right one they begin anew")
}

func TestARefusedTrySpendsNothingOfOthers(t *testing.T) {
	l := edge.NewLimits()
	for i := range 100 {
		wrong(l, fmt.Sprint("made up ", i), "10.6.6.6", 6)
	}
	locked := 0
	for i := range 400 {
		name := fmt.Sprint("student ", i)
		for range 20 {
			l.Try(name, "10.6.6.6") // the address is used up; nothing of the name is
		}
		if right, ok := l.Try(name, "10.0.0.1"); ok {
			right()
		} else {
			locked++
		}
	}
	assert.Zero(t, locked)
}

func TestMadeUpNamesClearNobodysCount(t *testing.T) {
	l := edge.NewLimits()
	assert.Equal(t, 6, wrong(l, "1001", "10.0.0.1", 100))
	for i := range 50_000 {
		l.Try(fmt.Sprint("made up ", i), fmt.Sprint("10.7.", i%250, ".", i/250))
	}
	assert.Zero(t, wrong(l, "1001", "10.0.0.1", 100))
}

// Tries side by side are each counted before their secrets are looked at.
func TestTriesSideBySideAreEachCounted(t *testing.T) {
	l := edge.NewLimits()
	let := make(chan bool, 100)
	for range 100 {
		go func() {
			_, ok := l.Try("1001", "10.0.0.1")
			let <- ok
		}()
	}
	in := 0
	for range 100 {
		if <-let {
			in++
		}
	}
	assert.Equal(t, 6, in)
}
