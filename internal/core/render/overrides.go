package render

import (
	"strings"

	"brickshelf/internal/core/shelf"
)

// meet notes that what the page says of an address was met there.
func (r *renderer) meet(key, address, field string) {
	if !r.strip {
		r.met = append(r.met, shelf.Saying{Key: key, Address: address, Field: field})
	}
}

// covered notes that what the page sets at an address belongs to the copy there: the copy
// has it in its text, and it counts again when the copy is linked.
func (r *renderer) covered(address string) {
	for _, f := range r.info.Page.Overrides[address] {
		r.meet("overrides", address, f.Key)
	}
}

// lost tells what the page says of addresses at which nothing was met that could
// take it.
func (r *renderer) lost() {
	for _, e := range r.info.Says {
		if !r.hasMet(e) && !r.waits(e.Address) {
			f := Fault{Code: "lost-override", Address: e.Address, Field: e.Field, Message: "sets " + e.Field +
				", and nothing stands there that has such a field; set it elsewhere or drop it"}
			switch e.Key {
			case "copies":
				f.Code, f.Message = "lost-copy",
					"the page has a copy for this address, and nothing stands there any more; drop it or put its text into the page"
			case "hidden":
				f.Code, f.Message = "lost-hidden",
					"the page hides what stands at this address, and nothing does; drop the entry"
			}
			r.fault(f)
		}
	}
}

// waits reports whether an address is that of a rule which takes the page on other
// days, or for another audience.
func (r *renderer) waits(address string) bool {
	for _, c := range r.info.Candidates {
		step := c.Rule.Region + "/rule:" + c.Rule.Name
		if rest, ok := strings.CutPrefix(address, step); ok && (rest == "" || rest[0] == '/' ||
			rest[0] == '~') {
			return c.Rule.Enabled && !(c.Rule.Running(r.s.Now(), shelf.SignedOut) &&
				c.Rule.Running(r.s.Now(), shelf.SignedIn))
		}
	}
	return false
}

func (r *renderer) hasMet(e shelf.Saying) bool {
	for _, m := range r.met {
		if m == e {
			return true
		}
	}
	return false
}
