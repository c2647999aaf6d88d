package main

import (
	"errors"
	"fmt"
	"net"
	"net/http"
	"net/url"
	"time"

	"github.com/spf13/cobra"

	"pineledger/api/edge"
	"pineledger/app/desk"
	"pineledger/app/office"
	"pineledger/standin/lockedbrowser"
)

func standinCommand() *cobra.Command {
	c := group(&cobra.Command{Use: "standin", Short: "Run a small stand-in for a thing of the world outside"})
	c.AddCommand(lockedBrowserCommand())
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
