package cli

import (
	"encoding/json"
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/require"

	"brickshelf/internal/api"
)

// settings writes a file of settings.
func settings(t *testing.T, text string) string {
	file := filepath.Join(t.TempDir(), "settings.yaml")
	require.NoError(t, os.WriteFile(file, []byte(text), 0o644))
	return file
}

func TestFlagsComeFromSettingsAndTheEnvironment(t *testing.T) {
	one, two, three := t.TempDir(), t.TempDir(), t.TempDir()
	for name, data := range map[string]string{"one": one, "two": two, "three": three} {
		code, _, stderr := run("new", "--data", data, "--site", name, "Title")
		require.Equal(t, ExitDone, code, stderr)
	}
	file := settings(t, "# of this project\ndata: "+one+"\nsites:\n  json: true\n")
	first := func(args ...string) string {
		code, out, stderr := run(args...)
		require.Equal(t, ExitDone, code, stderr)
		var list []struct{ Name string }
		require.NoError(t, json.Unmarshal([]byte(out), &list), out)
		return list[0].Name
	}
	require.Equal(t, "one", first("sites", "--settings", file))
	t.Setenv("BRICKSHELF_DATA", two)
	require.Equal(t, "two", first("sites", "--settings", file), "the environment goes before a file")
	require.Equal(t, "three", first("sites", "--settings", file, "--data", three), "the command line before both")
	t.Setenv("BRICKSHELF_JSON", "perhaps")
	code, _, stderr := run("sites")
	require.Equal(t, ExitBad, code)
	require.Contains(t, stderr, "BRICKSHELF_JSON: ")
	t.Setenv("BRICKSHELF_JSON", "")
	t.Setenv("BRICKSHELF_DATA", "")

	// The file stands in the working folder, or among the user's own.
	t.Chdir(t.TempDir())
	t.Setenv("XDG_CONFIG_HOME", t.TempDir())
	code, _, stderr = run("sites")
	require.Equal(t, ExitBad, code)
	require.Contains(t, stderr, `required flag(s) "data" not set`)
	own := filepath.Join(os.Getenv("XDG_CONFIG_HOME"), "brickshelf")
	require.NoError(t, os.MkdirAll(own, 0o755))
	require.NoError(t, os.WriteFile(filepath.Join(own, "config.yaml"), []byte("data: "+one+"\njson: true\n"), 0o644))
	require.Equal(t, "one", first("sites"))
	require.NoError(t, os.WriteFile(settingsFile, []byte("data: "+two+"\njson: true\n"), 0o644))
	require.Equal(t, "two", first("sites"))

	// A standing data folder is no part of what names another source.
	from := write(t, small())
	code, out, stderr := run("part", "--folder", from, "blocks/a")
	require.Equal(t, ExitDone, code, stderr)
	require.Contains(t, out, "blocks/a.html")
	code, _, stderr = run("publish", from, "--out", filepath.Join(t.TempDir(), "out"))
	require.Equal(t, ExitDone, code, stderr)
}

func TestSettingsThatCannotBeAreToldWithTheirPlace(t *testing.T) {
	for text, says := range map[string]string{
		"data: x\ndtaa: y\n":       "settings.yaml:2:1: no command has a flag --dtaa; did you mean data?",
		"serve:\n  nothing: y\n":   "settings.yaml:2:3: no command has a flag --nothing",
		"- data\n":                 "settings.yaml:1:1: settings are written as FLAG: value",
		"data: [\n":                "settings.yaml:",
		"data: x\njson: perhaps\n": "settings.yaml:2:7: json: ",
	} {
		code, _, stderr := run("sites", "--settings", settings(t, text))
		require.Equal(t, ExitBad, code, text)
		require.Contains(t, stderr, says)
	}
	code, _, stderr := run("sites", "--settings", "nowhere.yaml")
	require.Equal(t, ExitBad, code)
	require.Contains(t, stderr, "nowhere.yaml")
}

func TestWhatCommandsDidIsPrintedAsJSON(t *testing.T) {
	data, out := t.TempDir(), filepath.Join(t.TempDir(), "out")
	from := write(t, small())
	print := func(into any, args ...string) {
		code, text, stderr := run(append(args, "--json")...)
		require.Equal(t, ExitDone, code, stderr)
		require.NoError(t, json.Unmarshal([]byte(text), into), text)
	}
	var made struct{ Site string }
	print(&made, "new", "--data", data, "A title")
	require.Equal(t, "a-title", made.Site)
	var taken api.Imported
	print(&taken, "import", "--data", data, "--site", "small", from)
	require.True(t, taken.Created)
	require.Len(t, taken.Added, len(small()))
	var wrote writtenLine
	print(&wrote, "export", "--data", data, "--site", "small", out)
	require.Equal(t, writtenLine{out, len(small()), len(small()), []string{}}, wrote)
	print(&wrote, "export", "--data", data, "--site", "small", out+".zip")
	require.Equal(t, writtenLine{out + ".zip", len(small()), len(small()), []string{}}, wrote)
	print(&wrote, "export", "--data", data, "--site", "small", out)
	require.Equal(t, 0, wrote.Wrote)
	print(&wrote, "publish", from, "--out", out+"2")
	require.Equal(t, wrote.Files, wrote.Wrote)
	require.Positive(t, wrote.Files)
}

func TestTheManualNamesEveryCommandAndFlag(t *testing.T) {
	code, page, stderr := run("man")
	require.Equal(t, ExitDone, code, stderr)
	require.Contains(t, page, ".TH \"BRICKSHELF\" \"1\"")
	dir := t.TempDir()
	code, _, stderr = run("man", dir)
	require.Equal(t, ExitDone, code, stderr)
	a := &app{}
	for _, c := range a.root().Commands() {
		if c.Hidden {
			continue
		}
		text, err := os.ReadFile(filepath.Join(dir, "brickshelf-"+c.Name()+".1"))
		require.NoError(t, err)
		require.Contains(t, string(text), c.Short)
		require.NotContains(t, string(text), "Auto generated")
	}
	part, err := os.ReadFile(filepath.Join(dir, "brickshelf-part.1"))
	require.NoError(t, err)
	require.Contains(t, string(part), "dry-run")
}
