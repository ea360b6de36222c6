// Package explain tells what stands where on a site's pages and why: the rules of a region,
// whom a rule meets, where each value comes from, and what an address means.
package explain
