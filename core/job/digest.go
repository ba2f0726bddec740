package job

import (
	"crypto/sha256"
	"encoding/binary"
	"encoding/hex"
	"math"
	"reflect"
	"strings"
	"sync"
)

// digest2 is a short digest of values by what their fields hold, under the names that a
// job file gives them. A field that is zero is not there: fields that later programs add
// change no digest while they are empty. It is worked out with every check of a signed
// job, and is quicker than writing the values as JSON.
func digest2(values ...any) string {
	b := make([]byte, 0, 8192)
	for _, v := range values {
		b = appendValue(append(b, 0), reflect.ValueOf(v))
	}
	sum := sha256.Sum256(b)
	return hex.EncodeToString(sum[:8])
}

// named is a field of a struct under its name in a job file.
type named struct {
	index int
	name  string
}

var namedFields sync.Map // by reflect.Type

func fieldsOf(t reflect.Type) []named {
	if list, ok := namedFields.Load(t); ok {
		return list.([]named)
	}
	var list []named
	for i := range t.NumField() {
		f := t.Field(i)
		if name, _, _ := strings.Cut(f.Tag.Get("json"), ","); f.IsExported() && name != "" && name != "-" {
			list = append(list, named{i, name})
		}
	}
	if len(list) == 0 {
		panic("nothing of a " + t.String() + " would be in a digest") // a mistake in the program
	}
	namedFields.Store(t, list)
	return list
}

// appendValue writes a value so that no two values of a type are written alike: numbers
// in eight bytes, texts and lists after their length, fields after their names.
func appendValue(b []byte, v reflect.Value) []byte {
	switch v.Kind() {
	case reflect.Pointer, reflect.Interface:
		if v.IsNil() {
			return append(b, 0)
		}
		return appendValue(append(b, 1), v.Elem())
	case reflect.Struct:
		for _, f := range fieldsOf(v.Type()) {
			if field := v.Field(f.index); !field.IsZero() {
				b = appendValue(append(append(b, f.name...), 0), field)
			}
		}
		return append(b, 0xff)
	case reflect.Slice, reflect.Array:
		b = binary.BigEndian.AppendUint64(b, uint64(v.Len()))
		for i := range v.Len() {
			b = appendValue(b, v.Index(i))
		}
		return b
	case reflect.String:
		b = binary.BigEndian.AppendUint64(b, uint64(v.Len()))
		return append(b, v.String()...)
	case reflect.Bool:
		if v.Bool() {
			return append(b, 1)
		}
		return append(b, 0)
	case reflect.Float32, reflect.Float64:
		return binary.BigEndian.AppendUint64(b, math.Float64bits(v.Float()))
	case reflect.Int, reflect.Int64, reflect.Int32, reflect.Int16, reflect.Int8:
		return binary.BigEndian.AppendUint64(b, uint64(v.Int()))
	}
	panic("a job has no " + v.Kind().String()) // a mistake in the program
}
