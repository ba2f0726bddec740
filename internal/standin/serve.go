package standin

import (
	"context"
	"encoding/json"
	"net/http"
	"time"

	"github.com/coder/websocket"
	"github.com/coder/websocket/wsjson"
)

// Shown is a reading as a tester sends it over its stream.
type Shown struct {
	Test  string `json:"test"`
	Value string `json:"value"`
	Unit  string `json:"unit,omitempty"`
	Error string `json:"error,omitempty"`
}

// accept takes a WebSocket from pages of this program only.
func accept(w http.ResponseWriter, r *http.Request) (*websocket.Conn, error) {
	c, err := websocket.Accept(w, r, nil) // refuses other origins, and has answered then
	if err == nil {
		c.SetReadLimit(4096)
	}
	return c, err
}

// ServeTester streams a tester: whoever is connected presses a test by sending
// {"test": id}, and gets back what the instrument shows. unit names a test's unit;
// ok is false where the circuit has no such test.
func ServeTester(w http.ResponseWriter, r *http.Request, t *Tester, unit func(test string) (string, bool)) {
	c, err := accept(w, r)
	if err != nil {
		return
	}
	defer c.CloseNow()
	for {
		var press struct {
			Test string `json:"test"`
		}
		if wsjson.Read(r.Context(), c, &press) != nil {
			return
		}
		s := Shown{Test: press.Test}
		if u, ok := unit(press.Test); ok {
			s.Value, s.Unit = t.Read(press.Test), u
		} else {
			s.Error = "not a test of this circuit"
		}
		if wsjson.Write(r.Context(), c, s) != nil {
			return
		}
	}
}

// tick is how often a bench moves on and shows itself.
const tick = 100 * time.Millisecond

// ServeBench lets a bench run, shows it ten times a second, and carries out orders
// (docs/formats/bench.md). A wrong order is answered by {"error": …} and changes
// nothing.
func ServeBench(w http.ResponseWriter, r *http.Request, b *Bench) {
	c, err := accept(w, r)
	if err != nil {
		return
	}
	defer c.CloseNow()
	ctx, cancel := context.WithCancel(r.Context())
	defer cancel()
	orders := make(chan []byte)
	go func() {
		defer cancel()
		for {
			_, data, err := c.Read(ctx)
			if err != nil {
				return
			}
			select {
			case orders <- data:
			case <-ctx.Done():
				return
			}
		}
	}()
	ticker := time.NewTicker(tick)
	defer ticker.Stop()
	for {
		select {
		case <-ctx.Done():
			return
		case data := <-orders:
			var o Order
			err := json.Unmarshal(data, &o)
			if err == nil {
				err = b.Do(o)
			}
			if err != nil && wsjson.Write(ctx, c, map[string]string{"error": err.Error()}) != nil {
				return
			}
		case <-ticker.C:
			b.Step(tick.Seconds())
			if wsjson.Write(ctx, c, b.See()) != nil {
				return
			}
		}
	}
}
