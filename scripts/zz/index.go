package main

import (
	"context"
	"fmt"
	"os"
	"runtime"
	"runtime/pprof"
	"time"

	"rooktrail/internal/core/workspace"
)

func indexAll(root, folder string) {
	ctx := context.Background()
	ws := workspace.New(root)
	ws.Code.KnowLibraries("/tmp/xc/rooktrail/library")
	ws.Code.KeepIndex(ctx, folder)
	go func() {
		for i := 0; ; i++ {
			time.Sleep(20 * time.Second)
			var m runtime.MemStats
			runtime.ReadMemStats(&m)
			p := ws.Code.Progress()
			fmt.Fprintln(os.Stderr, p.Read, p.Readable, "heap", m.HeapAlloc>>20, "inuse", m.HeapInuse>>20, "sys", m.Sys>>20, "released", m.HeapReleased>>20)
			f, _ := os.Create("/tmp/heap.prof")
			pprof.WriteHeapProfile(f)
			f.Close()
		}
	}()
	fmt.Fprintln(os.Stderr, ws.Code.Read(ctx))
	ws.Code.KeepListing(ctx)
	ws.Code.Close()
}
