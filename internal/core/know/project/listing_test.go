package project_test

import (
	"context"
	"fmt"
	"slices"
	"sync"
	"testing"

	"github.com/stretchr/testify/assert"

	"rooktrail/internal/core/know/fuzzy"
	"rooktrail/internal/core/know/project"
)

func listed(l *project.Listing) (paths []string) {
	for f := range l.Files() {
		paths = append(paths, fmt.Sprintf("%s %d", f.Path, f.Size))
	}
	slices.Sort(paths)
	return paths
}

func inCorpus(l *project.Listing, query string) (paths []string) {
	c := l.Paths()
	for _, h := range c.Search(context.Background(), fuzzy.Parse(query), fuzzy.Whole, 100) {
		p, _ := c.Text(h.Index)
		paths = append(paths, p)
	}
	slices.Sort(paths)
	return paths
}

func TestAListingNeverChanges(t *testing.T) {
	none := project.NewListing(nil)
	assert.True(t, none.IsFolder("."))
	assert.Zero(t, none.Len())
	one := none.With([]project.File{{Path: "hut/bell.go", Size: 1}, {Path: "hut/deep/door.go", Size: 1}})
	two := one.With([]project.File{{Path: "hut/bell.go", Size: 2}, {Path: "ridge/bell.go", Size: 2}})
	assert.Empty(t, listed(none))
	assert.Equal(t, []string{"hut/bell.go 1", "hut/deep/door.go 1"}, listed(one))
	assert.Equal(t, []string{"hut/bell.go 2", "hut/deep/door.go 1", "ridge/bell.go 2"}, listed(two))
	assert.Equal(t, []int{0, 2, 3}, []int{none.Len(), one.Len(), two.Len()})
	assert.Equal(t, []string{"hut/bell.go"}, one.Named("bell.go"))
	assert.Equal(t, []string{"hut/bell.go", "ridge/bell.go"}, two.Named("bell.go"))
	assert.Equal(t, []string{".", "hut", "hut/deep", "ridge"}, slices.Sorted(two.Folders()))
	f, ok := two.File("hut/bell.go")
	assert.True(t, ok)
	assert.Equal(t, int64(2), f.Size)
	assert.True(t, two.Has("ridge") && two.Has("ridge/bell.go") && two.IsFile("ridge/bell.go") && two.IsFolder("ridge"))
	assert.False(t, one.Has("ridge") || two.IsFile("ridge") || two.IsFolder("ridge/bell.go"))
}

// Two listings made from the same one do not get into each other's way.
func TestTheCorpusOfAListing(t *testing.T) {
	one := project.NewListing(nil).With([]project.File{{Path: "hut/bell.go"}})
	left, right := one.With([]project.File{{Path: "left/bell.go"}, {Path: "hut/bell.go"}}), one.With([]project.File{{Path: "right/bell.go"}})
	assert.Equal(t, []string{"hut/bell.go"}, inCorpus(one, "bell"))
	assert.Equal(t, []string{"hut/bell.go", "left/bell.go"}, inCorpus(left, "bell"), "each path once")
	assert.Equal(t, []string{"hut/bell.go", "right/bell.go"}, inCorpus(right, "bell"))
	whole := project.NewListing([]project.File{{Path: "b.go"}, {Path: "a.go"}}).With([]project.File{{Path: "c.go"}})
	assert.Equal(t, []string{"a.go", "b.go", "c.go"}, inCorpus(whole, "go"), "also where nobody asked for it before")
}

// What is taken in bit by bit is the same as what is taken in at once, while others read it.
func TestAListingThatGrows(t *testing.T) {
	l, all := project.NewListing(nil), []project.File(nil)
	var readers sync.WaitGroup
	for n := range 60 {
		var batch []project.File
		for i := range 1 + n*7%40 {
			batch = append(batch, project.File{Path: fmt.Sprintf("f%d/%d.go", n%9, (n*31+i)%300), Size: int64(n)})
		}
		l, all = l.With(batch), append(all, batch...)
		now := l
		readers.Go(func() { assert.Len(t, inCorpus(now, "f1/"), len(inCorpus(now, "f1/"))) })
	}
	readers.Wait()
	whole := project.NewListing(all)
	assert.Equal(t, listed(whole), listed(l))
	assert.Equal(t, whole.Len(), l.Len())
	assert.Equal(t, slices.Sorted(whole.Folders()), slices.Sorted(l.Folders()))
	assert.Equal(t, inCorpus(whole, "f1/2"), inCorpus(l, "f1/2"))
	assert.Equal(t, whole.Named("7.go"), l.Named("7.go"))
}
