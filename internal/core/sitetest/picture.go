package sitetest

import (
	"bytes"
	"encoding/binary"
	"image"
	"image/color"
	"image/jpeg"
	"image/png"
)

// Halves is a picture that is red at the left and blue at the right.
func Halves(w, h int) image.Image {
	m := image.NewNRGBA(image.Rect(0, 0, w, h))
	for y := range h {
		for x := range w {
			c := color.NRGBA{200, 0, 0, 255}
			if x >= w/2 {
				c = color.NRGBA{0, 0, 200, 255}
			}
			m.Set(x, y, c)
		}
	}
	return m
}

// PNG writes a picture as a PNG.
func PNG(m image.Image) []byte {
	var b bytes.Buffer
	_ = png.Encode(&b, m) // into memory, which takes all
	return b.Bytes()
}

// JPEG writes a JPEG, with the mark that it is to be turned where turn is not 0.
func JPEG(m image.Image, turn uint16) []byte {
	var b bytes.Buffer
	_ = jpeg.Encode(&b, m, nil)
	if turn == 0 {
		return b.Bytes()
	}
	tiff := []byte("Exif\x00\x00MM\x00*\x00\x00\x00\x08\x00\x01\x01\x12\x00\x03\x00\x00\x00\x01")
	tiff = binary.BigEndian.AppendUint16(tiff, turn)
	tiff = append(tiff, 0, 0, 0, 0, 0, 0)
	segment := binary.BigEndian.AppendUint16([]byte{0xff, 0xe1}, uint16(len(tiff)+2))
	return bytes.Join([][]byte{b.Bytes()[:2], segment, tiff, b.Bytes()[2:]}, nil)
}
