// Command brickshelf keeps the blocks of a site and tells what edits of them change.
package main

import (
	"os"

	"brickshelf/internal/cli"
)

func main() { os.Exit(cli.Run(os.Args[1:], os.Stdout, os.Stderr)) }
