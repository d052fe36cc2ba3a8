package project

import (
	"bytes"
	"crypto/sha256"
	"encoding/hex"
	"io"
	"path/filepath"

	"rooktrail/internal/core/disk/door"
)

// Identity is by what a project is known again when it was moved: each is a word that no
// other project has. It may be empty.
func Identity(root string) (are []string) {
	if id := folderIdentity(root); id != "" {
		are = append(are, id)
	}
	if id := cloneIdentity(root); id != "" {
		are = append(are, id)
	}
	return are
}

// cloneIdentity is that of a clone: the first line of its log says from where and when it
// came, down to the second. Two clones have different ones. A repository that was begun
// otherwise has none, as several may have been begun by the same script.
func cloneIdentity(root string) string {
	data, err := head(filepath.Join(gitFolder(root), "logs", "HEAD"))
	first, _, ended := bytes.Cut(data, []byte("\n"))
	if err != nil || !ended || !bytes.Contains(first, []byte("\tclone: from ")) {
		return ""
	}
	sum := sha256.Sum256(first)
	return "clone:" + hex.EncodeToString(sum[:12])
}

// head reads the beginning of a file: only its first line is of interest, and it may be long.
func head(file string) ([]byte, error) {
	f, _, err := door.Open(file)
	if err != nil {
		return nil, err
	}
	defer f.Close()
	return io.ReadAll(io.LimitReader(f, 1<<16))
}
