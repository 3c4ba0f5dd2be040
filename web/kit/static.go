package kit

import (
	"crypto/sha256"
	"embed"
	"encoding/hex"
	"io"
	"io/fs"
	"maps"
	"mime"
	"net/http"
	"path"
	"slices"
	"strings"

	"github.com/gin-gonic/gin"
)

func (v *views) asset(name string) string { return "/static/" + name + "?v=" + v.version }

// fingerprint hashes the static files, so that browsers may keep them for
// ever and still see a new program's.
func (v *views) fingerprint(all map[string]fs.FS) error {
	h := sha256.New()
	for _, place := range slices.Sorted(maps.Keys(all)) {
		err := fs.WalkDir(all[place], ".", func(name string, d fs.DirEntry, err error) error {
			if err != nil || d.IsDir() || !strings.HasPrefix(name, "static/") {
				return err
			}
			b, err := fs.ReadFile(all[place], name)
			_, _ = io.WriteString(h, place+"/"+name)
			_, _ = h.Write(b)
			return err
		})
		if err != nil {
			return err
		}
	}
	v.version = hex.EncodeToString(h.Sum(nil))[:12]
	return nil
}

// Asset is where a static file is had.
func (s *Kit) Asset(name string) string { return s.views.asset(name) }

// static serves the file of a place: /static/PLACE/FILE.
func (s *Kit) static(c *gin.Context) {
	full := strings.TrimPrefix(path.Clean("/"+c.Param("path")), "/")
	place, name, _ := strings.Cut(full, "/")
	var b []byte
	err := fs.ErrNotExist
	if files := s.files()[place]; files != nil && name != "" {
		b, err = fs.ReadFile(files, "static/"+name)
	}
	if place == dictionaries && s.Lists != nil {
		b, err = fs.ReadFile(s.Lists, full)
	}
	if err != nil {
		c.String(http.StatusNotFound, "not found\n")
		return
	}
	if c.Query("v") == s.views.version {
		c.Header("Cache-Control", "public, max-age=31536000, immutable")
	}
	if full == languageWorker { // a worker has the rules of its own answer: this one compiles Hunspell
		c.Header("Content-Security-Policy", "default-src 'none'; script-src 'self' 'wasm-unsafe-eval'; connect-src 'self'")
	}
	kind := mime.TypeByExtension(path.Ext(name))
	if path.Ext(name) == ".woff2" {
		kind = "font/woff2"
	}
	c.Data(http.StatusOK, kind, b)
}

// dictionaries is the folder of the spelling check's dictionaries, in Lists and below /static.
const dictionaries = "dictionaries"

// Dictionary are the addresses of a dictionary's two files; none where it does not lie beside the
// program.
func (s *Kit) Dictionary(name string) map[string]string {
	at := map[string]string{"aff": dictionaries + "/" + name + ".aff.gz", "dic": dictionaries + "/" + name + ".dic.gz"}
	for part, file := range at {
		if s.Lists == nil || name == "" {
			return nil
		}
		if _, err := fs.Stat(s.Lists, file); err != nil {
			return nil
		}
		at[part] = s.Asset(file)
	}
	return at
}

// languageWorker is the file of the language check.
const languageWorker = "kit/dist/language.js"

// kitName is the folder of the kit's own static files.
const kitName = "kit"

// files are those of the kit and of every place, by its name.
func (s *Kit) files() map[string]fs.FS {
	all := map[string]fs.FS{kitName: ownFiles}
	for _, p := range s.places {
		if p.Files != nil {
			all[p.Name] = p.Files
		}
	}
	return all
}

//go:embed templates all:static
var ownFiles embed.FS
