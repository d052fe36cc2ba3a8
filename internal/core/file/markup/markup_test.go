package markup_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"rooktrail/internal/core/file/markup"
)

// write puts the blocks in short: a letter for the kind, and signs around runs.
func write(blocks []markup.Block) string {
	var out []string
	for _, b := range blocks {
		s := string("phciqr"[b.Kind]) + " "
		if b.Kind == markup.Item || b.Kind == markup.Heading {
			s = fmt.Sprintf("%c%d ", "phciqr"[b.Kind], b.Depth)
		}
		if b.Mark != "" {
			s += b.Mark + " "
		}
		if b.Kind == markup.Code {
			s += b.Language + ": " + strings.ReplaceAll(b.Text, "\n", "/")
		}
		for _, r := range b.Runs {
			sign := []string{"", "`", "**", "*", "_"}[r.Style]
			s += sign + r.Text + sign
		}
		out = append(out, strings.TrimSpace(s))
	}
	return strings.Join(out, "|")
}

func TestParse(t *testing.T) {
	for _, c := range []struct{ name, words, want string }{
		{"paragraphs run on", "One\ntwo.\n\nThree.", "p One two.|p Three."},
		{"what Go indents is code", "Use it so:\n\n\ta := b\n\tc()\n\nDone.", "p Use it so:|c Go: a := b/c()|p Done."},
		{"headings, lists and rules", "# Top\n\n- a\n  - b\n- c `x`\n\n1. one\n2. two\n\n---", "h1 Top|i0 – a|i1 – b|i0 – c `x`|i0 1. one|i0 2. two|r"},
		{"styles", "a **b** *c* [d](http://e) <http://f>", "p a **b** *c* _d_ _http://f_"},
		{"code of another language", "```python\nx = 1\n```", "c python: x = 1"},
		{"quotes", "> said", "q said"},
		{"Java", "Sends {@code x} to {@link Radio#send}.\n<p>\nMore &lt;b&gt;.\n@param hut the hut\n@return how\n@throws E if not", "p Sends `x` to `Radio.send`.|p More <b>.|i0 – `hut`: the hut|p **Returns** how|i0 – throws `E`: if not"},
		{"pre", "So:\n<pre>{@code\na\n}</pre>", "p So:|c Go: a"},
		{"JavaScript", "@param {string} name - of it\n@returns {number} count", "i0 – `name`: of it|p **Returns** count"},
		{"Python in sections", "Opens.\n\nArgs:\n    key: the key\n        that fits\n    door (str): which\n\nReturns:\n    True.", "p Opens.|p **Args**|i0 – `key`: the key that fits|i0 – `door (str)`: which|p **Returns**|p True."},
		{"Python in fields", "Opens.\n\n:param key: the key\n:returns: ``True``", "p Opens.|i0 – `key`: the key|p **Returns** `True`"},
		{"C", "@brief Reads.\n@param[in] p the probe", "p Reads.|i0 – `p`: the probe"},
		{"C#", "<summary>\nSends.\n</summary>\n<param name=\"hut\">the hut</param>\n<returns>how</returns>", "p Sends.|i0 – `hut`: the hut|p **Returns** how"},
		{"an e-mail is no tag", "ask me@tarn or\n@nobody knows", "p ask me@tarn or @nobody knows"},
		{"nothing", "", ""},
	} {
		assert.Equal(t, c.want, write(markup.Parse(c.words, "Go")), c.name)
	}
}

func TestSummary(t *testing.T) {
	for words, want := range map[string]string{
		"One {@code x}\ntwo.\n\nThree.": "One x two.\n\nThree.", "One.\n<ul><li>a</li></ul>\nTwo.": "One. +", "": "", "- a": " +",
	} {
		prose, more := markup.Summary(words, "Java")
		if more {
			prose += " +"
		}
		assert.Equal(t, want, prose, words)
	}
}

func FuzzParse(f *testing.F) {
	f.Add("a\n\n- b\n```\nc")
	f.Add("Args:\n  x: y\n<pre>")
	f.Add("{@link a b} @param [x] <li><p>")
	f.Fuzz(func(t *testing.T, words string) {
		for _, b := range markup.Parse(words, "Go") {
			assert.LessOrEqual(t, b.Kind, markup.Rule)
		}
	})
}
