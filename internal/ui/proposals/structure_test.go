package proposals_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/file/place"
	"rooktrail/internal/ui/keymap"
	"rooktrail/internal/ui/uitest"
)

// selected opens a file of one's own, with a text selected.
func selected(t *testing.T, file, body, from, to string) *bench {
	kept := files[file]
	files[file] = body
	t.Cleanup(func() {
		if files[file] = kept; kept == "" {
			delete(files, file)
		}
	})
	b := open(t, file, to)
	end := b.host.At.Offset + len(to)
	b.at(file, from)
	b.host.At.Selection = place.Range{Start: uint32(b.host.At.Offset), End: uint32(end)}
	return b
}

const far = "def far(a, b):\n    if a * b > 2:\n        return a * b\n    return 0\n\n\nprint(far(1, 2))\n"

func TestAVariableForAnExpression(t *testing.T) {
	b := selected(t, "far.py", far, "a * b", "a * b")
	todo := b.do(keymap.MakeVariable, "area", "") // the first choice is all that are equal
	assert.Equal(t, b.s, todo.Open)
	assert.Contains(t, b.text(), "area for a * b")
	uitest.Press(b.s, "ctrl+s")
	assert.Equal(t, "def far(a, b):\n    area = a * b\n    if area > 2:\n        return area\n    return 0\n\n\nprint(far(1, 2))\n", b.read("far.py"))
}

func TestAVariableWithoutASelection(t *testing.T) {
	b := selected(t, "far.py", far, "a * b", "a * b")
	b.host.At.Selection = place.Range{}
	list := uitest.Last(uitest.Carry(b.s.Commands()[keymap.MakeVariable]())).Open
	list.Resize(100, 10)
	shown := uitest.Of(list, 100, 10)
	assert.Contains(t, shown, "a variable for which expression?")
	assert.Contains(t, shown, "a * b > 2")
	b.host.At.Offset = 0
	b.host.At.Selection = place.Range{Start: 0, End: 3}
	no := b.do(keymap.MakeVariable)
	assert.Equal(t, "no expression is selected; + selects more", no.Say)
	assert.True(t, no.Unkey, "a name that was typed ahead is not done as keys")
}

func TestAFunctionOfStatements(t *testing.T) {
	b := selected(t, "far.py", far, "if a", "return 0")
	b.do(keymap.MakeFunction, "limited")
	assert.Contains(t, b.text(), "new function  def limited(a, b):")
	made := uitest.Last(uitest.Press(b.s, "ctrl+s"))
	require.NotNil(t, made.Follow)
	assert.Equal(t, []int{2, 5}, []int{made.Follow.Place.Line, made.Follow.Place.Col}, "one stays at the call")
	assert.Equal(t, "def far(a, b):\n    return limited(a, b)\n\n\ndef limited(a, b):\n    if a * b > 2:\n        return a * b\n    return 0\n\n\nprint(far(1, 2))\n", b.read("far.py"))
	b = selected(t, "far.py", far, "if a", "a * b > 2:")
	assert.Equal(t, "no whole statements are selected, nor an expression; + selects more", b.do(keymap.MakeFunction).Say)
}

func TestPuttingInPlace(t *testing.T) {
	b := selected(t, "far.py", "def half(n):\n    return n / 2\n\n\nprint(half(3), half(4))\n", "half(3)", "half")
	b.do(keymap.PutInPlace)
	uitest.Press(b.s, "ctrl+s")
	assert.Contains(t, b.read("far.py"), "print(3 / 2, half(4))")
}

func TestParameters(t *testing.T) {
	b := selected(t, "far.py", far, "far(a", "far")
	b.do(keymap.Parameters, "a, b, limit", "2")
	assert.Contains(t, b.text(), "far takes (a, b, limit)")
	uitest.Press(b.s, "ctrl+s")
	assert.Contains(t, b.read("far.py"), "def far(a, b, limit):")
	assert.Contains(t, b.read("far.py"), "print(far(1, 2, 2))")
}

func TestPuttingInOrder(t *testing.T) {
	b := selected(t, "form.go", "package bell\n\nimport \"os\"\n\nvar  A = 1\n\nvar  B = 2\n", "var  A", "A = 1")
	b.do(keymap.InOrder, "") // what is selected
	assert.Equal(t, "package bell\n\nimport \"os\"\n\nvar A = 1\n\nvar  B = 2\n", b.read("form.go"))
	b.at("form.go", "var  B")
	list := uitest.Last(uitest.Carry(b.s.Commands()[keymap.InOrder]())).Open
	require.NotNil(t, list)
	uitest.Press(list, "enter") // what it imports
	assert.Equal(t, "package bell\n\nvar A = 1\n\nvar  B = 2\n", b.read("form.go"))
	b.do(keymap.ChangeUndo)
	assert.Contains(t, b.read("form.go"), "import \"os\"")
}

// A name that could come from several places is asked for.
func TestChoosingAnImport(t *testing.T) {
	files["one.py"], files["two.py"] = "class Hut:\n    pass\n", "class Hut:\n    pass\n"
	defer func() { delete(files, "one.py"); delete(files, "two.py") }()
	b := selected(t, "use.py", "print(Hut())\n", "Hut", "Hut")
	b.host.At.Selection = place.Range{}
	list := uitest.Last(uitest.Carry(b.s.Commands()[keymap.InOrder]())).Open
	asked := uitest.Last(uitest.Press(list, "enter")).Open
	require.NotNil(t, asked)
	asked.Resize(100, 10)
	assert.Contains(t, uitest.Of(asked, 100, 10), "from where does Hut come (line 1)?")
	uitest.Press(asked, "down", "enter")
	assert.Equal(t, "from two import Hut\n\nprint(Hut())\n", b.read("use.py"))
}

// A file that is called after a type goes along if one says so.
func TestRenamingATypeWithItsFile(t *testing.T) {
	b := selected(t, "hut.py", "class Hut:\n    pass\n", "Hut", "Hut")
	b.do(keymap.Rename, "Shed", "") // the first choice is both
	assert.Contains(t, b.text(), "hut.py → shed.py")
	uitest.Press(b.s, "ctrl+s")
	assert.Equal(t, "class Shed:\n    pass\n", b.read("shed.py"))
}
