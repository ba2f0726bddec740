//go:build e2e

package e2e

import (
	"fmt"
	"net"
	"net/http"
	"os"
	"os/exec"
	"path/filepath"
	"testing"
	"time"

	"github.com/chromedp/chromedp"
)

const folder = "/werk/dogbolt"

// TestUnderAFolder: the pages work under a folder of a host, with signal and without, and ask
// for nothing beside it.
func TestUnderAFolder(t *testing.T) {
	srv := start(t, "demo", t.TempDir(), "--base-path", folder)
	inFolder(t, srv.base+folder)
}

// TestBehindNginx: the same behind a proxy that passes a folder of its host on.
func TestBehindNginx(t *testing.T) {
	nginx, err := exec.LookPath("nginx")
	if err != nil {
		t.Skip("nginx is not on this machine")
	}
	srv := start(t, "demo", t.TempDir(), "--base-path", folder, "--trusted-proxy", "127.0.0.1")
	l, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		t.Fatal(err)
	}
	at := l.Addr().String()
	l.Close()
	dir := t.TempDir()
	conf := filepath.Join(dir, "nginx.conf")
	err = os.WriteFile(conf, fmt.Appendf(nil, `daemon off; pid %[1]s/pid; error_log %[1]s/error.log;
events {}
http {
  access_log off; client_body_temp_path %[1]s/body; proxy_temp_path %[1]s/proxy; fastcgi_temp_path %[1]s/f; uwsgi_temp_path %[1]s/u; scgi_temp_path %[1]s/s;
  server {
    listen %[2]s;
    location %[3]s/ {
      proxy_pass %[4]s;
      proxy_http_version 1.1;
      proxy_set_header Host $http_host;
      proxy_set_header X-Forwarded-For $proxy_add_x_forwarded_for;
      proxy_set_header X-Forwarded-Proto $scheme;
      proxy_set_header Upgrade $http_upgrade;
      proxy_set_header Connection "upgrade";
      client_max_body_size 9m;
    }
  }
}`, dir, at, folder, srv.base), 0o600)
	if err != nil {
		t.Fatal(err)
	}
	proxy := exec.Command(nginx, "-c", conf, "-p", dir)
	if err := proxy.Start(); err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { proxy.Process.Kill(); proxy.Wait() })
	base := "http://" + at + folder
	for end := time.Now().Add(10 * time.Second); ; time.Sleep(50 * time.Millisecond) {
		if res, err := http.Get(base + "/healthz"); err == nil && res.Body.Close() == nil && res.StatusCode == 200 {
			break
		} else if time.Now().After(end) {
			t.Fatal("nginx does not answer")
		}
	}
	inFolder(t, base)
}

func inFolder(t *testing.T, base string) {
	api := signedIn(t, base, "office")
	id := jobID(t, api, "DB-0409")
	p := open(t, base, 390, 844)
	p.signIn("installer")
	p.visit("/jobs/" + id + "/commission")
	p.carried()
	p.rules()
	p.is(`document.querySelector('[data-entry="dc-trip"]')`)
	beside, err := chromedp.Run(p.ctx, chromedp.Evaluate[[]string](fmt.Sprintf(
		`[...performance.getEntriesByType('resource').map((e) => e.name), ...[...document.querySelectorAll('a[href], img[src]')].map((e) => e.href || e.src)]
			.filter((u) => u.startsWith(location.origin) && !u.startsWith(location.origin + %q))`, folder+"/")))
	if err != nil || len(beside) > 0 {
		t.Errorf("beside the folder: %v %v", beside, err)
	}
	p.offline(true)
	p.read([]entered{{"dc-trip", "0.7"}})
	p.visit("/jobs/" + id + "/commission") // from the device
	p.is(`document.querySelector('[data-entry="dc-trip"]')?.closest('tr, li, section, div')?.innerText.includes('0.7') || document.body.innerText.includes('0.7')`)
	p.offline(false)
	p.eval(`window.dispatchEvent(new Event('online'))`)
	p.sent()
	if found := logged(t, api, id, "dc-trip"); len(found) == 0 {
		t.Error("the reading did not arrive")
	}
}
