package window_test

import (
	"fmt"
	"time"

	"pineledger/core/window"
)

// A fire drill after twenty minutes: the door is closed for ten, and nothing is lost.
func Example() {
	nine := time.Date(2026, 11, 30, 9, 0, 0, 0, time.UTC)
	minute := func(n int) time.Time { return nine.Add(time.Duration(n) * time.Minute) }
	clock, err := window.New(window.Window{From: nine, To: minute(360)}, window.Allowance{Minutes: 60})
	if err != nil {
		panic(err)
	}
	for _, e := range []window.Event{{At: nine, What: window.DoorOpens}, {At: nine, What: window.Begin}, {At: minute(20), What: window.DoorCloses}, {At: minute(30), What: window.DoorOpens}} {
		if err := clock.Apply(e); err != nil {
			panic(err)
		}
	}
	r := clock.At(minute(35))
	fmt.Println(r.State, r.Worked, r.Left, r.EndsAt.Format("15:04"))
	// Output: working 25m0s 35m0s 10:10
}
