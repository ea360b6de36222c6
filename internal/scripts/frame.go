package scripts

import (
	"encoding/binary"
	"encoding/json"
	"fmt"
	"io"
)

// request asks a worker to run a script. Source and the texts of Data stand in it
// only where the worker has not been told them before.
type request struct {
	Script string            `json:"script"` // hash of the source, and path
	Path   string            `json:"path"`
	Line   int               `json:"line"` // where the function begins
	Source string            `json:"source,omitempty"`
	Args   json.RawMessage   `json:"args"`
	Inner  string            `json:"inner"`
	Page   json.RawMessage   `json:"page,omitempty"`
	Site   json.RawMessage   `json:"site"`
	Data   map[string]string `json:"data,omitempty"`  // what is read → hash
	Texts  map[string]string `json:"texts,omitempty"` // hash → JSON
	Forget bool              `json:"forget"`          // the data told before
	Now    string            `json:"now"`
}

// response is what the script gave. Failed is set where it gave nothing.
type response struct {
	Text    string `json:"text"`
	HTML    bool   `json:"html"`
	Failed  bool   `json:"failed"`
	Line    int    `json:"line"`
	Column  int    `json:"column"`
	Message string `json:"message"`
	Broken  bool   `json:"broken,omitempty"` // the worker should do nothing more
}

// maxFrame is how long a message may be, in bytes.
const maxFrame = 256 << 20

func writeFrame(w io.Writer, v any) error {
	b, err := json.Marshal(v)
	if err != nil {
		return err
	}
	frame := binary.LittleEndian.AppendUint32(make([]byte, 0, 4+len(b)), uint32(len(b)))
	_, err = w.Write(append(frame, b...))
	return err
}

func readFrame(r io.Reader, v any) error {
	var head [4]byte
	if _, err := io.ReadFull(r, head[:]); err != nil {
		return err
	}
	n := binary.LittleEndian.Uint32(head[:])
	if n > maxFrame {
		return fmt.Errorf("a message of %d bytes is too long", n)
	}
	b := make([]byte, n)
	if _, err := io.ReadFull(r, b); err != nil {
		return err
	}
	return json.Unmarshal(b, v)
}
