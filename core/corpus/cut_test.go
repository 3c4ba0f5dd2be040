package corpus

import (
	"testing"

	"github.com/stretchr/testify/assert"
)

func TestCutsFallBetweenCharacters(t *testing.T) {
	assert.Equal(t, "ßé", lastRunes("aßé", 2))
	assert.Equal(t, "aß", firstRunes("aßé", 2))
	assert.Empty(t, lastRunes("a", 0))
}
