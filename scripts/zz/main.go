package main

import (
	"context"
	"fmt"
	"os"
	"rooktrail/internal/core/file/lang/catalog"
)

func main() {
	for _, p := range os.Args[1:] {
		d, _ := os.ReadFile(p)
		f, err := catalog.Set().Of(p).Facts(context.Background(), d)
		if err != nil {
			fmt.Println(err)
			continue
		}
		fmt.Println("package", f.Package)
		for i, s := range f.Imports {
			fmt.Printf("import %d %+v %q\n", i+1, s, s.At.In(d))
		}
		for i, s := range f.Defs {
			fmt.Printf("def %d %s %q cont=%q scope=%d import=%d at=%d..%d full=%d..%d params=%d\n", i, s.Kind, s.Name, s.Container, s.Scope, s.Import, s.At.Start, s.At.End, s.Full.Start, s.Full.End, s.Parameters)
		}
		for _, s := range f.Uses {
			fmt.Printf("use %s %q base=%d at=%d..%d\n", s.Role, s.Name, s.Base, s.At.Start, s.At.End)
		}
	}
}
