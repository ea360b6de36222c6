// Package block knows what a block is: its fields and their types, values and
// how they are read from YAML and from calls, and how a value is written into
// HTML so that it can do no harm.
package block
