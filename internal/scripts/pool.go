// Package scripts runs scripted shortcodes in worker processes, which are ended and
// started again when a script oversteps its limits.
package scripts

import (
	"bufio"
	"io"
	"os/exec"
	"sync"
	"time"

	"brickshelf/internal/core/script"
)

// Beyond maxTime a worker has grace to say itself that a script took too long; and
// no run takes longer than patience, however busy the machine is.
const (
	grace    = 30 * time.Millisecond
	patience = 60 * time.Second
)

// Pool runs scripts in workers. Its zero value is not usable; see NewPool.
type Pool struct {
	start func() *exec.Cmd
	idle  chan *process // nil where a place is free for a worker that is not started yet
}

// NewPool makes a pool of so many workers, each started by a command when it is
// first needed. The command must call Serve.
func NewPool(workers int, start func() *exec.Cmd) *Pool {
	p := &Pool{start: start, idle: make(chan *process, workers)}
	for range workers {
		p.idle <- nil
	}
	return p
}

// Close ends the workers.
func (p *Pool) Close() {
	for range cap(p.idle) {
		if w := <-p.idle; w != nil {
			w.end()
		}
	}
}

// Run runs a script in a worker that has nothing else to do.
func (p *Pool) Run(c script.Call) (script.Output, *script.Failure) {
	w := <-p.idle
	defer func() { p.idle <- w }()
	if w == nil {
		var err error
		if w, err = launch(p.start()); err != nil {
			w = nil
			failure := at(c, 0, 0, "the worker that runs scripts does not start: "+err.Error())
			failure.Passing = true
			return script.Output{}, failure
		}
	}
	answer, why := w.ask(c)
	if why != "" {
		w.end()
		w = nil
		return script.Output{}, at(c, 0, 0, why)
	}
	if answer.Broken { // what it was doing has not been put in order
		w.end()
		w = nil
	}
	if answer.Failed {
		return script.Output{}, at(c, answer.Line, answer.Column, answer.Message)
	}
	return script.Output{Text: answer.Text, HTML: answer.HTML}, nil
}

func at(c script.Call, line, column int, message string) *script.Failure {
	if line == 0 {
		line, column = c.Script.Line, 1
	}
	return &script.Failure{Path: c.Script.Path, Line: line, Column: column, Message: message}
}

// process is a worker that runs, with what it has been told.
type process struct {
	cmd   *exec.Cmd
	in    io.WriteCloser
	out   *bufio.Reader
	told  map[string]bool // hashes of sources
	known map[string]bool // hashes of data
	once  sync.Once
}

func launch(cmd *exec.Cmd) (*process, error) {
	in, err := cmd.StdinPipe()
	if err != nil {
		return nil, err
	}
	out, err := cmd.StdoutPipe()
	if err != nil {
		return nil, err
	}
	if err := cmd.Start(); err != nil {
		return nil, err
	}
	w := &process{cmd: cmd, in: in, out: bufio.NewReaderSize(out, 1<<16), told: map[string]bool{},
		known: map[string]bool{}}
	var ready response
	if err := readFrame(w.out, &ready); err != nil {
		w.end()
		return nil, err
	}
	return w, nil
}

func (w *process) end() {
	w.once.Do(func() {
		_ = w.in.Close()
		_ = w.cmd.Process.Kill()
		_ = w.cmd.Wait()
	})
}

// ask runs a script. why says what was wrong where the worker gave no answer.
func (w *process) ask(c script.Call) (answer response, why string) {
	r := w.request(c)
	allowed := maxTime + grace
	if r.Source != "" || len(r.Texts) > 0 {
		allowed += time.Second / 2 // it reads a source or data for the first time
	}
	done := w.guard(allowed)
	err := writeFrame(w.in, r)
	if err == nil {
		err = readFrame(w.out, &answer)
	}
	switch tooLong := done(); {
	case err == nil:
		return answer, ""
	case tooLong:
		return response{}, errTime.Error()
	}
	return response{}, "took more memory than the 256 MB that a script may, or made the interpreter fail"
}

// guard ends the worker when it works longer than allowed, until done is called,
// which reports whether that has happened.
func (w *process) guard(allowed time.Duration) (done func() bool) {
	var mu sync.Mutex
	ended, killed := false, false
	begun, start := time.Now(), timeOf(w.cmd.Process.Pid)
	mu.Lock()
	defer mu.Unlock()
	var timer *time.Timer
	timer = time.AfterFunc(allowed, func() {
		mu.Lock()
		defer mu.Unlock()
		left := allowed - (timeOf(w.cmd.Process.Pid) - start)
		switch {
		case ended:
		case left > 0 && time.Since(begun) < patience:
			timer.Reset(max(left, time.Millisecond))
		default:
			killed = true
			_ = w.cmd.Process.Kill()
		}
	})
	return func() bool {
		mu.Lock()
		defer mu.Unlock()
		ended = true
		timer.Stop()
		return killed
	}
}

// request is a call as the worker gets it, without what it knows.
func (w *process) request(c script.Call) *request {
	s := c.Script
	r := &request{Script: string(s.Hash) + " " + s.Path, Path: s.Path, Line: s.Line, Args: c.Args,
		Inner: string(c.Inner), Page: c.Page, Site: c.Site, Now: c.Now, Data: map[string]string{},
		Texts: map[string]string{}}
	if !w.told[r.Script] {
		w.told[r.Script] = true
		r.Source = string(s.Source)
	}
	if len(w.known)+len(c.Data) > maxKnown {
		clear(w.known)
		r.Forget = true
	}
	for what, d := range c.Data {
		hash := string(d.Hash)
		r.Data[what] = hash
		if !w.known[hash] {
			w.known[hash] = true
			r.Texts[hash] = string(d.JSON)
		}
	}
	return r
}
