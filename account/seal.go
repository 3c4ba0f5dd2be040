package account

import (
	"crypto/aes"
	"crypto/cipher"
	"crypto/hkdf"
	"crypto/rand"
	"crypto/sha256"

	"corpulan/core/message"
)

// Sealer keeps secrets of others so that the database alone does not tell them: AES-256-GCM
// (NIST SP 800-38D) with a key for each purpose, derived from the installation's secret by HKDF
// (RFC 5869). A nil Sealer has no secret and seals nothing.
type Sealer struct{ secret []byte }

// minSecret is how many bytes an installation's secret has at least.
const minSecret = 32

// Errors of sealing.
var (
	ErrNoSecret = message.Errorf("this installation has no secret to seal with; see --secret")
	ErrSealed   = message.Errorf("this was sealed with another secret, or changed since")
)

// NewSealer seals with the installation's secret, of at least 32 bytes.
func NewSealer(secret []byte) (*Sealer, error) {
	if len(secret) < minSecret {
		return nil, message.Errorf("a secret has at least %d bytes, not %d", minSecret, len(secret))
	}
	return &Sealer{secret}, nil
}

func (s *Sealer) gcm(purpose string) (cipher.AEAD, error) {
	if s == nil {
		return nil, ErrNoSecret
	}
	key, err := hkdf.Key(sha256.New, s.secret, nil, "corpulan "+purpose, 32)
	if err != nil {
		return nil, err
	}
	block, err := aes.NewCipher(key)
	if err != nil {
		return nil, err
	}
	return cipher.NewGCMWithRandomNonce(block)
}

// Seal encrypts a text for one purpose: it opens for no other.
func (s *Sealer) Seal(purpose string, plain []byte) ([]byte, error) {
	g, err := s.gcm(purpose)
	if err != nil {
		return nil, err
	}
	return g.Seal(nil, nil, plain, []byte(purpose)), nil
}

// Open decrypts what was sealed for a purpose; ErrSealed for everything else.
func (s *Sealer) Open(purpose string, sealed []byte) ([]byte, error) {
	g, err := s.gcm(purpose)
	if err != nil {
		return nil, err
	}
	plain, err := g.Open(nil, nil, sealed, []byte(purpose))
	if err != nil {
		return nil, ErrSealed
	}
	return plain, nil
}

// NewSecret is a secret for an installation that has none.
func NewSecret() string { return rand.Text() + rand.Text() }
