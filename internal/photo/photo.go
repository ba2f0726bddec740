// Package photo turns a picture from a phone into what is kept: upright, of a
// useful size, and without anything that the camera wrote about place, time or
// device.
package photo

import (
	"bytes"
	"context"
	"encoding/binary"
	"errors"
	"fmt"
	"image"
	"image/jpeg"
	_ "image/png" // screenshots of labels come as PNG

	"golang.org/x/image/draw"

	"dogbolt/internal/memory"
)

// Limits of a picture: the longest side that is kept, and the most pixels that
// are decoded at all.
const (
	MaxSide   = 2000
	maxPixels = 60e6
	quality   = 82

	printed = 1100 // points of the longer side on paper, at most; 85 mm at 300 to the inch are 1000
)

// ErrKind says that a file is not a picture that is taken.
var ErrKind = errors.New("not a JPEG or PNG picture")

// Clean reads a JPEG or PNG, turns it as its camera held it, shrinks it to
// MaxSide and writes it anew as JPEG. Only pixels survive: no EXIF, no location. It waits for
// the memory that the picture takes, and for the account's turn.
func Clean(ctx context.Context, account string, data []byte) (jpg []byte, width, height int, err error) {
	img, give, err := open(ctx, account, data)
	if err != nil {
		return nil, 0, 0, err
	}
	defer give()
	img = turn(shrink(img, MaxSide), Orientation(data))
	var out bytes.Buffer
	if err := jpeg.Encode(&out, img, &jpeg.Options{Quality: quality}); err != nil {
		return nil, 0, 0, err
	}
	return out.Bytes(), img.Bounds().Dx(), img.Bounds().Dy(), nil
}

// Size returns how many points a JPEG or PNG says that it has. The error says why it cannot
// be read whole.
func Size(ctx context.Context, account string, data []byte) (width, height int, err error) {
	head, _, _ := image.DecodeConfig(bytes.NewReader(data)) // open says what is wrong with it
	_, give, err := open(ctx, account, data)
	if err == nil {
		give()
	}
	return head.Width, head.Height, err
}

// open decodes a picture, and returns how to give back the memory that it takes.
func open(ctx context.Context, account string, data []byte) (img image.Image, give func(), err error) {
	head, kind, err := image.DecodeConfig(bytes.NewReader(data))
	switch {
	case err != nil || kind != "jpeg" && kind != "png":
		return nil, nil, ErrKind
	case head.Width*head.Height > maxPixels:
		return nil, nil, fmt.Errorf("the picture has %d × %d points; at most %.0f million are read", head.Width, head.Height, maxPixels/1e6)
	}
	if give, err = memory.Take(ctx, account, needs(data, kind, head.Width, head.Height)); err != nil {
		return nil, nil, err
	}
	if img, _, err = image.Decode(bytes.NewReader(data)); err != nil {
		give()
		return nil, nil, fmt.Errorf("the picture is damaged: %w", err)
	}
	return img, give, nil
}

// Small is a kept picture as it is printed, as JPEG. Whose it is was settled when it came: it waits for
// memory alone.
func Small(ctx context.Context, digest string, data []byte) ([]byte, error) {
	img, give, err := open(ctx, "printed "+digest, data)
	if err != nil {
		return nil, err
	}
	defer give()
	for kept, ok := img.(*image.YCbCr); ok && max(kept.Rect.Dx(), kept.Rect.Dy()) > printed && kept.SubsampleRatio == image.YCbCrSubsampleRatio420; {
		kept = halve(kept)
		img = kept
	}
	var out bytes.Buffer
	err = jpeg.Encode(&out, shrink(img, 2*printed), &jpeg.Options{Quality: quality})
	return out.Bytes(), err
}

// halve makes a picture half as wide and high: each of its points is the mean of four. It stays in
// the colours of JPEG, which is a third of the time of scaling through RGB: a record has ten.
func halve(img *image.YCbCr) *image.YCbCr {
	out := image.NewYCbCr(image.Rect(0, 0, img.Rect.Dx()/2, img.Rect.Dy()/2), img.SubsampleRatio)
	mean := func(to []uint8, step int, from []uint8, stride int) {
		height := min(len(to)/step, len(from)/stride/2)
		for y := range height {
			upper, lower := from[2*y*stride:(2*y+1)*stride], from[(2*y+1)*stride:]
			row := to[y*step:]
			for x := range min(step, stride/2) {
				row[x] = uint8((int(upper[2*x]) + int(upper[2*x+1]) + int(lower[2*x]) + int(lower[2*x+1]) + 2) / 4)
			}
		}
	}
	mean(out.Y, out.YStride, img.Y, img.YStride)
	mean(out.Cb, out.CStride, img.Cb, img.CStride)
	mean(out.Cr, out.CStride, img.Cr, img.CStride)
	return out
}

// shrink scales a picture so that its longest side is at most so many points.
func shrink(img image.Image, most int) image.Image {
	w, h := img.Bounds().Dx(), img.Bounds().Dy()
	longest := max(w, h)
	if longest <= most {
		return img
	}
	out := image.NewRGBA(image.Rect(0, 0, max(w*most/longest, 1), max(h*most/longest, 1)))
	draw.ApproxBiLinear.Scale(out, out.Bounds(), img, img.Bounds(), draw.Src, nil)
	return out
}

// turn applies an EXIF orientation, 1 to 8: 1 is upright, 3 upside down, 6 to be
// turned right, 8 left; the even others are their mirror images.
func turn(img image.Image, orientation int) image.Image {
	if orientation < 2 || orientation > 8 {
		return img
	}
	b := img.Bounds()
	w, h := b.Dx(), b.Dy()
	size := image.Rect(0, 0, w, h)
	if orientation >= 5 {
		size = image.Rect(0, 0, h, w)
	}
	out := image.NewRGBA(size)
	for y := range h {
		for x := range w {
			var u, v int
			switch orientation {
			case 2:
				u, v = w-1-x, y
			case 3:
				u, v = w-1-x, h-1-y
			case 4:
				u, v = x, h-1-y
			case 5:
				u, v = y, x
			case 6:
				u, v = h-1-y, x
			case 7:
				u, v = h-1-y, w-1-x
			case 8:
				u, v = y, w-1-x
			}
			out.Set(u, v, img.At(b.Min.X+x, b.Min.Y+y))
		}
	}
	return out
}

// Orientation returns the EXIF orientation of a JPEG, 1 where it has none (EXIF
// 2.3, tag 0x0112 of the first directory).
func Orientation(data []byte) int {
	for i := 2; i+4 <= len(data) && data[i] == 0xFF; {
		marker, size := data[i+1], int(binary.BigEndian.Uint16(data[i+2:]))
		if marker == 0xDA || size < 2 || i+2+size > len(data) {
			break
		}
		if segment := data[i+4 : i+2+size]; marker == 0xE1 && bytes.HasPrefix(segment, []byte("Exif\x00\x00")) {
			return fromTIFF(segment[6:])
		}
		i += 2 + size
	}
	return 1
}

func fromTIFF(t []byte) int {
	if len(t) < 8 {
		return 1
	}
	var order binary.ByteOrder = binary.LittleEndian
	if t[0] == 'M' {
		order = binary.BigEndian
	}
	at := int(order.Uint32(t[4:]))
	if at < 8 || at+2 > len(t) {
		return 1
	}
	for k := range int(order.Uint16(t[at:])) {
		entry := at + 2 + 12*k
		if entry+12 > len(t) {
			break
		}
		if order.Uint16(t[entry:]) == 0x0112 {
			if v := int(order.Uint16(t[entry+8:])); v >= 1 && v <= 8 {
				return v
			}
		}
	}
	return 1
}
