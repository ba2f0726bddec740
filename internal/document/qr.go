package document

import (
	"bytes"
	"image"
	"image/draw"
	"image/png"

	"github.com/boombuler/barcode"
	"github.com/boombuler/barcode/qr"
)

// qrSide is how wide the modules of a QR code are drawn, pixels.
const qrSide = 240

// QR is a text as a QR code (ISO/IEC 18004), as PNG, with the quiet zone of four modules around it that readers ask for.
func QR(text string) ([]byte, error) {
	code, err := qr.Encode(text, qr.M, qr.Auto)
	if err != nil {
		return nil, err
	}
	quiet := 4 * qrSide / code.Bounds().Dx()
	if code, err = barcode.Scale(code, qrSide, qrSide); err != nil {
		return nil, err
	}
	drawn := image.NewGray(image.Rect(0, 0, qrSide+2*quiet, qrSide+2*quiet))
	draw.Draw(drawn, drawn.Bounds(), image.White, image.Point{}, draw.Src)
	draw.Draw(drawn, code.Bounds().Add(image.Pt(quiet, quiet)), code, code.Bounds().Min, draw.Src)
	var b bytes.Buffer
	err = png.Encode(&b, drawn)
	return b.Bytes(), err
}
