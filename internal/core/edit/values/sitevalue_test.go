package values_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"brickshelf/internal/core/block"
	"brickshelf/internal/core/edit/values"
	"brickshelf/internal/core/place"
)

const siteText = `format: brickshelf/1
name: Small # its name
fields:
  phone: {type: text, default: '1', max: 4} # rings
  seats: {type: number, default: 10, max: 10}
  open: {type: switch}
  tone: {type: choice, choices: [calm, loud], default: loud}
  sign: {type: colour, default: '#010203'}
  since: {type: date, default: 2001-02-03, min: 2000-01-01}
  logo: {type: image}
  way: {type: link, default: /-/}
  top: {type: menu, default: main}
  rows: {type: list, fields: {a: {type: text}}, default: []}
`

func TestAValueOfTheSiteIsSetWhereItStands(t *testing.T) {
	out, err := values.SetSiteValue([]byte(siteText), "phone", "2 #3")
	require.NoError(t, err)
	require.Contains(t, string(out), `phone: {type: text, default: "2 #3", max: 4} # rings`)
	out, err = values.SetSiteValue([]byte(siteText), "rows", `[{"a": "x"}]`)
	require.NoError(t, err)
	require.Contains(t, string(out), "default: [{a: x}]")
	for field, value := range map[string]string{"phone": "12345", "seats": "many", "none": "x", "tone": "shrill"} {
		_, err = values.SetSiteValue([]byte(siteText), field, value)
		require.Error(t, err, field)
	}
	_, err = values.SetSiteValue([]byte("name: [\n"), "phone", "x")
	require.ErrorContains(t, err, "mend the text first")
}

// For each value of a site there is another one that its declaration takes.
func TestAValueOfTheSiteHasAnother(t *testing.T) {
	was, problems := place.ParseConfig([]byte(siteText), block.NewReader())
	require.Empty(t, problems)
	names := []string{"name", "base_url"}
	for _, f := range was.Fields {
		names = append(names, f.Name)
	}
	for _, name := range names {
		texts, err := values.Unlike([]byte(siteText), name)
		require.NoError(t, err)
		require.NotEmpty(t, texts, name)
		for _, text := range texts {
			is, problems := place.ParseConfig(text, block.NewReader())
			require.Empty(t, problems, "%s", text)
			require.NotEqual(t, was.Field(name), is.Field(name), name)
			for _, other := range names {
				if other != name {
					require.Equal(t, was.Field(other), is.Field(other), "%s beside %s", other, name)
				}
			}
		}
	}
	_, err := values.Unlike([]byte(siteText), "none")
	require.ErrorContains(t, err, "the site has no field none")
}
