// Command load compares reading a circuit through the program with a bare handler beside
// it: the same middleware, the one statement that reads the stamps, the same bytes. By wrk,
// in turns in one run; the ratio is the median of the rounds. scripts/bench.sh calls it;
// docs/benchmarks.md keeps what it says.
package main

import (
	"bytes"
	"context"
	"fmt"
	"io"
	"log"
	"net"
	"net/http"
	"os"
	"os/exec"
	"regexp"
	"slices"
	"strconv"
	"sync"
	"time"

	"github.com/gofiber/fiber/v3"

	"nimbleanvil/internal/api"
	"nimbleanvil/internal/demo"
	"nimbleanvil/internal/localdb"
	"nimbleanvil/internal/store"
	"nimbleanvil/internal/studio"
)

const (
	rounds  = 5
	seconds = "5s"
)

func main() {
	if err := run(context.Background()); err != nil {
		log.Fatal(err)
	}
}

func run(ctx context.Context) error {
	dir, err := os.MkdirTemp("", "na-load")
	if err != nil {
		return err
	}
	defer func() { _ = os.RemoveAll(dir) }()
	if err := os.Chmod(dir, 0o755); err != nil { // an unprivileged database must enter it
		return err
	}
	db, err := localdb.Start(ctx, localdb.Options{Dir: dir})
	if err != nil {
		return err
	}
	defer db.Stop()
	st, err := store.Open(db.DSN(localdb.User), time.Now)
	if err != nil {
		return err
	}
	defer func() { _ = st.Close() }()
	if err := st.Migrate(ctx); err != nil {
		return err
	}
	all := studio.New(st, time.Now)
	owner, err := demo.Load(ctx, all, time.Now())
	if err != nil {
		return err
	}
	srv := api.New(api.Config{Studios: all, Now: time.Now})
	today, err := all.For(owner).Today(ctx)
	if err != nil || today.Next == nil {
		return fmt.Errorf("today has no next class: %w", err)
	}
	bare(srv.App, st, store.Scope{StudioID: owner.Studio})
	base, err := serve(srv.App)
	if err != nil {
		return err
	}
	program, simple := base+"/api/circuits/"+today.Next.CircuitID, base+"/api/bare/"+today.Next.CircuitID
	body, err := read(program)
	if err != nil {
		return err
	}
	same, err := read(simple)
	if err != nil || !bytes.Equal(body, same) {
		return fmt.Errorf("the bare handler answers something else: %w", err)
	}
	fmt.Printf("both answer the same %d bytes\n", len(body))
	var ratios []float64
	for range rounds {
		of, err := measure(ctx, "program", program)
		if err != nil {
			return err
		}
		against, err := measure(ctx, "bare", simple)
		if err != nil {
			return err
		}
		ratios = append(ratios, of/against)
	}
	slices.Sort(ratios)
	fmt.Printf("program to bare: median %.2f, from %.2f to %.2f\n", ratios[rounds/2], ratios[0], ratios[rounds-1])
	return nil
}

// measure asks an address as fast as it answers and gives the answers in a second.
func measure(ctx context.Context, name, url string) (float64, error) {
	out, err := exec.CommandContext(ctx, "wrk", "-t2", "-c16", "-d"+seconds, "--latency", url).
		CombinedOutput()
		// our own addresses
	if err != nil {
		return 0, fmt.Errorf("wrk: %w\n%s", err, out)
	}
	find := func(pattern string) string {
		m := regexp.MustCompile(pattern).FindSubmatch(out)
		if m == nil {
			return "?"
		}
		return string(m[1])
	}
	each := find(`Requests/sec:\s+([0-9.]+)`)
	fmt.Printf(
		"%-8s %8s requests/s   median %s   99 %% %s   %s\n",
		name,
		each,
		find(`50%\s+(\S+)`),
		find(`99%\s+(\S+)`),
		find(`(Non-2xx.*)`),
	)
	return strconv.ParseFloat(each, 64)
}

// bare answers bytes that were worked out once: the same middleware and the one statement,
// and nothing else.
func bare(app *fiber.App, st *store.Store, sc store.Scope) {
	var mu sync.Mutex
	bodies := map[store.Stamps][]byte{}
	app.Get("/api/bare/:id", func(c fiber.Ctx) error {
		at, err := st.Stamps(c.Context(), sc, c.Params("id"))
		if err != nil {
			return err
		}
		mu.Lock()
		body, known := bodies[at]
		mu.Unlock()
		if !known {
			if body, err = read("http://" + c.Host() + "/api/circuits/" + c.Params("id")); err != nil {
				return err
			}
			mu.Lock()
			bodies[at] = body
			mu.Unlock()
		}
		c.Set("Content-Type", "application/json")
		return c.Send(body)
	})
}

func serve(app *fiber.App) (string, error) {
	ln, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		return "", err
	}
	go func() { _ = app.Listener(ln, fiber.ListenConfig{DisableStartupMessage: true}) }()
	return "http://" + ln.Addr().String(), nil
}

func read(url string) ([]byte, error) {
	r, err := http.Get(url) // our own address
	if err != nil {
		return nil, err
	}
	defer func() { _ = r.Body.Close() }()
	return io.ReadAll(r.Body)
}
