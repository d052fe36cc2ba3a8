package main

import (
	"fmt"
	"math/rand/v2"
	"strings"
	"time"

	"rooktrail/internal/core/draw"
)

// drawing times how long drawings of calls and imports take to be laid out, and compares how often their lines cross and how
// long they are with a layout in the order in which things come.
func drawing() (rows []row) {
	for _, n := range []int{50, 500, 5000} {
		s := imports(n)
		started := time.Now()
		well := draw.Lay(s, draw.Medium)
		took := time.Since(started)
		started = time.Now()
		plain := draw.LayPlainly(s, draw.Medium)
		floor := time.Since(started)
		aim := map[int]string{50: "under 0.1 s", 500: "under 0.5 s", 5000: "under 5 s"}[n]
		rows = append(rows,
			row{fmt.Sprintf("laying out %d boxes, %d lines", n, len(s.Lines)), ms(took), ms(floor), "ms", aim},
			row{"  how often its lines cross", float64(well.Crossings), float64(plain.Crossings), "", "fewer than in the order in which they come"},
			row{"  how long they are", float64(well.Length), float64(plain.Length), "cells", "shorter than that"})
	}
	return rows
}

// imports is a scene like the imports of a project: each file uses some that were there before it, most of them near, and a
// few are used by very many.
func imports(n int) *draw.Scene {
	r := rand.New(rand.NewPCG(uint64(n), 1))
	s := &draw.Scene{}
	for i := range n {
		s.Boxes = append(s.Boxes, draw.Box{ID: fmt.Sprint(i), Name: strings.Repeat("n", 4+r.IntN(14)), Kind: "file", Where: "dispatch", Group: -1, Layer: -1})
		for range min(i, 1+r.IntN(2)) {
			to := max(0, i-1-r.IntN(1+n/10))
			if r.IntN(10) == 0 {
				to = r.IntN(1 + i/20)
			}
			s.Lines = append(s.Lines, draw.Line{From: i, To: min(to, i-1)})
		}
		if i > 1 && r.IntN(40) == 0 {
			s.Lines = append(s.Lines, draw.Line{From: r.IntN(i), To: i})
		}
	}
	return s
}
