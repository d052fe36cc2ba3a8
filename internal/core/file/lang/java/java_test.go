package java_test

import (
	"context"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"rooktrail/internal/core/file/facts/factstest"
	"rooktrail/internal/core/file/lang/java"
)

const sample = `package tarn.gateway;

/** Listens. */
@Deprecated
public final class Radio<T> extends Device implements Runnable {
    // How often.
    static final int TRIES = 3, more[] = {1};

    public Radio(T t, int... rest) throws Oops { }

    @Override
    public void run() { for (int i = 0; i < TRIES; i++) { more[i] += 1; } }

    enum Band { LOW, HIGH }
    record Frame(int hut) { Frame { check(hut); } }
    @interface Mark { String value() default ""; }
}
`

func TestOutline(t *testing.T) {
	f, lines := factstest.Outline(t, java.Language, sample)
	assert.Equal(t, []string{
		"class Radio | public final class Radio<T> extends Device implements Runnable | /** Listens. */",
		"constant Radio.TRIES | static final int TRIES = 3, more[] = {1}; | // How often.",
		"constant Radio.more | static final int TRIES = 3, more[] = {1}; | // How often.",
		"constructor Radio.Radio | public Radio(T t, int... rest) throws Oops | ",
		"method Radio.run | public void run() | ",
		"enum Radio.Band | enum Band | ", "enum member Band.LOW | LOW | ", "enum member Band.HIGH | HIGH | ",
		"class Radio.Frame | record Frame(int hut) | ", "field Frame.hut | int hut | ", "constructor Frame.Frame | Frame | ",
		"interface Radio.Mark | @interface Mark | ", "method Mark.value | String value() default \"\"; | ",
	}, lines)
	assert.Equal(t, "tarn.gateway", f.Package)
}

func TestBrokenCodeCostsWhatItTouches(t *testing.T) {
	f, err := java.Language.Facts(context.Background(), []byte("class A { void good() {} void bad( { } class B {}"))
	require.NoError(t, err)
	require.NotEmpty(t, f.Defs)
	assert.Equal(t, "A", f.Defs[0].Name)
}

func FuzzFacts(f *testing.F) {
	factstest.Fuzz(f, java.Language, sample, "class A { int x = switch (y) { case B(var c) -> c; default -> d::e; }; }", "import static a.*; enum E { A { } ; } interface", "class { void m(this) {} }")
}
