package mend

import (
	"bufio"
	"os"
	"strings"
)

// lists are where systems have lists of words.
var lists = []string{"/usr/share/dict/words", "/usr/share/dict/american-english", "/usr/share/dict/british-english", "/usr/dict/words"}

// mostWords is how many words are read of all lists, and longest how long a list is at the most, in bytes.
const (
	mostWords = 2_000_000
	longest   = 64 << 20
)

// readWords reads the lists of words that there are.
func (m *Mender) readWords() {
	m.words = map[string]bool{}
	for _, file := range append(lists, m.Words...) {
		info, err := os.Stat(file)
		if err != nil || !info.Mode().IsRegular() || info.Size() > longest {
			continue // most systems have but one of them
		}
		f, err := os.Open(file)
		if err != nil {
			continue
		}
		for in := bufio.NewScanner(f); in.Scan() && len(m.words) < mostWords; {
			if w := strings.TrimSpace(in.Text()); w != "" && !strings.HasPrefix(w, "#") {
				m.words[strings.ToLower(w)] = true
			}
		}
		f.Close()
	}
}
