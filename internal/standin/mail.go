package standin

import (
	"bytes"
	"encoding/base64"
	"fmt"
	"mime"
	"mime/multipart"
	"net/textproto"
	"os"
	"path/filepath"
	"strings"
	"time"

	"dogbolt/core/clearance"
)

// MailDrop writes mails into a folder instead of sending them.
type MailDrop struct{ Folder string }

// Path returns the file of a message.
func (d MailDrop) Path(id string) string { return filepath.Join(d.Folder, id+".eml") }

// Send writes the message as an .eml file (RFC 5322 with MIME), whole or not at
// all.
func (d MailDrop) Send(m clearance.Message) error {
	if err := os.MkdirAll(d.Folder, 0o700); err != nil {
		return fmt.Errorf("mail drop: %w", err)
	}
	data, err := encode(m)
	if err != nil {
		return fmt.Errorf("mail drop: %w", err)
	}
	part := d.Path(m.ID) + ".part"
	if err := os.WriteFile(part, data, 0o600); err != nil {
		return fmt.Errorf("mail drop: %w", err)
	}
	return os.Rename(part, d.Path(m.ID))
}

func encode(m clearance.Message) ([]byte, error) {
	var b bytes.Buffer
	w := multipart.NewWriter(&b)
	for _, v := range []string{m.From, m.To} {
		if strings.ContainsAny(v, "\r\n") || v == "" {
			return nil, fmt.Errorf("%q is not an address", v)
		}
	}
	fmt.Fprintf(
		&b,
		"From: %s\r\nTo: %s\r\nSubject: %s\r\nDate: %s\r\nMessage-ID: <%s@dogbolt.invalid>\r\nMIME-Version: 1.0\r\nContent-Type: multipart/mixed; boundary=%q\r\n\r\n",
		m.From,
		m.To,
		mime.QEncoding.Encode("utf-8", m.Subject),
		m.Date.Format(time.RFC1123Z),
		m.ID,
		w.Boundary(),
	)
	text, err := w.CreatePart(textproto.MIMEHeader{"Content-Type": {"text/plain; charset=utf-8"}, "Content-Transfer-Encoding": {"base64"}})
	if err != nil {
		return nil, err
	}
	fmt.Fprint(text, wrapped([]byte(m.Body)))
	for _, f := range m.Files {
		part, err := w.CreatePart(textproto.MIMEHeader{"Content-Type": {f.Type}, "Content-Transfer-Encoding": {"base64"},
			"Content-Disposition": {mime.FormatMediaType("attachment", map[string]string{"filename": f.Name})}})
		if err != nil {
			return nil, err
		}
		fmt.Fprint(part, wrapped(f.Data))
	}
	err = w.Close() // writes the end
	return b.Bytes(), err
}

// wrapped is base64 in lines of 76 (RFC 2045).
func wrapped(data []byte) string {
	s := base64.StdEncoding.EncodeToString(data)
	var out strings.Builder
	for len(s) > 76 {
		out.WriteString(s[:76] + "\r\n")
		s = s[76:]
	}
	return out.String() + s + "\r\n"
}
