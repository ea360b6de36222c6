package parts

import (
	"bytes"
	"cmp"
	"fmt"
	"path"
	"slices"
	"strings"
	"unicode/utf8"

	"brickshelf/internal/core/block"
	"brickshelf/internal/core/merge"
	"brickshelf/internal/core/patch"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
)

// State says how a unit that arrives stands to what is here.
type State string

// Nothing of that name is here; the same is here; another one is here. Where what is here came from
// the library that it arrives from, it is known who changed it since: the library, this
// site, or both.
const (
	New       State = "new"
	Equal     State = "equal"
	Different State = "different"
	Newer     State = "newer"
	Edited    State = "edited"
	Both      State = "both"
)

// Take says what is done with a unit that arrives.
type Take string

// It is taken, and in place of what is here; it is left, and what is here stays; it is taken
// under another name; what both have become is merged.
const (
	Theirs Take = "theirs"
	Mine   Take = "mine"
	Name   Take = "name"
	Merged Take = "merged"
)

// Decision is what was decided of a unit, by its ID in the part.
type Decision struct {
	ID      string
	Take    Take
	Name    string   // with Name
	Choices []Choice // with Merged: of its conflicts, in the order of its documents
}

// Choice is what stands in the place of a conflict: mine, theirs, or both one after the other.
type Choice string

// Both sides of a conflict, one after the other.
const BothSides Choice = "both"

// Arrival is a unit that arrives.
type Arrival struct {
	Needed
	As    string // the ID that it has here
	State State
	Take  Take
	Open  bool   // nobody decided, and there is something to decide
	Free  string // a name that it could have here; "" where it can have no other
	Docs  []Doc
}

// Doc is a document of a unit that is another one here. A side that has none has no text. Pieces
// are the merge of both where their common base is known.
type Doc struct {
	Path         string
	Mine, Theirs []byte
	Base         []byte
	Pieces       []merge.Piece
}

// Text reports whether both sides can be read as text.
func (d Doc) Text() bool { return utf8.Valid(d.Mine) && utf8.Valid(d.Theirs) }

// Arrive brings a part into a site as one edit, and tells of each of its units how it stands to what
// is here and what is done with it. library is the site of the same store that the part comes
// from; "" where it comes from elsewhere.
func Arrive(s *shelf.Shelf, part site.Files, library string,
	decided []Decision) (site.ChangeSet, []Arrival, error) {
	set := site.ChangeSet{Title: "Bring in a part"}
	p := shelf.NewScripted(part, s.Now(), s.Runner())
	if library == "" && p.Config().Name != "" {
		set.Title += " of " + p.Config().Name
	} else if library != "" {
		set.Title += " of " + library
	}
	a := &arriving{s: s, library: library, origin: map[string]string{}, decided: map[string]Decision{}}
	for _, d := range decided {
		a.decided[d.ID] = d
	}
	units, err := a.names(p)
	if err != nil {
		return set, nil, err
	}
	var out []Arrival
	for _, n := range units {
		one, err := a.arrival(n)
		if err != nil {
			return set, nil, err
		}
		out = append(out, one)
	}
	if err := a.take(out); err != nil {
		return set, nil, err
	}
	set.Changes = a.changes
	return set, out, nil
}

// arriving is a part on its way.
type arriving struct {
	s       *shelf.Shelf // where it arrives
	p       *shelf.Shelf // the part, with the names under which it is taken
	library string
	decided map[string]Decision
	origin  map[string]string // the ID that a unit had, by that under which it is taken
	changes []site.Change
}

// names gives the units of a part the names under which they are taken: those that were decided,
// and those that what came from the library before has here.
func (a *arriving) names(p *shelf.Shelf) ([]Needed, error) {
	a.p = p
	wanted := map[string]string{}
	if a.library != "" {
		for _, c := range From(a.s, a.library) {
			if c.Of != c.ID {
				wanted[c.Of] = c.Name
			}
		}
	}
	for id, d := range a.decided {
		if d.Take == Name {
			wanted[id] = d.Name
		}
	}
	for _, u := range All(p) {
		a.origin[u.ID] = u.ID
	}
	for _, u := range All(p) {
		name := wanted[u.ID]
		if name == "" || name == u.Name {
			continue
		}
		to := called(u, name)
		if a.decided[u.ID].Take == Name && a.s.Hash(to) != "" {
			return nil, site.Refuse("there is %s here already; choose another name", to)
		}
		next, err := renamed(a.p, u, name)
		if err != nil && a.decided[u.ID].Take != Name {
			continue // it comes under the name that it has there
		}
		if err != nil {
			return nil, err
		}
		a.p = next
		delete(a.origin, u.ID)
		a.origin[to] = u.ID
	}
	n := newNeeds(a.p)
	list := All(a.p)
	out := make([]Needed, len(list))
	at := map[string]int{}
	for i, u := range list {
		out[i].Unit, at[u.ID] = u, i
	}
	for _, u := range list {
		for _, id := range n.of(u) {
			if i, ok := at[id]; ok && id != u.ID {
				out[i].For = append(out[i].For, u.ID)
			}
		}
	}
	return out, nil
}

// arrival holds a unit against what is here.
func (a *arriving) arrival(n Needed) (Arrival, error) {
	out := Arrival{Needed: n, As: n.ID}
	out.ID = cmp.Or(a.origin[n.ID], n.ID)
	d := a.decided[out.ID]
	if n.Kind == SiteValue || n.Kind == PageField {
		a.declares(&out)
	} else if err := a.documents(&out); err != nil {
		return out, err
	}
	if out.State != New && out.State != Equal {
		out.Free = a.free(n.Unit)
	}
	out.Take = d.Take
	switch {
	case out.Take == Name && (out.Kind == SiteValue || out.Kind == PageField):
		return out, site.Refuse("%s of the site cannot have another name here; take it or keep yours", n.Name)
	case out.Take == Name:
		out.Take = Theirs
	case out.Take == Merged && !out.mergeable():
		return out, site.Refuse("%s cannot be merged: what both came from is not known", n.Name)
	case out.Take != "":
	case out.State == New || out.State == Newer:
		out.Take = Theirs
	case out.State == Both && out.conflicts() == 0 && out.mergeable():
		out.Take = Merged
	case out.State == Different || out.State == Both:
		out.Take, out.Open = Mine, true
	default:
		out.Take = Mine
	}
	return out, nil
}

// free is a name that a unit could have here, as card-2.
func (a *arriving) free(u Unit) string {
	base, ext := u.Name, ""
	switch u.Kind {
	case SiteValue, PageField:
		return ""
	case Page:
		if u.ID == "pages/index.html" {
			return ""
		}
		base = strings.TrimSuffix(strings.TrimSuffix(u.ID, ".html"), "/index")
	case File:
		ext = path.Ext(u.ID)
		base = strings.TrimSuffix(u.ID, ext)
	}
	for i := 2; ; i++ {
		name := fmt.Sprintf("%s-%d%s", base, i, ext)
		if id := called(u, name); a.s.Hash(id) == "" && a.p.Hash(id) == "" {
			return name
		}
	}
}

// declares holds a value of the site or a field of pages against what is declared here.
func (a *arriving) declares(out *Arrival) {
	theirs := flow(declaration(a.p, out.Unit))
	mine := flow(declaration(a.s, out.Unit))
	if out.Kind == PageField && len(a.s.Layouts()) == 0 {
		mine = theirs // no page could have it
	}
	switch {
	case mine == "":
		out.State = New
		return
	case mine == theirs:
		out.State = Equal
		return
	case out.Kind == PageField && fieldOf(a.s, out.Unit).Type == fieldOf(a.p, out.Unit).Type:
		out.State = Equal // its default is a matter of the layout
		return
	}
	out.State = Different
	out.Docs = []Doc{{Path: out.As, Mine: []byte(mine + "\n"), Theirs: []byte(theirs + "\n")}}
}

func flow(v any) string {
	if v == nil {
		return ""
	}
	return patch.Flow(v)
}

// documents holds the documents of a unit against those here.
func (a *arriving) documents(out *Arrival) error {
	here, there := find(a.s, out.As)
	paths := slices.Clone(out.Paths)
	if there {
		for _, p := range here.Paths {
			if !slices.Contains(paths, p) {
				paths = append(paths, p)
			}
		}
		slices.Sort(paths)
	}
	var came *block.Library
	if l := LibraryOf(a.s, here); there && l != nil && a.library != "" && l.Site == a.library && known(a.s, l) {
		came = l
	}
	byThem, byUs := false, false
	for _, p := range paths {
		mine, theirs, err := a.sides(p)
		if err != nil {
			return err
		}
		if bytes.Equal(mine, theirs) && (mine == nil) == (theirs == nil) {
			continue
		}
		d := Doc{Path: p, Mine: mine, Theirs: theirs}
		if came != nil {
			d.Base = a.base(p, came)
			byThem = byThem || !bytes.Equal(d.Base, theirs)
			byUs = byUs || !bytes.Equal(d.Base, mine)
			if d.Text() {
				d.Pieces = merge.Three(string(d.Base), string(mine), string(theirs))
			}
		}
		out.Docs = append(out.Docs, d)
	}
	switch {
	case !there:
		out.State, out.Docs = New, nil
	case len(out.Docs) == 0:
		out.State = Equal
	case came == nil:
		out.State = Different
	case byThem && byUs:
		out.State = Both
	case byThem:
		out.State = Newer
	default:
		out.State = Edited
	}
	return nil
}

// sides are a document here and in the part, without what they say of where they came from; nil
// where there is none.
func (a *arriving) sides(p string) (mine, theirs []byte, err error) {
	mine, _ = a.s.Get(p)
	theirs, _ = a.p.Get(p)
	if mine, err = own(p, mine); err == nil {
		theirs, err = own(p, theirs)
	}
	return mine, theirs, err
}

// known reports whether history has the revision that came from a library.
func known(s *shelf.Shelf, l *block.Library) bool {
	for _, h := range []site.Hash{l.Text, l.Style, l.Behaviour} {
		if h != "" && s.Hash("history/"+string(h)) != h {
			return false
		}
	}
	return true
}

// base is what a document was when it came.
func (a *arriving) base(p string, l *block.Library) []byte {
	h := l.Text
	switch class, _, _ := site.Classify(p); class {
	case site.StyleDoc:
		h = l.Style
	case site.BehaviourDoc:
		h = l.Behaviour
	}
	b, _ := a.s.Get("history/" + string(h))
	return b
}

// mergeable reports whether all of what differs can be merged.
func (r *Arrival) mergeable() bool {
	return len(r.Docs) > 0 && !slices.ContainsFunc(r.Docs, func(d Doc) bool { return d.Pieces == nil })
}

func (r *Arrival) conflicts() int {
	n := 0
	for _, d := range r.Docs {
		n += merge.Conflicts(d.Pieces)
	}
	return n
}
