// What word processors put on the clipboard, made plain HTML: lists that are paragraphs with a
// sign before them become lists; what is no text goes.

const isItem = p => /mso-list:\s*l\d+\s+level(\d)/i.exec(p.getAttribute('style') ?? '') ?? (/MsoListParagraph/.test(p.className) ? [null, '1'] : null)

// The sign of an item stands in a span of its own: "·", "1.", "a)".
const signOf = p => {
  const ignored = [...p.querySelectorAll('span')].find(s => /mso-list:\s*ignore/i.test(s.getAttribute('style') ?? ''))
  if (!ignored) return null
  const sign = ignored.textContent.trim()
  ignored.remove()
  return sign
}

export const plainHTML = html => {
  // Comments that only the word processor reads stand around the signs.
  const doc = new DOMParser().parseFromString(html.replace(/<!--\[if[^>]*\]>|<!\[if[^>]*\]>|<!\[endif\](-->)?/gi, ''), 'text/html')
  for (const e of doc.querySelectorAll('style, script, meta, link, title, o\\:p, xml')) e.tagName === 'O:P' ? e.replaceWith(...e.childNodes) : e.remove()
  for (const h of doc.querySelectorAll('p.MsoTitle')) {
    const h1 = doc.createElement('h1')
    h1.append(...h.childNodes)
    h.replaceWith(h1)
  }
  let open = [] // lists, outermost first
  for (const p of [...doc.querySelectorAll('p')]) {
    const item = isItem(p)
    if (!item) { open = []; continue }
    const level = Number(item[1])
    const ordered = /^[\da-z]{1,4}[.)]/i.test(signOf(p) ?? '')
    if (open.length && p.previousElementSibling !== open[0]) open = []
    open = open.slice(0, level)
    while (open.length < level) {
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
  return doc.body.innerHTML
}
