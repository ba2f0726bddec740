package document

import (
	"bytes"
	"image/png"

	"github.com/boombuler/barcode"
	"github.com/boombuler/barcode/qr"
)

// qrSide is how wide a QR code is drawn, pixels.
const qrSide = 240

// QR is a text as a QR code (ISO/IEC 18004), as PNG.
func QR(text string) ([]byte, error) {
	code, err := qr.Encode(text, qr.M, qr.Auto)
	if err != nil {
		return nil, err
	}
	if code, err = barcode.Scale(code, qrSide, qrSide); err != nil {
		return nil, err
	}
	var b bytes.Buffer
	err = png.Encode(&b, code)
	return b.Bytes(), err
}
