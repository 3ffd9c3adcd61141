package main

import (
	"context"
	"fmt"

	"palethicket/store"
)

type backupCmd struct {
	Data string `help:"The book, which may be in use." default:"palethicket.db" type:"path" env:"PALETHICKET_DATA"`
	Out  string `help:"The new file for the copy." required:"" type:"path"`
}

func (c *backupCmd) Run(ctx context.Context) error {
	if err := store.Backup(ctx, c.Data, c.Out); err != nil {
		return fmt.Errorf("backing up: %w", err)
	}
	fmt.Printf("%s is a whole copy of %s.\n", c.Out, c.Data)
	return nil
}

type restoreCmd struct {
	From string `help:"The backup." required:"" type:"path"`
	Data string `help:"The new book; one that is there is never written over." default:"palethicket.db" type:"path" env:"PALETHICKET_DATA"`
}

func (c *restoreCmd) Run(ctx context.Context) error {
	if err := store.Restore(ctx, c.From, c.Data); err != nil {
		return fmt.Errorf("restoring: %w", err)
	}
	fmt.Printf("%s is ready: palethicket serve --data %s\n", c.Data, c.Data)
	return nil
}

type checkCmd struct {
	Data string `help:"The book or backup, which may be in use." default:"palethicket.db" type:"path" env:"PALETHICKET_DATA"`
}

func (c *checkCmd) Run(ctx context.Context) error {
	if err := store.Check(ctx, c.Data); err != nil {
		return err
	}
	fmt.Printf("%s is whole.\n", c.Data)
	return nil
}
