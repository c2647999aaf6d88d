package desk

import (
	"fmt"
	"sync/atomic"

	lru "github.com/hashicorp/golang-lru/v2"
	"golang.org/x/sync/singleflight"
)

// cache keeps the values that were used last; one that many ask for at once is
// read once.
type cache[K comparable, V any] struct {
	values  *lru.Cache[K, V]
	reading singleflight.Group
	cleared atomic.Int64
}

func newCache[K comparable, V any](most int) *cache[K, V] {
	values, err := lru.New[K, V](most)
	if err != nil {
		panic(err) // a size below one
	}
	return &cache[K, V]{values: values}
}

func (c *cache[K, V]) get(key K, load func() (V, error)) (V, error) {
	if v, ok := c.values.Get(key); ok {
		return v, nil
	}
	cleared := c.cleared.Load() // what was read before a clearing is not kept after it
	v, err, _ := c.reading.Do(fmt.Sprint(key), func() (any, error) {
		v, err := load()
		if err == nil && c.cleared.Load() == cleared {
			c.values.Add(key, v)
		}
		return v, err
	})
	if err != nil {
		var none V
		return none, err
	}
	return v.(V), nil
}

func (c *cache[K, V]) forget(key K) { c.values.Remove(key) }

func (c *cache[K, V]) clear() {
	c.cleared.Add(1)
	c.values.Purge()
}
