package exchange

import (
	"archive/zip"
	"bytes"
	"errors"
	"path"
	"strings"
)

// Files of other kinds, by what they begin with.
var (
	gpkgBegins  = []byte("SQLite format 3\x00")
	otherBegins = []struct {
		with []byte
		says string
	}{
		{[]byte("%PDF"), "it is a PDF, which holds pages and no table; save what it was made from as CSV or XLSX"},
		{[]byte("\x00\x00\x27\x0a"), shapefile},
		{[]byte("\xd0\xcf\x11\xe0"), "it is in the old binary format of office programs; save it as XLSX or CSV"},
		{[]byte("\x89PNG"), picture},
		{[]byte("\xff\xd8\xff"), picture},
		{[]byte("Rar!"), "it is a packed archive; unpack it, and choose the file in it"},
		{[]byte("7z\xbc\xaf"), "it is a packed archive; unpack it, and choose the file in it"},
		{[]byte("\x1f\x8b"), "it is a packed archive; unpack it, and choose the file in it"},
	}
)

const (
	shapefile = "it is part of a shapefile; open that in a program for maps and save it as GeoPackage or GeoJSON"
	database  = "it is a database of an office program; save the table of trees as CSV or XLSX"
	picture   = "it is a picture; trees come in tables, and photographs are put up with their tree"
)

// otherExtensions are those of files that are known by nothing else.
var otherExtensions = map[string]string{".shp": shapefile, ".shx": shapefile, ".dbf": shapefile, ".prj": shapefile, ".sbn": shapefile,
	".xls": "it is in the old binary format of office programs; save it as XLSX or CSV",
	".mdb": database, ".accdb": database}

// otherKind says what a file is that cannot be read, and what to do with it.
func otherKind(name string, file []byte) error {
	for _, o := range otherBegins {
		if bytes.HasPrefix(file, o.with) {
			return errors.New(o.says)
		}
	}
	if says := otherExtensions[strings.ToLower(path.Ext(name))]; says != "" {
		return errors.New(says)
	}
	return nil
}

// packed reads what comes in a ZIP: a workbook, an archive or places of KML.
func packed(name string, file []byte) (*Sheet, error) {
	if strings.ToLower(path.Ext(name)) == ".xlsx" {
		return readXLSX(file)
	}
	if err := checkZip(file, maxUnzipped); err != nil {
		return nil, err
	}
	z, err := zip.NewReader(bytes.NewReader(file), int64(len(file)))
	if err != nil {
		return nil, errors.Join(errors.New("it is not a whole archive"), err)
	}
	for _, f := range z.File {
		switch ext := strings.ToLower(path.Ext(f.Name)); {
		case ext == ".kml":
			return readKMZ(z, f.Name)
		case ext == ".shp":
			return nil, errors.New(shapefile)
		case f.Name == "xl/workbook.xml":
			return readXLSX(file)
		case f.Name == "word/document.xml":
			return nil, errors.New("it is a text document; save its table as CSV or XLSX")
		case f.Name == "mimetype":
			return nil, errors.New("it is in another office format; save it as XLSX or CSV")
		}
	}
	return readArchive(z)
}
