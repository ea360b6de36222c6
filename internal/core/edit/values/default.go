package values

import (
	"brickshelf/internal/core/block"
	"brickshelf/internal/core/patch"
	"brickshelf/internal/core/site"
)

// Default is the default of a field as a person types it; "" where it has none.
func Default(f *block.Field) string { return AsTyped(f.Written) }

// AsTyped writes a value as a person types it, which Typed reads again.
func AsTyped(v block.Value) string { return typedRaw(v.Plain()) }

// SetDefault gives a field of a block another default, in the block's text. value
// is a text as a person types it; for lists it is JSON. Nothing but the default
// changes.
func SetDefault(text []byte, field, value string) ([]byte, error) {
	b, problems := block.Parse("block", "block", text, block.NewReader())
	if len(problems) > 0 {
		return nil, site.Refuse("mend the text first: %s", problems[0].Message)
	}
	i := b.Field(field)
	if i < 0 {
		return nil, site.Refuse("there is no field %s", field)
	}
	f := b.Fields[i]
	quoted, err := written(f, value)
	if err != nil {
		return nil, err
	}
	after, err := patch.Set("blocks/block.html", text, []string{"fields", field, "default"}, quoted)
	if err != nil {
		return nil, err
	}
	if _, problems := block.Parse("block", "block", after, block.NewReader()); len(problems) > 0 {
		return nil, site.Refuse("%s", problems[0].Message)
	}
	return after, nil
}

// written is the value as YAML, after making sure that the field takes it.
func written(f *block.Field, value string) (patch.Literal, error) {
	if f.Type == block.List {
		y, problem := site.ParseYAML([]byte(value), "", 1)
		if problem != nil {
			return "", site.Refuse("%s should be written as [{…}, {…}]: %s", f.Name, problem.Message)
		}
		if _, err := block.Verbatim.Read(f, block.Raw(y)); err != nil {
			return "", err
		}
		return patch.Literal(patch.Flow(patch.Of(y))), nil
	}
	if _, err := block.Verbatim.Read(f, value); err != nil {
		return "", err
	}
	if f.Type == block.Switch || f.Type == block.Number && value != "" {
		return patch.Literal(value), nil
	}
	return patch.Literal(site.QuoteYAML(value)), nil
}
