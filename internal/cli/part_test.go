package cli

import (
	"bytes"
	"encoding/json"
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/require"

	"brickshelf/internal/core/site"
	"brickshelf/internal/folder"
)

func TestAPartGoesElsewhere(t *testing.T) {
	data, zip := t.TempDir(), filepath.Join(t.TempDir(), "part.zip")
	lib := site.Files{"site.yaml": []byte("format: brickshelf/1\nfields: {phone: {type: text, default: '12'}}\n"),
		"blocks/card.html": []byte("<p>@{=site.phone}</p>@{badge /}"), "blocks/badge.html": []byte("<b>1</b>"),
		"pages/index.html": []byte("home")}
	from := write(t, lib)
	good := func(args ...string) string {
		code, out, stderr := run(args...)
		require.Equal(t, ExitDone, code, stderr)
		return out
	}
	bad := func(says string, args ...string) {
		code, _, stderr := run(args...)
		require.Equal(t, ExitBad, code)
		require.Contains(t, stderr, says)
	}
	good("import", "--data", data, "--site", "lib", from)
	good("new", "--data", data, "--site", "mine", "Mine")

	require.Equal(t, "blocks/card.html   card   asked for\nblocks/badge.html  badge  for blocks/card.html\nsite.yaml#phone    phone  for blocks/card.html\n",
		good("part", "--folder", from, "blocks/card"))
	var list []partLine
	require.NoError(t, json.Unmarshal([]byte(good("part", "--data", data, "--site", "lib", "--json", "blocks/card.html")), &list))
	require.Equal(t, partLine{"blocks/badge.html", "block", "badge", []string{"blocks/card.html"}}, list[1])

	good("part", "--folder", from, "--out", zip, "blocks/card")
	files, err := folder.Read(zip, nil)
	require.NoError(t, err)
	require.Equal(t, lib["blocks/badge.html"], files["blocks/badge.html"])
	require.NotContains(t, files, "pages/index.html")
	piped := good("part", "--folder", from, "--out", "-", "blocks/card")
	packed, err := os.ReadFile(zip)
	require.NoError(t, err)
	require.Equal(t, packed, []byte(piped))
	got, err := folder.FromZip(bytes.NewReader([]byte(piped)), int64(len(piped)), nil)
	require.NoError(t, err)
	require.Equal(t, files, got)

	require.Contains(t, good("part", "--data", data, "--site", "lib", "--to", "mine", "blocks/badge"), "adds 2, changes 0")
	require.Contains(t, good("import", "--data", data, "--site", "mine", "--dry-run", zip), "would add 1, would change 1")
	lib["blocks/badge.html"] = []byte("<b>2</b>")
	good("import", "--data", data, "--site", "lib", "--merge", write(t, lib))
	require.Contains(t, good("part", "--data", data, "--site", "lib", "--to", "mine", "blocks/badge"), "changes 1",
		"what came from a library and was not edited here follows it")
	bad("Use --merge to take", "import", "--data", data, "--site", "mine", zip)
	require.Contains(t, good("import", "--data", data, "--site", "mine", "--as", "blocks/badge.html=badge-one", zip), "adds 2, changes 1")
	require.Contains(t, good("import", "--data", data, "--site", "mine", "--keep", zip), "is the same already")

	// A server that has the data folder takes it in.
	_, _, end := served(t, "serve", "--data", data)
	lib["blocks/card.html"] = []byte("other")
	good("import", "--data", data, "--site", "lib", "--merge", write(t, lib))
	bad("Use --merge to take", "part", "--data", data, "--site", "lib", "--to", "mine", "blocks/card")
	require.Contains(t, good("part", "--data", data, "--site", "lib", "--to", "mine", "--as", "blocks/card.html=tile", "blocks/card"), "adds 2")
	require.Contains(t, good("part", "--data", data, "--site", "lib", "--to", "mine", "--keep", "blocks/card"), "is the same already")
	require.Equal(t, ExitDone, end())

	bad("name a data folder", "part", "blocks/card")
	bad("name a data folder", "part", "--data", data, "--folder", from, "blocks/card")
	bad("with --data", "part", "--folder", from, "--to", "mine", "blocks/card")
	bad("with --site", "part", "--data", data, "--to", "mine", "blocks/card")
	bad("there is no blocks/none here", "part", "--folder", from, "blocks/none")
}
