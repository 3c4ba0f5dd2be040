// What a draft may hold. The names are those of core/draft, which checks what is sent.
import { Schema } from 'prosemirror-model'
import { tableNodes } from 'prosemirror-tables'

const leads = href => /^(https?:|mailto:|tel:|[^:]*$|[/?#])/i.test(href ?? '') && !/[\s\0]/.test(href ?? ' ')
const cleaned = href => (href ?? '').trim()

const tables = tableNodes({ tableGroup: 'block', cellContent: 'block+', cellAttributes: {} })

export const schema = new Schema({
  nodes: {
    doc: { content: 'block+', attrs: { title: { default: '' }, description: { default: '' } } },
    paragraph: { content: 'inline*', group: 'block', parseDOM: [{ tag: 'p' }], toDOM: () => ['p', 0] },
    heading: {
      content: 'inline*',
      group: 'block',
      defining: true,
      attrs: { level: { default: 2 } },
      parseDOM: [1, 2, 3, 4, 5, 6].map(level => ({ tag: `h${level}`, attrs: { level } })),
      toDOM: node => [`h${node.attrs.level}`, 0]
    },
    blockquote: {
      content: 'block+',
      group: 'block',
      defining: true,
      attrs: { cite: { default: '' } },
      parseDOM: [
        {
          tag: 'blockquote',
          getAttrs: d => ({ cite: leads(d.getAttribute('cite')) ? cleaned(d.getAttribute('cite')) : '' })
        }
      ],
      toDOM: node => ['blockquote', node.attrs.cite ? { cite: node.attrs.cite } : {}, 0]
    },
    bullet_list: { content: 'list_item+', group: 'block', parseDOM: [{ tag: 'ul' }], toDOM: () => ['ul', 0] },
    ordered_list: {
      content: 'list_item+',
      group: 'block',
      attrs: { order: { default: 1 } },
      parseDOM: [{ tag: 'ol', getAttrs: d => ({ order: Math.max(1, Number(d.getAttribute('start')) || 1) }) }],
      toDOM: node => ['ol', node.attrs.order > 1 ? { start: node.attrs.order } : {}, 0]
    },
    list_item: { content: 'paragraph block*', defining: true, parseDOM: [{ tag: 'li' }], toDOM: () => ['li', 0] },
    code_block: {
      content: 'text*',
      marks: '',
      group: 'block',
      code: true,
      defining: true,
      parseDOM: [{ tag: 'pre', preserveWhitespace: 'full' }],
      toDOM: () => ['pre', ['code', 0]]
    },
    horizontal_rule: { group: 'block', parseDOM: [{ tag: 'hr' }], toDOM: () => ['hr'] },
    image: {
      group: 'block',
      attrs: { src: { default: '' }, alt: { default: '' } },
      draggable: true,
      parseDOM: [
        {
          tag: 'img[src]',
          getAttrs: d =>
            /^(https?:|\/)/i.test(d.getAttribute('src'))
              ? { src: cleaned(d.getAttribute('src')), alt: d.getAttribute('alt') ?? '' }
              : false
        }
      ],
      toDOM: node => ['img', { src: node.attrs.src, alt: node.attrs.alt }]
    },
    ...tables,
    text: { group: 'inline' },
    hard_break: { inline: true, group: 'inline', selectable: false, parseDOM: [{ tag: 'br' }], toDOM: () => ['br'] }
  },
  marks: {
    link: {
      attrs: { href: {} },
      inclusive: false,
      parseDOM: [
        {
          tag: 'a[href]',
          getAttrs: d => (leads(d.getAttribute('href')) ? { href: cleaned(d.getAttribute('href')) } : false)
        }
      ],
      toDOM: node => ['a', { href: node.attrs.href, rel: 'noopener noreferrer' }, 0]
    },
    strong: {
      parseDOM: [
        { tag: 'strong' },
        { tag: 'b', getAttrs: d => d.style.fontWeight !== 'normal' && null },
        { style: 'font-weight', getAttrs: v => /^(bold(er)?|[6-9]\d{2})$/.test(v) && null }
      ],
      toDOM: () => ['strong', 0]
    },
    em: {
      parseDOM: [
        { tag: 'em' },
        { tag: 'i', getAttrs: d => d.style.fontStyle !== 'normal' && null },
        { style: 'font-style=italic' }
      ],
      toDOM: () => ['em', 0]
    },
    code: { parseDOM: [{ tag: 'code' }], toDOM: () => ['code', 0] }
  }
})

// Textblocks in the order of the text, with the position of their first character: as
// core/draft numbers them.
export const textblocks = doc => {
  const list = []
  doc.descendants((node, pos) => {
    if (!node.isTextblock) return true
    list.push({ node, pos, from: pos + 1 })
    return false
  })
  return list
}

export const textOf = node => node.textBetween(0, node.content.size, null, '\n')

// An image is named and not loaded: nothing on our pages comes from elsewhere.
export const imageView = node => {
  const dom = document.createElement('figure')
  dom.className = 'draft-image'
  const alt = document.createElement('span')
  alt.textContent = node.attrs.alt || tell('an image without a text')
  const at = document.createElement('span')
  at.className = 'quiet small'
  at.textContent = node.attrs.src
  dom.append('Image: ', alt, document.createElement('br'), at)
  return { dom }
}
