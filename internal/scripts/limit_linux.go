package scripts

import (
	"os"
	"strconv"
	"strings"
	"time"

	"golang.org/x/sys/unix"
)

// limitMemory lets the process take so many bytes more than it has.
func limitMemory(more uint64) {
	b, err := os.ReadFile("/proc/self/statm")
	if err != nil {
		return
	}
	pages, err := strconv.ParseUint(strings.Fields(string(b))[0], 10, 64)
	if err != nil {
		return
	}
	most := pages*uint64(os.Getpagesize()) + more
	_ = unix.Setrlimit(unix.RLIMIT_AS, &unix.Rlimit{Cur: most, Max: most})
}

// ownTime is how long the processor has worked for this process.
func ownTime() time.Duration { return clock(unix.CLOCK_PROCESS_CPUTIME_ID) }

// timeOf is how long the processor has worked for a process.
func timeOf(pid int) time.Duration { return clock(int32(^pid<<3 | 2)) } // as clock_getcpuclockid(3) makes it

func clock(id int32) time.Duration {
	var t unix.Timespec
	if unix.ClockGettime(id, &t) != nil {
		return 0
	}
	return time.Duration(t.Nano())
}
