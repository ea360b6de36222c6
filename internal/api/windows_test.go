package api_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"brickshelf/internal/api"
)

func TestPlacementsAndValuesAreToldAFewPagesAtATime(t *testing.T) {
	b := start(t)
	for i := range 5 {
		b.save(fmt.Sprintf("pages/p%d.html", i), strings.Repeat("@{foot word=x /}", 1+i%2))
	}
	var placements []api.Placement
	b.send("GET", "/sites/small/blocks/foot/placements", nil, &placements)
	table := b.values()
	pages := map[string]bool{}
	for _, r := range table.Rows {
		pages[r.Page] = true
	}
	require.Greater(t, len(placements), len(pages))
	for _, most := range []int{1, 2, 3, 100} {
		var stand []api.Placement
		var told api.ValueTable
		asked := map[string]int{}
		for _, what := range []string{"placements", "values"} {
			next := fmt.Sprintf("/sites/small/blocks/foot/%s?pages=%d", what, most)
			for next != "" {
				asked[what]++
				var link string
				if what == "values" {
					var part api.ValueTable
					link = b.send("GET", next, nil, &part).Header.Get("Link")
					require.Equal(t, table.Fields, part.Fields)
					told.Rows = append(told.Rows, part.Rows...)
					told.Orphans = append(told.Orphans, part.Orphans...)
				} else {
					var part []api.Placement
					link = b.send("GET", next, nil, &part).Header.Get("Link")
					require.NotEmpty(t, part)
					stand = append(stand, part...)
				}
				at, ok := strings.CutSuffix(link, `>; rel="next"`)
				require.Equal(t, link != "", ok)
				next = strings.TrimPrefix(at, "</api/v1")
			}
		}
		require.Equal(t, placements, stand)
		require.Equal(t, table.Rows, told.Rows)
		require.ElementsMatch(t, table.Orphans, told.Orphans)
		times := (len(pages) + most - 1) / most
		require.Equal(t, map[string]int{"placements": times, "values": times}, asked)
	}
	require.Equal(t, 400, b.send("GET", "/sites/small/blocks/foot/values?after=x", nil, nil).StatusCode)
	require.Empty(t, b.send("GET", "/sites/small/blocks/foot/values?after=900&pages=2", nil, &table).Header.Get("Link"))
	require.Empty(t, table.Rows)
}
