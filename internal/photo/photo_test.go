package photo

import (
	"bytes"
	"encoding/binary"
	"errors"
	"image"
	"image/color"
	"image/jpeg"
	"image/png"
	"testing"
)

// corner is a picture whose top left quarter is red and the rest blue.
func corner(w, h int) image.Image {
	img := image.NewRGBA(image.Rect(0, 0, w, h))
	for y := range h {
		for x := range w {
			c := color.RGBA{20, 40, 200, 255}
			if x < w/2 && y < h/2 {
				c = color.RGBA{220, 20, 20, 255}
			}
			img.Set(x, y, c)
		}
	}
	return img
}

// exif returns a JPEG with an EXIF segment that holds an orientation and a
// secret that stands for a location.
func exif(t testing.TB, img image.Image, orientation uint16, order binary.AppendByteOrder) []byte {
	t.Helper()
	var b bytes.Buffer
	if err := jpeg.Encode(&b, img, &jpeg.Options{Quality: 95}); err != nil {
		t.Fatal(err)
	}
	tiff := []byte("II*\x00")
	if order == binary.AppendByteOrder(binary.BigEndian) {
		tiff = []byte("MM\x00*")
	}
	tiff = order.AppendUint32(tiff, 8)
	tiff = order.AppendUint16(tiff, 2)
	for _, e := range [][2]uint16{{0x0100, 7}, {0x0112, orientation}} {
		tiff = order.AppendUint16(tiff, e[0])
		tiff = order.AppendUint16(tiff, 3)
		tiff = order.AppendUint32(tiff, 1)
		tiff = order.AppendUint16(tiff, e[1])
		tiff = order.AppendUint16(tiff, 0)
	}
	tiff = append(tiff, "GPS 51.0000 N secret place"...)
	segment := append([]byte("Exif\x00\x00"), tiff...)
	head := []byte{0xFF, 0xD8, 0xFF, 0xE1}
	head = binary.BigEndian.AppendUint16(head, uint16(len(segment)+2))
	return append(append(head, segment...), b.Bytes()[2:]...)
}

// TestTurned: where the red corner of an upright picture ends up for each
// orientation (EXIF 2.3, from memory), and that nothing of the camera is left.
func TestTurned(t *testing.T) {
	for _, order := range []binary.AppendByteOrder{binary.LittleEndian, binary.BigEndian} {
		for orientation, want := range map[uint16][2]int{1: {0, 0}, 2: {1, 0}, 3: {1, 1}, 4: {0, 1}, 5: {0, 0}, 6: {1, 0}, 7: {1, 1}, 8: {0, 1}} {
			data := exif(t, corner(80, 40), orientation, order)
			if got := Orientation(data); got != int(orientation) {
				t.Fatalf("orientation %d read as %d", orientation, got)
			}
			out, w, h, err := Clean(t.Context(), "ada", data)
			if err != nil {
				t.Fatal(err)
			}
			if wide := orientation < 5; wide != (w == 80 && h == 40) || !wide && (w != 40 || h != 80) {
				t.Errorf("orientation %d: %d × %d", orientation, w, h)
			}
			img, err := jpeg.Decode(bytes.NewReader(out))
			if err != nil {
				t.Fatal(err)
			}
			for _, q := range [][2]int{{0, 0}, {1, 0}, {0, 1}, {1, 1}} {
				r, _, b, _ := img.At(w/4+q[0]*w/2, h/4+q[1]*h/2).RGBA()
				if red := r > b; red != (q == want) {
					t.Errorf("orientation %d: quarter %v red %t, want the red one at %v", orientation, q, red, want)
				}
			}
			if bytes.Contains(out, []byte("secret")) || bytes.Contains(out, []byte("Exif")) {
				t.Errorf("orientation %d: the camera's data are still there", orientation)
			}
		}
	}
}

func TestShrunkAndRefused(t *testing.T) {
	var b bytes.Buffer
	if err := png.Encode(&b, corner(4200, 300)); err != nil {
		t.Fatal(err)
	}
	if _, w, h, err := Clean(t.Context(), "ada", b.Bytes()); err != nil || w != MaxSide || h != 142 {
		t.Errorf("4200 × 300 becomes %d × %d, %v", w, h, err)
	}
	if _, _, _, err := Clean(t.Context(), "ada", []byte("GIF89a no picture")); !errors.Is(err, ErrKind) {
		t.Errorf("a text: %v", err)
	}
	good := exif(t, corner(80, 40), 6, binary.LittleEndian)
	if _, _, _, err := Clean(t.Context(), "ada", good[:len(good)/2]); err == nil {
		t.Error("half a picture is taken")
	}
}

func FuzzOrientation(f *testing.F) {
	f.Add(exif(f, corner(8, 8), 6, binary.BigEndian))
	f.Fuzz(func(t *testing.T, data []byte) {
		if o := Orientation(data); o < 1 || o > 8 {
			t.Errorf("orientation %d", o)
		}
	})
}

// TestSmall: a picture that is printed is halved until it is small enough, whole at its edges, and the
// one that is small already stays.
func TestSmall(t *testing.T) {
	for _, c := range []struct{ w, h, wantW, wantH int }{{2000, 1500, 1000, 750}, {1999, 1001, 999, 500}, {800, 600, 800, 600}, {1102, 2, 551, 1}} {
		img := image.NewYCbCr(image.Rect(0, 0, c.w, c.h), image.YCbCrSubsampleRatio420)
		for y := range c.h {
			for x := range c.w { // left half dark, right half bright
				img.Y[img.YOffset(x, y)] = uint8(40 + 160*(x/((c.w+1)/2)))
			}
		}
		for i := range img.Cb {
			img.Cb[i], img.Cr[i] = 128, 128
		}
		var b bytes.Buffer
		if err := jpeg.Encode(&b, img, &jpeg.Options{Quality: 95}); err != nil {
			t.Fatal(err)
		}
		small, err := Small(t.Context(), "d", b.Bytes())
		if err != nil {
			t.Fatal(err)
		}
		got, _, err := image.Decode(bytes.NewReader(small))
		if err != nil || got.Bounds().Dx() != c.wantW || got.Bounds().Dy() != c.wantH {
			t.Fatalf("%d × %d: %v, %v", c.w, c.h, got.Bounds(), err)
		}
		for _, at := range []struct {
			x    int
			want uint32
		}{{0, 40}, {c.wantW - 1, 200}} {
			for _, y := range []int{0, c.wantH - 1} {
				if r, g, _, _ := got.At(at.x, y).RGBA(); apart(r>>8, at.want) > 12 || apart(g>>8, at.want) > 12 {
					t.Errorf("%d × %d: at %d, %d it is %d, want %d", c.w, c.h, at.x, y, r>>8, at.want)
				}
			}
		}
	}
}

func apart(a, b uint32) uint32 { return max(a, b) - min(a, b) }
