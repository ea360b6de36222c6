// Package pictures makes the smaller pictures that pages show, each once.
package pictures

import (
	"bytes"
	"fmt"
	"os"
	"path"
	"path/filepath"
	"strings"
	"sync"

	"github.com/kovidgoyal/imaging"

	"brickshelf/internal/core/picture"
	"brickshelf/internal/core/shelf"
)

// quality is that of the JPEGs that are made.
const quality = 82

// Fitted makes a picture of a width, upright and in the colours of the web, as ".jpg" or ".png".
func Fitted(b []byte, width int, ext string) ([]byte, error) {
	from, err := imaging.Decode(bytes.NewReader(b), imaging.AutoOrientation(true),
		imaging.Backends(imaging.GO_IMAGE))
	if err != nil {
		return nil, fmt.Errorf("reading the picture: %w", err)
	}
	to := imaging.Resize(from, width, 0, imaging.Lanczos)
	var out bytes.Buffer
	if ext == ".png" {
		err = imaging.Encode(&out, to, imaging.PNG)
	} else {
		err = imaging.Encode(&out, to, imaging.JPEG, imaging.JPEGQuality(quality))
	}
	if err != nil {
		return nil, fmt.Errorf("writing the picture: %w", err)
	}
	return out.Bytes(), nil
}

// Maker makes pictures by their names, and keeps them in a folder, so that each is made once.
type Maker struct {
	dir string // "" to keep none
	one sync.Mutex
}

// NewMaker keeps what it makes in a folder; "" for nowhere.
func NewMaker(dir string) *Maker { return &Maker{dir: dir} }

// Kept is a Maker for all sites of this user: what a picture is made of, and how wide it is, stand in its
// name.
func Kept() *Maker {
	dir, err := os.UserCacheDir()
	if err != nil {
		return NewMaker("")
	}
	return NewMaker(filepath.Join(dir, "brickshelf", "pictures"))
}

// Named makes the picture of a name out of what the first of some sites has; nil where none has it.
func (m *Maker) Named(name string, sites ...*shelf.Shelf) []byte {
	of, width, ok := picture.Read(name)
	if !ok {
		return nil
	}
	for _, s := range sites {
		if b, there := s.Pictures()[of]; there {
			out, err := m.Make(name, width, b)
			if err != nil {
				return nil
			}
			return out
		}
	}
	return nil
}

// Make gives the picture of a name, of a width, that is made of some bytes.
func (m *Maker) Make(name string, width int, of []byte) ([]byte, error) {
	m.one.Lock() // a large picture takes much memory; two would take twice as much
	defer m.one.Unlock()
	file := filepath.Join(m.dir, name)
	if m.dir != "" {
		if b, err := os.ReadFile(file); err == nil {
			return b, nil
		}
	}
	if p := picture.Of(name, of); p != nil && width > p.Width {
		return nil, fmt.Errorf("the picture is %d pixels wide, and not %d", p.Width, width)
	}
	out, err := Fitted(of, width, strings.ToLower(path.Ext(name)))
	if err != nil || m.dir == "" {
		return out, err
	}
	m.keep(file, out)
	return out, nil
}

// keep writes what was made beside its place first, so that no half of it is ever read; where that
// cannot be, it is made again the next time.
func (m *Maker) keep(file string, b []byte) {
	if os.MkdirAll(m.dir, 0o755) != nil {
		return
	}
	tmp, err := os.CreateTemp(m.dir, ".made-*")
	if err != nil {
		return
	}
	defer os.Remove(tmp.Name())
	_, err = tmp.Write(b)
	if closed := tmp.Close(); err == nil && closed == nil {
		_ = os.Rename(tmp.Name(), file)
	}
}
