package e2e

import "github.com/chromedp/chromedp"

// widths are those of a window at 400 % of 1280 (WCAG 1.4.10), of a phone, of a window at 200 % of 1280, of a tablet, of a laptop and of a wide screen, in CSS pixels.
var widths = []int{320, 390, 640, 1024, 1280, 1920}

// layout is what is wrong with how the page stands: what has to be scrolled sideways, what is cut off in a button, what is hidden below
// something else, and targets under 24 px (WCAG 2.2, 2.5.8: those in a sentence excepted, and those that stand far enough from others).
const layout = `(() => {
  const wrong = [], name = el => (el.tagName + '.' + [...el.classList].join('.') + ' ' + (el.getAttribute('aria-label') || el.textContent).trim().slice(0, 40)).replace(/\s+/g, ' ')
  const wide = document.documentElement.scrollWidth
  if (wide > innerWidth) {
    const out = [...document.querySelectorAll('main *, header *')].filter(el => el.getBoundingClientRect().right > innerWidth + 1 && ![...function* (e) { for (; e; e = e.parentElement) yield e }(el.parentElement)].some(p => /auto|scroll|hidden/.test(getComputedStyle(p).overflowX) && p !== document.body && p !== document.documentElement))
    wrong.push('sideways by ' + (wide - innerWidth) + ': ' + out.slice(0, 3).map(name).join('; '))
  }
  const seen = el => { const b = el.getBoundingClientRect(); return b.width > 1 && b.height > 1 && el.checkVisibility({ contentVisibilityAuto: true, visibilityProperty: true, opacityProperty: true }) && !el.closest('.visually-hidden, .visually-hidden-focusable, svg') }
  const targets = [...document.querySelectorAll('main a[href], main button, main input:not([type=hidden]), main select, main summary, main textarea, header a[href], header button, header summary')].filter(seen)
  for (const el of targets) {
    if (el.matches('button, .btn, summary') && el.scrollWidth > el.clientWidth + 1 && getComputedStyle(el).overflowX !== 'visible' && getComputedStyle(el).textOverflow !== 'ellipsis') wrong.push('cut off: ' + name(el))
    const b = el.getBoundingClientRect(), x = b.left + b.width / 2, y = b.top + b.height / 2
    if (y < 0 || y > innerHeight || x < 0 || x > innerWidth) continue
    let top = document.elementFromPoint(x, y)
    if (getComputedStyle(el).display === 'inline' && el.getClientRects().length > 1) top = el // of two lines its middle may be another's
    const over = top?.closest('dialog[open], .pane, .modal, .notice, details[open]')
    if (over && !over.contains(el)) continue // what was opened lies over what is below
    if (top && top !== el && !el.contains(top) && !top.contains(el) && !(el.labels && [...el.labels].some(l => l.contains(top)))) wrong.push('below another: ' + name(el) + ' under ' + name(top))
  }
  const box = el => el.closest('label')?.contains(el) ? el.closest('label').getBoundingClientRect() : el.getBoundingClientRect()
  const near = (b, x, y) => Math.hypot(Math.max(b.left - x, 0, x - b.right), Math.max(b.top - y, 0, y - b.bottom))
  const boxes = targets.map(box), layer = el => el.closest('.pane, dialog, details') // lies over what is below
  for (const [i, el] of targets.entries()) {
    const b = boxes[i]
    if (b.width >= 24 && b.height >= 24) continue
    if (getComputedStyle(el).display === 'inline' && el.parentElement.textContent.trim().length > el.textContent.trim().length) continue
    const x = b.left + b.width / 2, y = b.top + b.height / 2
    const other = targets.findIndex((o, j) => j !== i && layer(o) === layer(el) && !o.contains(el) && !el.contains(o) && near(boxes[j], x, y) < 12)
    if (other >= 0) wrong.push('under 24 px: ' + name(el) + ' beside ' + name(targets[other]))
  }
  return [...new Set(wrong)].slice(0, 6)
})()`

// stands holds that the page stands well at every width.
func (b *browser) stands(view string) {
	b.Helper()
	for _, w := range widths {
		b.do(chromedp.EmulateViewport(int64(w), 844))
		for _, wrong := range js[[]string](b, layout) {
			b.Errorf("%s at %d: %s", view, w, wrong)
		}
	}
	b.do(chromedp.EmulateViewport(1280, 800))
}
