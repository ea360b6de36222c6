// Package render holds a site ready to be shown (a Shelf) and renders its
// pages, telling on request which bytes came from which placement.
//
// A Shelf made by New holds the whole site with its indexes. With returns what
// the site would be after some changes: it shares everything that does not
// change, costs what the changes cost, and lives as long as its base is not
// committed to. Commit makes changes part of the shelf itself.
package render
