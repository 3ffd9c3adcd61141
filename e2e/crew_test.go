package e2e

import (
	"encoding/json"
	"net"
	"net/http"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"palethicket/book"
)

const crewPassword = "seven cold mornings"

// TestPlainHTTP: where the pages come over plain HTTP from another machine, the browser leaves out much of what it
// has. Everything but the work without a signal goes on, and a page says how to get that too.
func TestPlainHTTP(t *testing.T) {
	t.Parallel()
	a := newCrew(t, true, book.NewMember{Name: "Wren Halloran", Role: book.Lead, Password: crewPassword})
	p := newPage(t, a, deskWidth, deskHeight)
	_, port, err := net.SplitHostPort(a.addr)
	require.NoError(t, err)
	p.home = "http://" + net.JoinHostPort(plainHost, port)
	p.open("/")
	require.Equal(t, "false", p.eval(`String(isSecureContext)`))
	p.write(`input[autocomplete="username"]`, "Wren Halloran")
	p.write(`input[autocomplete="current-password"]`, crewPassword+"\r")
	p.sees("60 of 400 trees")
	newTree(p, a, "LC-9901")
	p.press(`[data-section="bark"]`)
	p.press(tile("bark.color", "white"))
	p.until(allSent)
	for _, path := range []string{"/worklist", "/day", "/stands", "/flora", "/practice", "/measure", "/paper", "/files", "/settings"} {
		p.open(path)
		p.until(`document.querySelector('main h1') !== null`)
	}
	p.open("/woods")
	p.sees("not served securely")
}

// TestCrewPage: a lead signs in, sets a password for whoever forgot theirs, changes a role
// by its button, ends a device, and is asked before they shut themselves out.
func TestCrewPage(t *testing.T) {
	t.Parallel()
	a := newCrew(t, false, book.NewMember{Name: "Wren Halloran", Role: book.Lead, Password: crewPassword},
		book.NewMember{Name: "Tobias Okafor", Role: book.Observer, Password: crewPassword})
	p := newPage(t, a, deskWidth, deskHeight)
	p.open("/crew")
	p.write(`input[autocomplete="username"]`, "Wren Halloran")
	p.write(`input[autocomplete="current-password"]`, crewPassword)
	p.press(`form [type="submit"]`)
	p.sees("You are Wren Halloran, lead")
	p.eval(
		`fetch('/api/devices', {method: 'POST', headers: {'Content-Type': 'application/json'}, body: '{"name": "Tablet in the truck"}'}) && ''`,
	)
	p.until(`document.querySelectorAll('ul[aria-label="Crew"] li').length === 2`)

	row := func(name string) string { return `select[aria-label="Role of ` + name + `"]` }
	role := func(name, to string) {
		p.eval(
			`(() => { const s = document.querySelector('` + row(
				name,
			) + `'); s.value = '` + to + `'; s.dispatchEvent(new Event('change')); return '' })()`,
		)
	}
	role("Tobias Okafor", "reader")
	require.Equal(t, book.Observer, a.roleOf(p, "Tobias Okafor"), "nothing changes before the button")
	p.press(`li:has(` + row("Tobias Okafor") + `) .press.lead`)
	p.sees("Tobias Okafor is changed")
	require.Equal(t, book.Reader, a.roleOf(p, "Tobias Okafor"))

	p.press(`li:has(` + row("Tobias Okafor") + `) [aria-expanded]`)
	p.write(`li form input`, "another cold morning")
	if dir := os.Getenv("PT_LOOK"); dir != "" {
		p.shot(filepath.Join(dir, "crew.png"))
	}
	p.press(`li form [type="submit"]`)
	p.until(`document.querySelector('li form') === null`)
	require.Equal(t, 200, a.signsIn("Tobias Okafor", "another cold morning"))
	require.Equal(t, 401, a.signsIn("Tobias Okafor", crewPassword))

	role("Wren Halloran", "observer")
	p.press(`li:has(` + row("Wren Halloran") + `) .press.lead`)
	p.sees("Give up the role of lead?")
	if dir := os.Getenv("PT_LOOK"); dir != "" {
		p.shot(filepath.Join(dir, "crew-asks.png"))
	}
	p.press(`.p-confirmdialog-accept-button`)
	p.sees("The crew needs at least one lead")

	p.open("/crew")
	p.sees("Tablet in the truck")
	p.press(`section[aria-label="Devices"] .press`)
	p.press(`.p-confirmdialog-accept-button`)
	p.until(`document.querySelector('section[aria-label="Devices"]').innerText.includes('ended')`)
}

// roleOf asks the book in the page's session.
func (a *app) roleOf(p *page, name string) string {
	a.t.Helper()
	p.eval(`(fetch('/api/crew').then((r) => r.text()).then((t) => (document.body.dataset.crew = t)), '')`)
	p.until(`document.body.dataset.crew !== undefined`)
	var crew []book.Member
	require.NoError(a.t, json.Unmarshal([]byte(p.eval(`document.body.dataset.crew`)), &crew))
	p.eval(`(delete document.body.dataset.crew, '')`)
	for _, m := range crew {
		if m.Name == name {
			return m.Role
		}
	}
	return ""
}

func (a *app) signsIn(name, password string) int {
	a.t.Helper()
	res, err := http.Post(a.url("/api/session"), "application/json", strings.NewReader(`{"name": "`+name+`", "password": "`+password+`"}`))
	require.NoError(a.t, err)
	require.NoError(a.t, res.Body.Close())
	return res.StatusCode
}
