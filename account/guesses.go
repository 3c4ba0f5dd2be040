package account

import (
	"time"

	"corpulan/core/message"
)

var ErrTooSoon = message.Errorf("too many wrong passwords; wait a moment")

const FreeGuesses = 5

// Guessing is slowed down from the sixth wrong password on, a link at a time, never for longer
// than the longest pause: whoever knows the password gets in after that. Our own.
const (
	LongestPause = 30 * time.Second
)
