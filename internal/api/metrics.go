package api

import (
	"net/http"
	"strconv"
	"time"

	"github.com/gofiber/fiber/v3"
	"github.com/prometheus/client_golang/prometheus"
	"github.com/prometheus/client_golang/prometheus/collectors"
	"github.com/prometheus/client_golang/prometheus/promhttp"
)

// metrics counts requests by route and status, never by address, so that no name
// or id stands in them.
type metrics struct {
	registry *prometheus.Registry
	requests *prometheus.CounterVec
	seconds  *prometheus.HistogramVec
}

func newMetrics() *metrics {
	m := &metrics{registry: prometheus.NewRegistry(),
		requests: prometheus.NewCounterVec(
			prometheus.CounterOpts{Name: "nimbleanvil_requests_total", Help: "Requests by method, route and status."},
			[]string{"method", "route", "status"},
		),
		seconds: prometheus.NewHistogramVec(
			prometheus.HistogramOpts{
				Name:    "nimbleanvil_request_seconds",
				Help:    "Time to answer, by route.",
				Buckets: prometheus.ExponentialBuckets(0.001, 2, 14),
			},
			[]string{"route"},
		)}
	m.registry.MustRegister(m.requests, m.seconds, collectors.NewGoCollector())
	return m
}

func (m *metrics) count(c fiber.Ctx, began time.Time) {
	route := c.Route().Path
	m.requests.WithLabelValues(c.Method(), route, strconv.Itoa(c.Response().StatusCode())).Inc()
	m.seconds.WithLabelValues(route).Observe(time.Since(began).Seconds())
}

// Metrics serves the counters in the Prometheus format; give it a port of its own
// on loopback.
func (s *Server) Metrics() http.Handler {
	return promhttp.HandlerFor(s.metrics.registry, promhttp.HandlerOpts{})
}
