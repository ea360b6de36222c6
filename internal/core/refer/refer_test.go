package refer

import (
	"fmt"
	"sort"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

func told(f Found) []string {
	var out []string
	for id := range f.IDs {
		out = append(out, "id "+id)
	}
	for _, r := range f.Refs {
		out = append(out, fmt.Sprint([...]string{"element ", "page ", "file "}[r.Kind], r.To))
	}
	sort.Strings(out)
	return out
}

func TestScan(t *testing.T) {
	for src, want := range map[string][]string{
		`<p id="a"><a name=b href="#a">`: {"element a", "id a", "id b"},
		`<a href="/x/"><a href="y/?q=1#z"><a href="../">`: {"page /", "page /d/y/",
			"page /x/"},
		`<a href="https://else.example/"><a href="//e/"><a href="tel:1">`: nil,
		`<a href="#"><a href="#top"><a href="">`:                          nil,
		`<img src="/assets/a.svg"><link href='b.css'><video poster="p">`: {"file /assets/a.svg",
			"file /d/b.css", "file /d/p"},
		`<button popovertarget="m" aria-controls="n o"><label for=q>`: {"element m", "element n",
			"element o", "element q"},
		`<!-- <a href="/x/"> --><script>"<a href='/y/'>"</script><b id=c>`: {"id c"},
		`<a href="/a%20b/"><a href="/a/../c/./d">`:                         {"page /a b/", "page /c/d"},
	} {
		require.Equal(t, want, told(Scan([]byte(src), "/d/")), src)
	}
	f := Scan([]byte(`text <a href="#x">`), "/")
	require.Equal(t, 5, f.Refs[0].At)
}

// Delta reads only a part of both texts; the oracle reads both whole. What it tells beyond
// that at least stands there.
func TestDeltaMissesNothing(t *testing.T) {
	bit := rapid.SampledFrom([]string{"a", " b", "'", `"`, ">", "<", "<!--", "-->", `<a href="/x/">`,
		`<a href='#i'>`, `<p id="i">`, "</p>", ` id="j"`, "=", "<script>", "</script>", "<title>", "</title>",
		"<!doctype html>", "<b title=\">", "x y"})
	html := rapid.SliceOfN(bit, 0, 8)
	join := func(bits []string) string {
		s := ""
		for _, b := range bits {
			s += b
		}
		return s
	}
	rapid.Check(t, func(t *rapid.T) {
		head, tail := join(html.Draw(t, "head")), join(html.Draw(t, "tail"))
		a, b := []byte(head+join(html.Draw(t, "was"))+tail), []byte(head+join(html.Draw(t, "is"))+tail)
		wantAdded, wantLost := slowly(a, b)
		added, lost := new(Differ).Delta(a, b, "/")
		require.Subset(t, heads(added), heads(wantAdded), "%s\n%s", a, b)
		require.Subset(t, lost, wantLost, "%s\n%s", a, b)
		require.Subset(t, heads(Scan(b, "/").Refs), heads(added), "%s\n%s", a, b)
		for _, id := range lost {
			require.True(t, Scan(a, "/").IDs[id], "%s\n%s", a, b)
		}
	})
}

func heads(refs []Ref) (out []string) {
	for _, r := range refs {
		out = append(out, fmt.Sprint(r.Kind, r.To))
	}
	return out
}

func slowly(a, b []byte) (added []Ref, lost []string) {
	was, is := Scan(a, "/"), Scan(b, "/")
	for _, r := range is.Refs {
		if !was.refersTo(r) {
			added = append(added, r)
		}
	}
	for id := range was.IDs {
		if !is.IDs[id] {
			lost = append(lost, id)
		}
	}
	return added, lost
}

func FuzzScan(f *testing.F) {
	for _, s := range []string{`<a href="/x/">`, `<p id=a><a href=#a>`, "<a href='%zz'>", "<!-- <b",
		"<script>a</scr", `<a href="?#">`, `<img src=//x>`, `<a href="../../..">`} {
		f.Add([]byte(s), "/a/b/")
	}
	f.Fuzz(func(t *testing.T, src []byte, address string) {
		if len(address) == 0 || address[0] != '/' {
			return
		}
		for _, r := range Scan(src, address).Refs {
			if r.At < 0 || r.At >= len(src) || r.Kind != ToElement && r.To[0] != '/' {
				t.Fatalf("%+v", r)
			}
		}
	})
}
