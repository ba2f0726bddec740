package photo

import "encoding/binary"

// needs estimates the memory that a picture of so many points takes while it is decoded,
// bytes. A JPEG has its samples, and where it is progressive each of their coefficients as
// an int32 (image/jpeg); a PNG has up to four channels of 8 or 16 bits.
func needs(data []byte, kind string, width, height int) int64 {
	points := int64(width) * int64(height)
	if kind == "png" {
		return points * pngBytes(data)
	}
	samples, progressive := jpegSamples(data)
	each := 1.0
	if progressive {
		each += 4
	}
	return int64(float64(points) * samples * each)
}

// pngBytes is how many bytes a point of a PNG takes when it is decoded (PNG 1.2, 11.2.2): by
// bits and kind of colour.
func pngBytes(data []byte) int64 {
	const header = 8 + 8 // signature; length and name of the first chunk
	if len(data) < header+10 {
		return 8
	}
	bits, colour := data[header+8], data[header+9]
	switch {
	case colour == 3: // a palette
		return 1
	case colour == 0 && bits <= 8:
		return 1
	case colour == 0:
		return 2
	case bits <= 8:
		return 4
	}
	return 8
}

// jpegSamples is how many samples a point of a JPEG has, by the sub-sampling of its frame
// (ITU-T T.81, B.2.2), and whether the frame is progressive.
func jpegSamples(data []byte) (samples float64, progressive bool) {
	for i := 2; i+4 <= len(data) && data[i] == 0xFF; {
		marker, size := data[i+1], int(binary.BigEndian.Uint16(data[i+2:]))
		if marker >= 0xC0 && marker <= 0xC2 && i+10 <= len(data) {
			n := int(data[i+9])
			if n == 0 || i+10+3*n > len(data) {
				break
			}
			var blocks, most float64
			for k := range n {
				hv := data[i+11+3*k]
				b := float64(hv>>4) * float64(hv&15)
				blocks, most = blocks+b, max(most, b)
			}
			if most == 0 {
				break
			}
			return blocks / most, marker == 0xC2
		}
		if size < 2 {
			break
		}
		i += 2 + size
	}
	return 4, true // what cannot be told takes the most
}
