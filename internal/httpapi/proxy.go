package httpapi

import (
	"context"
	"net"
	"net/http"
	"net/netip"
	"slices"
	"strings"
)

// word is what a trusted proxy says about a request.
type word struct {
	client string // address of who asks, "" where it does not say
	tls    bool   // the browser came by TLS
}

type wordKey struct{}

// forwarded takes up what proxies that are trusted say about a request. What anybody else says
// counts for nothing.
func forwarded(trusted []netip.Prefix) func(http.Handler) http.Handler {
	is := func(address string) bool {
		a, err := netip.ParseAddr(strings.TrimSpace(address))
		return err == nil && slices.ContainsFunc(trusted, func(p netip.Prefix) bool { return p.Contains(a.Unmap()) })
	}
	return func(next http.Handler) http.Handler {
		if len(trusted) == 0 {
			return next
		}
		return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
			peer, _, err := net.SplitHostPort(r.RemoteAddr)
			if err != nil || !is(peer) {
				next.ServeHTTP(w, r)
				return
			}
			said := word{tls: strings.EqualFold(last(r.Header.Values("X-Forwarded-Proto")), "https")}
			// Each proxy adds who it heard: from the last, the first that is no proxy of ours.
			way := strings.Split(strings.Join(r.Header.Values("X-Forwarded-For"), ","), ",")
			for _, a := range slices.Backward(way) {
				if said.client = strings.TrimSpace(a); !is(a) {
					break
				}
			}
			next.ServeHTTP(w, r.WithContext(context.WithValue(r.Context(), wordKey{}, said)))
		})
	}
}

// last is what was added last to a header of several values.
func last(values []string) string {
	if len(values) == 0 {
		return ""
	}
	all := strings.Split(values[len(values)-1], ",")
	return strings.TrimSpace(all[len(all)-1])
}

// byTLS reports whether the browser came by TLS, to this server or to a trusted proxy.
func byTLS(r *http.Request) bool {
	w, _ := r.Context().Value(wordKey{}).(word)
	return r.TLS != nil || w.tls
}
