package parts

import (
	"fmt"

	"brickshelf/internal/core/patch"
	"brickshelf/internal/core/place"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
)

// Cut is a part of a site: the units asked for, with all that they need and the revisions that
// their copies came from.
func Cut(s *shelf.Shelf, asked []string) (site.Files, error) {
	list, err := Needs(s, asked)
	if err != nil {
		return nil, err
	}
	out := site.Files{}
	config := []byte("format: " + place.Format + "\npart: true\n")
	if name := s.Config().Name; name != "" {
		config = fmt.Appendf(config, "name: %s\n", patch.Flow(name))
	}
	if s.Config().ExactURLs {
		config = append(config, "exact_urls: true\n"...)
	}
	var paths []string
	for _, n := range list {
		paths = append(paths, n.Paths...)
		key := map[Kind]string{SiteValue: "fields", PageField: "page_fields"}[n.Kind]
		if key == "" {
			continue
		}
		config, err = patch.Set("site.yaml", config, []string{key, n.Name}, declaration(s, n.Unit))
		if err != nil {
			return nil, err
		}
	}
	for _, p := range append(paths, revisions(s, paths)...) {
		out[p], _ = s.Get(p)
	}
	out["site.yaml"] = config
	return out, nil
}
