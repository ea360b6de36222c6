// Package place knows where blocks stand: layouts with their regions, rules
// with their targets and what outranks what, and the front matter of pages.
package place
