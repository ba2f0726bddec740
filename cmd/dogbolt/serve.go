package main

import (
	"context"
	"crypto/tls"
	"errors"
	"fmt"
	"log/slog"
	"net"
	"net/http"
	"net/netip"
	"net/url"
	"os"
	"os/signal"
	"path/filepath"
	"regexp"
	"runtime/debug"
	"strconv"
	"strings"
	"syscall"
	"time"

	"github.com/spf13/cobra"

	"dogbolt/internal/demo"
	"dogbolt/internal/httpapi"
	"dogbolt/internal/replica"
	"dogbolt/internal/rooms"
	"dogbolt/internal/stamp"
	"dogbolt/internal/standin"
	"dogbolt/internal/store"
)

// serving are the flags of commands that listen.
type serving struct {
	addr, data, cert, key string
	publicURL, proxied    string
	basePath, redirect    string
	trusted               []string
	keyFile, heads        string
	headsTo               string
	replica               string
	replicaKeep           time.Duration
	signIns               int
	standIns              bool
}

func (f *serving) flags(c *cobra.Command, addr, data string) {
	c.Flags().StringVar(&f.addr, "addr", addr, "address to listen on")
	c.Flags().StringVar(&f.data, "data", data, "folder that holds the database")
	c.Flags().StringVar(&f.cert, "tls-cert", "", "TLS certificate; cookies are then marked Secure")
	c.Flags().StringVar(&f.key, "tls-key", "", "key of the TLS certificate")
	c.Flags().StringVar(&f.publicURL, "public-url", "", "address that people reach the program by, for links in mails")
	c.Flags().StringVar(&f.proxied, "client-address-header", "", "header in which the proxy in front says the client's address; without it the peer's counts")
	c.Flags().StringSliceVar(&f.trusted, "trusted-proxy", nil,
		"address, or network such as 10.0.0.0/8, of a proxy in front whose word about a request counts (X-Forwarded-For, X-Forwarded-Proto)")
	c.Flags().StringVar(&f.basePath, "base-path", "", "folder of the host that the program is under, such as /dogbolt")
	c.Flags().StringVar(&f.redirect, "redirect", "", "address, such as :80, on which those who come without TLS are sent to this one")
	c.Flags().StringVar(&f.heads, "heads", "", "folder that the heads of all logs are noted in, signed: best on another machine; without it, in the data folder")
	c.Flags().StringVar(&f.headsTo, "heads-to", "", "mail address that every note of the heads goes to, by the mail drop")
	c.Flags().StringVar(&f.replica, "replica", "", "where a replica is kept, a second or so behind: a folder, best of another machine, or s3://BUCKET/PREFIX")
	c.Flags().DurationVar(&f.replicaKeep, "replica-keep", replica.Kept, "how far back the replica can be restored to")
	keyFlag(c, &f.keyFile)
	c.Flags().IntVar(&f.signIns, "sign-ins", 10, "sign-ins per minute that one address may try")
}

// keyFlag adds the flag that says where the sealing key is. Its passphrase, if it has one, is
// in the environment variable DOGBOLT_KEY_PASSPHRASE.
func keyFlag(c *cobra.Command, file *string) {
	c.Flags().StringVar(file, "key-file", "", "sealing key, PKCS#12, passphrase in DOGBOLT_KEY_PASSPHRASE; without it, in the data folder")
}

// useKey says where the sealing key is.
func useKey(a *rooms.Rooms, file string) {
	if file != "" {
		a.Firm.Ring.File = file
	}
	a.Firm.Ring.Passphrase = os.Getenv("DOGBOLT_KEY_PASSPHRASE")
}

func databasePath(data string) string { return filepath.Join(data, "dogbolt.db") }

func serveCommand() *cobra.Command {
	var f serving
	var forecast, mail, authority string
	c := &cobra.Command{
		Use:   "serve",
		Short: "Serve the pages and the operations",
		Args:  cobra.NoArgs,
		RunE: func(c *cobra.Command, _ []string) error {
			s, err := openData(f.data)
			if err != nil {
				return err
			}
			defer s.Close()
			a := rooms.New(s, logger(), standin.Instruments{})
			outside, err := connect(forecast, mail, authority)
			if err != nil {
				return err
			}
			a.Connect(outside)
			token, err := a.People.SetUpToken(c.Context())
			if err != nil {
				return err
			}
			return f.listen(c.Context(), a, s, func(base string) {
				fmt.Println("Dogbolt is at", base)
				if token != "" {
					fmt.Printf("No accounts yet. Make the first one, once, at %s/setup?token=%s\n", base, token)
				}
			})
		},
	}
	f.flags(c, "127.0.0.1:8417", "./data")
	c.Flags().BoolVar(&f.standIns, "stand-ins", false, "offer the simulated tester and charger on the pages, for training")
	c.Flags().StringVar(&forecast, "forecast", "", "forecast that days are judged by, CSV (docs/formats/forecast.md)")
	c.Flags().StringVar(&mail, "mail-drop", "", "folder that papers are written to as .eml files; without it they are sent by hand")
	c.Flags().StringVar(&authority, "time-stamps", "", "address of a time-stamping authority (RFC 3161) for the papers that are sealed")
	return c
}

// isAddress reports whether a text is a whole address of the web.
func isAddress(s string) bool {
	u, err := url.Parse(s)
	return err == nil && u.Host != "" && (u.Scheme == "http" || u.Scheme == "https")
}

// connect opens what stands outside the program.
func connect(forecast, mail, authority string) (rooms.Outside, error) {
	var o rooms.Outside
	if forecast != "" {
		file, err := os.Open(forecast)
		if err != nil {
			return o, err
		}
		defer file.Close()
		f, err := standin.ReadForecast(file)
		if err != nil {
			return o, err
		}
		o.Forecast = f
	}
	if mail != "" {
		o.Mail = standin.MailDrop{Folder: mail}
	}
	if authority != "" {
		if !isAddress(authority) {
			return o, fmt.Errorf("--time-stamps: %q is not the address of an authority", authority)
		}
		o.Time = stamp.At(authority)
	}
	return o, nil
}

func demoCommand() *cobra.Command {
	f := serving{standIns: true}
	c := &cobra.Command{
		Use:   "demo",
		Short: "Serve with made-up data",
		Args:  cobra.NoArgs,
		RunE: func(c *cobra.Command, _ []string) error {
			s, err := openData(f.data)
			if err != nil {
				return err
			}
			defer s.Close()
			a := rooms.New(s, logger(), standin.Instruments{})
			outside, err := demo.Outside(f.data, time.Now())
			if err != nil {
				return fmt.Errorf("demo data: %w", err)
			}
			a.Connect(outside)
			if err := demo.Fill(c.Context(), a, time.Now()); err != nil {
				return fmt.Errorf("demo data: %w", err)
			}
			return f.listen(c.Context(), a, s, func(base string) {
				fmt.Println("Dogbolt with made-up data is at", base)
				fmt.Println("Operations for programs:", base+"/api/docs")
				fmt.Println("Accounts, all with the password", demo.Password+":")
				for _, u := range demo.People {
					fmt.Printf("  %-10s %-10s %s\n", u.Username, u.Roles, u.Name)
				}
			})
		},
	}
	f.flags(c, "127.0.0.1:8417", "./demo-data")
	return c
}

// logger writes structured lines to the standard error.
func logger() *slog.Logger {
	l := slog.New(slog.NewJSONHandler(os.Stderr, nil))
	slog.SetDefault(l)
	return l
}

// listen serves until the process is told to stop, then lets requests that
// have begun come to their end. ready is called once the address answers.
func (f *serving) listen(ctx context.Context, a *rooms.Rooms, s *store.Store, ready func(base string)) error {
	ctx, cancel := signal.NotifyContext(ctx, os.Interrupt, syscall.SIGTERM)
	defer cancel()
	release, err := alone(f.data)
	if err != nil {
		return err
	}
	defer release()
	tuneMemory()
	useKey(a, f.keyFile)
	if f.heads != "" {
		a.Doctor.Notes = f.heads
	}
	if a.Doctor.MailTo = f.headsTo; f.headsTo != "" && a.Doctor.Mail == nil {
		return errors.New("--heads-to: there is no --mail-drop")
	}
	if f.publicURL != "" {
		if !isAddress(f.publicURL) {
			return fmt.Errorf("--public-url: %q is not the address of pages", f.publicURL)
		}
		a.People.PublicURL = strings.TrimRight(f.publicURL, "/")
	}
	withTLS := f.cert != ""
	options, err := f.options()
	if err != nil {
		return err
	}
	if f.standIns {
		options.Instruments = standin.Instruments{}
	}
	srv := &http.Server{
		Handler:           httpapi.New(a, s.Sessions(), slog.Default(), options),
		ReadHeaderTimeout: 10 * time.Second,
		ReadTimeout:       60 * time.Second,
		WriteTimeout:      60 * time.Second,
		IdleTimeout:       2 * time.Minute,
		MaxHeaderBytes:    64 << 10,
	}
	if withTLS {
		c, err := newCertificate(f.cert, f.key)
		if err != nil {
			return err
		}
		srv.TLSConfig = &tls.Config{MinVersion: tls.VersionTLS12, GetCertificate: c.get}
	}
	signal.Ignore(syscall.SIGHUP) // as those who renew certificates send it: they are read anyway
	l, err := net.Listen("tcp", f.addr)
	if err != nil {
		return err
	}
	if f.replica != "" {
		end, err := f.keepReplica(ctx, a, s)
		if err != nil {
			return errors.Join(err, l.Close())
		}
		defer end()
	}
	go sweep(ctx, s)
	go a.Doctor.Run(ctx, slog.Default())
	done := make(chan error, 1)
	go func() {
		if withTLS {
			done <- srv.ServeTLS(l, "", "")
			return
		}
		done <- srv.Serve(l)
	}()
	scheme := "http://"
	if withTLS {
		scheme = "https://"
	}
	if f.redirect != "" {
		end, err := sendToTLS(f.redirect, l.Addr(), withTLS)
		if err != nil {
			return errors.Join(err, l.Close())
		}
		defer end()
	}
	ready(scheme + reachable(l.Addr()) + options.BasePath)
	if words := inTheOpen(l.Addr(), withTLS, f.publicURL); words != "" {
		fmt.Println(words)
	}
	select {
	case err := <-done:
		return err
	case <-ctx.Done():
	}
	slog.Info("stopping")
	stop, cancelStop := context.WithTimeout(context.Background(), 15*time.Second)
	defer cancelStop()
	if err := srv.Shutdown(stop); err != nil && !errors.Is(err, http.ErrServerClosed) {
		return err
	}
	return a.Doctor.Note(stop)
}

// What the server lets its memory grow to before it looks for what is no longer used: four
// times what is, and 68 MB in all, which a small machine has. Measured: one time, as Go does
// it by itself, costs 15 % of the entries that twenty crews can log.
const (
	growth     = 400 // %
	mostMemory = 68 << 20
)

// tuneMemory sets that, where the environment does not say otherwise (GOGC, GOMEMLIMIT).
func tuneMemory() {
	if os.Getenv("GOGC") == "" {
		debug.SetGCPercent(growth)
	}
	if os.Getenv("GOMEMLIMIT") == "" {
		debug.SetMemoryLimit(mostMemory)
	}
}

// options are those of the operations and pages, from the flags.
func (f *serving) options() (httpapi.Options, error) {
	o := httpapi.Options{
		TLS: f.cert != "" || strings.HasPrefix(f.publicURL, "https://"), SignInsPerMinute: f.signIns,
		AddressHeader: f.proxied, BasePath: strings.TrimRight(f.basePath, "/"),
	}
	if o.BasePath != "" && !regexp.MustCompile(`^(/[A-Za-z0-9._~-]+)+$`).MatchString(o.BasePath) {
		return o, fmt.Errorf("--base-path: %q is not a folder of a host, such as /dogbolt", f.basePath)
	}
	for _, t := range f.trusted {
		p, err := netip.ParsePrefix(t)
		if a, single := netip.ParseAddr(t); single == nil {
			p, err = netip.PrefixFrom(a, a.BitLen()), nil
		}
		if err != nil {
			return o, fmt.Errorf("--trusted-proxy: %q is neither an address nor a network", t)
		}
		o.TrustedProxies = append(o.TrustedProxies, p)
	}
	return o, nil
}

// sendToTLS sends those who come without TLS to the address with it.
func sendToTLS(from string, to net.Addr, withTLS bool) (end func(), err error) {
	if !withTLS {
		return nil, errors.New("--redirect: there is no certificate to send people to")
	}
	l, err := net.Listen("tcp", from)
	if err != nil {
		return nil, fmt.Errorf("--redirect: %w", err)
	}
	_, port, err := net.SplitHostPort(to.String())
	if err != nil {
		return nil, errors.Join(err, l.Close())
	}
	srv := &http.Server{ReadHeaderTimeout: 10 * time.Second, Handler: http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		host := r.Host
		if h, _, err := net.SplitHostPort(host); err == nil {
			host = h
		}
		if port != "443" {
			host = net.JoinHostPort(strings.Trim(host, "[]"), port)
		}
		http.Redirect(w, r, "https://"+host+r.URL.RequestURI(), http.StatusPermanentRedirect)
	})}
	go srv.Serve(l)
	return func() { srv.Close() }, nil
}

// reachable is an address that a server listens on as others can open it: where it listens on
// all of the machine's, one of them.
func reachable(a net.Addr) string {
	at, ok := a.(*net.TCPAddr)
	if !ok || !at.IP.IsUnspecified() {
		return a.String()
	}
	host := "localhost"
	if name, err := os.Hostname(); err == nil {
		host = name
	}
	own, err := net.InterfaceAddrs()
	if err == nil {
		for _, x := range own {
			if n, ok := x.(*net.IPNet); ok && n.IP.To4() != nil && n.IP.IsGlobalUnicast() {
				host = n.IP.String()
				break
			}
		}
	}
	return net.JoinHostPort(host, strconv.Itoa(at.Port))
}

// keepReplica begins to keep a replica. end sends the rest.
func (f *serving) keepReplica(ctx context.Context, a *rooms.Rooms, s *store.Store) (end func(), err error) {
	target, err := replica.At(f.replica)
	if err != nil {
		return nil, fmt.Errorf("--replica: %w", err)
	}
	if err := s.LeaveCheckpoints(ctx); err != nil {
		return nil, err
	}
	r, err := replica.Start(s.Path(), target, f.replicaKeep)
	if err != nil {
		return nil, err
	}
	s.OnFile = r.Picture
	a.Replica = func() rooms.Replica {
		now := r.State()
		return rooms.Replica{Behind: now.Behind.Seconds(), Waiting: now.Waiting, Problem: now.Problem, Failing: now.Failing()}
	}
	return func() {
		if err := r.Close(); err != nil {
			slog.Error("the replica does not have all", "error", err)
		}
	}, nil
}

// inTheOpen says what it means that a server answers on a network without TLS; "" where it
// does not, or a proxy in front has TLS.
func inTheOpen(a net.Addr, withTLS bool, publicURL string) string {
	at, ok := a.(*net.TCPAddr)
	if withTLS || !ok || at.IP.IsLoopback() || strings.HasPrefix(publicURL, "https://") {
		return ""
	}
	return "Others on this network can reach this address, without TLS: whoever is on it can read passwords and customers' data, and\n" +
		"browsers keep nothing on the device for work without signal. Give a certificate (--tls-cert, --tls-key), or put a proxy with TLS\n" +
		"in front and say its address (--public-url)."
}

// sweep drops sessions that have ended, and pieces of photos whose rest did not come,
// every hour.
func sweep(ctx context.Context, s *store.Store) {
	t := time.NewTicker(time.Hour)
	defer t.Stop()
	for {
		select {
		case <-ctx.Done():
			return
		case <-t.C:
			if err := s.Sessions().DropExpired(ctx); err != nil {
				slog.Error("drop ended sessions", "error", err)
			}
			if err := s.DropParts(time.Now()); err != nil {
				slog.Error("drop pieces of photos", "error", err)
			}
		}
	}
}
