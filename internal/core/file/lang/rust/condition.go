package rust

import (
	"strings"
	"text/scanner"

	"rooktrail/internal/core/file/lang"
)

// commonly holds what is so where most people build: what is said of the system by itself, and by a value.
var (
	commonly = lang.WordsOf("unix debug_assertions target_thread_local panic feature target_has_atomic")
	common   = map[string]string{"target_os": "linux", "target_family": "unix", "target_arch": "x86_64", "target_pointer_width": "64",
		"target_endian": "little", "target_env": "gnu", "panic": "unwind", "target_vendor": "unknown"}
)

// builtWith says whether the condition of a cfg, with its brackets, holds on a common system, with all features and without
// a test or a tool that has a build of its own.
func builtWith(condition string) bool {
	var s scanner.Scanner
	s.Init(strings.NewReader(condition))
	s.Error = func(*scanner.Scanner, string) {} // what cannot be read says nothing
	c := conditions{scanner: &s}
	c.next()
	return c.list(true, 0)
}

// conditions reads those of a cfg.
type conditions struct {
	scanner *scanner.Scanner
	token   rune
	text    string
}

func (c *conditions) next() {
	c.token = c.scanner.Scan()
	c.text = c.scanner.TokenText()
}

// mostNested bounds how deep conditions may lie in each other.
const mostNested = 50

// list reads conditions between brackets, and says whether all of them hold, or any.
func (c *conditions) list(all bool, depth int) bool {
	holds := all
	if c.token != '(' || depth > mostNested {
		return true
	}
	for c.next(); c.token != ')' && c.token != scanner.EOF; {
		if c.token == ',' {
			c.next()
			continue
		}
		if one := c.one(depth + 1); all {
			holds = holds && one
		} else {
			holds = holds || one
		}
	}
	c.next()
	return holds
}

// one reads a single condition.
func (c *conditions) one(depth int) bool {
	word := c.text
	switch c.next(); {
	case c.token == '(' && word == "not":
		return !c.list(true, depth)
	case c.token == '(':
		return c.list(word != "any", depth)
	case c.token == '=':
		c.next()
		value := strings.Trim(c.text, `"`)
		c.next()
		if is, ok := common[word]; ok {
			return is == value
		}
	}
	return commonly[word]
}
