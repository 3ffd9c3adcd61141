//go:build !js

package exchange

import (
	"bytes"
	"errors"
	"fmt"
	"io"
	"time"

	"github.com/xuri/excelize/v2"
)

// xlsxInMemory is how large a part of a workbook may be to be unpacked in memory;
// larger ones are unpacked to the disk and read from there.
const xlsxInMemory = 4 << 20

func readXLSX(file []byte) (*Sheet, error) {
	if err := checkZip(file, maxWorkbook); err != nil {
		return nil, err
	}
	book, err := excelize.OpenReader(bytes.NewReader(file), excelize.Options{UnzipSizeLimit: maxWorkbook, UnzipXMLSizeLimit: xlsxInMemory})
	if err != nil {
		return nil, fmt.Errorf("it is not a workbook that can be read: %w", err)
	}
	defer book.Close()
	names := book.GetSheetList()
	if len(names) == 0 {
		return nil, errors.New("there is no sheet in the workbook")
	}
	rows, err := book.Rows(names[0])
	if err != nil {
		return nil, err
	}
	defer rows.Close()
	sheet := &Sheet{Format: "xlsx"}
	for n := 1; rows.Next(); n++ {
		cells, err := rows.Columns(excelize.Options{RawCellValue: true})
		if err != nil {
			return nil, fmt.Errorf("sheet %s, row %d: %w", names[0], n, err)
		}
		if err := sheet.add(fmt.Sprintf("row %d", n), cells); err != nil {
			return nil, err
		}
	}
	sheet.headed()
	return sheet, rows.Error()
}

func writeXLSX(w io.Writer, trees Trees, about About) error {
	book := excelize.NewFile()
	defer book.Close()
	if err := book.SetSheetName("Sheet1", "Trees"); err != nil {
		return err
	}
	if _, err := book.NewSheet("Scores"); err != nil {
		return err
	}
	out, err := book.NewStreamWriter("Trees")
	if err != nil {
		return err
	}
	scores, err := book.NewStreamWriter("Scores")
	if err != nil {
		return err
	}
	pattern := "yyyy-mm-dd"
	day, err := book.NewStyle(&excelize.Style{CustomNumFmt: &pattern})
	if err != nil {
		return err
	}
	columns := columnsOf(about)
	if err := errors.Join(out.SetRow("A1", row(headings(columns))), scores.SetRow("A1", row(scoreHeadings))); err != nil {
		return err
	}
	n, m := 1, 1
	err = trees(func(t *Tree) error {
		n++
		line := row(cells(columns, t))
		for i, f := range columns {
			if x, err := finite(f.text(t)); f.isPlace() && err == nil {
				line[i] = x
			}
			if at, err := time.Parse(time.DateOnly, f.text(t)); f.isDay() && err == nil {
				line[i] = excelize.Cell{StyleID: day, Value: at}
			}
		}
		if err := out.SetRow(fmt.Sprintf("A%d", n), line); err != nil {
			return err
		}
		return eachScore(t, func(f fact) error {
			m++
			return scores.SetRow(fmt.Sprintf("A%d", m), row([]string{t.Tag, f.look, f.from, f.Character, f.value, f.unit, f.remarks()}))
		})
	})
	if err := errors.Join(err, out.Flush(), scores.Flush()); err != nil {
		return err
	}
	return book.Write(w)
}

var scoreHeadings = []string{"tag", "look", "from", "character", "value", "unit", "how"}

// row turns cells into what a workbook keeps: figures as figures.
func row(cells []string) []any {
	out := make([]any, len(cells))
	for i, c := range cells {
		out[i] = c
		if x, ok := number(c); ok {
			out[i] = x
		}
	}
	return out
}
