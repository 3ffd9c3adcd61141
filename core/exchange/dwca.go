package exchange

import (
	"archive/zip"
	"cmp"
	"encoding/csv"
	"encoding/xml"
	"io"
	"slices"
	"strconv"
	"strings"
	"time"
)

// Namespaces of Darwin Core (TDWG, dwc.tdwg.org/terms and dwc.tdwg.org/text) and
// of Dublin Core.
const (
	dwc        = "http://rs.tdwg.org/dwc/terms/"
	dcterms    = "http://purl.org/dc/terms/"
	occurrence = dwc + "Occurrence"
	// The extension for scores is the one that GBIF keeps under Darwin Core's own
	// class.
	measurement = dwc + "MeasurementOrFact"
)

// term is a column of an archive's table.
type term struct {
	name string
	text func(*Tree) string
}

func (t term) uri() string {
	if t.name == "license" || t.name == "modified" {
		return dcterms + t.name
	}
	return dwc + t.name
}

// termsOf are written for each tree.
func termsOf(about About) []term {
	terms := slices.Clone(occurrenceTerms)
	for _, all := range [][2]string{{"country", about.Country}, {"license", about.License}} {
		if all[1] != "" {
			terms = append(terms, term{all[0], func(*Tree) string { return all[1] }})
		}
	}
	return terms
}

// occurrenceTerms are those of every archive.
var occurrenceTerms = []term{
	{"occurrenceID", func(t *Tree) string { return t.ID }},
	{"basisOfRecord", func(*Tree) string { return "HumanObservation" }},
	{"occurrenceStatus", func(*Tree) string { return "present" }},
	{"recordNumber", func(t *Tree) string { return t.Tag }},
	{"recordedBy", func(t *Tree) string { return t.Observer }},
	{"eventDate", func(t *Tree) string { return day(t.Date) }},
	{"kingdom", func(*Tree) string { return "Plantae" }},
	{"family", func(t *Tree) string { return t.Family }},
	{"genus", func(t *Tree) string { return t.Genus }},
	{"scientificName", scientificName},
	{"taxonRank", taxonRank},
	{"identificationQualifier", func(t *Tree) string { return t.Qualifier }},
	{"identifiedBy", func(t *Tree) string { return t.NamedBy }},
	{"dateIdentified", func(t *Tree) string { return day(t.Named) }},
	{"identificationVerificationStatus", func(t *Tree) string { return t.Seen }},
	{"identificationRemarks", func(t *Tree) string { return t.Why }},
	{"verbatimIdentification", verbatim},
	{"locality", func(t *Tree) string { return t.Tract }},
	{"verbatimLocality", func(t *Tree) string { return t.Stand }},
	{"decimalLatitude", func(t *Tree) string { return degrees(t, false) }},
	{"decimalLongitude", func(t *Tree) string { return degrees(t, true) }},
	{"geodeticDatum", datum},
	{"coordinateUncertaintyInMeters", within},
	{"vitality", vitality},
	{"occurrenceRemarks", func(t *Tree) string { return t.Remarks }},
}

// scientificName is the name given where it is a taxon's; a tree named only to a
// group or not at all is a plant, and a genus or family where it is known.
func scientificName(t *Tree) string {
	switch {
	case t.Rank == "species":
		return t.Name
	case t.Genus != "":
		return t.Genus
	case t.Family != "":
		return t.Family
	}
	return "Plantae"
}

// verbatim is what was written down.
func verbatim(t *Tree) string {
	if t.Rank == undetermined {
		return undetermined
	}
	return t.Name
}

func taxonRank(t *Tree) string {
	switch {
	case t.Rank == "species":
		return "species"
	case t.Genus != "":
		return "genus"
	case t.Family != "":
		return "family"
	}
	return "kingdom"
}

func datum(t *Tree) string {
	if t.Position == nil {
		return ""
	}
	return "WGS84"
}

// vitality is Darwin Core's own word for living or dead.
func vitality(t *Tree) string {
	switch t.Vigour {
	case "dead":
		return "dead"
	case "":
		return ""
	}
	return "alive"
}

var measurementTerms = []string{
	"measurementID",
	"measurementType",
	"measurementValue",
	"measurementUnit",
	"measurementMethod",
	"measurementRemarks",
}

// Measurements that are not scores.
const (
	typeHeight, typeAge, typeVigour = "height", "age class", "vigour"
	typeRegion                      = "listed among" // the region of the flora; in older archives a list too
	typeList                        = "ranked among the list"
	typeFoliage, typeSnow           = "green on the tree", "snow"
	typeReach, typeFlat             = "out of reach", "every listed tree taken as equally common"
	typeDBH, typeCounted            = "diameter at breast height", "counted from sample point" // not read back: scores and points have them
)

// writeArchive writes a Darwin Core Archive: an occurrence for each tree, and its
// scores and measurements as MeasurementOrFact. The tables stand one after the other,
// so that the trees are gone through twice.
func writeArchive(w io.Writer, trees Trees, about About) error {
	z := zip.NewWriter(w)
	for _, part := range []struct {
		name  string
		write func(io.Writer) error
	}{
		{"meta.xml", func(w io.Writer) error { return writeMeta(w, termsOf(about)) }},
		{"eml.xml", func(w io.Writer) error { return writeEML(w, about) }},
		{"occurrence.csv", func(w io.Writer) error { return writeOccurrences(w, trees, termsOf(about)) }},
		{"measurementorfact.csv", func(w io.Writer) error { return writeMeasurements(w, trees) }},
	} {
		to, err := z.CreateHeader(&zip.FileHeader{Name: part.name, Method: zip.Deflate, Modified: about.Made})
		if err != nil {
			return err
		}
		if err := part.write(to); err != nil {
			return err
		}
	}
	return z.Close()
}

func writeOccurrences(w io.Writer, trees Trees, terms []term) error {
	out := csv.NewWriter(w)
	var head []string
	for _, t := range terms {
		head = append(head, t.name)
	}
	if err := out.Write(head); err != nil {
		return err
	}
	err := trees(func(tree *Tree) error {
		var cells []string
		for _, t := range terms {
			cells = append(cells, shielded(t.text(tree)))
		}
		return out.Write(cells)
	})
	out.Flush()
	return cmp.Or(err, out.Error())
}

func writeMeasurements(w io.Writer, trees Trees) error {
	out := csv.NewWriter(w)
	if err := out.Write(append([]string{"occurrenceID"}, measurementTerms...)); err != nil {
		return err
	}
	err := trees(func(t *Tree) error {
		n := 0
		line := func(kind, value, unit, method, remarks string) error {
			if value == "" {
				return nil
			}
			n++
			return out.Write([]string{t.ID, t.ID + ":" + strconv.Itoa(n), kind, shielded(value), unit, shielded(method), shielded(remarks)})
		}
		all := [][4]string{
			{typeHeight, figure(t.Height), "m", t.HeightHow}, {typeDBH, figure(t.DBH), "cm", t.DBHHow}, {typeAge, t.Age, "", ""},
			{typeVigour, t.Vigour, "", ""}, {typeRegion, t.Region, "", ""}, {typeList, t.List, "", ""},
		}
		if r := t.Record; r != nil {
			all = append(all, [4]string{typeFoliage, r.Foliage}, [4]string{typeSnow, r.Snow}, [4]string{typeReach, strings.Join(r.Beyond, ", ")})
			if r.Flat {
				all = append(all, [4]string{typeFlat, "yes"})
			}
		}
		for _, c := range t.Counted {
			all = append(all, [4]string{typeCounted, c.Point, "", c.How})
		}
		for _, m := range all {
			if err := line(m[0], m[1], m[2], m[3], ""); err != nil {
				return err
			}
		}
		return eachScore(t, func(f fact) error {
			return line(f.Character, f.value, f.unit, "seen from: "+f.from, f.remarks())
		})
	})
	out.Flush()
	return cmp.Or(err, out.Error())
}

// metaTable is a table of meta.xml.
type metaTable struct {
	Encoding   string      `xml:"encoding,attr"`
	Terminated string      `xml:"fieldsTerminatedBy,attr"`
	Lines      string      `xml:"linesTerminatedBy,attr"`
	Enclosed   string      `xml:"fieldsEnclosedBy,attr"`
	Ignore     int         `xml:"ignoreHeaderLines,attr"`
	RowType    string      `xml:"rowType,attr"`
	File       string      `xml:"files>location"`
	ID         *metaField  `xml:"id"`
	CoreID     *metaField  `xml:"coreid"`
	Fields     []metaField `xml:"field"`
}

type metaField struct {
	Index int    `xml:"index,attr"`
	Term  string `xml:"term,attr,omitempty"`
}

type metaFile struct {
	XMLName    xml.Name    `xml:"http://rs.tdwg.org/dwc/text/ archive"`
	Metadata   string      `xml:"metadata,attr"`
	Core       metaTable   `xml:"core"`
	Extensions []metaTable `xml:"extension"`
}

func writeMeta(w io.Writer, terms []term) error {
	table := func(rowType, file string) metaTable {
		return metaTable{Encoding: "UTF-8", Terminated: ",", Lines: `\n`, Enclosed: `"`, Ignore: 1, RowType: rowType, File: file}
	}
	doc := metaFile{
		Metadata:   "eml.xml",
		Core:       table(occurrence, "occurrence.csv"),
		Extensions: []metaTable{table(measurement, "measurementorfact.csv")},
	}
	doc.Core.ID, doc.Extensions[0].CoreID = &metaField{}, &metaField{}
	for i, t := range terms {
		doc.Core.Fields = append(doc.Core.Fields, metaField{i, t.uri()})
	}
	for i, t := range measurementTerms {
		doc.Extensions[0].Fields = append(doc.Extensions[0].Fields, metaField{i + 1, dwc + t})
	}
	return writeXML(w, doc)
}

// emlFile is the least that EML 2.1.1 asks of a data set.
type emlFile struct {
	XMLName xml.Name `xml:"eml:eml"`
	NS      string   `xml:"xmlns:eml,attr"`
	ID      string   `xml:"packageId,attr"`
	System  string   `xml:"system,attr"`
	Title   string   `xml:"dataset>title"`
	Creator string   `xml:"dataset>creator>organizationName"`
	Date    string   `xml:"dataset>pubDate"`
	Lang    string   `xml:"dataset>language"`
	Para    string   `xml:"dataset>abstract>para"`
	Rights  string   `xml:"dataset>intellectualRights>para,omitempty"`
	Contact string   `xml:"dataset>contact>organizationName"`
}

func writeEML(w io.Writer, about About) error {
	publisher := about.Publisher
	if publisher == "" {
		publisher = "not given"
	}
	return writeXML(w, emlFile{NS: "eml://ecoinformatics.org/eml-2.1.1", System: "palethicket",
		ID: "palethicket." + about.Made.UTC().Format("20060102T150405"), Title: about.Title, Creator: publisher, Contact: publisher,
		Date: about.Made.Format(time.DateOnly), Lang: "en", Rights: about.License,
		Para: "Trees looked at in winter, each with what was scored of it and how far the evidence carried a name. " +
			"Names are as the crew wrote them down; an identificationQualifier stands where the evidence falls short of the name."})
}

func writeXML(w io.Writer, doc any) error {
	if _, err := io.WriteString(w, xml.Header); err != nil {
		return err
	}
	enc := xml.NewEncoder(w)
	enc.Indent("", "  ")
	if err := enc.Encode(doc); err != nil {
		return err
	}
	_, err := io.WriteString(w, "\n")
	return err
}

// termName is the last part of a term's address.
func termName(uri string) string { return uri[strings.LastIndexAny(uri, "/#")+1:] }
