package values

import (
	"encoding/json"
	"html"
	"regexp"
	"strings"
	"time"

	"github.com/microcosm-cc/bluemonday"

	"brickshelf/internal/core/block"
)

// converter gives values of a field as one of another type takes them.
type converter struct {
	from   block.Type
	to     *block.Field
	reader *block.Reader
	bare   *bluemonday.Policy // takes the tags out of rich text
}

func newConverter(from, to *block.Field) *converter {
	return &converter{from.Type, to, block.NewReader(), bluemonday.StrictPolicy()}
}

// convert gives a value, as a person types it, for the other type. It reports false, with
// the value as it is, where it is not clear which that would be.
func (c *converter) convert(text string) (string, bool) {
	plain := text
	switch {
	case c.from == block.Rich && c.to.Type != block.Rich:
		plain = strings.TrimSpace(html.UnescapeString(c.bare.Sanitize(text)))
	case c.from != block.Rich && c.to.Type == block.Rich:
		plain = html.EscapeString(text)
	case c.from == block.Link && c.to.Type != block.Link:
		var ok bool
		if plain, ok = bareLink(text); !ok {
			return text, false
		}
	}
	trimmed := strings.TrimSpace(plain)
	tries := []string{plain, trimmed}
	switch c.to.Type {
	case block.Text:
		if strings.ContainsAny(plain, "\r\n") {
			tries = []string{strings.Join(strings.Fields(plain), " ")} // a text has one line
		}
	case block.Number:
		tries = append(tries, numeral(trimmed))
	case block.Switch:
		tries = append(tries, truths[strings.ToLower(trimmed)])
	case block.Choice:
		for _, choice := range c.to.Choices {
			if strings.EqualFold(choice, trimmed) {
				tries = append(tries, choice)
			}
		}
	case block.Date:
		tries = append(tries, calendarDay(trimmed))
	case block.Colour:
		tries = append(tries, strings.ToLower(trimmed), "#"+trimmed)
	case block.Menu:
		tries = append(tries, strings.ToLower(trimmed))
	}
	for _, t := range tries {
		if t == "" && plain != "" {
			continue
		}
		if _, err := Typed(c.reader, c.to, t); err == nil {
			return t, true
		}
	}
	return text, false
}

// bareLink is the address of a link that is nothing but one.
func bareLink(text string) (string, bool) {
	if !strings.HasPrefix(strings.TrimSpace(text), "{") {
		return text, true
	}
	var link map[string]any
	if json.Unmarshal([]byte(text), &link) != nil || len(link) != 1 {
		return "", false
	}
	to, ok := link["to"].(string)
	return to, ok
}

// numeral writes a number with a point, where it is clear what its marks mean: spaces and
// apostrophes stand between thousands, so does the one of comma and point that comes first
// where there are both, and so do several commas. A comma alone before three digits can be
// either.
func numeral(text string) string {
	text = strings.Map(func(r rune) rune {
		switch r {
		case ' ', '\u00a0', '\u2009', '\u202f', '\'', '\u2019':
			return -1
		case '\u2212':
			return '-'
		}
		return r
	}, text)
	mark := strings.LastIndexAny(text, ",.")
	if mark < 0 {
		return text
	}
	whole, rest := text[:mark], text[mark+1:]
	other := map[byte]string{',': ".", '.': ","}[text[mark]] // which would stand between thousands
	if strings.Contains(whole, other) {
		whole = strings.ReplaceAll(whole, other, "")
	} else if thousands.MatchString(text) {
		if strings.Count(text, ",") == 1 {
			return ""
		}
		return strings.ReplaceAll(text, ",", "")
	}
	return whole + "." + rest
}

var thousands = regexp.MustCompile(`^[+-]?[1-9][0-9]{0,2}(,[0-9]{3})+$`)

// truths are the words for on and off.
var truths = map[string]string{"yes": "true", "on": "true", "1": "true", "y": "true", "true": "true",
	"no": "false", "off": "false", "0": "false", "n": "false", "false": "false", "": "false"}

// calendarDay writes a date as ISO 8601 does, where it is clear which day is meant:
// days and months in digits, with points, are read as day and month; with slashes they can
// be either.
func calendarDay(text string) string {
	for _, form := range []string{"2006-1-2", "2006/1/2", "2.1.2006", "2. 1. 2006", "2 January 2006",
		"2 Jan 2006", "2. January 2006", "January 2, 2006", "Jan 2, 2006", "January 2 2006", time.RFC3339} {
		if day, err := time.Parse(form, text); err == nil {
			return day.Format(time.DateOnly)
		}
	}
	return ""
}
