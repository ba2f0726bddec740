package people

import (
	"crypto/sha256"
	_ "embed" // the list
	"encoding/hex"
	"strings"
	"sync"
	"unicode/utf8"

	"github.com/alexedwards/argon2id"
	"golang.org/x/text/cases"
	"golang.org/x/text/unicode/norm"

	"dogbolt/core/schema"
)

// hashing is argon2id with the second of the two choices of RFC 9106: 64 MiB,
// three passes.
var hashing = &argon2id.Params{Memory: 64 * 1024, Iterations: 3, Parallelism: 2, SaltLength: 16, KeyLength: 32}

// Lengths of a password, characters. NIST SP 800-63B asks for 8 at least and to take 64; a
// longer one costs nothing.
const (
	MinPassword = 10
	maxPassword = 128
)

// commonList is what is tried first: the passwords of ten characters and more among the
// 49,233 most frequent of @zxcvbn-ts/language-common 4.1.3 (MIT). Each stands as the first
// eight bytes of its SHA-256, folded, in hex: the list itself is full of names and of words
// that nobody wants to read.
//
//go:embed common-passwords.sha256
var commonList string

var common = sync.OnceValue(func() map[string]bool {
	list := map[string]bool{}
	for _, w := range strings.Fields(commonList) {
		list[w] = true
	}
	return list
})

// isCommon reports whether a password, folded, is among those that are tried first.
func isCommon(plain string) bool { return common()[digest(plain)[:16]] }

// passwordFault says what is wrong with a password for an account, nil where nothing is.
// Characters of one kind are as good as others: only length, the list of common ones, and
// what belongs to the account itself count (NIST SP 800-63B, 5.1.1.2).
func passwordFault(password, username, name string) schema.Errors {
	plain := folded(password)
	n := utf8.RuneCountInString(norm.NFC.String(password))
	switch {
	case n < MinPassword:
		return schema.Invalid("password", "has at least %d characters", MinPassword)
	case n > maxPassword:
		return schema.Invalid("password", "has at most %d characters", maxPassword)
	case isCommon(plain):
		return schema.Invalid("password", "is among those that are tried first; choose another")
	case strings.Count(plain, plain[:1]) == len(plain):
		return schema.Invalid("password", "is one character many times; choose another")
	}
	for _, own := range []string{username, name} {
		if own = folded(own); own != "" && strings.Trim(strings.ReplaceAll(plain, own, ""), "0123456789 .!") == "" {
			return schema.Invalid("password", "is the person's own name; choose another")
		}
	}
	return nil
}

// hashes are one at a time: each takes 64 MiB, and ten people sign in at seven in the morning.
var hashes sync.Mutex

// hashOf is what is kept of a password.
func hashOf(password string) (string, error) {
	hashes.Lock()
	defer hashes.Unlock()
	return argon2id.CreateHash(norm.NFC.String(password), hashing)
}

// matches reports whether a password is the one of a hash.
func matches(password, hash string) bool {
	hashes.Lock()
	defer hashes.Unlock()
	ok, err := argon2id.ComparePasswordAndHash(norm.NFC.String(password), hash)
	return err == nil && ok
}

// decoy is the hash that a wrong name is compared with.
var decoy = sync.OnceValue(func() string {
	hash, err := hashOf("no such person")
	if err != nil {
		panic(err) // no randomness: nothing can go on
	}
	return hash
})

var fold = cases.Fold()

// folded is text as it is compared: without difference of capitals, forms and blanks.
func folded(s string) string {
	return strings.Join(strings.Fields(fold.String(norm.NFKC.String(s))), " ")
}

// digest is what is kept of a one-time token.
func digest(token string) string {
	sum := sha256.Sum256([]byte(token))
	return hex.EncodeToString(sum[:])
}
