package main

import (
	"bufio"
	"context"
	"fmt"
	"os"
	"strings"

	"golang.org/x/term"

	"palethicket/book"
)

type crewCmd struct {
	Add      crewAddCmd      `cmd:"" help:"Add somebody; the password is asked for, or read from the input."`
	List     crewListCmd     `cmd:"" help:"List the crew."`
	Password crewPasswordCmd `cmd:"" help:"Give somebody a new password."`
	Close    crewCloseCmd    `cmd:"" help:"Let somebody sign in no longer; what they entered stays."`
}

type crewAddCmd struct {
	bookFlags
	Name string `arg:"" help:"The name that will stand beside what they enter."`
	Role string `help:"lead, observer or reader." enum:"lead,observer,reader" default:"observer"`
}

func (c *crewAddCmd) Run(ctx context.Context) error {
	password, err := readPassword()
	if err != nil {
		return err
	}
	return c.with(ctx, func(b *book.Book) error {
		if err := b.AddMember(ctx, book.NewMember{Name: c.Name, Role: c.Role, Password: password}); err != nil {
			return fmt.Errorf("adding %s: %w", c.Name, err)
		}
		fmt.Printf("%s may sign in as a %s.\n", c.Name, c.Role)
		return nil
	})
}

type crewListCmd struct{ bookFlags }

func (c *crewListCmd) Run(ctx context.Context) error {
	return c.with(ctx, func(b *book.Book) error {
		crew, err := b.Crew(ctx)
		for _, a := range crew {
			closed := ""
			if a.Closed {
				closed = ", closed"
			}
			fmt.Printf("%s: %s%s\n", a.Name, a.Role, closed)
		}
		return err
	})
}

type crewPasswordCmd struct {
	bookFlags
	Name string `arg:""`
}

func (c *crewPasswordCmd) Run(ctx context.Context) error {
	password, err := readPassword()
	if err != nil {
		return err
	}
	return c.with(ctx, func(b *book.Book) error {
		return b.ChangeMember(ctx, c.Name, book.MemberChange{Password: password})
	})
}

type crewCloseCmd struct {
	bookFlags
	Name string `arg:""`
}

func (c *crewCloseCmd) Run(ctx context.Context) error {
	closed := true
	return c.with(ctx, func(b *book.Book) error {
		return b.ChangeMember(ctx, c.Name, book.MemberChange{Closed: &closed})
	})
}

// readPassword asks at a terminal without showing what is typed; otherwise it
// reads the first line of the input.
func readPassword() (string, error) {
	in := int(os.Stdin.Fd())
	if term.IsTerminal(in) {
		fmt.Print("Password: ")
		typed, err := term.ReadPassword(in)
		fmt.Println()
		return string(typed), err
	}
	line, err := bufio.NewReader(os.Stdin).ReadString('\n')
	if err != nil && line == "" {
		return "", fmt.Errorf("reading the password from the input: %w", err)
	}
	return strings.TrimRight(line, "\r\n"), nil
}
