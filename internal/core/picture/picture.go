// Package picture makes pictures fit the place where they are shown: a file of three thousand pixels in
// a column of 280 costs what the column needs.
package picture

import (
	"bytes"
	"fmt"
	"image"
	_ "image/jpeg" // the formats that are made smaller
	_ "image/png"
	"path"
	"regexp"
	"strconv"
	"strings"

	"github.com/rwcarlsen/goexif/exif"

	"brickshelf/internal/core/site"
)

// Picture is a file that can be made smaller: its size as it is shown, in pixels, and the extension of
// what is made of it.
type Picture struct {
	Width, Height int
	Ext           string
}

// maxPixels is how many pixels a picture may have that is made smaller; more are shown as they are.
const maxPixels = 120_000_000

// Of reads how large a JPEG or PNG is; nil for any other file, and for one that cannot be read.
func Of(doc string, b []byte) *Picture {
	p := &Picture{}
	switch strings.ToLower(path.Ext(doc)) {
	case ".jpg", ".jpeg":
		p.Ext = ".jpg"
	case ".png":
		p.Ext = ".png"
	default:
		return nil
	}
	config, format, err := image.DecodeConfig(bytes.NewReader(b))
	if err != nil || config.Width*config.Height > maxPixels || (format == "png") != (p.Ext == ".png") {
		return nil
	}
	p.Width, p.Height = config.Width, config.Height
	if format == "jpeg" && sideways(b) {
		p.Width, p.Height = p.Height, p.Width
	}
	return p
}

// sideways reports whether a JPEG says that it is to be turned by a quarter.
func sideways(b []byte) bool {
	x, err := exif.Decode(bytes.NewReader(b))
	if err != nil {
		return false
	}
	tag, err := x.Get(exif.Orientation)
	if err != nil {
		return false
	}
	turn, err := tag.Int(0)
	return err == nil && turn >= 5 && turn <= 8
}

// HeightAt is the height that belongs to a width.
func (p *Picture) HeightAt(width int) int {
	return max(1, (width*p.Height+p.Width/2)/p.Width)
}

// Name is the name of what is made of a file for a width. It follows from the file's content.
func Name(of site.Hash, width int, ext string) string {
	return fmt.Sprintf("%s-%d%s", of[:32], width, ext)
}

var names = regexp.MustCompile(`/_shelf/([0-9a-f]{32}-[1-9][0-9]{0,4}\.(?:jpg|png))\b`)

// In lists the names of what is made smaller that a text shows, each as often as it does.
func In(text []byte) []string {
	if !bytes.Contains(text, []byte("/_shelf/")) {
		return nil
	}
	var out []string
	for _, m := range names.FindAllSubmatch(text, -1) {
		out = append(out, string(m[1]))
	}
	return out
}

// Read takes a name apart: the beginning of the hash of the file, and the width.
func Read(name string) (of string, width int, ok bool) {
	if m := names.FindStringSubmatch("/_shelf/" + name); m == nil || m[1] != name {
		return "", 0, false
	}
	of, rest, _ := strings.Cut(name, "-")
	width, err := strconv.Atoi(strings.TrimSuffix(rest, path.Ext(rest)))
	return of, width, err == nil
}
