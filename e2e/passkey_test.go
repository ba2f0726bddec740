//go:build e2e

package e2e

import (
	"strings"
	"testing"

	"github.com/chromedp/cdproto/webauthn"
	"github.com/chromedp/chromedp"
)

// TestPasskeyInTheBrowser: a passkey is made on the account's page with Chromium's own
// simulated authenticator, signs in, and no longer does when it is ended.
func TestPasskeyInTheBrowser(t *testing.T) {
	srv := start(t, "demo", t.TempDir())
	p := open(t, strings.Replace(srv.base, "127.0.0.1", "localhost", 1), 1280, 800) // an address of digits has no passkeys
	if _, err := chromedp.Call(p.ctx, webauthn.Enable, webauthn.EnableParams{}); err != nil {
		t.Fatal(err)
	}
	device := webauthn.VirtualAuthenticatorOptions{
		Protocol: "ctap2", Transport: "internal", HasResidentKey: true, HasUserVerification: true, IsUserVerified: true, AutomaticPresenceSimulation: true,
	}
	if _, err := chromedp.Call(p.ctx, webauthn.AddVirtualAuthenticator, webauthn.AddVirtualAuthenticatorParams{Options: &device}); err != nil {
		t.Fatal(err)
	}
	p.signIn("verifier")
	p.visit("/account")
	p.fill("passkey-name", "van phone")
	p.fill("old-passkey", "not the password")
	p.press("Add this device")
	p.is(`document.querySelector('[data-field="old-passkey"] .error')`)
	p.fill("old-passkey", "dogbolt-demo")
	p.press("Add this device")
	p.is(`document.querySelector('[data-passkeys] table')?.innerText.includes('van phone')`)
	p.eval(`document.querySelector('[data-passkeys]').scrollIntoView({block: 'center'})`)
	p.shot("passkeys")

	p.eval(`(async () => { await fetch('/api/session', {method: 'DELETE'}); location.href = '/sign-in' })()`)
	p.is(`document.querySelector('[data-passkey]')`)
	p.shot("sign-in-passkey")
	p.press("Sign in with a passkey")
	p.is(`location.pathname === '/jobs'`)
	p.visit("/account")
	p.is(`document.querySelector('[data-passkeys] table')?.innerText.includes('used')`)
	p.fill("old-passkey", "dogbolt-demo")
	p.eval(`document.querySelector('[aria-label="End van phone"]').click()`)
	p.is(`document.querySelector('[data-passkeys] .said')?.innerText.includes('no longer signs you in')`)
	p.is(`!document.querySelector('[data-passkeys] table')`)

	p.eval(`(async () => { await fetch('/api/session', {method: 'DELETE'}); location.href = '/sign-in' })()`)
	p.is(`document.querySelector('[data-passkey]')`)
	p.press("Sign in with a passkey")
	p.is(`document.querySelector('.error')?.innerText.includes('use the password')`)
	p.is(`location.pathname === '/sign-in'`)
}
