// Package cache keeps what was made, as much as fits, and lets several who want the same wait for
// one who makes it. It stands between the program and the library that does it: all caches are one
// instance of the library's generic code, and whoever holds a cache sees none of it, which is what
// a compiler would else make anew in every package that does.
package cache

import (
	"context"
	"fmt"
	"time"

	"github.com/maypok86/otter/v2"
)

// Options say how much a cache keeps, and how long.
type Options[K comparable, V any] struct {
	MaximumSize   int               // entries; 0 where the weight bounds it
	MaximumWeight uint64            // the sum of what Weigher says
	Weigher       func(K, V) uint32 // with MaximumWeight
	Written       time.Duration     // how long an entry lasts from when it was written; 0 for ever
	Used          time.Duration     // how long from when it was used last; 0 for ever
}

// Cache keeps values by their keys. It is for any number of goroutines.
type Cache[K comparable, V any] struct{ kept kept }

// kept is what a cache keeps, its keys and values as they are within the library.
type kept interface {
	get(ctx context.Context, key any, load func(context.Context, any) (any, error)) (any, error)
	all(ctx context.Context, keys []any, load func(context.Context, []any) (map[any]any, error)) (map[any]any, error)
	find(key any) (any, bool)
	set(key, value any)
	forget(key any)
	weight() uint64
}

// New makes an empty cache.
func New[K comparable, V any](o Options[K, V]) (*Cache[K, V], error) {
	var weigh func(key, value any) uint32
	if o.Weigher != nil {
		weigh = func(key, value any) uint32 { return o.Weigher(key.(K), as[V](value)) }
	}
	k, err := open(o.MaximumSize, o.MaximumWeight, weigh, o.Written, o.Used)
	return &Cache[K, V]{k}, err
}

// Must is New for options that are known to be sound.
func Must[K comparable, V any](o Options[K, V]) *Cache[K, V] {
	c, err := New(o)
	if err != nil {
		panic(err)
	}
	return c
}

// as is a value out of the library's hands: nil is a value of some types, too.
func as[V any](value any) V {
	v, _ := value.(V)
	return v
}

// Find is the value of a key, if it is kept.
func (c *Cache[K, V]) Find(key K) (V, bool) {
	v, ok := c.kept.find(key)
	return as[V](v), ok
}

// Set keeps a value.
func (c *Cache[K, V]) Set(key K, value V) { c.kept.set(key, value) }

// Forget takes a key out.
func (c *Cache[K, V]) Forget(key K) { c.kept.forget(key) }

// Weight is how much is kept, once what does not fit is gone.
func (c *Cache[K, V]) Weight() uint64 { return c.kept.weight() }

// Get is the value of a key; where it is not kept, one who wants it makes it, and the others wait.
// A value that could not be made is not kept.
func (c *Cache[K, V]) Get(ctx context.Context, key K, load func(context.Context, K) (V, error)) (V, error) {
	v, err := c.kept.get(ctx, key, func(ctx context.Context, key any) (any, error) { return load(ctx, key.(K)) })
	return as[V](v), err
}

// All are the values of several keys; load makes those that are not kept, and may leave some out.
func (c *Cache[K, V]) All(ctx context.Context, keys []K, load func(context.Context, []K) (map[K]V, error)) (map[K]V, error) {
	asked := make([]any, len(keys))
	for i, k := range keys {
		asked[i] = k
	}
	found, err := c.kept.all(ctx, asked, func(ctx context.Context, missing []any) (map[any]any, error) {
		wanted := make([]K, len(missing))
		for i, k := range missing {
			wanted[i] = k.(K)
		}
		made, err := load(ctx, wanted)
		if err != nil {
			return nil, err
		}
		values := make(map[any]any, len(made))
		for k, v := range made {
			values[k] = v
		}
		return values, nil
	})
	if err != nil {
		return nil, err
	}
	values := make(map[K]V, len(found))
	for k, v := range found {
		values[k.(K)] = as[V](v)
	}
	return values, nil
}

// library is a cache of the library.
type library struct{ of *otter.Cache[any, any] }

func open(size int, weight uint64, weigh func(key, value any) uint32, written, used time.Duration) (kept, error) {
	o := &otter.Options[any, any]{MaximumSize: size, MaximumWeight: weight, Weigher: weigh}
	switch {
	case written > 0:
		o.ExpiryCalculator = otter.ExpiryWriting[any, any](written)
	case used > 0:
		o.ExpiryCalculator = otter.ExpiryAccessing[any, any](used)
	}
	c, err := otter.New(o)
	if err != nil {
		return nil, fmt.Errorf("cache: %w", err)
	}
	return library{c}, nil
}

func (l library) get(ctx context.Context, key any, load func(context.Context, any) (any, error)) (any, error) {
	return l.of.Get(ctx, key, otter.LoaderFunc[any, any](load))
}

func (l library) all(ctx context.Context, keys []any, load func(context.Context, []any) (map[any]any, error)) (map[any]any, error) {
	return l.of.BulkGet(ctx, keys, otter.BulkLoaderFunc[any, any](load))
}

func (l library) find(key any) (any, bool) { return l.of.GetIfPresent(key) }
func (l library) set(key, value any)       { l.of.Set(key, value) }
func (l library) forget(key any)           { l.of.Invalidate(key) }

func (l library) weight() uint64 {
	l.of.CleanUp()
	return l.of.WeightedSize()
}
