// Package api turns requests into core values and answers back: Fiber for HTTP,
// Huma for the contract, one file for each resource. Nothing of the job is
// decided here.
package api

import (
	"bytes"
	"context"
	"crypto/rand"
	"crypto/sha256"
	"encoding/hex"
	"errors"
	"io"
	"io/fs"
	"log/slog"
	"mime"
	"net"
	"net/http"
	"reflect"
	"runtime/debug"
	"strings"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/gofiber/fiber/v3"
	"github.com/gofiber/fiber/v3/middleware/helmet"
	"github.com/gofiber/fiber/v3/middleware/recover"
	"github.com/gofiber/fiber/v3/middleware/requestid"
	"github.com/gofiber/fiber/v3/middleware/static"

	"nimbleanvil/internal/contract"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/people"
	"nimbleanvil/internal/core/progress"
	"nimbleanvil/internal/core/run"
	"nimbleanvil/internal/core/why"
	"nimbleanvil/internal/device"
	"nimbleanvil/internal/formats/peoplefile"
	"nimbleanvil/internal/formats/placefile"
	"nimbleanvil/internal/formats/studiofile"
	"nimbleanvil/internal/formats/table"
	"nimbleanvil/internal/problem"
	"nimbleanvil/internal/store"
	"nimbleanvil/internal/studio"
)

// Config is what a server needs. Nothing in it is one studio's.
type Config struct {
	Studios *studio.Studios
	// Who says on whose behalf a request is made; missing, the owner of the only studio.
	Who func(fiber.Ctx) (studio.Principal, error)
	// Now is the program's instant.
	Now func() time.Time
	// Scale is the luggage scale beside the program; missing, a simulated one.
	Scale device.Scale
	// UI holds the built pages; index.html at its root.
	UI fs.FS
}

// Limits of requests.
const (
	maxBody = 1 << 20
	// patience with a request; the database's own ceiling for a statement lies
	// above it.
	patience = 15 * time.Second
	// sending is how long somebody may take to read an answer.
	sending = time.Minute
	// Connections of one address, and of all together. A browser opens six.
	maxPeer, maxPeers = 128, 1024
)

// standInSeed makes the noise of the simulated scale the same each time.
const standInSeed = 1

// Server is the program's HTTP side.
type Server struct {
	App     *fiber.App
	API     huma.API
	metrics *metrics
}

// New builds the server with all its routes.
func New(cfg Config) *Server {
	if cfg.Scale == nil && cfg.Now != nil {
		cfg.Scale = device.NewSimulated(standInSeed, cfg.Now)
	}
	if cfg.Studios == nil { // what needs no studio is answered all the same
		cfg.Studios, cfg.Who = studio.New(nil, cfg.Now), nobody
	}
	if cfg.Who == nil {
		cfg.Who = func(c fiber.Ctx) (studio.Principal, error) { return cfg.Studios.OnlyOwner(c.Context()) }
	}
	m := newMetrics()
	// Bodies are read by whoever takes them, as they come: what is announced costs no
	// memory. Addresses are told apart by their letter case.
	app := fiber.New(fiber.Config{
		AppName:                      "Nimble Anvil",
		ErrorHandler:                 asProblem,
		CaseSensitive:                true,
		StreamRequestBody:            true,
		DisablePreParseMultipartForm: true,
		PassLocalsToContext:          true,
		BodyLimit:                    maxFile,
		ReadTimeout:                  30 * time.Second,
		WriteTimeout:                 sending,
		IdleTimeout:                  2 * time.Minute,
		Concurrency:                  maxPeers,
	})
	app.Server().MaxConnsPerIP = maxPeer
	app.Use(drained, unnamed, requestid.New(requestid.Config{Generator: rand.Text}), logged(m),
		recover.New(recover.Config{EnableStackTrace: true, StackTraceHandler: traced}),
		helmet.New(security), uncached(pageVersion(cfg.UI)), requireLoopbackHost, limited, bounded(cfg.Studios))
	r := &routes{huma.NewAPI(humaConfig(), &adapter{app}), cfg.Studios, cfg.Now, cfg.Scale}
	registerCalc(app, r)
	registerOpen(r)
	app.Get("/api/health/live", func(c fiber.Ctx) error { return c.SendStatus(http.StatusNoContent) })
	app.Get("/api/health/ready", ready(cfg.Studios))
	app.Use("/api", principal(cfg.Who))
	registerAll(r)
	if cfg.UI != nil {
		pages(app, cfg.UI)
	}
	return &Server{App: app, API: r.API, metrics: m}
}

// traced logs where the program failed: the problem that the client gets names no
// more than the request.
func traced(c fiber.Ctx, cause any) {
	slog.Error("panic", "id", requestID(c.Context()), "cause", cause, "stack", string(debug.Stack()))
}

// humaConfig is Huma's configuration: no schema links, no documentation page of
// its own.
func humaConfig() huma.Config {
	c := huma.DefaultConfig("Nimble Anvil", "1")
	c.CreateHooks, c.DocsPath, c.SchemasPath = nil, "", ""
	c.OpenAPIPath = "/api/openapi"
	c.Components.Schemas = contract.NewRegistry("#/components/schemas/", schemaName)
	c.Components.Schemas.RegisterTypeAlias(nameType, reflect.TypeFor[nameSchema]())
	c.Components.Schemas.RegisterTypeAlias(reflect.TypeFor[studio.PublicID](), reflect.TypeFor[idSchema]())
	c.Components.Schemas.RegisterTypeAlias(noteType, reflect.TypeFor[noteSchema]())
	json := huma.DefaultJSONFormat // of answers: bodies are read by readBody
	c.Formats = map[string]huma.Format{"application/json": json, "json": json}
	return c
}

// schemaNames are the words of the contract for types that have another beside them of the
// same name.
var schemaNames = map[reflect.Type]string{
	reflect.TypeFor[run.Slot]():            "RunSlot",
	reflect.TypeFor[run.Block]():           "RunBlock",
	reflect.TypeFor[moves.Part]():          "MovePart",
	reflect.TypeFor[progress.Sheet]():      "LogSheet",
	reflect.TypeFor[progress.SheetLine]():  "LogLine",
	reflect.TypeFor[studio.Settings]():     "Studio",
	reflect.TypeFor[placefile.File]():      "PlacesFile",
	reflect.TypeFor[peoplefile.File]():     "PeopleFile",
	reflect.TypeFor[table.Mistake]():       "FileMistake",
	reflect.TypeFor[people.Held]():         "HeldLimit",
	reflect.TypeFor[studio.Group]():        "PeopleGroup",
	reflect.TypeFor[studio.Health]():       "PersonHealth",
	reflect.TypeFor[studio.Erased]():       "ErasedPerson",
	reflect.TypeFor[people.Record]():       "PersonRecord",
	reflect.TypeFor[people.HealthRecord](): "PersonHealthRecord",
	reflect.TypeFor[people.Measure]():      "PersonMeasure",
	reflect.TypeFor[people.Limit]():        "PersonLimit",
	reflect.TypeFor[people.Level]():        "PersonLevel",
}

// schemaName names a type in the contract; those of a file have a word of their
// own before them, since a file has places and classes as the API has.
func schemaName(t reflect.Type, hint string) string {
	name := huma.DefaultSchemaNamer(t, hint)
	for t.Kind() == reflect.Pointer || t.Kind() == reflect.Slice {
		t = t.Elem()
	}
	if own, ok := schemaNames[t]; ok {
		return own
	}
	switch t.PkgPath() {
	case reflect.TypeFor[studiofile.File]().PkgPath():
		return "StudioFile" + strings.TrimPrefix(name, "File")
	case reflect.TypeFor[placefile.Row]().PkgPath():
		return "PlacesFile" + strings.TrimPrefix(name, "File")
	case reflect.TypeFor[peoplefile.Row]().PkgPath():
		return "PeopleFile" + name
	}
	return name
}

// registerAll adds every resource. Fixed paths come before those with a parameter:
// Fiber matches in this order.
func registerAll(r *routes) {
	registerStudio(r)
	registerFiles(r)
	registerMoves(r)
	registerOwnMoves(r)
	registerKit(r)
	registerLoads(r)
	registerClasses(r)
	registerCircuits(r)
	registerTemplates(r)
	registerRuns(r)
	registerScale(r)
	registerLog(r)
	registerPeople(r)
	registerHealth(r)
	registerAttendance(r)
	// The texts of the interface must know every code of a reason.
	codes := make([]any, 0, len(why.Codes))
	for _, c := range why.Codes {
		codes = append(codes, string(c))
	}
	schemas := r.OpenAPI().Components.Schemas
	schemas.Schema(reflect.TypeFor[why.Why](), true, "").Ref = "#/components/schemas/Why"
	schemas.Map()["Why"].Properties["code"].Enum = codes
}

// How much of a body that nobody read is read after all, and for how long, so that who
// still sends it gets the answer.
const (
	mostDrained  = 4 << 20
	drainPatient = 2 * time.Second
)

// drained makes sure that what nobody read of a body is not taken for the next request on
// the connection: it is read to its end, or the connection is closed.
func drained(c fiber.Ctx) error {
	err := c.Next()
	stream := c.Request().BodyStream()
	if stream == nil {
		return err
	}
	if conn := c.RequestCtx().Conn(); conn != nil {
		_ = conn.SetReadDeadline(time.Now().Add(drainPatient))
	}
	if _, end := io.CopyN(io.Discard, stream, mostDrained); !errors.Is(end, io.EOF) {
		c.RequestCtx().SetConnectionClose()
	}
	return err
}

// unnamed takes away the id that whoever asks has given a request: it gets one of ours,
// which finds it in the log.
func unnamed(c fiber.Ctx) error {
	c.Request().Header.Del(fiber.HeaderXRequestID)
	return c.Next()
}

func requestID(ctx context.Context) string { return requestid.FromContext(ctx) }

// logged writes the access log and counts: the route and not the address, so that
// no name or id stands in it.
func logged(m *metrics) fiber.Handler {
	return func(c fiber.Ctx) error {
		began := time.Now()
		err := c.Next()
		if err != nil {
			err = c.App().ErrorHandler(c, err)
		}
		m.count(c, began)
		level := slog.LevelDebug
		if c.Response().StatusCode() >= http.StatusInternalServerError {
			level = slog.LevelError
		}
		slog.LogAttrs(c.Context(), level, "request", slog.String("id", requestID(c.Context())),
			slog.String("method", c.Method()), slog.String("route", c.Route().Path),
			slog.Int("status", c.Response().StatusCode()), slog.Duration("took", time.Since(began)))
		return err
	}
}

// pageVersion names the built pages by their content: a page that meets another
// version in an answer offers to reload itself.
func pageVersion(ui fs.FS) string {
	if ui == nil {
		return ""
	}
	page, err := fs.ReadFile(ui, "index.html")
	if err != nil {
		return ""
	}
	sum := sha256.Sum256(page)
	return hex.EncodeToString(sum[:8])
}

// security is what browsers are told to allow: nothing from elsewhere.
var security = helmet.Config{
	ContentSecurityPolicy: "default-src 'self'; img-src 'self' data:; style-src 'self'; script-src 'self'; connect-src 'self'; font-src 'self'; " +
		"object-src 'none'; base-uri 'none'; form-action 'self'; frame-ancestors 'none'",
	XFrameOptions: "DENY", PermissionPolicy: "camera=(), microphone=(), geolocation=()",
}

// uncached keeps answers of the API out of caches that nobody asked for, and tells which
// pages the server has.
func uncached(version string) fiber.Handler {
	return func(c fiber.Ctx) error {
		if strings.HasPrefix(strings.ToLower(c.Path()), "/api") {
			c.Set("Cache-Control", "no-store")
			if version != "" {
				c.Set("X-Page-Version", version)
			}
		}
		return c.Next()
	}
}

// requireLoopbackHost refuses hosts that are not this machine's loopback, against pages that
// rebind their name to it, and changes asked for by a page of another origin.
func requireLoopbackHost(c fiber.Ctx) error {
	if !isLoopback(c.Host()) {
		return problem.New(problem.NotAllowed, http.StatusForbidden, "this server answers to localhost only")
	}
	if m := c.Method(); m == http.MethodGet || m == http.MethodHead || m == http.MethodOptions {
		return c.Next()
	}
	site, origin := c.Get("Sec-Fetch-Site"), c.Get("Origin")
	switch {
	case site == "same-origin" || site == "none":
	case site == "" && (origin == "" || strings.TrimPrefix(strings.TrimPrefix(origin, "http://"), "https://") == c.Host()):
	default:
		return problem.New(problem.NotAllowed, http.StatusForbidden,
			"changes are taken from this server's own pages only")
	}
	return c.Next()
}

// isLoopback tells whether a Host header means this machine to itself.
func isLoopback(host string) bool {
	if h, _, err := net.SplitHostPort(host); err == nil {
		host = h
	}
	host = strings.Trim(host, "[]")
	ip := net.ParseIP(host)
	return host == "localhost" || ip != nil && ip.IsLoopback()
}

// LoopbackOnly refuses requests for other hosts, as every address of the program does.
func LoopbackOnly(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		if !isLoopback(r.Host) {
			http.Error(w, "this server answers to localhost only", http.StatusForbidden)
			return
		}
		next.ServeHTTP(w, r)
	})
}

// limited ends a request's patience; the store's statements stop with it.
func limited(c fiber.Ctx) error {
	ctx, cancel := context.WithTimeout(store.WithOutcome(c.Context()), patience)
	defer cancel()
	c.SetContext(ctx)
	return c.Next()
}

func nobody(fiber.Ctx) (studio.Principal, error) { return studio.Principal{}, nil }

// principal puts on whose behalf a request is made into its context: what the request may
// see follows from that alone.
func principal(who func(fiber.Ctx) (studio.Principal, error)) fiber.Handler {
	return func(c fiber.Ctx) error {
		p, err := who(c)
		if err != nil {
			return err
		}
		c.SetContext(studio.With(c.Context(), p))
		return c.Next()
	}
}

// bounded refuses a body before it is read: one that is announced larger than any its
// address takes, and one that is packed, since it could be of any size unpacked.
func bounded(studios *studio.Studios) fiber.Handler {
	return func(c fiber.Ctx) error {
		head := &c.Request().Header
		if coding := string(head.ContentEncoding()); coding != "" && !strings.EqualFold(coding, "identity") {
			head.SetContentEncoding("") // nobody unpacks it later
			return problem.New(problem.Unsupported, http.StatusUnsupportedMediaType,
				"bodies are taken as they are: leave Content-Encoding out")
		}
		if head.ContentLength() > largest(c) {
			return fiber.ErrRequestEntityTooLarge
		}
		// The calculations answer to bytes, whatever their type says.
		if kind := string(head.ContentType()); kind != "" && head.ContentLength() != 0 &&
			!strings.HasPrefix(c.Path(), "/api/calc/") &&
			!isJSON(kind) {
			return problem.New(problem.Unsupported, http.StatusUnsupportedMediaType,
				"send the body as application/json in UTF-8")
		}
		if c.Path() == studioImport {
			back, err := studios.ImportTurn(c.Context())
			if err != nil {
				return err
			}
			defer back()
		}
		return c.Next()
	}
}

const tooLarge = "the body is larger than this address takes"

// isJSON tells whether a Content-Type means JSON, in UTF-8.
func isJSON(kind string) bool {
	media, with, err := mime.ParseMediaType(kind)
	charset := with["charset"]
	return err == nil && media == "application/json" && (charset == "" || strings.EqualFold(charset, "utf-8"))
}

// largest is how many bytes a body at this address may have.
func largest(c fiber.Ctx) int {
	if c.Path() == studioImport {
		return maxFile
	}
	return maxBody
}

// bodyOf gives the body of a request, a byte more than it may have at the most: then
// it is too large.
func bodyOf(c fiber.Ctx) io.Reader {
	most := int64(largest(c)) + 1
	if stream := c.Request().BodyStream(); stream != nil {
		return io.LimitReader(stream, most)
	}
	return io.LimitReader(bytes.NewReader(c.Request().Body()), most)
}

// ready tells whether the program can do its work: the database answers, and it takes
// changes and makes temporary tables.
func ready(studios *studio.Studios) fiber.Handler {
	return func(c fiber.Ctx) error {
		if err := studios.Ready(c.Context()); err != nil {
			if p := kindOf(err); p.Status == http.StatusServiceUnavailable {
				return p
			}
			slog.Error("not ready", "id", requestID(c.Context()), "cause", store.Cause(err))
			return problem.New(problem.Unavailable, http.StatusServiceUnavailable, "the database does not answer")
		}
		return c.SendStatus(http.StatusNoContent)
	}
}

// pages serves the built interface: hashed files for ever, the page itself never
// from a cache, and the page for every address the browser's router knows.
func pages(app *fiber.App, ui fs.FS) {
	if sub, err := fs.Sub(ui, "assets"); err == nil {
		app.Get(
			"/assets/*",
			static.New("", static.Config{FS: sub, Compress: true, ModifyResponse: func(c fiber.Ctx) error {
				c.Response().Header.Del("Last-Modified") // embedded files have no times
				c.Set("Cache-Control", "public, max-age=31536000, immutable")
				return nil
			}, NotFoundHandler: func(fiber.Ctx) error { return fiber.ErrNotFound }}),
		)
	}
	app.Get("/favicon.svg", static.New("favicon.svg", static.Config{FS: ui}))
	// Of no route's: so a wrong method at an address that there is stays a wrong method.
	app.Use(func(c fiber.Ctx) error {
		if m := c.Method(); m != http.MethodGet && m != http.MethodHead || c.Path() == "/api" ||
			strings.HasPrefix(strings.ToLower(c.Path()), "/api/") {
			return c.Next()
		}
		page, err := fs.ReadFile(ui, "index.html")
		if err != nil {
			return fiber.ErrNotFound
		}
		c.Set("Cache-Control", "no-cache")
		c.Set("Content-Type", "text/html; charset=utf-8")
		return c.Send(page)
	})
}

// asProblem writes any error of Fiber or of ours as a problem document.
func asProblem(c fiber.Ctx, err error) error {
	var p *problem.Problem
	var f *fiber.Error
	if !errors.As(err, &f) {
		p = toProblem(c.Context(), err)
	} else {
		t := map[int]problem.Type{http.StatusNotFound: problem.NotFound, http.StatusMethodNotAllowed: problem.NotAllowed,
			http.StatusRequestEntityTooLarge: problem.TooLarge, http.StatusUnsupportedMediaType: problem.Unsupported}[f.Code]
		if t == "" {
			t = problem.Malformed
		}
		detail, ok := map[problem.Type]string{problem.NotFound: "there is nothing at this address", problem.NotAllowed: "this address does not take the method",
			problem.TooLarge: tooLarge}[t]
		if !ok {
			detail = strings.ToLower(f.Message)
		}
		p = problem.New(t, f.Code, detail)
		p.RequestID = requestID(c.Context())
	}
	c.Set("Content-Type", "application/problem+json")
	for k, v := range p.GetHeaders() {
		c.Set(k, v[0])
	}
	return c.Status(p.Status).Send(p.JSON())
}
