package patch_test

import (
	"fmt"
	"regexp"
	"strings"
	"testing"
	"unicode/utf8"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"brickshelf/internal/core/patch"
	"brickshelf/internal/core/site"
)

// document draws YAML of keys a to e as people write it, with comments wherever they may
// stand. Each comment is another one.
type document struct {
	t        *rapid.T
	comments int
	out      strings.Builder
}

func (d *document) comment() string {
	d.comments++
	return fmt.Sprintf("#c%d.", d.comments)
}

// perhaps is a comment behind something on its line, or nothing.
func (d *document) perhaps() string {
	if rapid.IntRange(0, 2).Draw(d.t, "comment") == 0 {
		return " " + d.comment()
	}
	return ""
}

func (d *document) line(indent int, format string, args ...any) {
	d.out.WriteString(strings.Repeat(" ", indent) + fmt.Sprintf(format, args...) + "\n")
}

// between draws what may stand between two entries: blank lines and comments.
func (d *document) between(indent int) {
	switch rapid.IntRange(0, 5).Draw(d.t, "between") {
	case 0:
		d.out.WriteString("\n")
	case 1:
		d.line(indent, "%s", d.comment())
	case 2:
		d.line(indent, "%s", d.comment())
		d.out.WriteString("\n")
	}
}

func (d *document) mapping(indent, depth int) {
	keys := rapid.SliceOfNDistinct(rapid.SampledFrom([]string{"a", "b", "c", "d", "e", `"f g"`}), 1, 4,
		rapid.ID).Draw(d.t, "keys")
	for i, k := range keys {
		d.value(indent, k, depth)
		if i+1 < len(keys) {
			d.between(indent)
		}
	}
}

func (d *document) value(indent int, k string, depth int) {
	step := rapid.IntRange(1, 3).Draw(d.t, "step")
	kind := rapid.IntRange(0, 11).Draw(d.t, "kind")
	if depth == 0 && kind >= 10 {
		kind = 0
	}
	scalar := func() string {
		return rapid.SampledFrom([]string{"word", "two words", "12", "true", `"quoted: # no comment"`,
			`'single ''q'''`, "2026-03-01", "a#b", "http://a.example/"}).Draw(d.t, "scalar")
	}
	switch kind {
	case 0, 1, 2:
		d.line(indent, "%s: %s%s", k, scalar(), d.perhaps())
	case 3:
		d.line(indent, "%s:%s", k, d.perhaps())
	case 4:
		d.line(indent, "%s: [x, \"y, ]\", {z: 1}]%s", k, d.perhaps())
	case 5:
		d.line(indent, "%s: {a: 1, b: \"x, }\"}%s", k, d.perhaps())
	case 6:
		d.line(indent, "%s: %s%s", k, rapid.SampledFrom([]string{"|", ">", "|-", ">-", "|+"}).Draw(d.t,
			"block"), d.perhaps())
		for range rapid.IntRange(1, 3).Draw(d.t, "lines") {
			d.line(indent+step, "text # not a comment")
		}
	case 7:
		d.line(indent, "%s:%s", k, d.perhaps())
		flush := indent + rapid.SampledFrom([]int{0, 2}).Draw(d.t, "flush")
		for range rapid.IntRange(1, 3).Draw(d.t, "items") {
			d.line(flush, "- %s%s", scalar(), d.perhaps())
		}
	case 8:
		d.line(indent, "%s: \"over", k)
		d.line(indent+step, "two lines\"%s", d.perhaps())
	case 9:
		d.line(indent, "%s: plain", k)
		d.line(indent+step, "over two%s", d.perhaps())
	default:
		d.line(indent, "%s:%s", k, d.perhaps())
		d.mapping(indent+step, depth-1)
	}
}

var marks = regexp.MustCompile(`#c\d+\.`)

// An edit of one key changes nothing but what it says: lines that are no part of it stay to
// the byte, and so does a comment behind the key.
func TestSettingAKeyLeavesTheRestAsItIsWritten(t *testing.T) {
	values := []any{"new", "with: colon # and hash", true, 12.0, []any{"x", "y"},
		map[string]any{"p": "q"}, nil}
	rapid.Check(t, func(t *rapid.T) {
		d := &document{t: t}
		if rapid.Bool().Draw(t, "heading") {
			d.line(0, "%s", d.comment())
		}
		d.mapping(0, 2)
		src := d.out.String()
		if rapid.Bool().Draw(t, "last line open") {
			src = strings.TrimSuffix(src, "\n")
		}
		before, problem := site.ParseYAML([]byte(src), "", 1)
		require.Nil(t, problem, src)
		var keys []string
		m := before
		var pair site.Pair
		for {
			pair = rapid.SampledFrom(m.Pairs).Draw(t, "key")
			keys = append(keys, pair.Key)
			if pair.Value.Kind != site.Mapping || len(pair.Value.Pairs) == 0 ||
				pair.Value.Pairs[0].Line == pair.Line || !rapid.Bool().Draw(t, "deeper") {
				break
			}
			m = pair.Value
		}
		value := rapid.SampledFrom(values).Draw(t, "value")
		windows := rapid.Bool().Draw(t, "windows")
		given := src
		if windows {
			given = strings.ReplaceAll(src, "\n", "\r\n")
		}
		got, err := patch.Set("rules/r.yaml", []byte(given), keys, value)
		require.NoError(t, err, "%v of\n%s", keys, src)
		require.Equal(t, strings.Count(string(got), "\n"), strings.Count(string(got),
			"\r\n")+map[bool]int{false: strings.Count(string(got), "\n")}[windows], "%q", got)
		after := strings.ReplaceAll(string(got), "\r\n", "\n")

		lines := strings.SplitAfter(src, "\n")
		head := strings.Join(lines[:pair.Line-1], "")
		alone := value == nil && len(m.Pairs) == 1 // goes with what is around it
		if !alone {
			require.True(t, strings.HasPrefix(after, head), "what stands before %v in\n%s\nis\n%s", keys,
				src, after)
			for _, c := range marks.FindAllString(head, -1) {
				require.Contains(t, after, c)
			}
		}
		end := pair.Line // behind the last line of the value
		for n := pair.Line; n < len(lines); n++ {
			bare := strings.TrimLeft(lines[n], " ")
			indent := len(lines[n]) - len(bare)
			if strings.TrimSpace(bare) == "" || bare[0] == '#' && indent < pair.Col {
				continue
			}
			if indent < pair.Col && !(indent == pair.Col-1 && strings.HasPrefix(bare, "- ")) {
				break
			}
			end = n + 1
		}
		if tail := strings.Join(lines[end:], ""); !alone {
			require.True(t, strings.HasSuffix(after, tail), "what stands behind %v in\n%s\nis\n%s", keys,
				src, after)
		}
		if own := marks.FindString(lines[pair.Line-1]); own != "" && value != nil {
			require.Contains(t, after, own, "the comment behind %v in\n%s", keys, src)
		}
	})
}

// An edit of a key is refused, or does to the values of a document just what it says.
func FuzzSetKey(f *testing.F) {
	for _, s := range []string{"a: 1 # c\nb: {c: [1, 2]}\n", "a: |\n  x\n\n# c\nb:\n- 1\n",
		"a: # c\n  b: \"x\n  y\"\n", "\ufeffa: 'b'\r\nc: d\r\n", "a: {b: {c: 1}, d: [x]}", "? a\n: b\n",
		"a: &x 1\n"} {
		f.Add([]byte(s), "a", "b", "new: #")
	}
	f.Add([]byte("Y: {A:{\xa7\x99},0}"), "Y", "0", "0")
	f.Fuzz(func(t *testing.T, src []byte, key, inner, value string) {
		if !utf8.ValidString(key + inner + value) { // they come as JSON
			return
		}
		before, problem := site.ParseYAML(src, "", 1)
		keys := []string{key}
		if inner != "" {
			keys = append(keys, inner)
		}
		for _, change := range []func(string, []byte, []string, string) ([]byte, error){patch.Add, patch.Drop,
			exchanged} {
			if got, err := change("rules/r.yaml", src, keys, value); err == nil && problem == nil {
				if _, bad := site.ParseYAML(got, "", 1); bad != nil {
					t.Fatalf("%q became %q: %v", src, got, bad)
				}
			}
		}
		for _, v := range []any{value, nil, []any{value}} {
			got, err := patch.Set("rules/r.yaml", src, keys, v)
			if err != nil {
				continue
			}
			if problem != nil {
				t.Fatalf("%q cannot be read, and was edited", src)
			}
			after, bad := site.ParseYAML(got, "", 1)
			if bad != nil {
				t.Fatalf("%q became %q: %v", src, got, bad)
			}
			for _, p := range before.Pairs {
				if q := after.Get(p.Key); p.Key != key && (q == nil || q.Text != p.Value.Text ||
					q.Kind != p.Value.Kind || len(q.Pairs) != len(p.Value.Pairs) ||
					len(q.Items) != len(p.Value.Items)) {
					t.Fatalf("setting %v of %q changed %s: %q", keys, src, p.Key, got)
				}
			}
			if s, ok := v.(string); ok && !reached(after, keys, s) {
				t.Fatalf("setting %v of %q to %q gave %q", keys, src, s, got)
			}
		}
	})
}

func exchanged(path string, src []byte, keys []string, item string) ([]byte, error) {
	return patch.Exchange(path, src, keys, item, "x: y")
}

// reached reports whether keys lead to a text.
func reached(y *site.YAML, keys []string, text string) bool {
	for _, k := range keys {
		if y = y.Get(k); y == nil {
			return false
		}
	}
	return y.Kind == site.Text && y.Text == text
}
