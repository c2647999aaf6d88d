package attempt

import "time"

// AnsweredAt is when an answer was given, by the server's clock as the device knew it: devices
// number their answers by milliseconds (see the contract's Answer), so that of two the later has
// the higher number on any device.
func AnsweredAt(number int64) time.Time { return time.UnixMilli(number).UTC() }

// InTime tells of an answer that came after the hand-in whether it was given before, as far as
// the device says. One without a time in its number was not.
func InTime(number int64, begun, handedIn time.Time) bool {
	at := AnsweredAt(number)
	return !at.Before(begun) && !at.After(handedIn)
}
