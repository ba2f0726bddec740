package photo

import (
	"bytes"
	"fmt"
	"image"
	"image/color"
	"image/jpeg"
	"image/png"
	"os"
	"strconv"
	"strings"
	"sync"
	"testing"

	"dogbolt/internal/testkit/resident"
)

// side is the longest side of a square picture that is taken by its points.
const side = 7700

// square is a picture of one colour, in a file of little size.
func square(t testing.TB, kind string, side int) []byte {
	t.Helper()
	var m image.Image
	r := image.Rect(0, 0, side, side)
	switch kind {
	case "gray PNG":
		m = image.NewGray(r)
	case "16-bit PNG":
		m = image.NewNRGBA64(r)
	case "colour PNG":
		m = image.NewNRGBA(r)
	case "JPEG":
		m = image.NewYCbCr(r, image.YCbCrSubsampleRatio420)
	case "palette PNG":
		m = image.NewPaletted(r, color.Palette{color.Black, color.White})
	}
	var b bytes.Buffer
	var err error
	if kind == "JPEG" {
		err = jpeg.Encode(&b, m, nil)
	} else {
		err = (&png.Encoder{CompressionLevel: png.BestSpeed}).Encode(&b, m)
	}
	if err != nil {
		t.Fatal(err)
	}
	return b.Bytes()
}

// TestNeeds: the estimate against what the decoders make, counted by hand: 1.5 samples a point
// at 4:2:0, 8 bytes a point of 16 bits and four channels.
func TestNeeds(t *testing.T) {
	for kind, want := range map[string]float64{"gray PNG": 1, "16-bit PNG": 8, "colour PNG": 4, "JPEG": 1.5, "palette PNG": 1} {
		data := square(t, kind, 64)
		_, format, err := image.DecodeConfig(bytes.NewReader(data))
		if err != nil {
			t.Fatal(err)
		}
		if got := float64(needs(data, format, 64, 64)) / (64 * 64); got != want {
			t.Errorf("%s: %g bytes a point, want %g", kind, got, want)
		}
	}
	// A progressive frame by hand: SOF2, 8 bits, three components, 2×2, 1×1, 1×1.
	progressive := []byte{0xFF, 0xD8, 0xFF, 0xC2, 0, 17, 8, 1, 0, 1, 0, 3, 1, 0x22, 0, 2, 0x11, 1, 3, 0x11, 1}
	if got := needs(progressive, "jpeg", 100, 100); got != 75_000 {
		t.Errorf("progressive: %d bytes", got)
	}
	if got := needs([]byte{0xFF, 0xD8}, "jpeg", 100, 100); got != 200_000 {
		t.Errorf("no frame: %d bytes", got)
	}
}

// TestMemory: four such pictures at once take less than 200 MB more than the program, by the
// process's own figures.
func TestMemory(t *testing.T) {
	piece := resident.Of(t, func(file string) {
		data, err := os.ReadFile(file)
		if err != nil {
			t.Fatal(err)
		}
		var all sync.WaitGroup
		for i := range 4 {
			all.Go(func() {
				_, _, _, err := Clean(t.Context(), strconv.Itoa(i), data)
				fmt.Println("read:", err == nil)
			})
		}
		all.Wait()
	})
	for _, kind := range []string{"gray PNG", "16-bit PNG", "JPEG"} {
		file := t.TempDir() + "/picture"
		if err := os.WriteFile(file, square(t, kind, side), 0o600); err != nil {
			t.Fatal(err)
		}
		took, said := piece.Took(file)
		if took > 200 {
			t.Errorf("%s: %d MB", kind, took)
		}
		if read := strings.Contains(said, "read: true"); read != (kind == "gray PNG" || kind == "JPEG") {
			t.Errorf("%s: read %t", kind, read)
		}
		t.Logf("%s: %d MB", kind, took)
	}
}
