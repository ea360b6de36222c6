package scripts_test

import (
	"os"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"brickshelf/internal/core/block"
	"brickshelf/internal/core/script"
)

// features are what came to ECMAScript since 2015, each with a body that gives true where
// it is there.
var features = map[string]string{
	"`let` and `const`":                             "let a = 1; { const a = 2; } return a === 1",
	"arrow functions":                               "return [1].map((x) => x + 1)[0] === 2",
	"classes":                                       "class A { m() { return 1 } } class B extends A { m() { return super.m() + 1 } } return new B().m() === 2",
	"template literals":                             "return `a${1}` === 'a1'",
	"tagged templates":                              "return ((s, v) => s.raw[0] + v)`a${1}` === 'a1'",
	"destructuring":                                 "const [a, { b = 2 }] = [1, {}]; return a + b === 3",
	"default and rest parameters":                   "return ((a = 1, ...b) => a + b.length)(undefined, 2, 3) === 3",
	"spread in calls and lists":                     "return Math.max(...[1, 2], ...[3]) === 3 && [...'ab'].length === 2",
	"`for … of`":                                    "let n = 0; for (const x of [1, 2]) n += x; return n === 3",
	"generators":                                    "function* g() { yield 1; yield* [2] } return [...g()].length === 2",
	"symbols":                                       "return typeof Symbol('a') === 'symbol'",
	"`Map`, `Set`, `WeakMap`, `WeakSet`":            "return new Map([[1, 2]]).get(1) === 2 && new Set([1, 1]).size === 1 && new WeakMap() && new WeakSet() && true",
	"typed arrays":                                  "return new Uint8Array([300])[0] === 44",
	"`Proxy` and `Reflect`":                         "return new Proxy({}, { get: () => 1 }).a === 1 && Reflect.has({ a: 1 }, 'a')",
	"promises":                                      "return typeof Promise.resolve(1).then === 'function'",
	"getters and setters":                           "return { get a() { return 1 } }.a === 1",
	"computed and short properties":                 "const a = 1; return { a, ['b' + a]: 2 }.b1 === 2",
	"`Object.assign`":                               "return Object.assign({}, { a: 1 }).a === 1",
	"`Array.from`, `Array.of`, `find`":              "return Array.from('ab').length === 2 && Array.of(1)[0] === 1 && [1, 2].find((x) => x > 1) === 2",
	"`includes`, `startsWith`, `repeat`":            "return 'abc'.includes('b') && 'abc'.startsWith('a') && 'a'.repeat(2) === 'aa'",
	"`String.raw`":                                  "return String.raw`\\n`.length === 2",
	"`normalize`":                                   "return 'e\\u0301'.normalize('NFC') === '\\u00e9'",
	"binary and octal numbers":                      "return 0b11 === 3 && 0o10 === 8",
	"`Number.isInteger`, `Number.EPSILON`":          "return Number.isInteger(1) && Number.EPSILON > 0",
	"`Math.trunc`, `Math.sign`":                     "return Math.trunc(1.5) === 1 && Math.sign(-2) === -1",
	"regular expressions with `y` and `u`":          "return /a/y.sticky && /^.$/u.test('\\u{1F600}')",
	"`new.target`":                                  "function F() { return new.target !== undefined } return Reflect.construct(function () { this.a = new.target !== undefined }, []).a",
	"tail calls":                                    "const f = (n) => n === 0 ? true : f(n - 1); return f(5000)",
	"modules (`import`, `export`)":                  "import('x'); return true",
	"`**`":                                          "return 2 ** 3 === 8",
	"`Array.prototype.includes`":                    "return [NaN].includes(NaN)",
	"`async` and `await`":                           "return typeof (async () => { await 1 })().then === 'function'",
	"`Object.entries`, `Object.values`":             "return Object.entries({ a: 1 })[0][1] === 1 && Object.values({ a: 1 })[0] === 1",
	"`padStart`, `padEnd`":                          "return '1'.padStart(3, '0') === '001' && '1'.padEnd(2) === '1 '",
	"trailing commas in parameters":                 "return ((a, b,) => a + b)(1, 2,) === 3",
	"`Object.getOwnPropertyDescriptors`":            "return Object.getOwnPropertyDescriptors({ a: 1 }).a.value === 1",
	"`SharedArrayBuffer`, `Atomics`":                "return typeof SharedArrayBuffer === 'function' && typeof Atomics === 'object'",
	"rest and spread of properties":                 "const { a, ...b } = { a: 1, c: 2 }; return { ...b }.c === 2",
	"asynchronous iteration":                        "async function* g() { yield 1 } return typeof g()[Symbol.asyncIterator] === 'function'",
	"`Promise.prototype.finally`":                   "return typeof Promise.prototype.finally === 'function'",
	"named groups":                                  "return /(?<y>\\d+)/.exec('a12').groups.y === '12'",
	"looking behind":                                "return /(?<=a)b/.test('ab') && /(?<!a)b/.test('cb')",
	"`s`, the dot that takes all":                   "return /a.b/s.test('a\\nb')",
	"classes of Unicode (`\\p{…}`)":                 "return /\\p{Lu}/u.test('É')",
	"template literals with odd escapes":            "return ((s) => s[0] === undefined)`\\u`",
	"`flat`, `flatMap`":                             "return [[1]].flat()[0] === 1 && [1].flatMap((x) => [x, x]).length === 2",
	"`Object.fromEntries`":                          "return Object.fromEntries([['a', 1]]).a === 1",
	"`trimStart`, `trimEnd`":                        "return ' a'.trimStart() === 'a' && 'a '.trimEnd() === 'a'",
	"`catch` without a name":                        "try { throw 1 } catch { return true }",
	"`Symbol.prototype.description`":                "return Symbol('a').description === 'a'",
	"stable sorting":                                "const a = Array.from({ length: 600 }, (_, i) => ({ k: i % 2, i })); a.sort((x, y) => x.k - y.k); return a.every((x, i) => i === 0 || a[i - 1].k < x.k || a[i - 1].i < x.i)",
	"`?.`":                                          "return undefined?.a === undefined && ({ f: () => 1 }).f?.() === 1",
	"`??`":                                          "return (null ?? 1) === 1 && (0 ?? 1) === 0",
	"big integers":                                  "return 2n ** 64n === 18446744073709551616n",
	"`matchAll`":                                    "return [...'a1b2'.matchAll(/\\d/g)].length === 2",
	"`globalThis`":                                  "return typeof globalThis === 'object'",
	"`Promise.allSettled`":                          "return typeof Promise.allSettled === 'function'",
	"`import()`":                                    "return typeof import('x') === 'object'",
	"`import.meta`":                                 "return typeof import.meta === 'object'",
	"`??=`, `||=`, `&&=`":                           "let a = null; a ??= 1; a &&= 2; a ||= 3; return a === 2",
	"`replaceAll`":                                  "return 'aa'.replaceAll('a', 'b') === 'bb'",
	"`1_000`":                                       "return 1_000 === 1000",
	"`Promise.any`":                                 "return typeof Promise.any === 'function'",
	"`WeakRef`, `FinalizationRegistry`":             "return typeof WeakRef === 'function' && typeof FinalizationRegistry === 'function'",
	"fields of classes":                             "class A { a = 1; static b = 2 } return new A().a + A.b === 3",
	"private fields and methods":                    "class A { #a = 1; #m() { return this.#a } get() { return this.#m() } } return new A().get() === 1",
	"`#a in b`":                                     "class A { #a; static has(o) { return #a in o } } return A.has(new A())",
	"static blocks":                                 "class A { static a; static { this.a = 1 } } return A.a === 1",
	"`at`":                                          "return [1, 2].at(-1) === 2 && 'ab'.at(-1) === 'b'",
	"`Object.hasOwn`":                               "return Object.hasOwn({ a: 1 }, 'a')",
	"`cause` of an error":                           "return new Error('a', { cause: 1 }).cause === 1",
	"regular expressions with `d`":                  "return /a/d.exec('ba').indices[0][0] === 1",
	"`await` outside of functions":                  "return false",
	"`findLast`, `findLastIndex`":                   "return [1, 2].findLast((x) => x < 3) === 2 && [1, 2].findLastIndex((x) => x < 3) === 1",
	"`toSorted`, `toReversed`, `toSpliced`, `with`": "return [2, 1].toSorted()[0] === 1 && [1, 2].toReversed()[0] === 2 && [1].toSpliced(0, 1).length === 0 && [1].with(0, 2)[0] === 2",
	"symbols as keys of a `WeakMap`":                "const s = Symbol(); return new WeakMap([[s, 1]]).get(s) === 1",
	"`Object.groupBy`, `Map.groupBy`":               "return Object.groupBy([1], () => 'a').a[0] === 1 && Map.groupBy([1], () => 'a').get('a')[0] === 1",
	"`Promise.withResolvers`":                       "return typeof Promise.withResolvers === 'function'",
	"regular expressions with `v`":                  "return new RegExp('[a&&a]', 'v').test('a')",
	"`isWellFormed`, `toWellFormed`":                "return 'a'.isWellFormed() && '\\ud800'.toWellFormed() === '\\ufffd'",
	"`ArrayBuffer.prototype.resize`":                "return new ArrayBuffer(1, { maxByteLength: 2 }).resizable === true",
	"`Array.fromAsync`":                             "return typeof Array.fromAsync === 'function'",
	"methods of sets (`union` …)":                   "return new Set([1]).union(new Set([2])).size === 2",
	"methods of iterators (`map` …)":                "return [1].values().map((x) => x + 1).toArray()[0] === 2",
	"`Promise.try`":                                 "return typeof Promise.try === 'function'",
	"`RegExp.escape`":                               "return RegExp.escape('a.b').includes('.')",
	"switches within a group (`(?i:…)`)":            "return new RegExp('(?i:a)b').test('Ab')",
	"groups of one name in branches":                "return new RegExp('(?<y>a)|(?<y>b)').exec('b').groups.y === 'b'",
	"`Float16Array`":                                "return typeof Float16Array === 'function'",
	"`Error.isError`":                               "return Error.isError(new Error())",
	"`Math.sumPrecise`":                             "return Math.sumPrecise([0.1, 0.2]) > 0",
	"`Intl`":                                        "return typeof Intl === 'object'",
	"`toLocaleString` with a language":              "return (1234.5).toLocaleString('de') === '1.234,5'",
	"`structuredClone`, `URL`, `TextEncoder`":       "return typeof structuredClone === 'function' && typeof URL === 'function' && typeof TextEncoder === 'function'",
	"`setTimeout`, `fetch`":                         "return typeof setTimeout === 'function' && typeof fetch === 'function'",
	"`eval`, `new Function`":                        "return typeof eval === 'function' && new Function('return true')()",
	"`Math.random`":                                 "return Math.random() >= 0",
	"HTML comments (`<!--`)":                        "<!-- a\nreturn true",
	"`escape`, `unescape`":                          "return escape(' ') === '%20' && unescape('%20') === ' '",
	"`__proto__`, `__defineGetter__`":               "return ({ __proto__: { a: 1 } }).a === 1 && typeof {}.__defineGetter__ === 'function'",
	"`substr`, `anchor`":                            "return 'abc'.substr(1, 1) === 'b' && 'a'.anchor('b').length > 3",
	"`with`":                                        "with ({ a: 1 }) return a === 1",
	"hashbang (`#!`)":                               "return false",
}

// What the documentation says is there of the language, and what is not, is so.
func TestTheLanguageOfScriptsIsWhatIsWritten(t *testing.T) {
	p := pool(t, 1)
	var there, lacks []string
	for name, text := range features {
		s, problems := script.Parse("x", "shortcodes/x.js", []byte("/*\ntitle: X\n*/\n"+body(text)),
			block.NewReader())
		has := false
		if len(problems) == 0 {
			out, failure := p.Run(script.Call{Script: s, Args: []byte("{}"), Site: []byte("{}"),
				Now: "2026-06-01T12:00:00Z"})
			has = failure == nil && out.Text == "true"
			if failure == nil {
				require.Contains(t, []string{"true", "false"}, out.Text, name)
			}
		}
		if has {
			there = append(there, name)
		} else {
			lacks = append(lacks, name)
		}
	}
	slices.Sort(there)
	slices.Sort(lacks)
	doc, err := os.ReadFile("../../docs/format.md")
	require.NoError(t, err)
	words := strings.Join(strings.Fields(string(doc)), " ")
	require.Contains(t, words, "Of what came to ECMAScript since 2015 there is: "+
		strings.Join(there, ", ")+".")
	require.Contains(t, words, "There is not: "+strings.Join(lacks, ", ")+".")
}
