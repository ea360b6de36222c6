package values

import (
	"testing"

	"github.com/stretchr/testify/require"

	"brickshelf/internal/core/block"
)

func TestValuesAreConvertedWhereItIsClearWhatTheyMean(t *testing.T) {
	for _, c := range []struct {
		from, to block.Type
		text     string
		want     string // "" where it cannot be told
	}{
		{block.Text, block.Number, " 12,5 ", "12.5"},
		{block.Text, block.Number, "1 200", "1200"},
		{block.Text, block.Number, "1\u202f200,75", "1200.75"},
		{block.Text, block.Number, "1.200,75", "1200.75"},
		{block.Text, block.Number, "1,200.75", "1200.75"},
		{block.Text, block.Number, "\u22124", "-4"},
		{block.Text, block.Number, "0,125", "0.125"},
		{block.Text, block.Number, "1,200", ""}, // twelve hundred, or a little more than one
		{block.Text, block.Number, "1,200,300", "1200300"},
		{block.Text, block.Number, "12 km", ""},
		{block.Text, block.Switch, "Yes", "true"},
		{block.Number, block.Switch, "0", "false"},
		{block.Text, block.Switch, "perhaps", ""},
		{block.Text, block.Date, "3 March 2026", "2026-03-03"},
		{block.Text, block.Date, "Mar 4, 2026", "2026-03-04"},
		{block.Text, block.Date, "24.12.2026", "2026-12-24"},
		{block.Text, block.Date, "2026/1/9", "2026-01-09"},
		{block.Text, block.Date, "03/04/2026", ""}, // April or March
		{block.Text, block.Date, "30.02.2026", ""},
		{block.Text, block.Colour, "1E6E74", "#1E6E74"},
		{block.Text, block.Colour, "dark sea", ""},
		{block.Text, block.Choice, "Calm", "calm"},
		{block.Text, block.Choice, "wild", ""},
		{block.Rich, block.Text, "<p>Tide &amp; <b>time</b></p>", "Tide & time"},
		{block.Text, block.Rich, "a < b", "a &lt; b"},
		{block.Lines, block.Text, "one\ntwo", "one two"},
		{block.Link, block.Text, `{"to": "/fares/"}`, "/fares/"},
		{block.Link, block.Page, "/fares/", "/fares/"},
		{block.Link, block.Text, `{"to": "/fares/", "label": "Fares"}`, ""}, // its label would be lost
		{block.Text, block.Image, "javascript:x", ""},
		{block.Text, block.Menu, "Main", "main"},
	} {
		to := &block.Field{Name: "f", Type: c.to}
		if c.to == block.Choice {
			to.Choices = []string{"calm", "loud"}
		}
		got, ok := newConverter(&block.Field{Type: c.from}, to).convert(c.text)
		require.Equal(t, c.want != "", ok, "%s to %s: %q gives %q", c.from, c.to, c.text, got)
		if !ok {
			require.Equal(t, c.text, got, "what cannot be converted stays")
			continue
		}
		require.Equal(t, c.want, got, "%s to %s: %q", c.from, c.to, c.text)
	}
}
