package standin

import (
	"archive/zip"
	"bytes"
	"encoding/base64"
	"encoding/json"
	"errors"
	"fmt"
	"hash/crc32"
	"image"
	_ "image/jpeg" // what the desk can open
	_ "image/png"
	"io"
	"mime"
	"mime/multipart"
	"net/mail"
	"os"
	"regexp"
	"strings"

	"dogbolt/core/clearance"
	"dogbolt/core/job"
)

// SchemeDesk is the desk of every scheme and office: it opens a mail of the drop,
// looks at the form with a clerk's eyes, and accepts it or sends it back with
// reasons. Schemes that are slow by their own account acknowledge first, and
// decide when they are asked again. It judges what it received, not the job.
type SchemeDesk struct{ Drop MailDrop }

// slowFrom is the usual wait, days, from which a desk acknowledges first.
const slowFrom = 60

// Answer looks at a mail. asked is how often it was asked before.
func (d SchemeDesk) Answer(id string, def clearance.Definition, asked int, today string) (job.Reply, error) {
	data, err := os.ReadFile(d.Drop.Path(id))
	if err != nil {
		return job.Reply{}, fmt.Errorf("desk: %w", err)
	}
	if def.WaitHigh >= slowFrom && asked == 0 {
		return job.Reply{On: today, Outcome: job.Received, Reference: number(def, id)}, nil
	}
	reply := job.Reply{On: today, Outcome: job.Accepted, Reference: number(def, id)}
	sub, files, err := open(data)
	if err != nil {
		reply.Reasons = []string{"the package cannot be opened: " + err.Error()}
	} else {
		reply.Reasons = clerk(def, sub, files)
	}
	if len(reply.Reasons) > 0 {
		reply.Outcome = job.Bounced
	}
	return reply, nil
}

// number is the desk's own number of a case.
func number(def clearance.Definition, id string) string {
	var initials strings.Builder
	for _, w := range strings.Fields(def.Who) {
		initials.WriteString(strings.ToUpper(string([]rune(w)[:1])))
	}
	return fmt.Sprintf("%s-%06d", initials.String(), crc32.ChecksumIEEE([]byte(id))%1000000)
}

// open takes form and files out of a mail.
func open(data []byte) (sub clearance.Submission, files map[string][]byte, err error) {
	m, err := mail.ReadMessage(bytes.NewReader(data))
	if err != nil {
		return sub, nil, err
	}
	_, params, err := mime.ParseMediaType(m.Header.Get("Content-Type"))
	if err != nil {
		return sub, nil, err
	}
	parts := multipart.NewReader(m.Body, params["boundary"])
	for {
		p, err := parts.NextPart()
		if errors.Is(err, io.EOF) {
			return sub, nil, errors.New("no package in the mail")
		}
		if err != nil {
			return sub, nil, err
		}
		if !strings.HasSuffix(p.FileName(), ".zip") {
			continue
		}
		z, err := io.ReadAll(base64.NewDecoder(base64.StdEncoding, p))
		if err != nil {
			return sub, nil, err
		}
		if files, err = unzip(z); err != nil {
			return sub, nil, err
		}
		return sub, files, json.Unmarshal(files["form.json"], &sub)
	}
}

func unzip(data []byte) (map[string][]byte, error) {
	z, err := zip.NewReader(bytes.NewReader(data), int64(len(data)))
	if err != nil {
		return nil, err
	}
	files := map[string][]byte{}
	for _, f := range z.File {
		r, err := f.Open()
		if err != nil {
			return nil, err
		}
		b, err := io.ReadAll(r)
		if err = errors.Join(err, r.Close()); err != nil {
			return nil, err
		}
		files[f.Name] = b
	}
	return files, nil
}

// clerk lists what a form is sent back for.
func clerk(def clearance.Definition, sub clearance.Submission, files map[string][]byte) []string {
	var out []string
	value := map[string]string{}
	for _, f := range sub.Fields {
		value[f.ID] = strings.TrimSpace(f.Value)
	}
	for _, q := range def.Fields {
		if reason := readBox(q, value); reason != "" {
			out = append(out, reason)
		}
	}
	for _, w := range def.Attachments {
		if reason := look(w, sub, files); reason != "" {
			out = append(out, reason)
		}
	}
	for _, o := range def.Order {
		if a, b := value[o.First], value[o.Then]; a != "" && b != "" && a > b {
			out = append(out, "days out of order: "+o.Title)
		}
	}
	if def.Signature.Field != "" && (sub.SignedBy == "" || letters(sub.SignedBy) != letters(value[def.Signature.Field])) {
		out = append(out, "not signed by the person named")
	}
	return out
}

// readBox says what is wrong with a box of a form, "" where nothing is.
func readBox(q clearance.Question, value map[string]string) string {
	v := value[q.ID]
	switch {
	case v == "" && !q.Optional:
		return "box “" + q.Label + "” is empty"
	case v != "" && q.Pattern != "" && !regexp.MustCompile("^(?:"+q.Pattern+")$").MatchString(v):
		return fmt.Sprintf("box “%s”: %q is not %s", q.Label, v, q.Hint)
	case v != "" && q.Same != "" && value[q.Same] != "" && letters(v) != letters(value[q.Same]):
		return fmt.Sprintf("box “%s”: %q does not agree with %q", q.Label, v, value[q.Same])
	}
	return ""
}

// look opens a file as a clerk would.
func look(w clearance.Wanted, sub clearance.Submission, files map[string][]byte) string {
	for _, f := range sub.Files {
		if f.Kind != w.Kind {
			continue
		}
		data := files[f.File]
		if bytes.HasPrefix(data, []byte("%PDF-")) {
			if !bytes.Contains(data[max(0, len(data)-2048):], []byte("%%EOF")) {
				return "“" + w.Title + "” does not open"
			}
			return ""
		}
		cfg, _, err := image.DecodeConfig(bytes.NewReader(data))
		switch {
		case err != nil:
			return "“" + w.Title + "” does not open"
		case min(cfg.Width, cfg.Height) < w.MinSide:
			return "“" + w.Title + "” cannot be read, it is too small"
		}
		return ""
	}
	if w.Optional {
		return ""
	}
	return "“" + w.Title + "” was not enclosed"
}

var notLetters = regexp.MustCompile(`[^\p{L}\p{N}]+`)

// letters are what a clerk compares of two names.
func letters(s string) string { return strings.ToLower(notLetters.ReplaceAllString(s, "")) }
