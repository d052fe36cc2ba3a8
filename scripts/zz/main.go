package main

import (
	"context"
	"fmt"
	"os"
	"runtime/pprof"
	"time"

	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/know/answer"
	"rooktrail/internal/core/workspace"
)

func main() {
	if len(os.Args) > 2 && os.Args[1] == "find" {
		find(os.Args[2], os.Args[3])
		return
	}
	if len(os.Args) > 2 && os.Args[1] == "index" {
		indexAll(os.Args[2], os.Args[3])
		return
	}
	began := time.Now()
	lap := func(what string) { fmt.Fprintln(os.Stderr, what, time.Since(began).Round(time.Millisecond)) }
	f, _ := os.Create("/tmp/cpu.prof")
	pprof.StartCPUProfile(f)
	defer pprof.StopCPUProfile()
	ctx := context.Background()
	ws := workspace.New(os.Args[1])
	ws.Code.KnowLibraries("/tmp/xc/rooktrail/library")
	lap("new")
	fmt.Fprintln(os.Stderr, ws.Code.Recall(ctx, "/tmp/xc2/rooktrail/index", true))
	lap("recalled")
	if len(os.Args) > 2 {
		var line, col int
		fmt.Sscan(os.Args[3], &line)
		fmt.Sscan(os.Args[4], &col)
		file, err := ws.Code.Load(ctx, os.Args[2])
		lap(fmt.Sprint("loaded ", err))
		_, _ = ws.Code.Facts(ctx, os.Args[2])
		lap(fmt.Sprint("facts ", err))
		off := file.Text.Offset(line, col-1)
		res, all := ws.Answers.All(ctx, answer.Question{Way: answer.ToDefinition, Path: os.Args[2], Offset: off})
		_ = res; lap(fmt.Sprint("answer ", len(all)))
		for _, a := range all {
			fmt.Println(a.Path, a.Line)
		}
	}
	_ = place.Range{}
}
