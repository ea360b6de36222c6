package api

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"maps"
	"mime"
	"net/http"
	"slices"
	"strings"
	"sync"

	"github.com/getkin/kin-openapi/openapi3"
	"github.com/gin-gonic/gin"
)

// schemas are what the bodies of requests must fit: by method and path, as the router has
// it, then by type of content; nil for a type that is taken as it comes.
type schemas map[string]map[string]*openapi3.Schema

// schemasOfContract reads the contract, once.
var schemasOfContract = sync.OnceValues(func() (schemas, error) {
	text, err := contract.ReadFile("openapi.yaml")
	if err != nil {
		return nil, err
	}
	doc, err := openapi3.NewLoader().LoadFromData(text)
	if err != nil {
		return nil, fmt.Errorf("reading the contract: %w", err)
	}
	out := schemas{}
	for path, item := range doc.Paths.Map() {
		route := strings.NewReplacer("{", ":", "}", "").Replace(path)
		for method, op := range item.Operations() {
			if op.RequestBody == nil {
				continue
			}
			types := map[string]*openapi3.Schema{}
			for name, m := range op.RequestBody.Value.Content {
				types[name] = nil
				if name == "application/json" {
					types[name] = m.Schema.Value
				}
			}
			out[method+" /api/v1"+route] = types
		}
	}
	return out, nil
})

// strict refuses requests about a site that is not there, and bodies that do not fit the
// contract: another type of content, properties that it does not have, null, or what is
// missing.
func (s *Server) strict(c *gin.Context) {
	if name := c.Param("site"); name != "" && !strings.HasSuffix(c.FullPath(), "/imports") &&
		!strings.HasSuffix(c.FullPath(), "/recovery") {
		if _, err := s.space(name); err != nil {
			(&handlers{s}).fail(c, err)
			return
		}
	}
	all, err := schemasOfContract()
	if err != nil {
		(&handlers{s}).fail(c, err)
		return
	}
	types, has := all[c.Request.Method+" "+c.FullPath()]
	if !has {
		return
	}
	given, _, _ := mime.ParseMediaType(c.GetHeader("Content-Type"))
	schema, known := types[given]
	if !known {
		var wanted []string
		for name := range types {
			wanted = append(wanted, name)
		}
		slices.Sort(wanted)
		problem(c, http.StatusUnsupportedMediaType, "Another type of content",
			fmt.Sprintf("The body is %q; send it with Content-Type: %s.", c.GetHeader("Content-Type"),
				strings.Join(wanted, " or ")))
		return
	}
	if schema == nil {
		return
	}
	body, err := io.ReadAll(c.Request.Body)
	if err != nil {
		var large *http.MaxBytesError
		if errors.As(err, &large) {
			(&handlers{s}).fail(c, err)
		} else {
			problem(c, http.StatusBadRequest, "The request was cut short", err.Error())
		}
		return
	}
	if err := fits(schema, body); err != nil {
		problem(c, http.StatusBadRequest, "The request does not fit the contract", err.Error())
		return
	}
	c.Request.Body = io.NopCloser(bytes.NewReader(body))
}

// fits reports in what a JSON text does not fit a schema, naming the property.
func fits(schema *openapi3.Schema, text []byte) error {
	d := json.NewDecoder(bytes.NewReader(text))
	var v any
	if err := d.Decode(&v); err != nil {
		return fmt.Errorf("this is not JSON: %w", err)
	}
	if _, err := d.Token(); !errors.Is(err, io.EOF) {
		return errors.New("something stands behind the JSON value")
	}
	schema, err := chosen(schema, v)
	if err != nil {
		return err
	}
	err = schema.VisitJSON(v, openapi3.VisitAsRequest())
	var misfit *openapi3.SchemaError
	if errors.As(err, &misfit) {
		at := strings.Join(misfit.JSONPointer(), "/")
		if at == "" {
			at = "the body"
		}
		return fmt.Errorf("%s: %s", at, misfit.Reason)
	}
	return err
}

// chosen is the schema that a value is meant to fit, where it says itself which of several.
func chosen(schema *openapi3.Schema, v any) (*openapi3.Schema, error) {
	d := schema.Discriminator
	if d == nil {
		return schema, nil
	}
	object, ok := v.(map[string]any)
	if !ok {
		return nil, errors.New("the body: value must be an object")
	}
	given, there := object[d.PropertyName]
	if !there {
		return nil, fmt.Errorf("%s: property %q is missing", d.PropertyName, d.PropertyName)
	}
	name, ok := given.(string)
	if !ok {
		return nil, fmt.Errorf("%s: value must be a string", d.PropertyName)
	}
	for _, one := range schema.OneOf {
		if ref := d.Mapping[name].Ref; ref != "" && one.Ref == ref {
			return one.Value, nil
		}
	}
	return nil, fmt.Errorf("%s: %q is none of %s", d.PropertyName, name,
		strings.Join(slices.Sorted(maps.Keys(d.Mapping)), ", "))
}
