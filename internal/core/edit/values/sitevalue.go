package values

import (
	"slices"
	"strconv"

	"brickshelf/internal/core/block"
	"brickshelf/internal/core/patch"
	"brickshelf/internal/core/place"
	"brickshelf/internal/core/site"
)

// SetSiteValue gives a field of the site another value, in the text of site.yaml. value is a text
// as a person types it; for lists it is JSON.
func SetSiteValue(text []byte, field, value string) ([]byte, error) {
	f, err := siteField(text, field)
	if err != nil {
		return nil, err
	}
	quoted, err := written(f, Entered(f, value))
	if err != nil {
		return nil, err
	}
	after, err := patch.Set("site.yaml", text, []string{"fields", field, "default"}, quoted)
	if err != nil {
		return nil, err
	}
	if _, problems := place.ParseConfig(after, block.NewReader()); len(problems) > 0 {
		return nil, site.Refuse("%s", problems[0].Message)
	}
	return after, nil
}

func siteField(text []byte, field string) (*block.Field, error) {
	config, problems := place.ParseConfig(text, block.NewReader())
	if len(problems) > 0 {
		return nil, site.Refuse("mend the text first: %s", problems[0].Message)
	}
	for _, f := range config.Fields {
		if f.Name == field {
			return f, nil
		}
	}
	return nil, site.Missing("the site has no field %s", field)
}

// Unlike gives texts of site.yaml in which a value of the site, its name, its base_url or that of
// a field, is another one. Which of them the site takes hangs on its limits and menus; what
// differs by one that it takes is what shows the value.
func Unlike(text []byte, name string) ([][]byte, error) {
	config, _ := place.ParseConfig(text, block.NewReader())
	var others []string
	set := func(v string) ([]byte, error) { return patch.Set("site.yaml", text, []string{name}, v) }
	switch name {
	case "name":
		others = []string{config.Name + "·"}
	case "base_url":
		others = []string{config.BaseURL + "/-", "https://site.example"}
	default:
		f, err := siteField(text, name)
		if err != nil {
			return nil, err
		}
		others = slices.DeleteFunc(unlike(f), func(v string) bool { return v == Default(f) })
		set = func(v string) ([]byte, error) { return SetSiteValue(text, name, v) }
	}
	var out [][]byte
	for _, v := range others {
		if after, err := set(v); err == nil {
			out = append(out, after)
		}
	}
	return out, nil
}

// unlike are values as a person types them, other than the one that a field has.
func unlike(f *block.Field) []string {
	now := Default(f)
	switch f.Type {
	case block.Number:
		n, _ := strconv.ParseFloat(now, 64)
		return []string{strconv.FormatFloat(n+1, 'f', -1, 64), strconv.FormatFloat(n-1, 'f', -1, 64)}
	case block.Switch:
		return []string{strconv.FormatBool(now != "true")}
	case block.Choice:
		var out []string
		for _, c := range f.Choices {
			if c != now {
				out = append(out, c)
			}
		}
		return out
	case block.Colour:
		return []string{"#010203", "#030201"}
	case block.Date:
		return []string{"2001-02-03", "2091-02-03", f.Min, f.Max}
	case block.Image:
		return []string{"/assets/-.png"}
	case block.Link, block.Page:
		return []string{"/-/", "/"}
	case block.List:
		return []string{"[]", "[{}]", "[{}, {}]"}
	case block.Menu:
		return []string{""}
	}
	return []string{now + "·", "·", "····"}
}
