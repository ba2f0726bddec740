package replica

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"io"
	"io/fs"
	"net/url"
	"os"
	"path"
	"path/filepath"
	"strings"

	"github.com/aws/aws-sdk-go-v2/aws"
	"github.com/aws/aws-sdk-go-v2/config"
	"github.com/aws/aws-sdk-go-v2/service/s3"
	"github.com/aws/aws-sdk-go-v2/service/s3/types"
	"github.com/benbjohnson/litestream"
	"github.com/benbjohnson/litestream/file"
	lss3 "github.com/benbjohnson/litestream/s3"

	"dogbolt/internal/store"
)

// Target is where a replica lies: a folder, best of another machine, or a bucket of a service
// that speaks S3's protocol.
type Target struct {
	folder   string                                   // "" where it is a bucket
	client   func() (litestream.ReplicaClient, error) // of the database
	pictures pictures
}

// pictures is where the pictures and files of jobs lie, by their digests with their endings.
type pictures interface {
	list(ctx context.Context) (map[string]bool, error)
	put(ctx context.Context, name, from string) error
	get(ctx context.Context, name, to string) error // fs.ErrNotExist where it is not there
}

// In a target the database and the pictures have a folder each.
const (
	databaseIn = "database"
	picturesIn = "pictures"
)

// At returns the target at an address: the path of a folder, or s3://BUCKET/PREFIX with
// ?endpoint=https://… for another service than the first, and &region=…. Who may write there is
// in the environment: AWS_ACCESS_KEY_ID and AWS_SECRET_ACCESS_KEY.
func At(address string) (*Target, error) {
	if !strings.Contains(address, "://") {
		folder, err := filepath.Abs(address)
		if err != nil {
			return nil, err
		}
		return &Target{
			folder,
			func() (litestream.ReplicaClient, error) {
				return file.NewReplicaClient(filepath.Join(folder, databaseIn)), nil
			},
			folderOf(filepath.Join(folder, picturesIn)),
		}, nil
	}
	u, err := url.Parse(address)
	if err != nil || u.Scheme != "s3" || u.Host == "" {
		return nil, fmt.Errorf("%q is neither a folder nor s3://BUCKET/PREFIX", address)
	}
	b, err := bucketAt(u)
	if err != nil {
		return nil, err
	}
	return &Target{
		"",
		func() (litestream.ReplicaClient, error) {
			c := lss3.NewReplicaClient()
			c.Bucket, c.Path, c.Region, c.Endpoint = b.bucket, path.Join(b.prefix, databaseIn), b.region, b.endpoint
			c.ForcePathStyle = b.endpoint != ""
			c.AccessKeyID, c.SecretAccessKey = os.Getenv("AWS_ACCESS_KEY_ID"), os.Getenv("AWS_SECRET_ACCESS_KEY")
			return c, nil
		},
		b,
	}, nil
}

// folderOf is a folder of pictures.
type folderOf string

func (f folderOf) file(name string) string { return filepath.Join(string(f), name[:2], name) }

func (f folderOf) list(context.Context) (map[string]bool, error) {
	names := map[string]bool{}
	err := filepath.WalkDir(string(f), func(_ string, e fs.DirEntry, err error) error {
		if err == nil && !e.IsDir() && !strings.HasPrefix(e.Name(), ".") {
			names[e.Name()] = true
		}
		return err
	})
	if errors.Is(err, fs.ErrNotExist) {
		err = nil
	}
	return names, err
}

func (f folderOf) put(_ context.Context, name, from string) error {
	to := f.file(name)
	if err := os.MkdirAll(filepath.Dir(to), 0o700); err != nil {
		return err
	}
	part := filepath.Join(filepath.Dir(to), "."+name)                          // a name that list passes over
	if err := os.Remove(part); err != nil && !errors.Is(err, fs.ErrNotExist) { // of one that was interrupted
		return err
	}
	if err := store.CopyFile(from, part); err != nil {
		return err
	}
	return os.Rename(part, to)
}

func (f folderOf) get(_ context.Context, name, to string) error {
	return store.CopyFile(f.file(name), to)
}

// bucket is a place in a bucket.
type bucket struct {
	client                           *s3.Client
	bucket, prefix, region, endpoint string
}

func bucketAt(u *url.URL) (*bucket, error) {
	b := &bucket{bucket: u.Host, prefix: strings.Trim(u.Path, "/"), region: u.Query().Get("region"), endpoint: u.Query().Get("endpoint")}
	if b.region == "" {
		b.region = "us-east-1" // which services without regions take
	}
	c, err := config.LoadDefaultConfig(context.Background(), config.WithRegion(b.region))
	if err != nil {
		return nil, err
	}
	b.client = s3.NewFromConfig(c, func(o *s3.Options) {
		if b.endpoint != "" {
			o.BaseEndpoint, o.UsePathStyle = aws.String(b.endpoint), true
		}
	})
	return b, nil
}

func (b *bucket) key(name string) *string { return aws.String(path.Join(b.prefix, picturesIn, name)) }

func (b *bucket) list(ctx context.Context) (map[string]bool, error) {
	names := map[string]bool{}
	pages := s3.NewListObjectsV2Paginator(b.client, &s3.ListObjectsV2Input{Bucket: &b.bucket, Prefix: aws.String(*b.key("") + "/")})
	for pages.HasMorePages() {
		page, err := pages.NextPage(ctx)
		if err != nil {
			return nil, err
		}
		for _, o := range page.Contents {
			names[path.Base(aws.ToString(o.Key))] = true
		}
	}
	return names, nil
}

func (b *bucket) put(ctx context.Context, name, from string) error {
	data, err := os.ReadFile(from)
	if err != nil {
		return err
	}
	_, err = b.client.PutObject(ctx, &s3.PutObjectInput{Bucket: &b.bucket, Key: b.key(name), Body: bytes.NewReader(data)})
	return err
}

func (b *bucket) get(ctx context.Context, name, to string) error {
	o, err := b.client.GetObject(ctx, &s3.GetObjectInput{Bucket: &b.bucket, Key: b.key(name)})
	var gone *types.NoSuchKey
	if errors.As(err, &gone) {
		return fmt.Errorf("%s: %w", name, fs.ErrNotExist)
	}
	if err != nil {
		return err
	}
	defer o.Body.Close()
	data, err := io.ReadAll(o.Body)
	if err != nil {
		return err
	}
	return os.WriteFile(to, data, 0o600)
}
