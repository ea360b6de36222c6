package documents_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"brickshelf/internal/core/check"
	"brickshelf/internal/core/edit/documents"
	"brickshelf/internal/core/markup"
	"brickshelf/internal/core/sitetest"
)

func TestANewSiteHasNothingWrong(t *testing.T) {
	f, err := documents.NewSite(`Ann's "Place": #1`)
	require.NoError(t, err)
	s := sitetest.New(f)
	require.Empty(t, check.Validity(s))
	require.Empty(t, check.Site(s))
	require.Equal(t, `Ann's "Place": #1`, s.Config().Name)
	html := sitetest.HTML(s, "pages/index.html")
	require.Contains(t, html, "<title>Home · Ann&#39;s &#34;Place&#34;: #1</title>")
	require.Contains(t, html, `<nav aria-label="Main">`)
	require.Contains(t, html, "<footer")

	_, err = documents.NewSite(" ")
	require.ErrorContains(t, err, "give the site a name")
	same, err := documents.Titled(f, "")
	require.NoError(t, err)
	require.Equal(t, f, same)
	other, err := documents.Titled(f, "Other")
	require.NoError(t, err)
	require.Contains(t, string(other["site.yaml"]), "name: Other")
	require.Contains(t, string(f["site.yaml"]), "Ann", "the one that was copied is as it was")
}

func TestTheNameOfASiteFollowsFromItsTitle(t *testing.T) {
	taken := map[string]bool{"a": true, "a-2": true}
	for title, want := range map[string]string{"Hill Farm": "hill-farm", "A": "a-3", "2026 – news!": "site-2026-news",
		"Ωmega": "mega", "…": "site", strings.Repeat("x", 39) + " y": strings.Repeat("x", 39)} {
		name := documents.SiteName(title, func(n string) bool { return taken[n] })
		require.Equal(t, want, name)
		require.True(t, markup.ValidName(name))
	}
}
