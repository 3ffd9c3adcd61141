//go:build !js

package instrument

import (
	"fmt"
	"io"

	"go.bug.st/serial"
)

// usualBaud is NMEA 0183's own.
const usualBaud = 4800

// dialSerial opens a serial line.
func dialSerial(c *Config) (io.ReadCloser, error) {
	baud := c.Baud
	if baud == 0 {
		baud = usualBaud
	}
	port, err := serial.Open(c.Address, &serial.Mode{BaudRate: baud})
	if err != nil {
		return nil, fmt.Errorf("opening the serial line: %w", err)
	}
	return port, nil
}
