//go:build unix

package publish

import "golang.org/x/sys/unix"

// lookAt tells what stands at a path. It asks the system itself: os.Lstat takes twice as
// long for what is not needed here, and that is a third of an update.
func lookAt(name string) standing {
	var s unix.Stat_t
	err := unix.Lstat(name, &s)
	for err == unix.EINTR {
		err = unix.Lstat(name, &s)
	}
	if err != nil {
		return standing{}
	}
	switch s.Mode & unix.S_IFMT {
	case unix.S_IFDIR:
		return standing{kind: folderThere}
	case unix.S_IFREG:
		return standing{file, s.Size, s.Mtim.Nano()}
	}
	return standing{kind: link}
}
