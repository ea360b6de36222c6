package scripts

import (
	"bufio"
	_ "embed"
	"errors"
	"fmt"
	"io"
	"runtime"
	"runtime/debug"
	"strings"
	"sync"
	"time"

	"github.com/dop251/goja"
	"github.com/dop251/goja/parser"

	"brickshelf/internal/core/script"
)

// Limits of one run.
const (
	maxTime   = 50 * time.Millisecond // of the processor
	maxDepth  = 400                   // of calls within calls
	maxOutput = 1 << 20               // bytes
	maxMemory = 256 << 20             // bytes, of the worker as a whole
	maxTold   = 10_000                // bytes of the text of what is thrown
	maxKnown  = 6                     // data sets kept from run to run
)

//go:embed prelude.js
var prelude string

// Serve is a worker: it runs the scripts that it is asked to run until in ends.
// The process limits its memory, so it should do nothing else.
func Serve(in io.Reader, out io.Writer) error {
	runtime.GOMAXPROCS(1)
	debug.SetMemoryLimit(maxMemory * 3 / 4)
	limitMemory(maxMemory)
	w := &worker{programs: map[string]*goja.Program{}, data: map[string]goja.Value{},
		sites: map[string]goja.Value{}}
	if err := w.begin(); err != nil {
		return err
	}
	if err := writeFrame(out, response{}); err != nil { // it is ready
		return err
	}
	in = bufio.NewReaderSize(in, 1<<16)
	for {
		var r request
		if err := readFrame(in, &r); err != nil {
			if errors.Is(err, io.EOF) {
				return nil
			}
			return err
		}
		if err := writeFrame(out, w.run(&r)); err != nil {
			return err
		}
	}
}

// worker keeps one interpreter, whose globals nobody can change.
type worker struct {
	vm       *goja.Runtime
	now      time.Time
	read     goja.Callable
	call     goja.Callable
	tell     goja.Callable            // gives the text of what was thrown, by code of the script maybe
	programs map[string]*goja.Program // by hash of their source and path
	data     map[string]goja.Value    // by hash
	sites    map[string]goja.Value    // by their JSON

	mu   sync.Mutex
	turn int // counts the runs, begun and ended
}

func (w *worker) begin() error {
	w.vm = goja.New()
	w.vm.SetParserOptions(parser.WithDisableSourceMaps)
	w.vm.SetMaxCallStackSize(maxDepth)
	w.vm.SetTimeSource(func() time.Time { return w.now })
	v, err := w.vm.RunScript("prelude", prelude)
	if err != nil {
		return fmt.Errorf("preparing the interpreter: %w", err)
	}
	o := v.ToObject(w.vm)
	w.read, _ = goja.AssertFunction(o.Get("read"))
	w.call, _ = goja.AssertFunction(o.Get("run"))
	w.tell, _ = goja.AssertFunction(o.Get("tell"))
	return nil
}

// run runs one script. Its top level is run too, so that its variables are new.
func (w *worker) run(r *request) (answer response) {
	defer func() {
		if recover() != nil {
			answer = response{Failed: true, Line: r.Line, Column: 1,
				Message: "the script made the interpreter fail", Broken: true}
		}
	}()
	if r.Source != "" {
		p, err := goja.Compile(r.Path, "(function(){\"use strict\";"+r.Source+"\n;return "+script.Function+
			"})()", true)
		if err != nil {
			return response{Failed: true, Line: r.Line, Column: 1, Message: err.Error()}
		}
		w.programs[r.Script] = p
	}
	w.now, _ = time.Parse(time.RFC3339, r.Now)
	page, site, err := w.given(r)
	if err != nil {
		return w.failed(err, r)
	}
	stop := w.watch()
	defer stop()
	out, err := w.invoke(r, page, site)
	if err != nil {
		return w.failed(err, r)
	}
	o := out.ToObject(w.vm)
	answer = response{Text: o.Get("text").String(), HTML: o.Get("html").ToBoolean()}
	if len(answer.Text) > maxOutput {
		return response{Failed: true, Line: r.Line, Column: 1,
			Message: fmt.Sprintf("gave %d bytes; at most %d may be shown", len(answer.Text), maxOutput)}
	}
	return answer
}

// given makes what the script may read, which no run can change.
func (w *worker) given(r *request) (page, site goja.Value, err error) {
	if r.Forget {
		clear(w.data)
	}
	if len(w.sites) > maxKnown {
		clear(w.sites)
	}
	known := func(in map[string]goja.Value, key, text string) (goja.Value, error) {
		if v := in[key]; v != nil {
			return v, nil
		}
		v, err := w.read(nil, w.vm.ToValue(text))
		if err == nil {
			in[key] = v
		}
		return v, err
	}
	base, err := known(w.sites, string(r.Site), string(r.Site))
	if err != nil {
		return nil, nil, err
	}
	all := w.vm.NewObject()
	for _, k := range base.ToObject(w.vm).Keys() {
		_ = all.Set(k, base.ToObject(w.vm).Get(k))
	}
	for what, hash := range r.Data {
		v, err := known(w.data, hash, r.Texts[hash])
		if err != nil {
			return nil, nil, err
		}
		_ = all.Set(what, v)
	}
	page = goja.Undefined()
	if r.Page != nil {
		page, err = w.read(nil, w.vm.ToValue(string(r.Page)))
	}
	return page, all, err
}

func (w *worker) invoke(r *request, page, site goja.Value) (goja.Value, error) {
	f, err := w.vm.RunProgram(w.programs[r.Script])
	if err != nil {
		return nil, err
	}
	return w.call(nil, f, w.vm.ToValue(string(r.Args)), w.vm.ToValue(r.Inner), page, site,
		w.vm.ToValue(r.Now))
}

// watch interrupts the script when it has taken its time. What the interpreter
// cannot interrupt is left to the other side, which ends the whole process.
func (w *worker) watch() (stop func()) {
	w.mu.Lock()
	defer w.mu.Unlock()
	w.turn++
	w.vm.ClearInterrupt()
	turn, start := w.turn, ownTime()
	var timer *time.Timer
	timer = time.AfterFunc(maxTime, func() {
		w.mu.Lock()
		defer w.mu.Unlock()
		switch left := maxTime - (ownTime() - start); {
		case turn != w.turn: // it has ended
		case left > 0:
			timer.Reset(max(left, time.Millisecond))
		default:
			w.vm.Interrupt(errTime)
		}
	})
	return func() {
		w.mu.Lock()
		w.turn++
		w.mu.Unlock()
		timer.Stop()
	}
}

var errTime = errors.New("took longer than 50 ms; look for a loop that does not end, or do less")

// textOf is the text of what a script threw. It is the script's own code that gives it
// where it threw an object, so it is run as such, with what is left of its time.
func (w *worker) textOf(thrown *goja.Exception) string {
	text, err := w.tell(nil, thrown.Value())
	if err == nil {
		if s, ok := text.Export().(string); ok {
			return s[:min(len(s), maxTold)]
		}
	}
	return "it threw something whose text cannot be told"
}

// failed tells where in the script something went wrong.
func (w *worker) failed(err error, r *request) response {
	a := response{Failed: true, Line: r.Line, Column: 1}
	var stack []goja.StackFrame
	var thrown *goja.Exception
	var stopped *goja.InterruptedError
	var deep *goja.StackOverflowError
	switch {
	case errors.As(err, &stopped):
		stack, a.Message = stopped.Stack(), errTime.Error()
	case errors.As(err, &deep):
		stack, a.Message = deep.Stack(),
			fmt.Sprintf("calls go more than %d deep; look for a function that calls itself", maxDepth)
	case errors.As(err, &thrown):
		stack, a.Message = thrown.Stack(), w.textOf(thrown)
	default:
		a.Message = err.Error()
	}
	for _, f := range stack {
		if f.SrcName() == r.Path {
			a.Line, a.Column = f.Position().Line, f.Position().Column
			break
		}
	}
	a.Message = strings.TrimSpace(a.Message)
	return a
}
