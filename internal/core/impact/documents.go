package impact

import (
	"fmt"
	"strings"

	"brickshelf/internal/core/check"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
)

// documents lists the errors in documents that are not pages which an edit brings about,
// each at its place; but for those that are told of a page already.
func (e *edit) documents(im *Impact, was, is *shelf.Shelf, docs []string, pages bool) {
	if len(docs) == 0 {
		return
	}
	type key struct{ path, code, message string }
	known := map[key]int{}
	for _, p := range check.New(was).In(docs, pages) {
		if p.Severity == site.Error {
			known[key{e.rename(p.Path), p.Code, e.rename(plainly(p.Message))}]++
		}
	}
	told := map[[2]string]bool{}
	for _, p := range im.Pages {
		for _, b := range p.Breaks {
			told[[2]string{b.Code, plainly(b.Message)}] = true
		}
	}
	list := check.New(is).In(docs, pages)
	list.Sort()
	for _, p := range list {
		if p.Severity != site.Error {
			continue
		}
		k := key{p.Path, p.Code, plainly(p.Message)}
		if known[k]--; known[k] < 0 && !told[[2]string{k.code, k.message}] {
			im.Documents = append(im.Documents, Break{p.Code, fmt.Sprintf("%s:%d:%d", p.Path, p.Line,
				p.Column), p.Message})
		}
	}
}

// plainly is a message without what it suggests, which depends on what else is there.
func plainly(message string) string {
	out, _, _ := strings.Cut(message, ";")
	return out
}

// renames notes what has another name after the edit: where of a kind just one document
// goes and one comes, they are one.
func (e *edit) renames(was, is *shelf.Shelf, docs []string) {
	goes, comes := map[site.Class][]string{}, map[site.Class][]string{}
	for _, d := range docs {
		class, name, _ := site.Classify(d)
		_, before := was.Get(d)
		_, after := is.Get(d)
		switch {
		case before && !after:
			goes[class] = append(goes[class], name)
		case after && !before:
			comes[class] = append(comes[class], name)
		}
	}
	for _, class := range []site.Class{site.BlockDoc, site.RuleDoc, site.ShortcodeDoc, site.LayoutDoc} {
		if len(goes[class]) == 1 && len(comes[class]) == 1 {
			if e.renamed == nil {
				e.renamed = map[string]string{}
			}
			e.renamed[goes[class][0]] = comes[class][0]
		}
	}
}

// rename gives what was said of a document that has another name now.
func (e *edit) rename(text string) string {
	for old, name := range e.renamed {
		text = replaceWord(text, old, name)
	}
	return text
}

// replaceWord replaces a name where it stands by itself.
func replaceWord(text, old, name string) string {
	part := func(c byte) bool { return c == '-' || c >= 'a' && c <= 'z' || c >= '0' && c <= '9' }
	var out strings.Builder
	for {
		i := strings.Index(text, old)
		if i < 0 {
			out.WriteString(text)
			return out.String()
		}
		end := i + len(old)
		out.WriteString(text[:i])
		if i > 0 && part(text[i-1]) || end < len(text) && part(text[end]) {
			out.WriteString(old)
		} else {
			out.WriteString(name)
		}
		text = text[end:]
	}
}
