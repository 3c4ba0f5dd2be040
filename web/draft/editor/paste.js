// What word processors put on the clipboard, made plain HTML: lists that are paragraphs with a
// sign before them become lists, bold and italics become elements, and all that is no text goes.

// Addresses, spans of cells, and what our own editor needs to know its own text again.
const kept = new Set(['href', 'src', 'alt', 'cite', 'start', 'colspan', 'rowspan', 'data-pm-slice'])

// Styles are read under another name: under their own the browser would try to apply them.
const css = e => e.getAttribute('data-css') ?? ''

const itemOf = p => {
  const m = /mso-list:\s*(l\d+)\s+level(\d)/i.exec(css(p))
  if (m) return { list: m[1], level: Number(m[2]) }
  return /MsoListParagraph/.test(p.className) ? { list: '', level: 1 } : null
}

// The sign of an item stands in a span of its own: "·", "1.", "a)".
const signOf = p => {
  const ignored = [...p.querySelectorAll('span')].find(s => /mso-list:\s*ignore/i.test(css(s)))
  const sign = ignored?.textContent.trim() ?? ''
  ignored?.remove()
  return sign
}

const renamed = (doc, e, tag) => {
  const to = doc.createElement(tag)
  to.append(...e.childNodes)
  e.replaceWith(to)
  return to
}

const lists = doc => {
  let open = [],
    of = null // lists, outermost first
  for (const p of [...doc.querySelectorAll('p')]) {
    const item = itemOf(p)
    if (!item) continue
    const ordered = /^[\da-z]{1,4}[.)]/i.test(signOf(p))
    if (open.length && (p.previousElementSibling !== open[0] || item.list !== of)) open = []
    of = item.list
    open = open.slice(0, item.level)
    while (open.length < item.level) {
      const list = doc.createElement(ordered ? 'ol' : 'ul')
      const parent = open.at(-1)
      if (!parent) p.before(list)
      else (parent.lastElementChild ?? parent.appendChild(doc.createElement('li'))).append(list)
      open.push(list)
    }
    const li = doc.createElement('li')
    li.append(...p.childNodes)
    open.at(-1).append(li)
    p.remove()
  }
}

// Looks that are meant: bold and italics, by the styles that say so.
const looks = doc => {
  for (const e of [...doc.querySelectorAll('[data-css]')]) {
    const style = css(e)
    if (e.tagName === 'B' && /font-weight:\s*(normal|400)/i.test(style)) {
      renamed(doc, e, 'span')
      continue
    }
    for (const [tag, is] of [
      ['strong', /font-weight:\s*(bold|[6-9]\d\d)/i],
      ['em', /font-style:\s*italic/i]
    ]) {
      if (!is.test(style) || !/^(SPAN|A|FONT)$/.test(e.tagName)) continue
      const to = doc.createElement(tag)
      to.append(...e.childNodes)
      e.append(to)
    }
  }
}

// Control characters are no text; the server puts a space for each, and so do we.
export const plainText = text => text.replace(/[\0-\x08\x0b\x0c\x0e-\x1f]/g, ' ')

export const plainHTML = html => {
  const text = plainText(html)
    .replace(/<!--\[if[^>]*\]>|<!\[if[^>]*\]>|<!\[endif\](--)?>/gi, '') // comments that only the word processor reads
    .replace(/<style[\s\S]*?<\/style>|<script[\s\S]*?<\/script>/gi, '')
    .replace(/(<[a-z][^>]*?\s)style(\s*=)/gi, '$1data-css$2')
    .replace(/<[a-z][^>]*>/gi, tag => tag.replace(/\son\w+\s*=\s*("[^"]*"|'[^']*'|[^\s>]*)/gi, ''))
  const doc = new DOMParser().parseFromString(text, 'text/html')
  for (const e of doc.querySelectorAll('meta, link, title, xml')) e.remove()
  for (const e of [...doc.querySelectorAll('*')].filter(e => e.tagName.includes(':'))) e.replaceWith(...e.childNodes)
  for (const p of doc.querySelectorAll('p.MsoTitle')) renamed(doc, p, 'h1')
  lists(doc)
  looks(doc)
  for (const e of doc.body.querySelectorAll('*'))
    for (const a of [...e.attributes]) if (!kept.has(a.name)) e.removeAttribute(a.name)
  return doc.body.innerHTML
}
