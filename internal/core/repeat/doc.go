// Package repeat finds what is repeated on the pages of a site that nobody told about blocks: the same
// stretch of HTML, or one of the same shape, on many pages, and what differs between its places.
//
//	found, err := repeat.Find(ctx, pages, nil)
//	found.Pieces[0].Title       // "Navigation"
//	found.Pieces[0].Fields[0]   // {Name: "prev-href", Type: "link", …}
//
// It goes in four steps, each in a file of its own:
//
//   - token.go reads a page as tokens with the offsets of their bytes, and gives each three hashes: of its
//     shape (tag and names of attributes), of its exact bytes, and its form (the shape with those values
//     that stand on many pages). The form tells pieces apart.
//   - tree.go makes of them a tree that no missing or stray end tag upsets.
//   - group.go and stretch.go propose pieces: elements of one form, runs of neighbours that follow one
//     another nearly always, and tops and bottoms of pages, whether their tags are balanced or not.
//   - align.go lays the places of a piece over one another (pair.go finds which items answer one another,
//     text.go takes texts apart, match.go reads the other places by the template). What is the same
//     everywhere is fixed, and what
//     differs becomes fields (start.go for tags, field.go for their names), so that each place is the
//     template with its values, byte for byte.
//
// rank.go puts the pieces in order: by what they would save, and by how much of them is the same.
//
// Nothing hangs on the order of maps or on a clock: the same pages give the same pieces under the same ids.
package repeat
