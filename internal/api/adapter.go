package api

import (
	"context"
	"crypto/tls"
	"io"
	"mime/multipart"
	"net/http"
	"net/url"
	"strings"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/gofiber/fiber/v3"
)

// adapter lets Huma register its operations on Fiber v3; Huma ships one for
// Fiber v2 only.
type adapter struct{ app *fiber.App }

func (a *adapter) Handle(op *huma.Operation, handler func(huma.Context)) {
	path := strings.NewReplacer("{", ":", "}", "").Replace(op.Path)
	a.app.Add([]string{op.Method}, path, func(c fiber.Ctx) error {
		c.SetContext(context.WithValue(c.Context(), fiberKey{}, c))
		handler(&fiberContext{op: op, c: c})
		return nil
	})
}

func (a *adapter) ServeHTTP(w http.ResponseWriter, r *http.Request) {
	resp, err := a.app.Test(r, fiber.TestConfig{Timeout: time.Minute, FailOnTimeout: true})
	if err != nil {
		http.Error(w, err.Error(), http.StatusInternalServerError)
		return
	}
	defer func() { _ = resp.Body.Close() }()
	for k, vs := range resp.Header {
		for _, v := range vs {
			w.Header().Add(k, v)
		}
	}
	w.WriteHeader(resp.StatusCode)
	_, _ = io.Copy(w, resp.Body)
}

// fiberContext is one request as Huma sees it. Fiber's strings are views of a
// buffer that is used again, so all that leave here are copies.
type fiberContext struct {
	op     *huma.Operation
	c      fiber.Ctx
	status int
}

var _ huma.Context = (*fiberContext)(nil)

func (f *fiberContext) Operation() *huma.Operation { return f.op }
func (f *fiberContext) Context() context.Context   { return f.c.Context() }
func (f *fiberContext) Method() string             { return strings.Clone(f.c.Method()) }
func (f *fiberContext) Host() string               { return strings.Clone(f.c.Host()) }
func (f *fiberContext) RemoteAddr() string         { return f.c.RequestCtx().RemoteAddr().String() }

func (f *fiberContext) URL() url.URL {
	u, err := url.Parse(strings.Clone(f.c.OriginalURL()))
	if err != nil {
		return url.URL{}
	}
	return *u
}

// Param is unescaped here: Fiber does not.
func (f *fiberContext) Param(name string) string {
	v := strings.Clone(f.c.Params(name))
	if u, err := url.PathUnescape(v); err == nil {
		return u
	}
	return v
}

func (f *fiberContext) Query(name string) string  { return strings.Clone(f.c.Query(name)) }
func (f *fiberContext) Header(name string) string { return strings.Clone(f.c.Get(name)) }

func (f *fiberContext) EachHeader(cb func(name, value string)) {
	for k, v := range f.c.Request().Header.All() {
		cb(string(k), string(v))
	}
}

// BodyReader gives Huma an empty object: readBody reads what really came.
func (f *fiberContext) BodyReader() io.Reader { return strings.NewReader("{}") }

func (f *fiberContext) GetMultipartForm() (*multipart.Form, error) { return f.c.MultipartForm() }

func (f *fiberContext) SetReadDeadline(t time.Time) error {
	return f.c.RequestCtx().Conn().SetReadDeadline(t)
}

func (f *fiberContext) SetStatus(code int) {
	f.status = code
	f.c.Status(code)
}

func (f *fiberContext) Status() int                     { return f.status }
func (f *fiberContext) SetHeader(name, value string)    { f.c.Set(name, value) }
func (f *fiberContext) AppendHeader(name, value string) { f.c.Append(name, value) }
func (f *fiberContext) BodyWriter() io.Writer           { return f.c }
func (f *fiberContext) TLS() *tls.ConnectionState       { return f.c.RequestCtx().TLSConnectionState() }
func (f *fiberContext) Version() huma.ProtoVersion      { return huma.ProtoVersion{Proto: f.c.Protocol()} }
