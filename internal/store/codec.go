package store

import (
	"time"

	"github.com/alexedwards/scs/v2"
	"github.com/fxamacker/cbor/v2"
)

// SessionCodec writes what a session holds: texts, whole numbers, and yes or no. It is read
// with every request; scs's own codec took longer for that than the database.
type SessionCodec struct{}

type sessionData struct {
	Deadline time.Time      `cbor:"1,keyasint"`
	Values   map[string]any `cbor:"2,keyasint"`
}

var (
	sessionEncoding, _ = cbor.EncOptions{Time: cbor.TimeRFC3339Nano}.EncMode() // constants: it never fails
	sessionDecoding, _ = cbor.DecOptions{IntDec: cbor.IntDecConvertSignedOrFail}.DecMode()
)

// Encode implements scs.Codec.
func (SessionCodec) Encode(deadline time.Time, values map[string]any) ([]byte, error) {
	return sessionEncoding.Marshal(sessionData{deadline.UTC(), values})
}

// Decode implements scs.Codec. Sessions that began with an older program go on.
func (SessionCodec) Decode(b []byte) (time.Time, map[string]any, error) {
	var d sessionData
	if err := sessionDecoding.Unmarshal(b, &d); err != nil {
		return scs.GobCodec{}.Decode(b)
	}
	if d.Values == nil {
		d.Values = map[string]any{}
	}
	return d.Deadline, d.Values, nil
}
