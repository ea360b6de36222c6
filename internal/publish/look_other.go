//go:build !unix

package publish

import "os"

// lookAt tells what stands at a path.
func lookAt(name string) standing {
	info, err := os.Lstat(name)
	switch {
	case err != nil:
		return standing{}
	case info.IsDir():
		return standing{kind: folderThere}
	case !info.Mode().IsRegular():
		return standing{kind: link}
	}
	return standing{file, info.Size(), info.ModTime().UnixNano()}
}
