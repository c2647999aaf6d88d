//go:build !slowdisk

package store

// synced is called when a commit has reached the disk. Built with the tag slowdisk it
// makes measures on a quick disk tell what a slow one would do.
func synced() {}
