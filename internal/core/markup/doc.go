// Package markup reads and prints the shelf language: HTML (or any bytes) with
// calls, values, conditions, loops, regions, fills and copies written between
// "@{" and "}".
//
// Parsing is lossless. Every node knows the bytes it came from, so printing a
// parsed text gives the same bytes back, and an edit replaces only the bytes
// that must change:
//
//	t := markup.Parse([]byte(`<p>@{hours port="north" /}</p>`))
//	t.Nodes[1].Name          // "hours"
//	markup.Print(t)          // the same bytes
//
// Parsing never fails: what is not the language stays literal text, and each
// fault is an Error in Text.Errors with the offset where it begins.
//
// Contexts works out, once per text, where in HTML each value and call stands,
// so that rendering escapes without guessing.
package markup
