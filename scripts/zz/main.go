package main

import (
	"context"
	"fmt"
	"os"
	"strings"
	"time"

	"rooktrail/internal/core/change/rename"
	"rooktrail/internal/core/workspace"
)

func main() {
	ctx := context.Background()
	ws := workspace.New(os.Args[1])
	if err := ws.Code.Read(ctx); err != nil { panic(err) }
	f, _ := ws.Code.Load(ctx, os.Args[2])
	off := strings.Index(string(f.Text.Bytes()), os.Args[3])
	off += len(os.Args[3])
	for range 3 {
		t := time.Now()
		p, rest, err := ws.Changes.Begin(ctx, rename.Asked{Path: os.Args[2], Offset: off, New: "Xyzzy"})
		if err != nil { panic(err) }
		c := p.Count()
		a := time.Since(t)
		t = time.Now()
		m, err := rest(ctx)
		if err != nil { panic(err) }
		p.Merge(m)
		fmt.Println(c, a, time.Since(t), p.Count(), len(p.Warnings))
	}
}
