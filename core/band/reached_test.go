package band_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"pineledger/core/band"
	"pineledger/core/points"
)

func TestAnExpectedScoreBecomesOneOfTheForm(t *testing.T) {
	for _, c := range []struct {
		expected float64
		grain    points.Points
		rule     band.Rule
		want     points.Points
	}{
		{10.2, 100, band.AtLeast, 1100}, {10, 100, band.AtLeast, 1000}, {0.1 + 0.2 + 9.7, 100, band.AtLeast, 1000},
		{10.5, 100, band.Nearest, 1100}, {10.4, 100, band.Nearest, 1000}, {10.26, 50, band.Nearest, 1050}, {10.26, 50, band.AtLeast, 1050}, {0, 20, band.AtLeast, 0},
	} {
		assert.Equal(t, c.want, band.Reached(c.expected, c.grain, c.rule), "%+v", c)
	}
}
