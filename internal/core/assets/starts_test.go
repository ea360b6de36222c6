package assets_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"brickshelf/internal/core/assets"
	"brickshelf/internal/core/site"
)

func TestAModuleWithADefaultExportIsStarted(t *testing.T) {
	for module, want := range map[string]bool{
		"":                                            false,
		"document.title":                              false,
		"export default function (root) {}":           true,
		"export default (root) => {}":                 true,
		"const a = 1;\nexport { a as default };":      true,
		"export { default } from './a.js'":            true,
		"export { default as a } from './a.js'":       false,
		"export { a }; const a = 'export default 1';": false,
		"// export default function\nlet a":           false,
		"switch (a) { default: b() }":                 false,
		"export default function (root) {\n  if (":    true, // in the middle of being written
		"a(;\n// export default":                      false,
		"import a from './a.json' with { type: 'json' };\nexport default () => a": true,
	} {
		require.Equal(t, want, assets.Starts([]byte(module)), module)
	}
}

func TestLinksOfAPage(t *testing.T) {
	each := assets.File{Hash: site.HashOf([]byte("a")), Ext: ".js", Each: true}
	got := string(assets.Links(`/a"b/`, nil, []assets.File{each, assets.Starter()}))
	require.Contains(t, got, `<script type="module" src="`+each.URL()+`" data-shelf-run="`+string(each.Hash[:8])+`">`)
	require.Contains(t, got, `<script type="module" src="`+assets.Starter().URL()+`" data-shelf-page="/a&#34;b/">`)
	b, ok := assets.Named(nil, assets.Starter().Name())
	require.True(t, ok)
	require.Empty(t, assets.Syntax("blocks/start.js", b))
	require.Equal(t, assets.Starter().Hash, site.HashOf(b))
}
