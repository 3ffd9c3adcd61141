package main

import (
	"context"
	"errors"
	"fmt"

	"palethicket/book"
	"palethicket/store"
)

type backupCmd struct {
	bookFlags
	Out string `help:"The new file for the copy." required:"" type:"path"`
}

func (c *backupCmd) Run(ctx context.Context) error {
	if err := store.Backup(ctx, c.Data, c.Out); err != nil {
		return fmt.Errorf("backing up: %w", err)
	}
	fmt.Printf("%s is a whole copy of %s.\n", c.Out, c.Data)
	if err := tellExpected(ctx, c.Out); err != nil {
		return err
	}
	return c.tellUnreadable(ctx, c.Out)
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
	bookFlags
	WithoutWAL bool `name:"without-wal" help:"The book's file -wal is lost: go on without what was entered last."`
}

func (c *checkCmd) Run(ctx context.Context) error {
	if c.WithoutWAL {
		if err := store.ForgetWAL(ctx, c.Data); err != nil {
			return err
		}
	}
	if err := store.Check(ctx, c.Data); err != nil {
		return err
	}
	fmt.Printf("%s is whole.\n", c.Data)
	if err := tellExpected(ctx, c.Data); err != nil {
		return err
	}
	return c.tellUnreadable(ctx, c.Data)
}

// tellExpected says which photographs' files are still on a device.
func tellExpected(ctx context.Context, path string) error {
	ids, err := store.Expected(ctx, path)
	if err != nil {
		return err
	}
	for _, id := range ids {
		fmt.Printf("The file of photograph %s is expected: a device still has to send it. Delete the photograph to give it up.\n", id)
	}
	return nil
}

// tellUnreadable says which trees of the book at path cannot be read with its flora.
// The book is only read: it may be in use, or a backup.
func (d *bookFlags) tellUnreadable(ctx context.Context, path string) error {
	if err := d.remember(ctx); err != nil {
		return err
	}
	f, err := d.load()
	if err != nil {
		return d.explain(err)
	}
	found, err := book.FindUnreadable(ctx, path, f)
	if errors.Is(err, store.ErrOlder) {
		fmt.Println("It is from an older program: whether every tree can be read shows once it is opened.")
		return nil
	}
	for _, u := range found {
		fmt.Println(u.Error())
	}
	return err
}
