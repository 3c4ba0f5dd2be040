package account

import (
	"crypto/rand"
	"crypto/sha256"
	"crypto/subtle"
	"encoding/base64"
	"fmt"
	"strings"

	"golang.org/x/crypto/argon2"
)

// tokenBytes is the randomness of what opens something: 256 bits, beyond all guessing.
const tokenBytes = 32

// NewToken makes what stands in an address or a cookie. It is not kept, but its digest.
func NewToken() (token string, digest []byte, err error) {
	raw := make([]byte, tokenBytes)
	if _, err = rand.Read(raw); err != nil {
		return "", nil, err
	}
	token = base64.RawURLEncoding.EncodeToString(raw)
	return token, DigestOf(token), nil
}

func DigestOf(token string) []byte {
	d := sha256.Sum256([]byte(token))
	return d[:]
}

// IsToken tells what has the length of a token, before a database is asked.
func IsToken(s string) bool { return len(s) == base64.RawURLEncoding.EncodedLen(tokenBytes) }

// The costs of argon2id: 19 MiB, two passes, one lane (OWASP Password Storage Cheat Sheet).
const (
	argonMemory = 19 * 1024 // KiB
	argonPasses = 2
	argonLanes  = 1
	argonBytes  = 32
)

// Hashed is a password as it is kept: salt and hash, each in base64.
func Hashed(password string) (string, error) {
	salt := make([]byte, 16)
	if _, err := rand.Read(salt); err != nil {
		return "", err
	}
	key := argon2.IDKey([]byte(password), salt, argonPasses, argonMemory, argonLanes, argonBytes)
	enc := base64.RawStdEncoding
	return fmt.Sprintf("argon2id$%s$%s", enc.EncodeToString(salt), enc.EncodeToString(key)), nil
}

func Matches(kept, password string) bool {
	parts := strings.Split(kept, "$")
	if len(parts) != 3 || parts[0] != "argon2id" {
		return false
	}
	salt, err := base64.RawStdEncoding.DecodeString(parts[1])
	if err != nil {
		return false
	}
	want, err := base64.RawStdEncoding.DecodeString(parts[2])
	if err != nil {
		return false
	}
	key := argon2.IDKey([]byte(password), salt, argonPasses, argonMemory, argonLanes, argonBytes)
	return subtle.ConstantTimeCompare(key, want) == 1
}
