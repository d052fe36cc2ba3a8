// Command rooktrail is a full-screen program for finding one's way through a
// code base; see rooktrail --help.
package main

import (
	"os"

	"rooktrail/internal/cli"
)

func main() { os.Exit(cli.Run(os.Args[1:], os.Stdin, os.Stdout, os.Stderr)) }
