package sitetest_test

import (
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"brickshelf/internal/core/check"
	"brickshelf/internal/core/site"
	"brickshelf/internal/core/sitetest"
)

// What is drawn is a valid site, so that no property test passes over what it should look at.
func TestDrawnSitesAreValid(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		f := sitetest.Site(t)
		require.Empty(t, check.Validity(sitetest.New(f)))
		_, err := f.Apply(site.ChangeSet{Changes: sitetest.Edit(t, f)})
		require.NoError(t, err)
	})
}
