package httpapi

import (
	"fmt"
	"reflect"
	"strings"

	"dogbolt/core/schema"
	"dogbolt/core/text"
)

// untyped lists the texts of a request that are not taken: control characters and the
// like, whatever field they came in. Files and parts of documents are read by their own
// definitions.
func untyped(in any) schema.Errors {
	var errs schema.Errors
	lookAt(reflect.ValueOf(in), "", &errs)
	return errs
}

func lookAt(v reflect.Value, at string, errs *schema.Errors) {
	switch v.Kind() {
	case reflect.Pointer, reflect.Interface:
		if !v.IsNil() {
			lookAt(v.Elem(), at, errs)
		}
	case reflect.Struct:
		for i := range v.NumField() {
			if f := v.Type().Field(i); f.IsExported() {
				lookAt(v.Field(i), under(at, nameOf(f)), errs)
			}
		}
	case reflect.Slice, reflect.Array:
		if v.Type().Elem().Kind() == reflect.Uint8 {
			return // a file
		}
		for i := range v.Len() {
			lookAt(v.Index(i), fmt.Sprintf("%s[%d]", at, i), errs)
		}
	case reflect.Map:
		for k, m := range v.Seq2() {
			lookAt(k, at, errs)
			lookAt(m, under(at, k.String()), errs)
		}
	case reflect.String:
		if why := text.Wrong(v.String()); why != "" {
			*errs = append(*errs, schema.FieldError{Field: at, Message: why})
		}
	}
}

// nameOf is a field's name as a request has it; "" for the body and what is embedded.
func nameOf(f reflect.StructField) string {
	for _, key := range []string{"json", "query", "path", "header"} {
		if name, _, _ := strings.Cut(f.Tag.Get(key), ","); name != "" {
			return name
		}
	}
	return ""
}

func under(at, name string) string {
	if at == "" || name == "" {
		return at + name
	}
	return at + "." + name
}
