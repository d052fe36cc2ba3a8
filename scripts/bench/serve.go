package main

import (
	"bufio"
	"context"
	"encoding/json"
	"fmt"
	"io"
	"log"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strconv"
	"strings"
	"time"

	"rooktrail/internal/core/file/place"
	"rooktrail/internal/core/know/answer"
	"rooktrail/internal/core/workspace"
)

// askedServer is how many definitions the language server is asked for, in so many files: those that an editor has open, or had.
const (
	askedServer = 1000
	filesServed = 100
)

// editor is the other end of a language server.
type editor struct {
	cmd  *exec.Cmd
	to   io.WriteCloser
	from *bufio.Reader
	ids  int
}

// ask sends a request and waits for its answer.
func (e *editor) ask(method string, params any) (result json.RawMessage) {
	e.ids++
	e.send(map[string]any{"jsonrpc": "2.0", "id": e.ids, "method": method, "params": params})
	for {
		length := 0
		for {
			line, err := e.from.ReadString('\n')
			if err != nil {
				log.Fatalf("the language server: %v", err)
			}
			if line = strings.TrimSpace(line); line == "" {
				break
			}
			if n, ok := strings.CutPrefix(line, "Content-Length: "); ok {
				length, _ = strconv.Atoi(n)
			}
		}
		data := make([]byte, length)
		if _, err := io.ReadFull(e.from, data); err != nil {
			log.Fatalf("the language server: %v", err)
		}
		var m struct {
			ID     *int
			Method string
			Result json.RawMessage
		}
		if err := json.Unmarshal(data, &m); err != nil {
			log.Fatalf("the language server: %v", err)
		}
		if m.Method == "" && m.ID != nil && *m.ID == e.ids {
			return m.Result
		}
	}
}

func (e *editor) send(v any) {
	data, err := json.Marshal(v)
	if err == nil {
		_, err = fmt.Fprintf(e.to, "Content-Length: %d\r\n\r\n%s", len(data), data)
	}
	if err != nil {
		log.Fatalf("the language server: %v", err)
	}
}

// overTheProtocol times definitions that a language server is asked for, one after the other, against asking for them here; and
// how much memory it takes, against the reader for scripts that was asked for the same.
func overTheProtocol(program, root string) []row {
	folder, err := os.MkdirTemp("", "rooktrail-bench-")
	if err != nil {
		log.Fatal(err)
	}
	defer os.RemoveAll(folder)
	env := append(os.Environ(), "XDG_CACHE_HOME="+folder, "XDG_DATA_HOME="+filepath.Join(folder, "data"))
	index := exec.Command(program, "index", root)
	index.Env = env
	if out, err := index.CombinedOutput(); err != nil {
		log.Fatalf("indexing %s: %v\n%s", root, err, out)
	}
	ctx := context.Background()
	ws := workspace.New(root)
	ws.Code.KnowLibraries(filepath.Join(folder, "rooktrail", "library")) // as the server does
	ws.Code.KeepIndex(ctx, filepath.Join(folder, "rooktrail", "index"))
	if err := ws.Code.Read(ctx); err != nil {
		log.Fatal(err)
	}
	defer ws.Code.Close()
	spots := usesHere(ws, askedServer)
	direct := make([]time.Duration, 0, len(spots))
	for range 2 { // the second time counts, for both
		direct = direct[:0]
		for _, s := range spots {
			started := time.Now()
			f, err := ws.Code.Load(ctx, s.Path)
			if err != nil {
				log.Fatal(err)
			}
			ws.Answers.All(ctx, answer.ToDefinition.On(s.Path, f.Text.Offset(s.Line, s.Col)))
			direct = append(direct, time.Since(started))
		}
	}
	asked, memory := servedDefinitions(program, root, env, spots)
	slices.Sort(direct)
	slices.Sort(asked)
	half, most := len(asked)/2, len(asked)*95/100
	return []row{
		{"a definition over the language server, median", ms(asked[half]), ms(direct[half]), "ms", "≤ 1.3 × asking directly, and 1 ms"},
		{"a definition over the language server, p95", ms(asked[most]), ms(direct[most]), "ms", "≤ 1.3 × asking directly, and 1 ms"},
		{"memory of the language server then", memory, queryMemory(program, root, env, spots), "MB", "as rooktrail query"},
	}
}

// usesHere are places of names in the files of a project, taken here and there.
func usesHere(ws *workspace.Workspace, n int) (spots []place.Place) {
	ctx := context.Background()
	var files []string
	for f := range ws.Code.Listing().Files() {
		files = append(files, f.Path)
	}
	slices.Sort(files)
	for i := 0; len(spots) < n; i++ {
		f, err := ws.Code.Load(ctx, files[i%filesServed*97%len(files)])
		if err != nil || f.Facts == nil || len(f.Facts.Uses) == 0 {
			continue
		}
		line, col := f.Text.Position(int(f.Facts.Uses[i*31%len(f.Facts.Uses)].At.Start))
		spots = append(spots, place.Place{Path: f.Path, Line: line, Col: col})
	}
	return spots
}

// servedDefinitions asks a server for definitions, twice, and measures the second time.
func servedDefinitions(program, root string, env []string, spots []place.Place) (took []time.Duration, memory float64) {
	e := &editor{cmd: exec.Command(program, "serve")}
	e.cmd.Env = env
	var err error
	if e.to, err = e.cmd.StdinPipe(); err != nil {
		log.Fatal(err)
	}
	out, err := e.cmd.StdoutPipe()
	if err == nil {
		err = e.cmd.Start()
	}
	if err != nil {
		log.Fatal(err)
	}
	e.from = bufio.NewReaderSize(out, 1<<16)
	e.ask("initialize", map[string]any{"capabilities": map[string]any{"general": map[string]any{"positionEncodings": []string{"utf-8"}}}, "workspaceFolders": []any{map[string]string{"uri": place.URI(root), "name": ""}}})
	e.ask("workspace/symbol", map[string]any{"query": "Server"}) // which waits until all is read
	untilQuiet(e.cmd.Process.Pid)
	for range 2 {
		took = took[:0]
		for _, s := range spots {
			started := time.Now()
			e.ask("textDocument/definition", map[string]any{"textDocument": map[string]any{"uri": place.URI(filepath.Join(root, s.Path))}, "position": map[string]any{"line": s.Line - 1, "character": s.Col - 1}})
			took = append(took, time.Since(started))
		}
	}
	memory = residentOf(e.cmd.Process.Pid)
	e.ask("shutdown", nil)
	e.send(map[string]any{"jsonrpc": "2.0", "method": "exit"})
	_ = e.cmd.Wait() // it was told to
	return took, memory
}

// queryMemory is how much memory the reader for scripts takes when it was asked for the same.
func queryMemory(program, root string, env []string, spots []place.Place) float64 {
	cmd := exec.Command(program, "query", "--root", root)
	cmd.Env = env
	in, err := cmd.StdinPipe()
	if err != nil {
		log.Fatal(err)
	}
	out, err := cmd.StdoutPipe()
	if err == nil {
		err = cmd.Start()
	}
	if err != nil {
		log.Fatal(err)
	}
	answers := bufio.NewScanner(out)
	for range 2 {
		for _, s := range spots {
			fmt.Fprintf(in, "{\"ask\":\"definition\",\"at\":%q}\n", s)
			for answers.Scan() && !strings.Contains(answers.Text(), `"done":true`) && !strings.Contains(answers.Text(), `"error"`) {
				continue
			}
		}
	}
	memory := residentOf(cmd.Process.Pid)
	in.Close()
	_ = cmd.Wait() // it ends when nothing more is asked
	return memory
}

// untilQuiet waits until a process has nothing to do beside, but two minutes at the most.
func untilQuiet(pid int) {
	busy := func() int {
		data, err := os.ReadFile(fmt.Sprintf("/proc/%d/stat", pid))
		if err != nil {
			log.Fatal(err)
		}
		fields := strings.Fields(string(data[strings.LastIndexByte(string(data), ')'):]))
		user, _ := strconv.Atoi(fields[12])
		return user
	}
	for n, before := 0, busy(); n < 240; n++ {
		time.Sleep(500 * time.Millisecond)
		now := busy()
		if now-before < 3 { // hundredths of a second
			return
		}
		before = now
	}
}

// residentOf is how much memory a process takes, in megabytes.
func residentOf(pid int) float64 {
	data, err := os.ReadFile(fmt.Sprintf("/proc/%d/status", pid))
	if err != nil {
		log.Fatal(err)
	}
	for line := range strings.Lines(string(data)) {
		if kb, ok := strings.CutPrefix(line, "VmRSS:"); ok {
			n, _ := strconv.ParseFloat(strings.Fields(kb)[0], 64)
			return n / 1000
		}
	}
	return 0
}
