package workspace_test

import (
	"context"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/change/write"
	"rooktrail/internal/core/file/facts"
	"rooktrail/internal/core/know/answer"
	"rooktrail/internal/core/know/resolve"
	"rooktrail/internal/core/workspace/workspacetest"
)

// In { name }, a member and a value have the same name. Writing another at all uses of the one
// leaves that of the other as it is.
func TestRenamingWhereAMemberAndItsValueHaveOneName(t *testing.T) {
	lines := []string{
		"interface Hut { wet?: boolean; size: number }",
		"function dry(total: number, { wet = false, size }: Hut, hut: Hut) {",
		"  const made = { total, wet };",
		"  return [made.total, total, wet, hut.wet, made.wet, size, hut.size];",
		"}",
	}
	for at, want := range map[string]map[int]string{
		"1 wet":     {1: "interface Hut { NEW?: boolean; size: number }", 2: "function dry(total: number, { NEW: wet = false, size }: Hut, hut: Hut) {", 4: "  return [made.total, total, wet, hut.NEW, made.wet, size, hut.size];"},
		"1 size":    {1: "interface Hut { wet?: boolean; NEW: number }", 2: "function dry(total: number, { wet = false, NEW: size }: Hut, hut: Hut) {", 4: "  return [made.total, total, wet, hut.wet, made.wet, size, hut.NEW];"},
		"2 total":   {2: "function dry(NEW: number, { wet = false, size }: Hut, hut: Hut) {", 3: "  const made = { total: NEW, wet };", 4: "  return [made.total, NEW, wet, hut.wet, made.wet, size, hut.size];"},
		"3 total":   {2: "function dry(NEW: number, { wet = false, size }: Hut, hut: Hut) {", 3: "  const made = { total: NEW, wet };", 4: "  return [made.total, NEW, wet, hut.wet, made.wet, size, hut.size];"},
		"2 wet":     {2: "function dry(total: number, { wet: NEW = false, size }: Hut, hut: Hut) {", 3: "  const made = { total, wet: NEW };", 4: "  return [made.total, total, NEW, hut.wet, made.wet, size, hut.size];"},
		"2 size":    {2: "function dry(total: number, { wet = false, size: NEW }: Hut, hut: Hut) {", 4: "  return [made.total, total, wet, hut.wet, made.wet, NEW, hut.size];"},
		"4 total":   {3: "  const made = { NEW: total, wet };", 4: "  return [made.NEW, total, wet, hut.wet, made.wet, size, hut.size];"},
		"4 size":    {2: "function dry(total: number, { wet = false, size: NEW }: Hut, hut: Hut) {", 4: "  return [made.total, total, wet, hut.wet, made.wet, NEW, hut.size];"},
		"4 wet, hu": {2: "function dry(total: number, { wet: NEW = false, size }: Hut, hut: Hut) {", 3: "  const made = { total, wet: NEW };", 4: "  return [made.total, total, NEW, hut.wet, made.wet, size, hut.size];"},
	} {
		ctx, w := context.Background(), workspacetest.Open(t, map[string]string{"hut.ts": strings.Join(lines, "\n") + "\n"})
		f, err := w.Code.Load(ctx, "hut.ts")
		require.NoError(t, err)
		line := int(at[0] - '0')
		offset := f.Text.Offset(line, strings.Index(lines[line-1], at[2:])+1)
		res, refs := w.Answers.All(ctx, answer.Question{Way: answer.ToReferences, Path: "hut.ts", Offset: offset, Scope: resolve.Scope{Value: true}})
		require.Len(t, res.Answers, 1, at)
		uses := [][2]int{{int(res.Answers[0].At.Start), int(res.Answers[0].At.End)}}
		for _, r := range refs {
			uses = append(uses, [2]int{int(r.At.Start), int(r.At.End)})
		}
		e := write.New(f.Text, offset, write.Style{})
		e.AddAt(uses)
		e.WriteOut(w.Code.Shorthands(ctx, "hut.ts", f.Text), res.Answers[0].Kind == facts.Property)
		e.Type("NEW")
		for i, l := range lines {
			if now, ok := want[i+1]; ok {
				l = now
			}
			assert.Equal(t, l, string(e.Document().Line(i+1)), at)
		}
	}
}
