package jobs

import (
	"context"
	"crypto/sha256"
	"encoding/hex"
	"errors"
	"slices"

	"dogbolt/core/job"
	"dogbolt/core/reach"
	"dogbolt/core/schema"
	"dogbolt/internal/photo"
	"dogbolt/internal/rooms/people"
	"dogbolt/internal/store"
)

// Picture is a photo as it was kept.
type Picture struct {
	Digest        string
	Width, Height int
	Bytes         int
}

// AddPhoto cleans a picture and keeps it with a job.
func (svc *Service) AddPhoto(ctx context.Context, by people.Person, id string, data []byte) (Picture, error) {
	if err := people.May(by, people.TakePhotos); err != nil {
		return Picture{}, err
	}
	if v, err := svc.Open(ctx, by, id); err != nil {
		return Picture{}, err
	} else if v.Summary.Sealed {
		return Picture{}, people.ErrSealed
	}
	jpg, w, h, err := photo.Clean(ctx, by.ID, data)
	if err != nil {
		return Picture{}, schema.Invalid("file", "%v", err)
	}
	sum, source := sha256.Sum256(jpg), sha256.Sum256(data)
	p := Picture{hex.EncodeToString(sum[:]), w, h, len(jpg)}
	if err := svc.store.PutPhoto(p.Digest, jpg); err != nil {
		return Picture{}, err
	}
	return p, svc.store.Write(ctx, func(tx *store.Tx) error {
		if err := tx.AddPhoto(
			store.Photo{JobID: id, Digest: p.Digest, Width: w, Height: h, Bytes: p.Bytes, By: by.Name, At: svc.now(), Source: hex.EncodeToString(source[:])},
		); err != nil {
			return err
		}
		return tx.Note(svc.now(), by.Name, "add photo", id, p.Digest[:8])
	})
}

// Upload is how much of a picture has come.
type Upload struct {
	Have  int64 `json:"have" doc:"Bytes that are here; the next piece begins there."`
	Whole bool  `json:"whole" doc:"The picture is kept with the job."`
}

// maxPhoto is the largest file of a picture that is taken in pieces, bytes: as large as
// one that comes in one request.
const maxPhoto = 8 << 20

// Uploaded says how much of a picture has come.
func (svc *Service) Uploaded(ctx context.Context, by people.Person, id, digest string) (Upload, error) {
	if err := people.May(by, people.TakePhotos); err != nil {
		return Upload{}, err
	}
	if _, err := svc.store.Job(ctx, id); err != nil {
		return Upload{}, err
	}
	switch whole, err := svc.store.HasPhoto(ctx, id, digest); {
	case err != nil:
		return Upload{}, err
	case whole:
		return Upload{Whole: true}, nil
	}
	have, err := svc.store.PartSize(id, by.ID, digest)
	return Upload{Have: have}, err
}

// AddPiece takes a piece of a picture that begins where the one before ended, and says
// where the next begins: a piece that begins elsewhere is passed over. With the last one
// the picture is kept, where its digest is as the device said.
func (svc *Service) AddPiece(ctx context.Context, by people.Person, id, digest string, from, size int64, piece []byte) (Upload, error) {
	u, err := svc.Uploaded(ctx, by, id, digest)
	switch {
	case err != nil || u.Whole:
		return u, err
	case size > maxPhoto:
		return u, schema.Invalid("size", "a picture has at most %d MB", maxPhoto>>20)
	case from != u.Have:
		return u, nil // another piece was quicker: the device goes on from there
	case from+int64(len(piece)) > size || len(piece) == 0:
		return u, schema.Invalid("size", "the piece ends at %d bytes, the picture at %d", from+int64(len(piece)), size)
	}
	if from+int64(len(piece)) < size {
		u.Have, err = svc.store.AddPart(id, by.ID, digest, from, piece)
		return u, err
	}
	// The last piece is not added to the others: whatever happens here, it is sent again.
	data, err := svc.store.Part(id, by.ID, digest)
	if err != nil {
		return u, err
	}
	data = append(data, piece...)
	if sum := sha256.Sum256(data); hex.EncodeToString(sum[:]) != digest {
		err = schema.Invalid("digest", "the pieces do not make the picture that was announced")
	} else if _, err = svc.AddPhoto(ctx, by, id, data); err == nil {
		u = Upload{Have: size, Whole: true}
	}
	return u, errors.Join(err, svc.store.DropPart(id, by.ID, digest))
}

// Photo returns a job's picture as JPEG.
func (svc *Service) Photo(ctx context.Context, by people.Person, id, digest string) ([]byte, error) {
	if err := people.May(by, people.ViewJobs); err != nil {
		return nil, err
	}
	return svc.store.Photo(ctx, id, digest)
}

// checkSurvey refuses what only the whole survey shows: bays that overlap, a
// position inside a wall, a new photo that was never kept. Photos that were listed
// before stay: an imported job names pictures that did not come along.
func checkSurvey(tx *store.Tx, id string, s *job.Survey, before []job.Photo) error {
	errs := schema.Errors(reach.Problems(s))
	var digests []string
	for _, p := range s.Photos {
		if !slices.ContainsFunc(before, func(old job.Photo) bool { return old.Digest == p.Digest }) {
			digests = append(digests, p.Digest)
		}
	}
	if len(errs)+len(digests) == 0 {
		return nil
	}
	missing, err := tx.Missing(id, digests)
	if len(missing) > 0 {
		errs = append(errs, schema.Invalid("survey.photos", "%d photos are not kept with this job: take them again", len(missing))...)
	}
	if len(errs) > 0 {
		return errs
	}
	return err
}
