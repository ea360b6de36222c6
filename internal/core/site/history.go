package site

import "regexp"

var hashes = regexp.MustCompile(`[0-9a-f]{64}`)

// WithoutSpent is a tree without the revisions of history that nothing speaks of any more: no
// copy needs them.
func (f Files) WithoutSpent() Files {
	spoken := map[string]bool{}
	history := false
	for path, text := range f {
		switch class, _, _ := Classify(path); class {
		case HistoryDoc:
			history = true
		case PageDoc, BlockDoc, LayoutDoc, MenuDoc, ShortcodeDoc:
			for _, h := range hashes.FindAll(text, -1) {
				spoken[string(h)] = true
			}
		}
	}
	if !history {
		return f
	}
	out := make(Files, len(f))
	for path, text := range f {
		if class, name, _ := Classify(path); class != HistoryDoc || spoken[name] {
			out[path] = text
		}
	}
	return out
}
