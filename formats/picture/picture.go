// Package picture takes in pictures and sounds: the type is told by the content,
// pictures are encoded anew so that nothing but the picture stays (no place, no
// camera, no hidden text), and drawings keep a safe subset of SVG.
package picture

import (
	"bytes"
	"errors"
	"fmt"
	"image"
	_ "image/gif" // read as still pictures
	"image/jpeg"
	"image/png"
	"net/http"
)

// MostBytes bounds a file.
const MostBytes = 20 << 20

// Bounds of the picture in it.
const (
	mostSide   = 10_000
	mostPixels = 40_000_000
	quality    = 90 // of JPEG, in percent
)

// Clean is a file as it is kept.
type Clean struct {
	Type          string // its media type
	Ending        string // such as ".png"
	Data          []byte
	Width, Height int // 0 for sounds
}

// Errors of Read; they end a sentence that begins with the file's name.
var (
	ErrUnknown  = errors.New("is neither a picture (PNG, JPEG, GIF, SVG) nor a sound (MP3, WAV, OGG) that is read")
	ErrTooLarge = fmt.Errorf("is larger than %d MB", MostBytes>>20)
)

// sounds by what the content says they are. Their names end as they are played.
var sounds = map[string]struct{ kind, ending string }{
	"audio/mpeg":      {"audio/mpeg", ".mp3"},
	"audio/wave":      {"audio/wav", ".wav"},
	"application/ogg": {"audio/ogg", ".ogg"},
}

// Read checks and cleans a file.
func Read(data []byte) (Clean, error) {
	if len(data) > MostBytes {
		return Clean{}, ErrTooLarge
	}
	kind := http.DetectContentType(data)
	if s, ok := sounds[kind]; ok {
		return Clean{Type: s.kind, Ending: s.ending, Data: data}, nil
	}
	switch kind {
	case "image/png", "image/jpeg", "image/gif":
		return encodeAnew(data, kind)
	case "text/xml; charset=utf-8", "text/plain; charset=utf-8", "image/svg+xml":
		return drawing(data)
	}
	return Clean{}, ErrUnknown
}

func encodeAnew(data []byte, kind string) (Clean, error) {
	size, _, err := image.DecodeConfig(bytes.NewReader(data))
	if err != nil {
		return Clean{}, fmt.Errorf("is a broken picture: %w", err)
	}
	if size.Width > mostSide || size.Height > mostSide || size.Width*size.Height > mostPixels {
		return Clean{}, fmt.Errorf("measures %d × %d; %d on a side and %d million points in all are read", size.Width, size.Height, mostSide, mostPixels/1_000_000)
	}
	decoded, _, err := image.Decode(bytes.NewReader(data))
	if err != nil {
		return Clean{}, fmt.Errorf("is a broken picture: %w", err)
	}
	out := Clean{Type: "image/png", Ending: ".png", Width: size.Width, Height: size.Height}
	var buf bytes.Buffer
	if kind == "image/jpeg" {
		out.Type, out.Ending = "image/jpeg", ".jpg"
		err = jpeg.Encode(&buf, decoded, &jpeg.Options{Quality: quality})
	} else {
		err = png.Encode(&buf, decoded)
	}
	out.Data = buf.Bytes()
	return out, err
}
