//go:build slowdisk

package store

import (
	"os"
	"time"
)

var slower = func() time.Duration {
	d, err := time.ParseDuration(os.Getenv("PINELEDGER_SLOW_DISK"))
	if err != nil {
		panic("a program for measures wants PINELEDGER_SLOW_DISK: " + err.Error())
	}
	return d
}()

func synced() { time.Sleep(slower) }
