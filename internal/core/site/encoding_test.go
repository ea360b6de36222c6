package site_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"brickshelf/internal/core/site"
)

func written(t require.TestingT, text, from string) string {
	doc, lacks := site.Written([]byte(text), []byte(from))
	require.Equal(t, -1, lacks)
	return string(doc)
}

func TestWhatIsUTF8StaysSo(t *testing.T) {
	long := strings.Repeat("<p>plain</p>\n", 200)
	for _, text := range []string{long + "Küste", strings.Repeat("ü", 600), "<meta charset=iso-8859-1>Küste ☃", "a" + strings.Repeat("ü", 600)} {
		for _, from := range []string{text, strings.Replace(text, "ü", "é", 1), long} {
			if strings.Contains(text, "charset") && from == long {
				continue // ASCII that declares another from now on
			}
			doc, lacks := site.Written([]byte(text), []byte(from))
			require.Equal(t, -1, lacks)
			require.Equal(t, text, string(doc))
		}
		require.Equal(t, text, string(site.Readable([]byte(text))))
	}
}

func TestWhatAnEncodingLacksIsToldWhereItStands(t *testing.T) {
	text := "<meta charset=iso-8859-1>Küste ☃"
	doc, lacks := site.Written([]byte(text), []byte("<meta charset=iso-8859-1>K\xfcste"))
	require.Equal(t, text, string(doc))
	require.Equal(t, strings.Index(text, "☃"), lacks)
}

func TestAPageIsReadInItsEncodingAndWrittenInIt(t *testing.T) {
	latin, greek := `<meta charset="iso-8859-1">`, `<?xml version="1.0" encoding="iso-8859-7"?>`
	for name, c := range map[string]struct{ doc, text, typed, want string }{
		"latin":                      {latin + "K\xfcste", latin + "Küste", latin + "Küsten", latin + "K\xfcsten"},
		"by XML":                     {greek + "\xe1", greek + "α", greek + "αβ", greek + "\xe1\xe2"},
		"nothing":                    {"K\xfcste", "Küste", "Küsten", "K\xfcsten"},
		"utf-8":                      {"Küste", "Küste", "Küsten ☃", "Küsten ☃"},
		"made new":                   {"K\xfcste", "Küste", `<meta charset="utf-8">Küste`, `<meta charset="utf-8">Küste`},
		"ASCII that says what it is": {latin + "a", latin + "a", latin + "ü", latin + "\xfc"},
	} {
		require.Equal(t, c.text, string(site.Readable([]byte(c.doc))), name)
		require.Equal(t, c.doc, written(t, c.text, c.doc), name)
		require.Equal(t, c.want, written(t, c.typed, c.doc), name)
	}
}

func TestWhateverIsReadComesBack(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		bits := rapid.SliceOf(rapid.SampledFrom([]string{"a", "\xfc", "\x81", "\xff", "\xfe", "\x83\x40", "<meta charset=shift_jis>", "<meta charset=utf-8>",
			"<meta charset=iso-8859-1>", `<?xml version="1.0" encoding="euc-kr"?>`, "\xef\xbb\xbf", "\xef\xbf\xbd", "é", "\x1b$B", "@{x /}"})).Draw(t, "bits")
		doc := []byte(strings.Join(bits, ""))
		text := site.Readable(doc)
		if string(text) == string(doc) {
			return // it is shown as it is
		}
		require.Equal(t, string(doc), written(t, string(text), string(doc)))
	})
}
