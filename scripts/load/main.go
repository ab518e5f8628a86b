// Command load compares reading a circuit through the program with a bare Fiber
// and GORM handler that asks the database the same questions, by wrk, in turns in
// one run. scripts/bench.sh calls it; docs/benchmarks.md keeps what it says.
package main

import (
	"context"
	"encoding/json"
	"fmt"
	"io"
	"log"
	"net"
	"net/http"
	"os"
	"os/exec"
	"regexp"
	"time"

	"github.com/gofiber/fiber/v3"

	"nimbleanvil/internal/api"
	"nimbleanvil/internal/demo"
	"nimbleanvil/internal/localdb"
	"nimbleanvil/internal/store"
	"nimbleanvil/internal/studio"
)

const (
	rounds  = 3
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
	if err := os.Chmod(dir, 0o755); err != nil { //nolint:gosec // an unprivileged database must enter it
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
	sc := store.Scope{StudioID: owner.Studio}
	whole, err := serve(api.New(api.Config{Studios: all, Now: time.Now}).App)
	if err != nil {
		return err
	}
	simple, err := serve(bare(st, sc))
	if err != nil {
		return err
	}
	id, err := circuitID(whole)
	if err != nil {
		return err
	}
	urls := []struct{ name, url string }{{"program", whole + "/api/circuits/" + id}, {"bare", simple + "/circuits/" + id}}
	for _, u := range urls {
		n, err := size(u.url)
		if err != nil {
			return err
		}
		fmt.Printf("%s answers %d bytes\n", u.name, n)
	}
	for range rounds {
		for _, u := range urls {
			out, err := exec.CommandContext(ctx, "wrk", "-t2", "-c16", "-d"+seconds, "--latency", u.url).CombinedOutput() //nolint:gosec // our own addresses
			if err != nil {
				return fmt.Errorf("wrk: %w\n%s", err, out)
			}
			find := func(pattern string) string {
				m := regexp.MustCompile(pattern).FindSubmatch(out)
				if m == nil {
					return "?"
				}
				return string(m[1])
			}
			fmt.Printf("%-8s %8s requests/s   median %s   99 %% %s   %s\n", u.name, find(`Requests/sec:\s+([0-9.]+)`), find(`50%\s+(\S+)`), find(`99%\s+(\S+)`), find(`(Non-2xx.*)`))
		}
	}
	return nil
}

// bare asks the same questions and answers the rows as they are: no validation,
// no rules, no plan.
func bare(st *store.Store, sc store.Scope) *fiber.App {
	app := fiber.New()
	app.Get("/circuits/:id", func(c fiber.Ctx) error {
		ctx := c.Context()
		row, head, err := st.Circuit(ctx, sc, c.Params("id"))
		if err != nil {
			return err
		}
		class, err := st.ClassByID(ctx, sc, row.OccurrenceID)
		if err != nil {
			return err
		}
		stock, err := st.Stock(ctx, sc, class.PlaceID)
		if err != nil {
			return err
		}
		return c.JSON(map[string]any{"circuit": row, "document": json.RawMessage(head.Document), "class": class, "stock": stock})
	})
	return app
}

func serve(app *fiber.App) (string, error) {
	ln, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		return "", err
	}
	go func() { _ = app.Listener(ln, fiber.ListenConfig{DisableStartupMessage: true}) }()
	return "http://" + ln.Addr().String(), nil
}

func circuitID(base string) (string, error) {
	r, err := http.Get(base + "/api/today") //nolint:gosec // our own address
	if err != nil {
		return "", err
	}
	defer func() { _ = r.Body.Close() }()
	var today studio.Today
	if err := json.NewDecoder(r.Body).Decode(&today); err != nil || today.Next == nil {
		return "", fmt.Errorf("today has no next class: %w", err)
	}
	return today.Next.CircuitID, nil
}

func size(url string) (int64, error) {
	r, err := http.Get(url) //nolint:gosec // our own address
	if err != nil {
		return 0, err
	}
	defer func() { _ = r.Body.Close() }()
	return io.Copy(io.Discard, r.Body)
}
