// Package render renders the pages of a site, telling on request which bytes came from which
// placement, and compares pages of a site with those of an overlay of it.
package render
