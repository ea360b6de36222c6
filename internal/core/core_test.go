package core_test

import (
	"os/exec"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
)

// below are the rooms of the core that each may know.
var below = map[string]string{
	"markup":   "",
	"refer":    "",
	"site":     "markup",
	"patch":    "site",
	"block":    "markup site",
	"script":   "block site",
	"picture":  "site",
	"place":    "block markup site",
	"sets":     "",
	"merge":    "",
	"repeat":   "",
	"confine":  "",
	"assets":   "confine site",
	"shelf":    "assets block markup picture place script sets site",
	"render":   "assets block confine markup picture place script shelf site",
	"explain":  "assets block markup place refer render shelf site",
	"check":    "assets block confine explain markup place refer render shelf site",
	"impact":   "assets check explain markup place refer render shelf site",
	"sitetest": "render script shelf site",

	"edit":           "markup render shelf site",
	"edit/outline":   "edit markup patch place shelf site",
	"edit/readback":  "block markup",
	"edit/expansion": "assets block markup render shelf site",
	"edit/copies":    "assets block edit edit/expansion edit/outline edit/readback edit/values markup merge patch place render shelf site",
	"edit/values":    "block edit edit/outline explain markup patch place render shelf site",
	"edit/placing":   "block edit edit/outline markup patch place render shelf site",
	"edit/wording":   "edit markup patch shelf site",
	"edit/adopting":  "block edit markup patch render repeat shelf site",
	"edit/parts":     "block edit edit/documents edit/values markup merge patch place render shelf site",
	"edit/documents": "block edit edit/copies edit/outline edit/values explain markup merge patch place refer render shelf site",
}

// Imports go downwards only, each room knows those that it needs, and there is none that
// the table does not name.
func TestRoomsKnowWhatTheyMay(t *testing.T) {
	const core = "brickshelf/internal/core/"
	out, err := exec.Command("go", "list", "-f", "{{.ImportPath}} {{join .Imports \" \"}}", core+
		"...").Output()
	require.NoError(t, err)
	for line := range strings.Lines(string(out)) {
		words := strings.Fields(line)
		room, inCore := strings.CutPrefix(words[0], core)
		if !inCore {
			continue
		}
		require.Contains(t, below, room)
		for _, w := range words[1:] {
			if other, ok := strings.CutPrefix(w, core); ok {
				require.Contains(t, strings.Fields(below[room]), other, room)
			}
		}
	}
}

// The core knows nothing of HTTP, SQL or the rest of the program.
func TestCoreImportsNothingOfTheRest(t *testing.T) {
	out, err := exec.Command("go", "list", "-deps", "brickshelf/internal/core/...").Output()
	require.NoError(t, err)
	for _, p := range strings.Fields(string(out)) {
		require.NotContains(t, []string{"net/http", "database/sql", "os/exec"}, p)
		for _, bad := range []string{"gin-gonic", "jmoiron", "modernc.org/sqlite", "brickshelf/internal/api",
			"brickshelf/internal/store", "brickshelf/internal/publish", "brickshelf/internal/folder",
			"brickshelf/internal/workspace", "brickshelf/internal/cli"} {
			require.NotContains(t, p, bad)
		}
	}
}
