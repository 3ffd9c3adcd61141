package instrument

import (
	"context"
	"errors"
	"io"
	"net"
	"net/netip"
	"regexp"
	"syscall"
)

// ErrOwn is given for an instrument at an address of the machine itself or of its link only, where
// those are not allowed: other programs listen there.
var ErrOwn = errors.New("this address is the server's own; to allow it, start the program with --local-instruments")

// serialPort are the names of serial lines on Linux, macOS and Windows. Other devices are not opened.
var serialPort = regexp.MustCompile(`^(/dev/(tty(USB|ACM|AMA|S|O|mxc)\d+|rfcomm\d+|serial/by-id/[\w.:+-]+|(cu|tty)\.[\w.-]+)|COM\d{1,3})$`)

// dialer reaches instruments; without local none that is on this machine.
func dialer(local bool) *net.Dialer {
	d := &net.Dialer{Timeout: dialPatience}
	if !local {
		d.Control = notOwn
	}
	return d
}

// notOwn refuses a connection by the address that a name turned out to be.
func notOwn(_, address string, _ syscall.RawConn) error {
	to, err := netip.ParseAddrPort(address)
	if err != nil {
		return err
	}
	ip := to.Addr().Unmap().WithZone("")
	if ip.IsLoopback() || ip.IsUnspecified() || ip.IsLinkLocalUnicast() || ip.IsMulticast() {
		return ErrOwn
	}
	own, err := net.InterfaceAddrs()
	if err != nil {
		return err
	}
	for _, a := range own {
		if p, err := netip.ParsePrefix(a.String()); err == nil && p.Addr().Unmap() == ip {
			return ErrOwn
		}
	}
	return nil
}

// dial opens the way to an instrument.
func dial(ctx context.Context, c *Config, local bool) (io.ReadCloser, error) {
	if c.serial() {
		return dialSerial(c)
	}
	return dialer(local).DialContext(ctx, "tcp", c.Address)
}
