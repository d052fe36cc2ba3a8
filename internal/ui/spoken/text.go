package spoken

import (
	"regexp"
	"strings"
)

var escapes = regexp.MustCompile("\x1b\\[[0-9;]*m")

// Plain is what rows read, without their colours.
func Plain(rows []string) []string {
	out := make([]string, len(rows))
	for i, r := range rows {
		out[i] = escapes.ReplaceAllString(r, "")
	}
	return out
}

// pointer stands before the chosen row of a list.
const pointer = "▌"

// Chosen is the number of the row that is chosen in a list, as it is drawn, from 0; -1 if none is.
func Chosen(rows []string) int {
	for i, r := range rows {
		if strings.HasPrefix(strings.TrimLeft(r, " "), pointer) {
			return i
		}
	}
	return -1
}

// signs are those that are drawn, with what they mean; those that only divide are left out.
var signs = strings.NewReplacer(
	pointer, "", "▪", "", "▸", ",", "≡", "folded,", "✎", "changed,", "⚑", "bookmark,", "♜", "", "│", "", "─", "", "├", "", "└", "", "┌", "", "┐", "", "┘", "", "┬", "", "┴", "", "┤", "", "┼", "",
	"‹", "", "›", "", "…", "", "“", "\"", "”", "\"", "↑↓", "Up Down", "←→", "Left Right", "→←", "Right Left", "↑", "Up", "↓", "Down", "←", "Left", "→", "Right", "±", "changed",
)

var gaps = regexp.MustCompile(` {2,}`)

// Said is a row as it is read out: without what is only drawn, and with a comma where there was a gap.
func Said(row string) string {
	words := strings.TrimSpace(signs.Replace(row))
	words = gaps.ReplaceAllString(words, ", ")
	for strings.Contains(words, ", ,") {
		words = strings.ReplaceAll(words, ", ,", ",")
	}
	return strings.Trim(strings.ReplaceAll(words, " ,", ","), ", ")
}
