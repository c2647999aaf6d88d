package qti

import (
	"bytes"
	"fmt"
	"regexp"

	"golang.org/x/net/html/charset"
	"golang.org/x/text/encoding"
	"golang.org/x/text/encoding/unicode"
)

// saysEncoding finds what an XML file says of its encoding.
var saysEncoding = regexp.MustCompile(`^\s*<\?xml[^>]*?\sencoding\s*=\s*["']([^"']*)["'][^>]*\?>`)

// inUTF8 gives a file as UTF-8, without the line that said how it was written.
// A mark at its begin tells UTF-16, and so do the zero bytes between its first letters.
func inUTF8(data []byte) ([]byte, error) {
	var from encoding.Encoding
	switch {
	case bytes.HasPrefix(data, []byte{0xff, 0xfe}), bytes.HasPrefix(data, []byte{'<', 0}):
		from = unicode.UTF16(unicode.LittleEndian, unicode.UseBOM)
	case bytes.HasPrefix(data, []byte{0xfe, 0xff}), bytes.HasPrefix(data, []byte{0, '<'}):
		from = unicode.UTF16(unicode.BigEndian, unicode.UseBOM)
	default:
		data = bytes.TrimPrefix(data, []byte("\xef\xbb\xbf"))
		if said := saysEncoding.FindSubmatch(data); said != nil {
			name := string(said[1])
			if from, _ = charset.Lookup(name); from == nil {
				return nil, fmt.Errorf("is written in %q, which is not read; save it as UTF-8", name)
			}
		}
	}
	if from != nil {
		var err error
		if data, err = from.NewDecoder().Bytes(data); err != nil {
			return nil, fmt.Errorf("is not written in the encoding that it names: %w", err)
		}
	}
	return bytes.TrimPrefix(saysEncoding.ReplaceAll(data, nil), []byte("\ufeff")), nil
}
