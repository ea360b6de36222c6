// Package site is the tree of text files that a site is: documents, change
// sets, paths and addresses, front matter, and the problems found in them.
//
// Nothing here knows what a block or a page means; that is said by the
// packages block and place.
package site
