package typecheck

import (
	"net"
	"os"
	"path/filepath"
	"syscall"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// Listing packages asks nobody on the network, runs nothing and writes nothing, whatever the
// user's own settings and the project say.
func TestListingTouchesNothing(t *testing.T) {
	root, tools := t.TempDir(), t.TempDir()
	witness := filepath.Join(tools, "was-run")
	for _, name := range []string{"git", "hg", "ssh", "svn"} {
		require.NoError(t, os.WriteFile(filepath.Join(tools, name), []byte("#!/bin/sh\necho \"$0 $*\" >> "+witness+"\n"), 0o755))
	}
	asked := make(chan string, 100)
	server, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	defer server.Close()
	go func() {
		for {
			c, err := server.Accept()
			if err != nil {
				return
			}
			asked <- c.RemoteAddr().String()
			c.Close()
		}
	}()
	proxy := "http://" + server.Addr().String()
	for name, value := range map[string]string{
		"PATH": tools + string(os.PathListSeparator) + os.Getenv("PATH"), "HTTPS_PROXY": proxy, "HTTP_PROXY": proxy, "GOPROXY": proxy, "GOPRIVATE": "tarn.example", "GONOSUMDB": "*",
		"GOFLAGS": "-mod=mod -tags=winter", "GOVCS": "*:all", "GOINSECURE": "*", "GOTOOLCHAIN": "auto",
	} {
		t.Setenv(name, value)
	}
	mod := "module tarn.example/here\n\ngo 1.21\n\nrequire tarn.example/hut v1.2.3\n"
	for name, text := range map[string]string{"go.mod": mod, "a.go": "package here\n\nimport _ \"tarn.example/hut\"\n\nfunc F() {}\n", "winter.go": "//go:build winter\n\npackage here\n\nfunc Snow() {}\n"} {
		require.NoError(t, os.WriteFile(filepath.Join(root, name), []byte(text), 0o644))
	}
	l, err := list(t.Context(), root, []string{"."}, "./...")
	require.NoError(t, err)
	require.Len(t, l.checked, 1)
	assert.Len(t, l.checked[0].files, 2, "the user's own tags count")
	assert.NoFileExists(t, witness)
	assert.Empty(t, asked)
	now, err := os.ReadFile(filepath.Join(root, "go.mod"))
	require.NoError(t, err)
	assert.Equal(t, mod, string(now))
	entries, _ := os.ReadDir(root)
	assert.Len(t, entries, 3, "nothing is written beside it")
}

// What stands in the place of go.mod is no file: the go command is not asked at all.
func TestAModuleWhoseFilesDoNotEnd(t *testing.T) {
	root := t.TempDir()
	require.NoError(t, os.WriteFile(filepath.Join(root, "a.go"), []byte("package here\n"), 0o644))
	require.NoError(t, os.Symlink("/dev/zero", filepath.Join(root, "go.mod")))
	_, err := list(t.Context(), root, []string{"."}, "./...")
	assert.ErrorContains(t, err, "go.mod is not read")
	require.NoError(t, os.Remove(filepath.Join(root, "go.mod")))
	require.NoError(t, os.WriteFile(filepath.Join(root, "go.mod"), []byte("module here\n"), 0o644))
	require.NoError(t, syscall.Mkfifo(filepath.Join(root, "go.sum"), 0o644))
	_, err = list(t.Context(), root, []string{"."}, "./...")
	assert.ErrorContains(t, err, "go.sum is not read")
}
