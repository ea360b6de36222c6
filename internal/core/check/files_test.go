package check_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"brickshelf/internal/core/check"
	"brickshelf/internal/core/site"
	"brickshelf/internal/core/sitetest"
)

func TestFilesThatAreNotWhatTheySay(t *testing.T) {
	f := site.Files{"site.yaml": []byte("format: brickshelf/1\n")}
	want := map[string]string{}
	for p, c := range map[string]struct{ text, code string }{
		"assets/a.png":   {"no picture", "no-picture"},
		"files/a.JPEG":   {"", "no-picture"},
		"assets/b.png":   {"\x89PNG\r\n\x1a\n", ""},
		"assets/b.jpg":   {"\xff\xd8\xff\xe0", ""},
		"assets/b.gif":   {"GIF89a", ""},
		"assets/c.svg":   {"<svg><path d='M0'/><a href='/x/'>on</a></svg>", ""},
		"assets/d.svg":   {"<svg><script>1</script></svg>", "scripted-svg"},
		"files/e.svg":    {"<svg OnLoad='x()'/>", "scripted-svg"},
		"files/f.svg":    {"<svg><a xlink:href=' JavaScript:x()'>a</a></svg>", "scripted-svg"},
		"files/g.html":   {"<script>1</script>", ""},
		"files/h.png.gz": {"x", ""},
	} {
		f[p] = []byte(c.text)
		if c.code != "" {
			want[p] = c.code
		}
	}
	got := map[string]string{}
	for _, p := range check.Site(sitetest.New(f)) {
		got[p.Path] = p.Code
	}
	require.Equal(t, want, got)
}
