package take

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
)

func TestASecondDeviceIsTold(t *testing.T) {
	d := newDevices()
	nine := time.Date(2026, 11, 30, 9, 0, 0, 0, time.UTC)
	at := func(minutes int) time.Time { return nine.Add(time.Duration(minutes) * time.Minute) }
	assert.Zero(t, d.meet(1, "a", at(0)))
	assert.Zero(t, d.meet(1, "a", at(1)), "it is no company to itself")
	assert.Zero(t, d.meet(2, "b", at(1)), "another attempt is another matter")
	assert.Equal(t, at(1), d.meet(1, "b", at(2)))
	assert.Equal(t, at(2), d.meet(1, "a", at(3)))
	assert.Zero(t, d.meet(1, "", at(4)), "a device without a name")
	assert.Equal(t, at(3), d.meet(1, "b", at(33)), "half an hour later, still")
	assert.Zero(t, d.meet(1, "b", at(34)), "but no longer")
}
