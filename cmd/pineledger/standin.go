package main

import (
	"context"
	"errors"
	"fmt"
	"log/slog"
	"net"
	"net/http"
	"net/url"
	"time"

	"github.com/spf13/cobra"

	"pineledger/api/edge"
	"pineledger/app/desk"
	"pineledger/app/office"
	"pineledger/standin/lockedbrowser"
	"pineledger/standin/mailbox"
)

func standinCommand() *cobra.Command {
	c := group(&cobra.Command{Use: "standin", Short: "Run a small stand-in for a thing of the world outside"})
	c.AddCommand(lockedBrowserCommand(), mailboxCommand())
	return c
}

// signedFor is how long what a stand-in device says of itself holds; it is said anew with every request.
const signedFor = 5 * time.Minute

func lockedBrowserCommand() *cobra.Command {
	var dir, server, address, device string
	c := &cobra.Command{Use: "locked-browser", Short: "A locked browser: what is opened through it opens as on a managed device", Args: cobra.NoArgs, RunE: func(c *cobra.Command, _ []string) error {
		at, err := url.Parse(server)
		if err != nil || at.Host == "" {
			return usageError{fmt.Errorf("%q is no address such as http://127.0.0.1:8417", server)}
		}
		secret, err := office.LoadSecret(dir)
		if err != nil {
			return err
		}
		listener, err := (&net.ListenConfig{}).Listen(c.Context(), "tcp", address)
		if err != nil {
			return err
		}
		browser := &http.Server{ReadHeaderTimeout: 10 * time.Second, Handler: lockedbrowser.New(lockedbrowser.Config{Server: at, Header: edge.DeviceHeader, Device: device,
			Sign: func() (string, error) { return desk.SignDevice(secret, device, time.Now().Add(signedFor)) }})}
		go func() {
			<-c.Context().Done()
			_ = browser.Close()
		}()
		fmt.Fprintf(c.OutOrStdout(), "The locked browser is at http://%s/launch\n", listener.Addr())
		if err := browser.Serve(listener); !errors.Is(err, http.ErrServerClosed) {
			return err
		}
		return nil
	}}
	dataFlag(c, &dir)
	c.Flags().StringVar(&server, "server", "http://127.0.0.1:8417", "the running server")
	c.Flags().StringVar(&address, "address", "127.0.0.1:8418", "address to listen on")
	c.Flags().StringVar(&device, "device", "Cart 1, tablet 1", "name of the device")
	return c
}

// opened mailbox: where it takes mail, and where it shows it.
type mailboxAt struct{ smtp, pages string }

// startMailbox runs a stand-in for a mail server until the context ends.
func startMailbox(ctx context.Context, folder, pages, smtp string) (mailboxAt, error) {
	box, err := mailbox.Open(folder)
	if err != nil {
		return mailboxAt{}, err
	}
	var config net.ListenConfig
	letters, err := config.Listen(ctx, "tcp", smtp)
	if err != nil {
		return mailboxAt{}, err
	}
	shown, err := config.Listen(ctx, "tcp", pages)
	if err != nil {
		return mailboxAt{}, errors.Join(err, letters.Close())
	}
	server := &http.Server{ReadHeaderTimeout: 10 * time.Second, Handler: box.Pages()}
	context.AfterFunc(ctx, func() { _ = server.Close() })
	go func() {
		if err := box.Serve(ctx, letters); err != nil {
			slog.Error("the mailbox takes no more mail", "error", err)
		}
	}()
	go func() {
		if err := server.Serve(shown); !errors.Is(err, http.ErrServerClosed) {
			slog.Error("the mailbox shows no more mail", "error", err)
		}
	}()
	return mailboxAt{smtp: letters.Addr().String(), pages: "http://" + shown.Addr().String()}, nil
}

func mailboxCommand() *cobra.Command {
	var folder, pages, smtp string
	c := &cobra.Command{Use: "mailbox", Short: "A mail server that keeps every message, shows it on a page, and passes none on", Args: cobra.NoArgs, RunE: func(c *cobra.Command, _ []string) error {
		at, err := startMailbox(c.Context(), folder, pages, smtp)
		if err != nil {
			return err
		}
		fmt.Fprintf(c.OutOrStdout(), "The mailbox is at %s and takes mail at smtp://%s\n", at.pages, at.smtp)
		<-c.Context().Done()
		return nil
	}}
	c.Flags().StringVar(&folder, "folder", "mail", "folder in which messages are kept, a file each")
	c.Flags().StringVar(&pages, "address", "127.0.0.1:8419", "address of the pages")
	c.Flags().StringVar(&smtp, "smtp", "127.0.0.1:2525", "address that takes mail")
	return c
}
