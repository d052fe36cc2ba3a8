package publish

import (
	"bytes"
	"context"
	"fmt"
	"io"
	"slices"
	"strings"
)

// longestPattern is how long a line may be to be looked for by its text, in bytes; longer ones are found by their number.
const longestPattern = 200

// Tags writes the tags of all symbols as POSIX describes them for ctags: name, file, and how it is found there, with tabs between
// them, in the order of their bytes. What does not fit into such a line is left out.
func Tags(ctx context.Context, s *Source, to io.Writer) error {
	var tags []string
	err := s.files(ctx, func(f *file) error {
		if strings.ContainsAny(f.Path, "\t\n") {
			return nil
		}
		for _, d := range f.symbols {
			if d.Name == "" || strings.ContainsAny(d.Name, "\t\n ") {
				continue
			}
			line, _ := position(f.Text, d.At.Start)
			tags = append(tags, d.Name+"\t"+f.Path+"\t"+found(f.Text.Line(line), line)+"\n")
		}
		return nil
	})
	if err != nil {
		return err
	}
	slices.Sort(tags)
	for _, t := range slices.Compact(tags) {
		if _, err := io.WriteString(to, t); err != nil {
			return written(err)
		}
	}
	return nil
}

// found says how a line is found in its file: by its text, or by its number from 1.
func found(line []byte, number int) string {
	line = bytes.TrimRight(line, "\r\n")
	if len(line) > longestPattern || bytes.ContainsAny(line, "\x00\r") {
		return fmt.Sprint(number)
	}
	return "/^" + strings.NewReplacer(`\`, `\\`, `/`, `\/`, `$`, `\$`).Replace(string(line)) + "$/"
}
