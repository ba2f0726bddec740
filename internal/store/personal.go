package store

import (
	"context"
	"errors"
	"io/fs"
	"os"
)

// DropJob removes a job of which nothing was logged, sealed or photographed: ErrTaken where
// something was.
func (t *Tx) DropJob(jobID string) error {
	for _, what := range []any{&Linked{}, &Photo{}, &File{}, &Mail{}} {
		var n int64
		if err := t.db.Model(what).Where("job_id = ?", jobID).Count(&n).Error; err != nil {
			return err
		}
		if n > 0 {
			return ErrTaken
		}
	}
	for _, table := range []string{"sections", "deadlines", "bookings", "stock_holds"} {
		if err := t.db.Exec("DELETE FROM "+table+" WHERE job_id = ?", jobID).Error; err != nil {
			return err
		}
	}
	if err := t.db.Delete(&Job{}, "id = ?", jobID).Error; err != nil {
		return err
	}
	return t.SearchAnew()
}

// SearchAnew makes the index of words anew: nothing of what was taken out stays in it.
func (t *Tx) SearchAnew() error {
	return t.db.Exec("INSERT INTO jobs_search(jobs_search) VALUES ('rebuild')").Error
}

// DropPictures removes the pictures and files of a job, its customer's page, and the addresses that its mails
// went to. It returns how the files themselves are removed, once the transaction is through.
func (t *Tx) DropPictures(jobID string) (after func() error, err error) {
	if err := t.ClosePage(jobID); err != nil {
		return nil, err
	}
	var photos []Photo
	var files []File
	if err := errors.Join(t.db.Find(&photos, "job_id = ?", jobID).Error, t.db.Find(&files, "job_id = ?", jobID).Error); err != nil {
		return nil, err
	}
	if err := errors.Join(
		t.db.Delete(&Photo{}, "job_id = ?", jobID).Error,
		t.db.Delete(&File{}, "job_id = ?", jobID).Error,
		t.db.Exec("UPDATE mails SET `to` = '' WHERE job_id = ?", jobID).Error,
	); err != nil {
		return nil, err
	}
	var paths []string
	for _, p := range photos {
		var others int64
		if err := t.db.Model(&Photo{}).Where("digest = ?", p.Digest).Count(&others).Error; err != nil {
			return nil, err
		}
		if others == 0 { // the same picture may be another job's too
			paths = append(paths, kept(t.path, p.Digest, picture))
		}
	}
	for _, f := range files {
		var others int64
		if err := t.db.Model(&File{}).Where("digest = ?", f.Digest).Count(&others).Error; err != nil {
			return nil, err
		}
		if others == 0 {
			paths = append(paths, kept(t.path, f.Digest, asCame))
		}
	}
	return func() error {
		var errs []error
		for _, p := range paths {
			if err := os.Remove(p); err != nil && !errors.Is(err, fs.ErrNotExist) {
				errs = append(errs, err)
			}
		}
		return errors.Join(errs...)
	}, nil
}

// Pictures lists the pictures of a job.
func (s *Store) Pictures(ctx context.Context, jobID string) ([]Photo, error) {
	var list []Photo
	return list, s.read.WithContext(ctx).Order("at, digest").Find(&list, "job_id = ?", jobID).Error
}
