package api_test

import (
	"bufio"
	"encoding/json"
	"net/http"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"brickshelf/internal/api"
)

func TestEventsReachOtherTabs(t *testing.T) {
	b := start(t)
	answer, err := http.Get(b.tool + "/api/v1/sites/small/events")
	require.NoError(t, err)
	defer answer.Body.Close()
	lines := bufio.NewScanner(answer.Body)
	next := func(event string) (told struct{ Title, By string }) {
		for lines.Scan() {
			if lines.Text() != "event:"+event {
				continue
			}
			require.True(t, lines.Scan())
			data := strings.TrimPrefix(lines.Text(), "data:")
			require.NoError(t, json.Unmarshal([]byte(data), &told))
			return told
		}
		t.Fatalf("the stream ended before %s: %v", event, lines.Err())
		return told
	}
	next("hello")
	time.AfterFunc(time.Minute, func() { answer.Body.Close() })
	me := []string{"X-Brick-Shelf", "me"}
	for _, c := range []struct {
		path, tells string
		body        any
	}{
		{"change-sets", "draft", change("pages/new.html", "", "n")},
		{"undo", "draft", nil},
		{"redo", "draft", nil},
		{"releases", "release", api.PublishRequest{Title: "x"}},
	} {
		b.send("POST", "/sites/small/"+c.path, c.body, nil, me...)
		require.Equal(t, "me", next(c.tells).By, c.path)
	}
	b.send("POST", "/sites/small/change-sets", change("pages/other.html", "", "o"), nil, "X-Brick-Shelf",
		"another")
	require.Equal(t, "another", next("draft").By)
	b.send("POST", "/sites/small/releases/1/restore", nil, nil, me...)
	require.Equal(t, "me", next("draft").By)
	b.send("PATCH", "/sites/small", api.SiteNamed{Name: "little"}, nil)
	require.Equal(t, "small", next("gone").Title)
}
