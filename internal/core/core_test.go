package core_test

import (
	"os/exec"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
)

// The core knows nothing of HTTP, SQL or the rest of the program.
func TestCoreImportsNothingOfTheRest(t *testing.T) {
	out, err := exec.Command("go", "list", "-deps", "brickshelf/internal/core/...").Output()
	require.NoError(t, err)
	for _, p := range strings.Fields(string(out)) {
		require.NotContains(t, []string{"net/http", "database/sql", "os/exec"}, p)
		for _, bad := range []string{"gin-gonic", "jmoiron", "modernc.org/sqlite", "brickshelf/internal/api", "brickshelf/internal/store", "brickshelf/internal/publish", "brickshelf/internal/folder", "brickshelf/internal/workspace", "brickshelf/internal/cli"} {
			require.NotContains(t, p, bad)
		}
	}
}
