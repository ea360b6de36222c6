// Package shelf holds a site compiled (a Shelf): what its documents say, what stands where
// on each page, and the way back from each document to the pages that it can reach.
//
// A Shelf made by New holds the whole site with its indexes. With returns what the site
// would be after some changes: it shares everything that does not change, costs what the
// changes cost, and lives as long as its base is not committed to. Commit makes changes part
// of the shelf itself.
package shelf
