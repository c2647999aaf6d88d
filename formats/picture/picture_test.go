package picture_test

import (
	"bytes"
	"encoding/binary"
	"hash/crc32"
	"image"
	"image/jpeg"
	"image/png"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"pineledger/formats/picture"
)

func pngOf(t testing.TB, w, h int) []byte {
	t.Helper()
	var out bytes.Buffer
	require.NoError(t, png.Encode(&out, image.NewGray(image.Rect(0, 0, w, h))))
	return out.Bytes()
}

func TestPicturesAreEncodedAnew(t *testing.T) {
	hidden := append(pngOf(t, 40, 30), []byte("taken at the pier by Wren")...)
	c, err := picture.Read(hidden)
	require.NoError(t, err)
	assert.Equal(t, "image/png", c.Type)
	assert.Equal(t, []int{40, 30}, []int{c.Width, c.Height})
	assert.NotContains(t, string(c.Data), "Wren")
	again, err := picture.Read(c.Data)
	require.NoError(t, err)
	assert.Equal(t, c.Data, again.Data, "a clean picture stays as it is")

	var photo bytes.Buffer
	require.NoError(t, jpeg.Encode(&photo, image.NewGray(image.Rect(0, 0, 8, 8)), nil))
	c, err = picture.Read(photo.Bytes())
	require.NoError(t, err)
	assert.Equal(t, ".jpg", c.Ending)
}

func TestSoundsAreToldByTheirContent(t *testing.T) {
	for head, want := range map[string]string{"ID3\x03": "audio/mpeg", "RIFF\x00\x00\x00\x00WAVE": "audio/wav", "OggS\x00": "audio/ogg"} {
		c, err := picture.Read([]byte(head + strings.Repeat("\x00", 64)))
		require.NoError(t, err, want)
		assert.Equal(t, want, c.Type)
	}
}

func TestDrawingsKeepShapesAlone(t *testing.T) {
	c, err := picture.Read([]byte(`<?xml version="1.0"?><!-- by Wren --><svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" viewBox="0 0 200 100" onload="x()">
		<script>alert(1)</script><style>@import url(https://elsewhere.example)</style><image href="https://elsewhere.example/x.png"/><a href="https://elsewhere.example"><rect/></a>
		<foreignObject><p>x</p></foreignObject><defs><g id="boat"><path d="M0 0h9"/></g></defs><use xlink:href="#boat"/><use href="https://elsewhere.example#x"/>
		<rect x="1" y="2" width="3" height="4" fill="url(#sea)" stroke="url(https://elsewhere.example)" onclick="x()" style="fill:red"/><text x="5" y="6">pier</text></svg>`))
	require.NoError(t, err)
	assert.Equal(t, []int{200, 100}, []int{c.Width, c.Height})
	text := string(c.Data)
	for _, gone := range []string{"script", "style", "elsewhere", "onload", "onclick", "foreignObject", "image", "Wren", "<a"} {
		assert.NotContains(t, text, gone)
	}
	for _, kept := range []string{`<use href="#boat"/>`, `fill="url(#sea)"`, `<text x="5" y="6">pier</text>`, `xmlns="http://www.w3.org/2000/svg"`} {
		assert.Contains(t, text, kept)
	}
	again, err := picture.Read(c.Data)
	require.NoError(t, err)
	assert.Equal(t, text, string(again.Data))
}

func TestWhatIsNoPictureIsRefused(t *testing.T) {
	head := []byte("IHDR\x00\x00\xff\xff\x00\x00\xff\xff\x08\x02\x00\x00\x00")
	vast := append([]byte("\x89PNG\r\n\x1a\n\x00\x00\x00\x0d"), binary.BigEndian.AppendUint32(head, crc32.ChecksumIEEE(head))...)
	for name, c := range map[string]struct {
		data []byte
		want string
	}{
		"a program":        {[]byte("MZ\x90\x00"), "neither a picture"},
		"a page":           {[]byte("<!doctype html><title>x</title>"), "neither a picture"},
		"text":             {[]byte("hello"), "not a drawing"},
		"a broken picture": {pngOf(t, 9, 9)[:40], "broken picture"},
		"a vast picture":   {vast, "measures 65535 × 65535"},
		"no size":          {[]byte(`<svg xmlns="http://www.w3.org/2000/svg"/>`), "does not say its size"},
		"a large file":     {make([]byte, 21<<20), "larger than 20 MB"},
	} {
		_, err := picture.Read(c.data)
		assert.ErrorContains(t, err, c.want, name)
	}
}

func FuzzDrawing(f *testing.F) {
	f.Add([]byte(`<svg width="9" height="9"><g><use href="#x"/></g></svg>`))
	f.Fuzz(func(t *testing.T, data []byte) {
		c, err := picture.Read(data)
		if err == nil && c.Type == "image/svg+xml" && (bytes.Contains(c.Data, []byte("<script")) || bytes.Contains(c.Data, []byte("javascript:"))) {
			t.Errorf("kept: %s", c.Data)
		}
	})
}
