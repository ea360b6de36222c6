package api_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"brickshelf/internal/api"
)

func TestAPageInAnotherEncodingIsReadAndWrittenBack(t *testing.T) {
	b := start(t)
	const path, raw = "pages/old.html", "<meta charset=iso-8859-1><title>K\xfcste</title><h1>\xdcber uns</h1><p>mehr</p>"
	require.Equal(t, 200, b.send("PUT", "/sites/small/documents?path="+path, []byte(raw), nil, "If-None-Match", "*").StatusCode)
	var text, bytes string
	b.send("GET", "/sites/small/documents?readable=true&path="+path, nil, &text)
	require.Equal(t, "<meta charset=iso-8859-1><title>Küste</title><h1>Über uns</h1><p>mehr</p>", text)
	b.send("GET", "/sites/small/documents?path="+path, nil, &bytes)
	require.Equal(t, raw, bytes)

	set := change(path, raw, strings.Replace(text, "mehr", "größer als ñ", 1))
	var p api.Proposal
	b.send("POST", "/sites/small/proposals", set, &p)
	require.Empty(t, p.Problems)
	var e api.Explanation
	b.send("GET", "/sites/small/explanations?page=/old/&proposal="+p.Id, nil, &e)
	require.Equal(t, "Küste", e.Title)
	var c api.Comparison
	b.send("GET", "/sites/small/comparisons/"+p.Id+"?page=/old/", nil, &c)
	require.Contains(t, c.Before, "<h1>Über uns</h1><p>mehr</p>")
	require.Contains(t, c.After, "<p>größer als ñ</p>")
	edited := *set.Changes[0].Text
	said := []string{}
	for _, part := range e.Parts {
		said = append(said, edited[part.From:part.To])
	}
	require.Contains(t, said, "<h1>Über uns</h1>", "where parts stand is told of the text that one edits")
	b.send("POST", "/sites/small/change-sets", set, nil)
	b.send("GET", "/sites/small/documents?path="+path, nil, &bytes)
	require.Equal(t, strings.Replace(raw, "mehr", "gr\xf6\xdfer als \xf1", 1), bytes)

	var was []api.Revision
	b.send("GET", "/sites/small/revisions?path="+path, nil, &was)
	for _, r := range was {
		var told api.BlockText
		b.send("GET", "/sites/small/revisions/text?path="+path+"&hash="+r.Hash, nil, &told)
		require.Contains(t, told.Text, "<h1>Über uns</h1>", "what it was is read as it is")
	}
	require.Len(t, was, 2)
	b.send("POST", "/sites/small/proposals", change(path, bytes, strings.Replace(edited, "ñ", "☃", 1)), &p)
	require.Len(t, p.Problems, 1)
	require.Contains(t, p.Problems[0].Message, "the character ☃, which the encoding of the page lacks; write it as &#9731;")
}

// The preview of a page in another encoding shows its characters, and a page that declares none is left to
// the browser, as it was.
func TestPagesInAnotherEncodingAreShownAsTheyRead(t *testing.T) {
	b := start(t)
	for path, raw := range map[string]string{
		"declared": "<meta charset=iso-8859-1><title>K\xfcste</title><p>\xdcber uns</p>",
		"bare":     "<title>K\xfcste</title><p>\xdcber uns</p>",
	} {
		require.Equal(t, 200, b.send("PUT", "/sites/small/documents?path=pages/"+path+".html", []byte(raw), nil,
			"If-None-Match", "*").StatusCode)
		require.Contains(t, b.page("/_draft/"+path+"/"), ">Über uns</p>", path)
	}
	b.send("POST", "/sites/small/releases", api.PublishRequest{Title: "x"}, nil)
	for _, path := range []string{"declared", "bare"} {
		require.Equal(t, "text/html", b.visit("/"+path+"/").Header.Get("Content-Type"), path)
	}
	require.Equal(t, "text/html; charset=utf-8", b.visit("/").Header.Get("Content-Type"))
}
