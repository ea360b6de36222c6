package scripts_test

import (
	"fmt"
	"os"
	"os/exec"
	"strings"
	"sync"
	"testing"

	"github.com/stretchr/testify/require"

	"brickshelf/internal/core/block"
	"brickshelf/internal/core/script"
	"brickshelf/internal/core/site"
	"brickshelf/internal/scripts"
)

// The test binary is its own worker.
func TestMain(m *testing.M) {
	if os.Getenv("SCRIPT_WORKER") != "" {
		if err := scripts.Serve(os.Stdin, os.Stdout); err != nil {
			fmt.Fprintln(os.Stderr, err)
			os.Exit(1)
		}
		return
	}
	os.Exit(m.Run())
}

func pool(t testing.TB, workers int) *scripts.Pool {
	p := scripts.NewPool(workers, func() *exec.Cmd {
		cmd := exec.Command(os.Args[0])
		cmd.Env = append(os.Environ(), "SCRIPT_WORKER=1")
		return cmd
	})
	t.Cleanup(p.Close)
	return p
}

// call makes a call of a script with a body of that text.
func call(t testing.TB, text, args string) script.Call {
	s, problems := script.Parse("x", "shortcodes/x.js", []byte("/*\ntitle: X\n*/\n"+text), block.NewReader())
	require.Empty(t, problems)
	return script.Call{Script: s, Args: []byte(args), Site: []byte(`{"name":"Test","fields":{"phone":"1"}}`),
		Now: "2026-06-01T12:00:00Z"}
}

func body(text string) string {
	return "function shortcode({ args, inner, page, site, now }) { " + text + " }"
}

func TestWhatScriptsGive(t *testing.T) {
	p := pool(t, 1)
	for _, c := range []struct{ text, args, out string }{
		{`return "a < b"`, `{}`, "text a < b"},
		{`return args.n * 2`, `{"n":21}`, "text 42"},
		{`return`, `{}`, "text "},
		{"return html`<b>${args.t}</b>`", `{"t":"<i>"}`, "html <b>&lt;i&gt;</b>"},
		{"return html`<ul>${args.all.map((a) => html`<li>${a}</li>`)}</ul>`", `{"all":["a","&"]}`,
			"html <ul><li>a</li><li>&amp;</li></ul>"},
		{"return html`<p>${inner}</p>`", `{}`, "html <p><em>in</em></p>"},
		{`return site.name + site.fields.phone + typeof page`, `{}`, "text Test1undefined"},
		{`return new Date().toISOString() + now`, `{}`, "text 2026-06-01T12:00:00.000Z2026-06-01T12:00:00Z"},
		{`const a = random("s"), b = random("s"); return a() === b() && a() !== random("t")()`, `{}`,
			"text true"},
		{`class R extends RegExp { a() { return this.source } } return [/a/ instanceof RegExp, RegExp("a") instanceof RegExp, new R("b") instanceof R, new R("b", "u").a(), new RegExp(/a/g, "u").flags, new RegExp(/c/i).flags, "a1b".split(/\d/).length, [..."a1b2".matchAll(/\d/g)].length, new RegExp("\\\\p{2}", "u").test("\\pp"), new RegExp("\\p{2}").test("pp")].join()`, `{}`, "text true,true,true,b,u,i,2,2,true,true"},
		{`const say = (f) => { try { return f() } catch (e) { return e.name } }; return [() => new RegExp("\\p{L}", "u"), () => RegExp("[\\P{L}]", "v"), () => new RegExp(/\p{L}/, "u"), () => (1.5).toLocaleString("de"), () => new Date(0).toLocaleDateString("de"), () => "i".toLocaleUpperCase("tr"), () => "a".localeCompare("b", "de"), () => [1].toLocaleString("de")].map(say).join()`, `{}`, "text SyntaxError,SyntaxError,SyntaxError,TypeError,TypeError,TypeError,TypeError,TypeError"},
		{`return [(1.5).toLocaleString(), "i".toLocaleUpperCase(), "a".localeCompare("b"), [1, 2].toLocaleString(), new Date(0).toLocaleDateString() !== ""].join(";")`, `{}`, "text 1.5;I;-1;1,2;true"},
		{`return typeof eval + typeof Function + typeof require + typeof fetch + typeof process`, `{}`,
			"text undefinedundefinedundefinedundefinedundefined"},
	} {
		k := call(t, body(c.text), c.args)
		k.Inner = []byte("<em>in</em>")
		out, failure := p.Run(k)
		require.Nil(t, failure, c.text)
		kind := map[bool]string{false: "text ", true: "html "}[out.HTML]
		require.Equal(t, c.out, kind+out.Text, c.text)
	}
}

func TestWhatGoesWrongIsToldWithItsPlace(t *testing.T) {
	p := pool(t, 1)
	long := strings.Repeat("a", 40)
	for _, c := range []struct{ name, text, says string }{
		{"a throw", "throw new Error('no such port')",
			fmt.Sprintf("shortcodes/x.js:4:%d: Error: no such port", 1+strings.Index(body("throw new"),
				"new"))},
		{"a name that is not there", "return harbour", "harbour is not defined"},
		{"chance", "return Math.random()", "use random(seed)"},
		{"code from text", "return (() => {}).constructor('return 1')()", "Function is not available"},
		{"an object", "return {}", "this one gave a thing of the type object"},
		{"a loop", "for (;;) {}", "took longer than 50 ms"},
		{"a loop that holds on", "for (;;) { try { for (;;) {} } finally { continue } }",
			"took longer than 50 ms"},
		{"calls without end", "const f = () => f() + 1; return f()", "calls go more than 400 deep"},
		{"a runaway expression", "return /^(a|aa)+\\1$/.test('" + long + "!')", "took longer than 50 ms"},
		{"a long fill", "return new Array(5e7).fill('x').length", ""},
		{"memory", "const a = []; for (let i = 0; i < 1e6; i++) a.push('x'.repeat(1e6) + i); return a.length",
			""},
		{"a long output", "return 'x'.repeat(1.2e6)", "gave 1200000 bytes"},
	} {
		t.Run(c.name, func(t *testing.T) {
			out, failure := p.Run(call(t, body(c.text), `{}`))
			require.NotNil(t, failure, "gave %.40q", out.Text)
			require.Contains(t, failure.Error(), c.says)
			require.Equal(t, 4, failure.Line)
			out, failure = p.Run(call(t, body("return 'well'"), `{}`))
			require.Nil(t, failure, "the next one runs")
			require.Equal(t, "well", out.Text)
		})
	}
}

func TestNothingIsLeftBehind(t *testing.T) {
	p := pool(t, 1)
	for _, try := range []string{
		"let n = 0; function shortcode() { return ++n }",
		body("globalThis.n = (globalThis.n || 0) + 1; return globalThis.n"),
		body("Array.prototype.n = 1; return [].n"),
		body("html.n = 1; return html.n"),
		body("site.pages[0].title = 'changed'; return site.pages[0].title"),
		body("Object.getPrototypeOf(new Map()[Symbol.iterator]()).next = () => 7; return 1"),
	} {
		k := call(t, try, `{}`)
		k.Data = map[string]*script.Data{script.Pages: {Hash: site.HashOf([]byte("p")),
			JSON: []byte(`[{"title":"first"}]`)}}
		once, f1 := p.Run(k)
		again, f2 := p.Run(k)
		require.Equal(t, once, again, try)
		require.Equal(t, f1, f2, try)
		look := call(t, body("return [typeof globalThis.n, [].n, html.n, site.pages[0].title].join()"), `{}`)
		look.Data = k.Data
		out, failure := p.Run(look)
		require.Nil(t, failure)
		require.Equal(t, "undefined,,,first", out.Text, try)
	}
}

func TestManyAtOnceAndDataThatChanges(t *testing.T) {
	p := pool(t, 2)
	var wg sync.WaitGroup
	for i := range 40 {
		wg.Go(func() {
			k := call(t, body("return site.pages.length + ':' + args.i"), fmt.Sprintf(`{"i":%d}`, i))
			text := "[" + strings.TrimSuffix(strings.Repeat("1,", i), ",") + "]"
			k.Data = map[string]*script.Data{script.Pages: {Hash: site.HashOf([]byte(text)),
				JSON: []byte(text)}}
			out, failure := p.Run(k)
			if failure != nil || out.Text != fmt.Sprintf("%d:%d", i, i) {
				t.Errorf("run %d gave %q, %v", i, out.Text, failure)
			}
		})
	}
	wg.Wait()
}

type counting struct{ runs int }

func (c *counting) Run(call script.Call) (script.Output, *script.Failure) {
	c.runs++
	return script.Output{Text: fmt.Sprint(c.runs)}, nil
}

func TestWhatIsTheSameIsRunOnce(t *testing.T) {
	of := &counting{}
	r := script.Remember(of)
	base := call(t, body("return 1"), `{"a":1}`)
	first, _ := r.Run(base)
	again, _ := r.Run(base)
	require.Equal(t, first, again)
	for _, change := range []func(c *script.Call){
		func(c *script.Call) { c.Args = []byte(`{"a":2}`) },
		func(c *script.Call) { c.Inner = []byte("x") },
		func(c *script.Call) { c.Page = []byte("{}") },
		func(c *script.Call) { c.Site = []byte("{}") },
		func(c *script.Call) { c.Now = "2027-01-01T00:00:00Z" },
		func(c *script.Call) { c.Script = call(t, body("return 2"), "").Script },
	} {
		c, before := base, of.runs
		change(&c)
		_, _ = r.Run(c)
		require.Equal(t, before+1, of.runs)
	}
}

func TestAWorkerThatDoesNotStartIsTriedAgain(t *testing.T) {
	missing := true
	p := scripts.NewPool(1, func() *exec.Cmd {
		if missing {
			return exec.Command("/nowhere/at/all")
		}
		cmd := exec.Command(os.Args[0])
		cmd.Env = append(os.Environ(), "SCRIPT_WORKER=1")
		return cmd
	})
	t.Cleanup(p.Close)
	r, k := script.Remember(p), call(t, body("return 'well'"), `{}`)
	_, failure := r.Run(k)
	require.ErrorContains(t, failure, "does not start")
	missing = false
	out, failure := r.Run(k)
	require.Nil(t, failure)
	require.Equal(t, "well", out.Text)
}

// An error may do anything when it is told. It takes the script's own time, and the runs
// after it are as before.
func TestErrorsThatDoNotLetThemselvesBeTold(t *testing.T) {
	p := pool(t, 1)
	for name, thrown := range map[string]string{
		"its text never ends":     "throw { toString() { for (;;); } }",
		"its message never ends":  "const e = new Error('x'); Object.defineProperty(e, 'message', { get() { for (;;); } }); throw e",
		"its name never ends":     "class E extends Error { get name() { for (;;); } } throw new E('x')",
		"its text throws":         "throw { toString() { throw { toString() { for (;;); } } } }",
		"it has no text":          "throw Object.create(null)",
		"it calls itself":         "throw { toString() { return String(this) } }",
		"a symbol":                "throw Symbol('x')",
		"it throws on the way":    "throw new Proxy({}, { get() { throw 1 } })",
		"it never ends elsewhere": "throw new Proxy({}, { get() { for (;;); } })",
		"it is very long":         "throw 'x'.repeat(900000)",
	} {
		for range 2 {
			_, failure := p.Run(call(t, body(thrown), `{}`))
			require.NotNil(t, failure, name)
			require.Less(t, len(failure.Message), 20_000, name)
			require.NotEmpty(t, failure.Message, name)
			out, failure := p.Run(call(t, body("return 'fine ' + args.n"), `{"n":1}`))
			require.Nil(t, failure, "after: %s", name)
			require.Equal(t, "fine 1", out.Text, name)
		}
	}
}
