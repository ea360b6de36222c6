package api_test

import (
	"bytes"
	"fmt"
	"io"
	"net"
	"net/http"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"brickshelf/internal/core/site"
)

// deaf asks for something large over a connection of its own and reads nothing of it.
func deaf(t *testing.T, origin, path string) {
	c, err := net.Dial("tcp", strings.TrimPrefix(origin, "http://"))
	require.NoError(t, err)
	require.NoError(t, c.(*net.TCPConn).SetReadBuffer(4096))
	t.Cleanup(func() { _ = c.Close() })
	_, err = fmt.Fprintf(c, "GET %s HTTP/1.1\r\nHost: %s\r\n\r\n", path, strings.TrimPrefix(origin,
		"http://"))
	require.NoError(t, err)
}

// soon fails where something takes as long as it would if it waited for a client that
// does not read: until the server gives that one up.
func soon(t *testing.T, what string, do func()) {
	done := make(chan struct{})
	go func() { defer close(done); do() }()
	select {
	case <-done:
	case <-time.After(20 * time.Second):
		require.Fail(t, "this waits for a client that reads nothing", what)
	}
}

func TestNobodyWaitsForAClientThatReadsNothing(t *testing.T) {
	b := start(t)
	large := bytes.Repeat([]byte("0123456789abcdef"), 2<<20)
	b.send("PUT", "/sites/small/documents?path=assets/large.txt", large, nil, "If-None-Match", "*")
	b.send("POST", "/sites/small/releases", map[string]any{"title": "large"}, nil)
	deaf(t, b.tool, "/api/v1/sites/small/documents?path=assets/large.txt")
	deaf(t, b.site, "/assets/large.txt")
	time.Sleep(200 * time.Millisecond) // both answers are under way, and stuck
	soon(t, "a save", func() {
		require.Equal(t, 200, b.send("PUT", "/sites/small/documents?path=pages/new.html", []byte("new"), nil,
			"If-None-Match", "*").StatusCode)
	})
	soon(t, "another reader", func() {
		require.Equal(t, 200, b.send("GET", "/sites/small/documents?path=pages/new.html", nil,
			nil).StatusCode)
		require.Equal(t, 200, b.send("GET", "/sites/small", nil, nil).StatusCode)
	})
	soon(t, "publishing and the site", func() {
		require.Equal(t, 200, b.send("POST", "/sites/small/releases", map[string]any{"title": "new"},
			nil).StatusCode)
		resp, err := http.Get(b.site + "/new/")
		require.NoError(t, err)
		defer resp.Body.Close()
		body, err := io.ReadAll(resp.Body)
		require.NoError(t, err)
		require.Equal(t, "new", string(body))
	})
}

// Two edits, each fine alone, call each other once one of them is saved: what was proposed
// for the other is told as invalid, and shown nowhere.
func TestAProposalThatAnotherSaveMadeInvalidIsNotRendered(t *testing.T) {
	b := start(t)
	for _, name := range []string{"one", "two"} {
		b.send("PUT", "/sites/small/documents?path=blocks/"+name+".html", []byte(name), nil,
			"If-None-Match", "*")
	}
	b.send("PUT", "/sites/small/documents?path=pages/p.html", []byte("@{one /}@{two /}"), nil,
		"If-None-Match", "*")
	calls := func(of, other string) map[string]any {
		return map[string]any{"title": "call " + other, "changes": []any{map[string]any{"path": "blocks/" +
			of + ".html", "before": site.HashOf([]byte(of)), "text": strings.Repeat("@{"+other+" /}", 9)}}}
	}
	var pr struct{ ID string }
	b.send("POST", "/sites/small/proposals", calls("one", "two"), &pr)
	require.Equal(t, 200, b.send("POST", "/sites/small/change-sets", calls("two", "one"), nil).StatusCode)
	soon(t, "what the proposal would do", func() {
		resp, err := http.Get(b.site + "/_edit/" + pr.ID + "/p/")
		require.NoError(t, err)
		defer resp.Body.Close()
		body, err := io.ReadAll(resp.Body)
		require.NoError(t, err)
		require.Equal(t, http.StatusUnprocessableEntity, resp.StatusCode)
		require.Contains(t, string(body), "calls itself")
		require.Equal(t, 422, b.send("GET", "/sites/small/comparisons/"+pr.ID+"?page=/p/", nil,
			nil).StatusCode)
		require.Equal(t, 422, b.send("GET", "/sites/small/explanations?page=/p/&proposal="+pr.ID, nil,
			nil).StatusCode)
	})
}
