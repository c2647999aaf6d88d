package edge

import (
	"context"
	"net"
	"net/netip"

	"github.com/labstack/echo/v5"
)

// Addresses tells where requests come from: from who connects, or where that is one of
// our proxies, from whom the proxy says. Nothing that a client writes into a header
// counts.
func Addresses(proxies []netip.Prefix) echo.IPExtractor {
	if len(proxies) == 0 {
		return echo.ExtractIPDirect()
	}
	trust := []echo.TrustOption{echo.TrustLoopback(false), echo.TrustLinkLocal(false), echo.TrustPrivateNet(false)}
	for _, p := range proxies {
		p = p.Masked()
		trust = append(trust, echo.TrustIPRange(&net.IPNet{IP: p.Addr().AsSlice(), Mask: net.CIDRMask(p.Bits(), p.Addr().BitLen())}))
	}
	return echo.ExtractIPFromXFFHeader(trust...)
}

type remoteKey struct{}

// Remote is the address a request came from.
func Remote(ctx context.Context) string {
	address, _ := ctx.Value(remoteKey{}).(string)
	return address
}
