package markup

// Inside tells of elements that are open where a value stands and that the start tag of
// another element would end, so that what a rich value holds could leave them.
type Inside uint8

// The elements that other start tags end.
const (
	InParagraph Inside = 1 << iota // p: any element that is a block ends it
	InHeading                      // h1 to h6: another heading ends it
	InLink                         // a: another one ends it
	InItem                         // li: another one ends it
	InTerm                         // dt or dd: another one ends it
)

// Blocks are the elements whose start tags end a paragraph.
var Blocks = setOf("address article aside blockquote center details dialog dir div dl dd dt fieldset figcaption figure footer form h1 h2 h3 h4 h5 h6 header hgroup hr li main menu nav ol p plaintext pre search section summary table ul xmp")

// Headings are the elements whose start tags end one another.
var Headings = setOf("h1 h2 h3 h4 h5 h6")

// within is what is open behind a start tag.
func (i Inside) within(name string) Inside {
	if Blocks[name] {
		i &^= InParagraph
	}
	switch {
	case name == "p":
		return i | InParagraph
	case Headings[name]:
		return i | InHeading
	case name == "a":
		return i | InLink
	case name == "li":
		return i | InItem
	case name == "dt" || name == "dd":
		return i | InTerm
	case name == "ul" || name == "ol":
		return i &^ InItem
	case name == "dl":
		return i &^ InTerm
	}
	return i
}

// behind is what is open behind an end tag.
func (i Inside) behind(name string) Inside {
	if Blocks[name] || name == "body" || name == "td" || name == "th" {
		i &^= InParagraph
	}
	switch {
	case Headings[name]:
		return i &^ InHeading
	case name == "a":
		return i &^ InLink
	case name == "li":
		return i &^ InItem
	case name == "dt" || name == "dd":
		return i &^ InTerm
	case name == "ul" || name == "ol": // perhaps that of an item
		return i | InItem
	case name == "dl":
		return i | InTerm
	}
	return i
}
