package main

import (
	"crypto/tls"
	"fmt"
	"log/slog"
	"os"
	"sync"
	"time"
)

// certificate is a TLS certificate in files that somebody else renews: each handshake takes
// what is there. One that cannot be read, half written or of another key, leaves the one of
// before in use.
type certificate struct {
	file, key string

	mu   sync.Mutex
	kept *tls.Certificate
	of   [2]time.Time // when the files were written that it came from
}

// newCertificate reads a certificate; the error says what is wrong with it.
func newCertificate(file, key string) (*certificate, error) {
	c := &certificate{file: file, key: key}
	if err := c.read(); err != nil {
		return nil, fmt.Errorf("TLS certificate: %w", err)
	}
	return c, nil
}

func (c *certificate) read() error {
	of, err := c.written()
	if err != nil || c.kept != nil && of == c.of {
		return err
	}
	pair, err := tls.LoadX509KeyPair(c.file, c.key)
	if err != nil {
		return err
	}
	c.kept, c.of = &pair, of
	return nil
}

func (c *certificate) written() (of [2]time.Time, err error) {
	for i, f := range []string{c.file, c.key} {
		info, err := os.Stat(f)
		if err != nil {
			return of, err
		}
		of[i] = info.ModTime()
	}
	return of, nil
}

// get returns the certificate for a handshake.
func (c *certificate) get(*tls.ClientHelloInfo) (*tls.Certificate, error) {
	c.mu.Lock()
	defer c.mu.Unlock()
	if err := c.read(); err != nil {
		slog.Error("the new TLS certificate cannot be read; the one of before is used", "error", err)
	}
	return c.kept, nil
}
