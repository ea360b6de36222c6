package sets_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"brickshelf/internal/core/sets"
)

// Whatever is done to a table and to those that were forked from it, each holds what a plain
// map of maps does.
func TestTablesHoldWhatIsPutIntoThem(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		type plain = map[string]map[int32]bool
		frozen := map[int]bool{}
		tables, plains := []*sets.Table{sets.New()}, []plain{{"a": {}, "b": {}}}
		for range rapid.IntRange(0, 100).Draw(t, "steps") {
			i := rapid.IntRange(0, len(tables)-1).Draw(t, "table")
			key := rapid.SampledFrom([]string{"a", "b"}).Draw(t, "key")
			n := rapid.Int32Range(0, 300).Draw(t, "number")
			what := rapid.SampledFrom([]string{"add", "many", "remove", "fork"}).Draw(t, "what")
			if frozen[i] {
				what = "fork"
			}
			switch what {
			case "add":
				tables[i].Add(key, n)
				plains[i][key][n] = true
			case "many":
				for m := n; m < n+70; m++ {
					tables[i].Add(key, m)
					plains[i][key][m] = true
				}
			case "remove":
				tables[i].Remove(key, n)
				delete(plains[i][key], n)
			case "fork":
				frozen[i] = true
				tables = append(tables, tables[i].Fork())
				copied := plain{}
				for k, set := range plains[i] {
					copied[k] = map[int32]bool{}
					for m := range set {
						copied[k][m] = true
					}
				}
				plains = append(plains, copied)
			}
		}
		for i, table := range tables {
			for key, want := range plains[i] {
				var got []int32
				table.Of(key).Each(func(n int32) { got = append(got, n) })
				require.True(t, slices.IsSorted(got))
				require.Len(t, got, len(want))
				for _, n := range got {
					require.True(t, want[n])
				}
				require.Equal(t, len(want) == 0, table.Of(key).Empty())
			}
		}
	})
}
