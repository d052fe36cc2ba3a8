package serve

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"go.lsp.dev/protocol"
)

// Positions count lines that end in any of three ways, and characters in any of three units.
func TestPositions(t *testing.T) {
	const words = "hut\r\n𝛼 ö𝛽\rteam\n\nend\n"
	tests := []struct {
		units     units
		line, col uint32
		offset    int
	}{
		{utf16Units, 0, 0, 0},
		{utf16Units, 0, 3, 3},
		{utf16Units, 0, 99, 3}, // beyond the end of the line
		{utf16Units, 1, 0, 5},
		{utf16Units, 1, 2, 9},
		{utf16Units, 1, 3, 10},
		{utf16Units, 1, 4, 12},
		{utf16Units, 1, 6, 16},
		{utf32Units, 1, 1, 9},
		{utf32Units, 1, 4, 16},
		{utf8Units, 1, 4, 9},
		{utf8Units, 1, 5, 10},
		{utf16Units, 2, 0, 17},
		{utf16Units, 3, 0, 22},
		{utf16Units, 4, 3, 26},
		{utf16Units, 5, 0, 27},
		{utf16Units, 99, 7, 27}, // beyond the end of the text
	}
	for _, lone := range []bool{true, false} {
		text := words
		if !lone {
			text = "hut\r\n𝛼 ö𝛽\nteam\n\nend\n" // the same without a CR alone
		}
		doc := textOf(text)
		for _, tt := range tests {
			l := linesOf(doc, tt.units, loneReturns(doc.Bytes()))
			assert.Equal(t, lone, l.starts != nil)
			p := protocol.Position{Line: tt.line, Character: tt.col}
			assert.Equal(t, tt.offset, l.offset(p), "%v in %s", p, tt.units)
			if tt.col < 99 && tt.line < 99 {
				assert.Equal(t, p, l.position(tt.offset), "%d in %s", tt.offset, tt.units)
			}
		}
	}
	l := linesOf(textOf(words), utf16Units, 1)
	assert.Equal(t, 5, l.offset(protocol.Position{Line: 1, Character: 1}), "within a character it is the beginning of that")
}

func TestEmptyText(t *testing.T) {
	l := linesOf(textOf(""), utf16Units, 0)
	assert.Equal(t, 0, l.offset(protocol.Position{Line: 3, Character: 2}))
	assert.Equal(t, protocol.Position{}, l.position(0))
}
