package library

import (
	"testing"

	"github.com/stretchr/testify/assert"
)

// The folders of the user's own are those of the language, with the home written out.
func TestFoldersOfTheUsersOwn(t *testing.T) {
	m := New("/project", "")
	m.Home = "/home/ada"
	assert.Empty(t, m.Of("Python"))
	m.Folders = map[string][]string{"python": {"~/env", "/opt/py"}, "C": {"/opt/include"}}
	assert.Equal(t, []string{"/home/ada/env", "/opt/py"}, m.Of("Python"))
	assert.Equal(t, []string{"/opt/include"}, m.Of("C"))
}
