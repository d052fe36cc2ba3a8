package python_test

import (
	"context"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/file/facts/factstest"
	"rooktrail/internal/core/file/lang/python"
)

const sample = `"""A module."""
from . import snow as white

# How steep is too steep.
STEEP: int = 55


@dataclass
class Slope(Base, metaclass=Meta):
    """A slope."""

    angle: float = 0.0

    def __init__(self, a, *rest, key=1, **more):
        self.a, self.b = a, rest
        self.a += 1

    @property
    def can_slide(self) -> bool:
        "Whether it can."
        return [x for x in self.b if (y := x)]


async def load(path):
    global STEEP
    STEEP = 3
    with open(path) as f, lock:
        for i, (line, end) in enumerate(f):
            del line
`

func TestOutline(t *testing.T) {
	_, lines := factstest.Outline(t, python.Language, sample)
	assert.Equal(t, []string{
		"constant STEEP | STEEP: int = 55 | # How steep is too steep.",
		"class Slope | class Slope(Base, metaclass=Meta) | \"\"\"A slope.\"\"\"",
		"field Slope.angle | angle: float = 0.0 | ",
		"constructor Slope.__init__ | def __init__(self, a, *rest, key=1, **more) | ",
		"field Slope.a | self.a, self.b = a, rest | ",
		"field Slope.b | self.a, self.b = a, rest | ",
		"property Slope.can_slide | def can_slide(self) -> bool | \"Whether it can.\"",
		"function load | async def load(path) | ",
	}, lines)
}

func TestRoles(t *testing.T) {
	f, err := python.Language.Facts(context.Background(), []byte(sample))
	require.NoError(t, err)
	roles := map[string]string{}
	for _, u := range f.Uses {
		roles[u.Name] += u.Role.String() + " "
	}
	assert.Equal(t, "readwrite ", roles["a"][len("read "):], "after it was read to be kept")
	assert.Equal(t, "read write ", roles["STEEP"], "global names the outer one")
	assert.Equal(t, "type ", roles["Base"])
	assert.Equal(t, "call ", roles["open"])
}

func FuzzFacts(f *testing.F) {
	factstest.Fuzz(f, python.Language, sample, "class (\n def", "match x:\n case A(b=c): pass\n", "lambda *a, **k: (yield)", "x: 'Y' = *z, w\n")
}
