package place

import (
	"net/url"
	"path/filepath"
	"strings"
)

// URI names a file, of which the path is absolute, as RFC 8089 does.
func URI(path string) string {
	return (&url.URL{Scheme: "file", Path: filepath.ToSlash(path)}).String()
}

// OfURI is the absolute path of the file that a URI names; "" if it names none on this machine.
func OfURI(uri string) string {
	u, err := url.Parse(uri)
	if err != nil || u.Scheme != "file" || u.Host != "" && u.Host != "localhost" || strings.ContainsRune(u.Path, 0) {
		return ""
	}
	path := filepath.FromSlash(u.Path)
	if !filepath.IsAbs(path) {
		return ""
	}
	return filepath.Clean(path)
}
