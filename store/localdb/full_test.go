package localdb

import (
	"errors"
	"testing"

	"github.com/stretchr/testify/assert"
)

// A full disk is called one, whatever failed for it; an error on a disk with room is what it is.
func TestAFullDiskIsCalledOne(t *testing.T) {
	was := roomIn
	defer func() { roomIn = was }()
	h := home{dir: t.TempDir()}
	other := errors.New("another Arplin has the folder")
	roomIn = func(string) (int64, error) { return 1 << 40, nil }
	assert.Equal(t, other, h.orFull(other))
	assert.NoError(t, h.orFull(nil))
	roomIn = func(string) (int64, error) { return 1000, nil }
	assert.ErrorContains(t, h.orFull(other), "is full; make room")
	assert.NoError(t, h.orFull(nil))
}
