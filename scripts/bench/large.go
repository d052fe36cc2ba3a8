package main

import (
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"log"
	"math/rand"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strconv"
	"strings"
	"syscall"
	"time"

	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/know/fuzzy"
	"rooktrail/internal/core/know/index"
	"rooktrail/internal/core/workspace"
)

// used is what a run of the program took.
type used struct {
	wall, cpu time.Duration
	memory    float64 // resident, the most, in MB
	out       string
}

// runLarge runs the program on a project, by a launcher: what is counted as the memory of a process begins with that of the one that
// begins it.
func runLarge(program, folder string, args ...string) (u used, ok bool) {
	self, err := os.Executable()
	if err != nil {
		log.Fatal(err)
	}
	var out, took bytes.Buffer
	cmd := exec.Command(self, append([]string{launching, program}, args...)...)
	cmd.Env = append(os.Environ(), "XDG_CACHE_HOME="+filepath.Join(folder, "cache"), "XDG_DATA_HOME="+filepath.Join(folder, "data"), "XDG_CONFIG_HOME="+filepath.Join(folder, "config"))
	cmd.Stdout, cmd.Stderr = &out, &took
	err = cmd.Run()
	var l launched
	if wrong := json.Unmarshal(took.Bytes(), &l); wrong != nil {
		log.Fatalf("%s %v: %v", program, args, wrong)
	}
	return used{wall: l.Wall, cpu: l.CPU, memory: float64(l.Memory) / 1024, out: out.String()}, err == nil
}

// launching is the argument with which this program is a launcher.
const launching = "--launch"

// launched is what a launcher says of what it has run; Memory is in KB.
type launched struct {
	Wall, CPU time.Duration
	Memory    int64
}

// launch runs a program, and says on standard error what it took.
func launch(args []string) {
	cmd := exec.Command(args[0], args[1:]...)
	cmd.Stdout = os.Stdout
	started := time.Now()
	err := cmd.Run()
	if cmd.ProcessState == nil {
		log.Fatal(err)
	}
	l := launched{Wall: time.Since(started), CPU: cmd.ProcessState.UserTime() + cmd.ProcessState.SystemTime()}
	if usage, ok := cmd.ProcessState.SysUsage().(*syscall.Rusage); ok {
		l.Memory = usage.Maxrss
	}
	if json.NewEncoder(os.Stderr).Encode(l) != nil || err != nil {
		os.Exit(1)
	}
}

// large prints what costs how much in a body of any size, against floors of the same run.
func large(program, root string, add func(row)) {
	folder, err := os.MkdirTemp("", "rooktrail-bench-")
	if err != nil {
		log.Fatal(err)
	}
	defer os.RemoveAll(folder)
	reading := readAll(root)
	walked := listing(root)
	first, ok := runLarge(program, folder, "index", root)
	if !ok {
		log.Fatalf("%s index %s failed", program, root)
	}
	fmt.Print(first.out)
	add(row{"first index: wall", ms(first.wall), ms(reading), "ms", "reading the bytes"})
	add(row{"first index: processor", ms(first.cpu), ms(reading), "ms", "reading the bytes"})
	add(row{"first index: memory", first.memory, 600, "MB", "≤ 1 (600 MB)"})
	again, _ := runLarge(program, folder, "index", root)
	add(row{"index again: wall", ms(again.wall), walked.floor, "ms", "walking with metadata"})
	add(row{"index again: memory", again.memory, 600, "MB", "≤ 1"})
	add(walked)
	opening(folder, root, walked.floor, add)
	keysOver(folder, root, add)
	asking(program, folder, root, walked.floor, add)
	switching(program, root, add)
}

// opening times until files can be found, and symbols, in a project that was indexed.
func opening(folder, root string, floor float64, add func(row)) {
	ws := workspace.New(root)
	started := time.Now()
	ws.Code.KeepIndex(context.Background(), filepath.Join(folder, "cache", "rooktrail", "index"))
	for ws.Code.Index().Len() == 0 && time.Since(started) < time.Minute {
		time.Sleep(time.Millisecond)
	}
	add(row{"opening: symbols of the last index", ms(time.Since(started)), floor, "ms", "walking with metadata"})
	done := make(chan error, 1)
	go func() { done <- ws.Code.Read(context.Background()) }()
	for pr := ws.Code.Progress(); !pr.Listed; pr = ws.Code.Progress() {
		time.Sleep(time.Millisecond)
	}
	add(row{"opening: all files", ms(time.Since(started)), floor, "ms", "≤ 2 × walking with metadata"})
	if err := <-done; err != nil {
		log.Fatal(err)
	}
	add(row{"opening: all compared with the disk", ms(time.Since(started)), floor, "ms", "walking with metadata"})
	if err := ws.Code.Close(); err != nil {
		log.Fatal(err)
	}
}

// someSymbols are symbols of the project, here and there.
func someSymbols(ws *workspace.Workspace, kinds ...facts.Kind) (some []index.Symbol) {
	random := rand.New(rand.NewSource(3))
	var files []string
	for f := range ws.Code.Listing().Files() {
		files = append(files, f.Path)
	}
	slices.Sort(files)
	for tries := 0; len(some) < 40 && tries < 4000; tries++ {
		p := files[random.Intn(len(files))]
		s := ws.Code.Index().Summary(p)
		if s == nil {
			continue
		}
		all, _ := s.Symbols(p) // its sum was right
		for _, at := range random.Perm(len(all))[:min(3, len(all))] {
			if slices.Contains(kinds, all[at].Kind) {
				some = append(some, all[at])
			}
		}
	}
	return some
}

// keysOver types names of the project letter by letter, as they are and with a slip.
func keysOver(folder, root string, add func(row)) {
	ws := workspace.New(root)
	if !ws.Code.Recall(context.Background(), filepath.Join(folder, "cache", "rooktrail", "index"), true) {
		log.Fatal("the project is not as it was indexed")
	}
	defer ws.Code.Close()
	var clean, forgiven []float64
	for i, s := range someSymbols(ws, facts.Function, facts.Method, facts.Struct, facts.Class) {
		typed := s.Name[:min(len(s.Name), 12)]
		if i%4 == 0 && len(typed) > 4 { // two letters swapped
			typed = typed[:2] + string(typed[3]) + string(typed[2]) + typed[4:]
		}
		for n := range typed {
			q := fuzzy.Parse(typed[:n+1])
			started := time.Now()
			ws.Code.Index().SearchClean(context.Background(), q, 200)
			clean = append(clean, ms(time.Since(started)))
			started = time.Now()
			ws.Code.Index().Search(context.Background(), q, 200)
			forgiven = append(forgiven, ms(time.Since(started)))
		}
	}
	names := ws.Code.Index().Names()
	started := time.Now()
	for _, n := range names {
		strings.Contains(n, "assign")
	}
	floor := ms(time.Since(started))
	slices.Sort(clean)
	slices.Sort(forgiven)
	what := fmt.Sprintf("a key over %d symbols: ", len(names))
	add(row{what + "median", forgiven[len(forgiven)/2], floor, "ms", "one pass over the names"})
	add(row{what + "95th percentile", forgiven[len(forgiven)*95/100], floor, "ms", "≤ 3 ×"})
	add(row{"… without forgiving slips, 95th percentile", clean[len(clean)*95/100], floor, "ms", "≤ 3 ×"})
}

// asking asks questions from the shell, here and there.
func asking(program, folder, root string, walk float64, add func(row)) {
	ws := workspace.New(root)
	if !ws.Code.Recall(context.Background(), filepath.Join(folder, "cache", "rooktrail", "index"), true) {
		log.Fatal("the project is not as it was indexed")
	}
	defer ws.Code.Close()
	nothing, _ := runLarge(program, folder, "--version")
	for _, question := range []string{"definition", "references", "symbols", "files"} {
		var took []used
		for _, s := range someSymbols(ws, facts.Function, facts.Method)[:20] {
			args := []string{question, "--root", root, s.Path + ":" + strconv.Itoa(s.Line) + ":" + strconv.Itoa(column(root, &s))}
			switch question {
			case "symbols":
				args[3] = s.Name
			case "files":
				args[3] = filepath.Base(s.Path)
			}
			u, _ := runLarge(program, folder, args...)
			took = append(took, u)
		}
		slices.SortFunc(took, func(a, b used) int { return int(a.wall - b.wall) })
		memory := slices.MaxFunc(took, func(a, b used) int { return int(a.memory - b.memory) }).memory
		add(row{question + " from the shell, median of 20", ms(took[10].wall), ms(nothing.wall), "ms", "starting and doing nothing"})
		add(row{question + " from the shell, the slowest but one", ms(took[18].wall), walk, "ms", "walking with metadata"})
		add(row{question + " from the shell, memory", memory, 150, "MB", "≤ 1 (150 MB)"})
	}
}

// column is that of a symbol, counted in bytes from 1.
func column(root string, s *index.Symbol) int {
	text, err := os.ReadFile(filepath.Join(root, s.Path))
	if err != nil || s.Offset > len(text) {
		return 1
	}
	return s.Offset - bytes.LastIndexByte(text[:s.Offset], '\n')
}
