package script_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"brickshelf/internal/core/block"
	"brickshelf/internal/core/script"
)

func TestParse(t *testing.T) {
	s, problems := script.Parse("bell", "shortcodes/bell.js",
		[]byte("/*\ntitle: A bell\nset: sounds\nreads: [page, menus]\nencloses: true\nparams:\n  n: {type: number, default: 2}\n*/\nconst a = 1;\n\nfunction shortcode() {}\n"), block.NewReader())
	require.Empty(t, problems)
	require.Equal(t, "A bell", s.Title)
	require.Equal(t, "sounds", s.Set)
	require.True(t, s.Encloses && s.ReadsOf(script.Page) && s.ReadsOf(script.Menus) &&
		!s.ReadsOf(script.Pages))
	require.Equal(t, "2", s.Params[s.Called.Field("n")].Default.Text)
	require.Equal(t, 11, s.Line, "where the function begins")
	plain, problems := script.Parse("x", "shortcodes/x.js", []byte("/**/function shortcode() {}"),
		block.NewReader())
	require.Empty(t, problems)
	require.Equal(t, [2]string{"x", script.Standard}, [2]string{plain.Title, plain.Set})
}

func FuzzParse(f *testing.F) {
	for _, seed := range []string{"", "/*", "/*\n*/",
		"/*\nparams: {a: {type: list, fields: {b: {}}}}\n*/function shortcode(){}", "/**/`${",
		"/**/class A { #a; static { } }", "/**/a?.b?.[c]", "//# sourceMappingURL=x"} {
		f.Add([]byte(seed))
	}
	f.Fuzz(func(t *testing.T, src []byte) {
		s, problems := script.Parse("x", "shortcodes/x.js", src, block.NewReader())
		if len(problems) == 0 && s.Line < 1 {
			t.Errorf("the function begins at line %d", s.Line)
		}
		for _, p := range problems {
			if p.Line < 1 || p.Column < 1 || p.Message == "" {
				t.Errorf("a problem without a place: %+v", p)
			}
		}
	})
}
