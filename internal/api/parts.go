package api

import (
	"errors"
	"net/http"
	"slices"
	"strings"
	"sync"
	"unicode/utf8"

	"github.com/gin-gonic/gin"

	"brickshelf/internal/core/check"
	"brickshelf/internal/core/edit/parts"
	"brickshelf/internal/core/place"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
	"brickshelf/internal/folder"
	"brickshelf/internal/store"
	"brickshelf/internal/workspace"
)

// ListUnits lists what can be taken of a site, or what was chosen with all that it needs.
func (h *handlers) ListUnits(c *gin.Context, name SiteName, params ListUnitsParams) {
	h.read(c, name, func(d *shelf.Shelf) {
		if params.Of == nil {
			c.JSON(http.StatusOK, units(d, parts.Units(d)))
			return
		}
		list, err := parts.Needs(d, *params.Of)
		if err != nil {
			h.fail(c, err)
			return
		}
		out := make([]Unit, len(list))
		for i, n := range list {
			out[i] = unit(d, n.Unit)
			out[i].For = append(out[i].For, n.For...)
		}
		c.JSON(http.StatusOK, out)
	})
}

func units(d *shelf.Shelf, list []parts.Unit) []Unit {
	out := make([]Unit, len(list))
	for i, u := range list {
		out[i] = unit(d, u)
	}
	return out
}

func unit(d *shelf.Shelf, u parts.Unit) Unit {
	out := Unit{Id: u.ID, Kind: UnitKind(u.Kind), Name: u.Name, Title: u.Title, For: []string{}}
	for _, p := range u.Paths {
		b, _ := d.Get(p)
		out.Size += len(b)
	}
	if l := parts.LibraryOf(d, u); l != nil {
		out.Library = &l.Site
	}
	return out
}

// CutPart answers with a part of a site as a zip.
func (h *handlers) CutPart(c *gin.Context, name SiteName, params CutPartParams) {
	h.read(c, name, func(d *shelf.Shelf) {
		files, err := parts.Cut(d, params.Of)
		if err != nil {
			h.fail(c, err)
			return
		}
		c.Header("Content-Type", "application/zip")
		c.Header("Content-Disposition", `attachment; filename="`+name+`-part.zip"`)
		if err := folder.Zip(c.Writer, files, nil); err != nil {
			h.log.Error("a part was not sent", "site", name, "error", err)
			c.Abort()
		}
	})
}

// handed keeps the parts that were handed in last, by the hash of their texts.
type handed struct {
	mu   sync.Mutex
	list []*handedPart
}

type handedPart struct {
	id    string
	files site.Files
	size  int
}

// How many parts are kept, and how many bytes they may have in all; the newest stays whatever
// its size.
const (
	keepParts     = 8
	keepPartBytes = 256 << 20
)

func (k *handed) keep(files site.Files) string {
	var names strings.Builder
	p := &handedPart{files: files}
	for _, path := range files.Paths() {
		names.WriteString(path + " " + string(site.HashOf(files[path])) + "\n")
		p.size += len(files[path])
	}
	p.id = string(site.HashOf([]byte(names.String())))[:24]
	k.mu.Lock()
	defer k.mu.Unlock()
	k.list = slices.DeleteFunc(k.list, func(o *handedPart) bool { return o.id == p.id })
	k.list = slices.Insert(k.list, 0, p)
	total := 0
	for i, o := range k.list {
		if total += o.size; i > 0 && (i >= keepParts || total > keepPartBytes) {
			k.list = k.list[:i]
			break
		}
	}
	return p.id
}

func (k *handed) get(id string) (site.Files, error) {
	k.mu.Lock()
	defer k.mu.Unlock()
	for _, p := range k.list {
		if p.id == id {
			return p.files, nil
		}
	}
	return nil, site.Missing("this part is kept no more; hand it in again")
}

// BringPart takes a part in, to be looked at before anything of it is taken.
func (h *handlers) BringPart(c *gin.Context, name SiteName) {
	if h.open(c, name) == nil {
		return
	}
	files, _, ok := h.sentZip(c, "This cannot be brought in", "")
	if !ok {
		return
	}
	d := shelf.NewScripted(files, h.now(), h.runs)
	if bad := check.Validity(d); len(bad) > 0 {
		h.fail(c, &workspace.InvalidError{Problems: bad})
		return
	}
	c.JSON(http.StatusOK, BroughtPart{Part: h.handed.keep(files), Name: d.Config().Name,
		Units: units(d, parts.All(d))})
}

func (o ArriveOperation) changes(at desk) (outcome, error) {
	files, err := at.server.arriving(o)
	if err != nil {
		return outcome{}, err
	}
	var decided []parts.Decision
	for _, d := range given(o.Decisions) {
		one := parts.Decision{ID: d.Id, Take: parts.Take(d.Take), Name: given(d.Name)}
		for _, choice := range given(d.Choices) {
			one.Choices = append(one.Choices, parts.Choice(choice))
		}
		decided = append(decided, one)
	}
	set, list, err := parts.Arrive(at.draft, files, given(o.From), decided)
	return outcome{set: set, arrivals: append([]parts.Arrival{}, list...)}, err
}

// arriving is the part that an operation speaks of.
func (s *Server) arriving(o ArriveOperation) (site.Files, error) {
	var of *shelf.Shelf
	switch {
	case (o.Part == nil) == (o.From == nil):
		return nil, site.Refuse("name a part that was handed in, or a site that it comes from")
	case o.Part != nil:
		files, err := s.handed.get(*o.Part)
		if err != nil || o.Of == nil {
			return files, err
		}
		of = shelf.NewScripted(files, s.now(), s.runs)
	default:
		w, err := s.Workspace(*o.From)
		if err != nil {
			return nil, err
		}
		of = w.State().Draft
	}
	return parts.Cut(of, given(o.Of))
}

// longText is how many bytes a text may have that is shown beside another.
const longText = 256 << 10

func arrivals(list []parts.Arrival) []Arrival {
	out := make([]Arrival, len(list))
	for i, r := range list {
		out[i] = Arrival{Id: r.ID, Kind: UnitKind(r.Kind), Name: r.Name, Title: r.Title, As: r.As,
			State: ArrivalState(r.State), Take: TakeOf(r.Take), Open: r.Open, Free: r.Free,
			For: append([]string{}, r.For...), Docs: []ArrivingDoc{}}
		for _, d := range r.Docs {
			doc := ArrivingDoc{Path: d.Path, MineSize: sizeOf(d.Mine), TheirsSize: sizeOf(d.Theirs),
				Pieces: []SidedPiece{}}
			if d.Text() && len(d.Mine) <= longText && len(d.Theirs) <= longText {
				doc.Mine, doc.Theirs = string(d.Mine), string(d.Theirs)
			}
			for _, p := range d.Pieces {
				if utf8.ValidString(p.Base) {
					doc.Pieces = append(doc.Pieces, SidedPiece{Text: p.Text, Conflict: p.Conflict,
						Base: p.Base, Mine: p.Ours, Theirs: p.Theirs})
				}
			}
			out[i].Docs = append(out[i].Docs, doc)
		}
	}
	return out
}

func sizeOf(b []byte) int {
	if b == nil {
		return -1
	}
	return len(b)
}

// ListLibraries lists the sites from which blocks and shortcodes of a site came, and how these stand
// to what they are there.
func (h *handlers) ListLibraries(c *gin.Context, name SiteName) {
	h.read(c, name, func(d *shelf.Shelf) {
		out := []Library{}
		for _, from := range parts.Libraries(d) {
			l, err := h.library(d, from)
			if err != nil {
				h.fail(c, err)
				return
			}
			out = append(out, l)
		}
		c.JSON(http.StatusOK, out)
	})
}

func (h *handlers) library(d *shelf.Shelf, from string) (Library, error) {
	out := Library{Site: from, Title: from}
	w, err := h.Workspace(from)
	if err != nil && !errors.Is(err, store.ErrNoSite) {
		return out, err
	}
	var of *shelf.Shelf
	if err == nil {
		of = w.State().Draft
		out.There = true
		if t := of.Config().Name; t != "" {
			out.Title = t
		}
	}
	states := map[string]parts.State{}
	var asked []string
	came := parts.From(d, from)
	for _, u := range came {
		if of != nil && of.Hash(u.Of) != "" {
			asked = append(asked, u.Of)
		}
	}
	if len(asked) > 0 {
		files, err := parts.Cut(of, asked)
		if err != nil {
			return out, err
		}
		_, list, err := parts.Arrive(d, files, from, nil)
		if err != nil {
			return out, err
		}
		for _, r := range list {
			states[r.As] = r.State
		}
	}
	for _, u := range came {
		state := LibraryUnitState("gone")
		if s, ok := states[u.ID]; ok {
			state = LibraryUnitState(s)
		}
		out.Units = append(out.Units, LibraryUnit{Id: u.ID, Of: u.Of, State: state, Title: u.Title})
	}
	return out, nil
}

// Clash is the title of the problem that a part takes names that are taken here, and nobody said what
// becomes of them.
const Clash = "Names of this part are taken"

// ClashError says that a part takes names that are taken.
type ClashError struct{ Names []string }

func (e *ClashError) Error() string {
	return "taken here already by something else: " + strings.Join(e.Names, ", ") + "; nothing was changed"
}

// importPart takes a part in, as an edit of a site, or as a new one that holds nothing else.
func (h *Server) importPart(name string, part site.Files, in Intake) (*Imported, error) {
	w, err := h.Workspace(name)
	fresh := errors.Is(err, store.ErrNoSite)
	if err != nil && !fresh {
		return nil, err
	}
	draft := shelf.NewScripted(site.Files{"site.yaml": []byte("format: " + place.Format + "\nname: " + name + "\n")},
		h.now(), h.runs)
	if !fresh {
		draft = w.State().Draft
	}
	decided := in.decided()
	set, list, err := parts.Arrive(draft, part, in.From, decided)
	if err != nil {
		return nil, err
	}
	clash := &ClashError{}
	for _, r := range list {
		if !r.Open {
			continue
		}
		clash.Names = append(clash.Names, r.As)
		if in.Mode != workspace.Add {
			decided = append(decided, parts.Decision{ID: r.ID, Take: parts.Theirs})
		}
	}
	switch {
	case in.Keep || len(clash.Names) == 0:
	case in.Mode == workspace.Add && !in.Dry:
		return nil, clash
	default:
		if set, _, err = parts.Arrive(draft, part, in.From, decided); err != nil {
			return nil, err
		}
	}
	if in.Title != "" {
		set.Title = in.Title
	}
	set.Author = in.Author
	if fresh {
		files, err := draft.Files().Apply(set)
		if err != nil {
			return nil, err
		}
		return h.importNew(name, files, in.Dry)
	}
	im, err := w.Take(set, in.Dry)
	if err != nil {
		return nil, err
	}
	return taken(im, []string{}), nil
}
