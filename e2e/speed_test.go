package e2e

import (
	"slices"
	"testing"

	"github.com/chromedp/cdproto/emulation"
	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// thirtyEdits changes a circuit thirty times by its field of rest, as a person
// does, and gives the milliseconds from each input to the second frame after all
// numbers that follow from it stand there.
const thirtyEdits = `(async () => {
	const field = document.querySelector('#set-rest'), frame = () => new Promise(requestAnimationFrame), out = []
	const shown = () => document.querySelector('#total').textContent + document.querySelector('#slack').textContent
	for (let i = 0; i < 30; i++) {
		const before = shown()
		Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value').set.call(field, String(i % 2 ? 20 : 15))
		performance.mark('input')
		field.dispatchEvent(new Event('input', { bubbles: true }))
		field.dispatchEvent(new Event('change', { bubbles: true }))
		while (shown() === before) await frame()
		await frame(); await frame()
		out.push(performance.measure('edit', 'input').duration)
		while (document.querySelector('#saved').dataset.state !== 'saved') await frame()
	}
	return out })()`

// TestEditToNumbers: thirty edits are answered one by one, each with new numbers;
// the time from input to paint is told, at full speed and with the browser's
// processor slowed down four times (docs/benchmarks.md).
func TestEditToNumbers(t *testing.T) {
	s := start(t, "")
	next := s.get("/api/today")["next"]
	b := s.open("/circuit/"+dig(t, next, "id").(string), 1280, 800)
	b.until("document.querySelectorAll('.cell').length > 15")
	for _, slow := range []float64{1, 4} {
		_, err := chromedp.Call(b.ctx, emulation.SetCPUThrottlingRate, emulation.SetCPUThrottlingRateParams{Rate: slow})
		require.NoError(t, err)
		ms := eval[[]float64](b, thirtyEdits)
		require.Len(t, ms, 30)
		slices.Sort(ms)
		t.Logf("edit to numbers, processor slowed %v times: median %.0f ms, worst %.0f ms", slow, ms[15], ms[29])
	}
	assert.Equal(t, 61.0, s.get("/api/circuits/" + dig(t, next, "circuitId").(string))["version"], "every edit is a version")
}
