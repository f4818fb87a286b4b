package letters

import (
	"bytes"
	"errors"
	"unicode/utf8"

	"golang.org/x/text/encoding/charmap"
	"golang.org/x/text/encoding/unicode"
)

// ErrNoText is a file that is no text in any encoding that is read here.
var ErrNoText = errors.New("this file is not text")

// Text reads a file of text as editors and spreadsheets save it: UTF-8, UTF-16 where its mark is
// at the beginning, else Windows-1252, as older ones do. What has zeros in it is no text.
func Text(data []byte) (string, error) {
	if Is16(data) {
		out, err := unicode.UTF16(unicode.LittleEndian, unicode.ExpectBOM).NewDecoder().Bytes(data)
		if err != nil {
			return "", ErrNoText
		}
		data = out
	}
	data = bytes.TrimPrefix(data, []byte("\xef\xbb\xbf"))
	if bytes.ContainsRune(data, 0) {
		return "", ErrNoText
	}
	if utf8.Valid(data) {
		return string(data), nil
	}
	out, err := charmap.Windows1252.NewDecoder().Bytes(data)
	if err != nil {
		return "", ErrNoText
	}
	return string(out), nil
}

// Is16 reports the mark of UTF-16 at the beginning.
func Is16(data []byte) bool {
	return bytes.HasPrefix(data, []byte("\xff\xfe")) || bytes.HasPrefix(data, []byte("\xfe\xff"))
}
