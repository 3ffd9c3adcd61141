package main

import (
	"crypto/ecdsa"
	"crypto/elliptic"
	"crypto/rand"
	"crypto/x509"
	"crypto/x509/pkix"
	"encoding/pem"
	"errors"
	"fmt"
	"io/fs"
	"math/big"
	"net"
	"os"
	"path/filepath"
	"strings"
	"time"
)

// certificateCmd makes what a server in a local network needs to be served securely.
type certificateCmd struct {
	Names []string `arg:"" help:"Names and addresses that the server is opened by, such as pump-house.local or 192.168.1.20."`
	Out   string   `help:"Folder to write to." default:"." type:"existingdir"`
}

// certified is how long a certificate is good for: browsers refuse those good for more than 825 days.
const certified = 800 * 24 * time.Hour

// The files that are written.
const (
	certFile      = "palethicket-cert.pem"
	keyFile       = "palethicket-key.pem"
	authorityFile = "palethicket-authority.pem"
)

func (c *certificateCmd) Run() error {
	files, err := certificate(c.Names, time.Now())
	if err != nil {
		return err
	}
	for name := range files {
		if _, err := os.Lstat(filepath.Join(c.Out, name)); !errors.Is(err, fs.ErrNotExist) {
			return fmt.Errorf("%s is there already: move it away first", filepath.Join(c.Out, name))
		}
	}
	for name, text := range files {
		if err := os.WriteFile(filepath.Join(c.Out, name), text, 0o600); err != nil {
			for name := range files { // all three or none
				err = errors.Join(err, os.RemoveAll(filepath.Join(c.Out, name)))
			}
			return err
		}
	}
	fmt.Printf(`Written to %s: %s, %s and %s, good until %s.
1. Serve with them:
     palethicket serve --listen 0.0.0.0:8443 --cert %s --key %s
2. Have each phone and computer trust %s: send it there, open it, and install it as a certificate authority.
3. Open https://%s:8443 there.
`, c.Out, certFile, keyFile, authorityFile, time.Now().Add(certified).Format("January 2, 2006"),
		filepath.Join(c.Out, certFile), filepath.Join(c.Out, keyFile), authorityFile, c.Names[0])
	return nil
}

// certificate makes an authority and a certificate of it for some names. The authority's key is thrown away, so that
// who trusts it trusts nothing else.
func certificate(names []string, now time.Time) (files map[string][]byte, err error) {
	authority, authorityKey, err := issued(&x509.Certificate{
		Subject: pkix.Name{CommonName: "Pale Thicket on " + names[0]}, IsCA: true, BasicConstraintsValid: true,
		KeyUsage: x509.KeyUsageCertSign,
	}, now, nil, nil)
	if err != nil {
		return nil, err
	}
	of := &x509.Certificate{Subject: pkix.Name{CommonName: names[0]}, KeyUsage: x509.KeyUsageDigitalSignature,
		ExtKeyUsage: []x509.ExtKeyUsage{x509.ExtKeyUsageServerAuth}}
	for _, name := range names {
		if ip := net.ParseIP(name); ip != nil {
			of.IPAddresses = append(of.IPAddresses, ip)
		} else if strings.ContainsAny(name, ":/ ") {
			return nil, fmt.Errorf("%q is no name or address: leave out https:// and the port", name)
		} else {
			of.DNSNames = append(of.DNSNames, name)
		}
	}
	server, serverKey, err := issued(of, now, authority, authorityKey)
	if err != nil {
		return nil, err
	}
	key, err := x509.MarshalPKCS8PrivateKey(serverKey)
	if err != nil {
		return nil, err
	}
	return map[string][]byte{
		certFile:      append(pemOf("CERTIFICATE", server.Raw), pemOf("CERTIFICATE", authority.Raw)...),
		keyFile:       pemOf("PRIVATE KEY", key),
		authorityFile: pemOf("CERTIFICATE", authority.Raw),
	}, nil
}

// issued makes a key and a certificate for it, signed by another; nil: by itself.
func issued(of *x509.Certificate, now time.Time, by *x509.Certificate, byKey *ecdsa.PrivateKey) (
	cert *x509.Certificate, key *ecdsa.PrivateKey, err error,
) {
	key, err = ecdsa.GenerateKey(elliptic.P256(), rand.Reader)
	if err != nil {
		return nil, nil, err
	}
	if of.SerialNumber, err = rand.Int(rand.Reader, new(big.Int).Lsh(big.NewInt(1), 120)); err != nil {
		return nil, nil, err
	}
	of.NotBefore, of.NotAfter = now.Add(-24*time.Hour), now.Add(certified) // clocks differ
	if by == nil {
		by, byKey = of, key
	}
	raw, err := x509.CreateCertificate(rand.Reader, of, by, &key.PublicKey, byKey)
	if err != nil {
		return nil, nil, fmt.Errorf("signing the certificate: %w", err)
	}
	cert, err = x509.ParseCertificate(raw)
	return cert, key, err
}

func pemOf(kind string, body []byte) []byte {
	return pem.EncodeToMemory(&pem.Block{Type: kind, Bytes: body})
}
