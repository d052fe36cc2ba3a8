package main

import (
	"context"
	"fmt"
	"os"
	"runtime/pprof"
	"slices"
	"time"

	"rooktrail/internal/core/know/fuzzy"
	"rooktrail/internal/core/workspace"
)

func find(root, folder string) {
	ctx := context.Background()
	ws := workspace.New(root)
	fmt.Println(ws.Code.Recall(ctx, folder, true))
	pf, _ := os.Create("/tmp/find.prof")
	pprof.StartCPUProfile(pf)
	defer pprof.StopCPUProfile()
	var took []float64
	for round := range 2 {
		took = nil
		slow, s := "", 0.0
		for _, q := range []string{"assign", "schedule", "kmalloc", "task_struct", "nt", "sk_buff", "mutexlock", "ta.st", "dev probe", "hndlreq", "shcedule_timeout", "regsiter_netdev", "xyzzy", "vfs_read"} {
			for i := range q {
				b := time.Now()
				n := len(ws.Code.Index().Search(ctx, fuzzy.Parse(q[:i+1]), 100))
				d := time.Since(b).Seconds() * 1000
				if d > s {
					slow, s = q[:i+1], d
				}
				took = append(took, d)
				if round == 1 && len(os.Args) > 4 {
					fmt.Printf("%-20s %6.1f ms %d\n", q[:i+1], d, n)
				}
			}
		}
		slices.Sort(took)
		fmt.Printf("n %d p50 %.1f p95 %.1f max %.1f %q\n", len(took), took[len(took)/2], took[len(took)*95/100], s, slow)
	}
}
