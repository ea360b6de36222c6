package placing

import (
	"bytes"

	"brickshelf/internal/core/block"
	"brickshelf/internal/core/markup"
	"brickshelf/internal/core/patch"
	"brickshelf/internal/core/place"
	"brickshelf/internal/core/site"
)

// AddRegion writes a region into a layout's text, behind another one, or before the end
// of the body where none is named. It is a stack until it is said to be for one thing.
func AddRegion(src []byte, region, after string) ([]byte, error) {
	l, split, err := layoutOf(src)
	if err != nil {
		return nil, err
	}
	if !markup.ValidName(region) || region == "layout" {
		return nil, site.Refuse("%q cannot name a region; use lower-case letters, digits and hyphens", region)
	}
	if l.Region(region) != nil {
		return nil, site.Refuse("the layout has a region %s already", region)
	}
	at := -1
	if after != "" {
		n := regionIn(l.Text, after)
		if n == nil {
			return nil, site.Refuse("the layout has no region %s", after)
		}
		at = split.TextAt + n.Span.To
	} else if i := bytes.LastIndex(bytes.ToLower(split.Text), []byte("</body")); i >= 0 {
		at = split.TextAt + i
	}
	nl := patch.Newline(src)
	tag := "@{region " + region + " /}"
	switch {
	case after != "":
		// As far in as the line of the other one.
		start := bytes.LastIndexByte(src[:at], '\n') + 1
		line := src[start:at]
		tag = nl + string(line[:len(line)-len(bytes.TrimLeft(line, " \t"))]) + tag
	case at >= 0:
		tag += nl
	default:
		at = len(src)
		if at > 0 && src[at-1] != '\n' {
			tag = nl + tag
		}
		tag += nl
	}
	out := append(append(bytes.Clone(src[:at]), tag...), src[at:]...)
	return patch.Set("layouts/l.html", out, []string{"regions", region, "mode"}, "stack")
}

// DropRegion takes a region out of a layout: its tag, with the content that it shows
// where nothing else stands there, and what the layout says of it.
func DropRegion(src []byte, region string) ([]byte, error) {
	l, split, err := layoutOf(src)
	if err != nil {
		return nil, err
	}
	n := regionIn(l.Text, region)
	if n == nil {
		return nil, site.Refuse("the layout has no region %s", region)
	}
	from, to := split.TextAt+n.Span.From, split.TextAt+n.Span.To
	if start := bytes.LastIndexByte(src[:from], '\n') + 1; len(bytes.TrimSpace(src[start:from])) == 0 {
		if end := to + len(src[to:]) - len(bytes.TrimLeft(src[to:], " \t\r")); end < len(src) &&
			src[end] == '\n' {
			from, to = start, end+1
		}
	}
	out := append(bytes.Clone(src[:from]), src[to:]...)
	for _, keys := range [][]string{{"regions", region}, {"starts_with", region}} {
		if out, err = patch.Set("layouts/l.html", out, keys, nil); err != nil {
			return nil, err
		}
	}
	return out, nil
}

func layoutOf(src []byte) (*place.Layout, site.Split, error) {
	l, _ := place.ParseLayout("l", "layouts/l.html", src, block.NewReader())
	if len(l.Text.Errors) > 0 {
		return nil, site.Split{}, site.Refuse("mend the text of the layout first: %s",
			l.Text.Errors[0].Message)
	}
	return l, l.Split, nil
}

func regionIn(t *markup.Text, name string) *markup.Node {
	var found *markup.Node
	markup.Walk(t.Nodes, func(n *markup.Node) bool {
		if n.Kind == markup.Region && n.Name == name {
			found = n
		}
		return found == nil
	})
	return found
}
