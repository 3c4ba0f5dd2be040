// Drafts, changes of them by ProseMirror's own transform module, and what it makes of them: one line
// of JSON each, for core/draft to be compared with. The argument is how many.
import { Fragment, Slice } from 'prosemirror-model'
import { Transform, canSplit, canJoin, findWrapping, liftTarget } from 'prosemirror-transform'
import { schema } from './schema.js'

let seed = 1
const random = n => {
  // Marsaglia's xorshift: the same cases each time
  seed ^= seed << 13
  seed ^= seed >>> 17
  seed ^= seed << 5
  return (seed >>> 0) % n
}
const one = list => list[random(list.length)]
const some = (n, make) => Array.from({ length: 1 + random(n) }, make)
const words = ['ice', 'a b', 'ö€', '🚲', 'x']
const marks = () =>
  random(3)
    ? []
    : one([
        [schema.mark('strong')],
        [schema.mark('em')],
        [schema.mark('code')],
        [schema.mark('link', { href: 'https://a.example/' }), schema.mark('strong')]
      ])
const inline = () => (random(8) ? schema.text(one(words), marks()) : schema.node('hard_break'))
const line = () => schema.node('paragraph', null, Fragment.from(random(6) ? some(3, inline) : []))
const item = deep => schema.node('list_item', null, [line(), ...(deep && !random(3) ? [block(false)] : [])])
const cell = () => schema.node('table_cell', null, [line()])
const block = deep =>
  one([
    line,
    line,
    () => schema.node('heading', { level: 1 + random(4) }, some(2, inline)),
    () => schema.node('code_block', null, [schema.text('if x\n')]),
    () => schema.node('horizontal_rule'),
    () => schema.node('image', { src: 'https://a.example/i.png', alt: 'ice' }),
    ...(deep
      ? [
          () =>
            schema.node(
              'blockquote',
              { cite: '' },
              some(2, () => block(false))
            ),
          () =>
            schema.node(
              'bullet_list',
              null,
              some(3, () => item(true))
            ),
          () =>
            schema.node(
              'ordered_list',
              { order: 1 + random(3) },
              some(3, () => item(true))
            ),
          () =>
            schema.node(
              'table',
              null,
              some(2, () => schema.node('table_row', null, some(2, cell)))
            )
        ]
      : [])
  ])()
const draft = () =>
  schema.node(
    'doc',
    { title: 'T', description: '' },
    some(5, () => block(true))
  )

const changes = [
  (tr, from, to) => tr.delete(from, to),
  (tr, from, to) => tr.replaceWith(from, to, schema.text(one(words), marks())),
  (tr, from, to) => tr.replaceRange(from, to, draft().slice(1 + random(3))),
  (tr, from, to) => tr.replace(from, to, tr.doc.slice(from, to)),
  (tr, from, to) => tr.addMark(from, to, one(['strong', 'em', 'code'].map(m => schema.mark(m)))),
  (tr, from, to) => tr.addMark(from, to, schema.mark('link', { href: 'https://b.example/' })),
  (tr, from, to) => tr.removeMark(from, to),
  (tr, from, to) =>
    tr.setBlockType(from, to, one([schema.nodes.heading, schema.nodes.paragraph, schema.nodes.code_block])),
  (tr, from) => canSplit(tr.doc, from) && tr.split(from),
  (tr, from) => canJoin(tr.doc, from) && tr.join(from),
  (tr, from, to) => {
    const range = tr.doc.resolve(from).blockRange(tr.doc.resolve(to))
    const wrapping = range && findWrapping(range, one([schema.nodes.blockquote, schema.nodes.bullet_list]))
    if (wrapping) tr.wrap(range, wrapping)
  },
  (tr, from, to) => {
    const range = tr.doc.resolve(from).blockRange(tr.doc.resolve(to))
    const target = range && liftTarget(range)
    if (target !== null && range) tr.lift(range, target)
  },
  tr => {
    tr.doc.descendants((node, pos) => {
      if (node.type.name === 'heading' && !random(2)) tr.setNodeAttribute(pos, 'level', 1 + random(6))
    })
  },
  tr => tr.setDocAttribute('title', one(words)),
  (tr, from) => tr.insert(from, Slice.maxOpen(Fragment.from(block(true))).content)
]
// A place that is not within a sign of two code units.
const whole = (doc, pos) => {
  const at = doc.resolve(pos)
  return at.textOffset && /[\udc00-\udfff]/.test(at.parent.child(at.index()).text[at.textOffset]) ? pos + 1 : pos
}
for (let n = Number(process.argv[2]); n > 0;) {
  const doc = draft()
  const tr = new Transform(doc)
  for (let k = 1 + random(4); k > 0; k--) {
    const from = whole(tr.doc, random(tr.doc.content.size + 1))
    const to = whole(tr.doc, Math.min(tr.doc.content.size, from + random(1 + random(40))))
    const before = tr.steps.length
    try {
      one(changes)(tr, from, to)
      tr.doc.check()
    } catch {
      while (tr.steps.length > before) ((tr.doc = tr.docs.pop()), tr.steps.pop(), tr.mapping.maps.pop())
    }
  }
  if (!tr.steps.length) continue
  console.log(JSON.stringify({ doc: doc.toJSON(), steps: tr.steps.map(s => s.toJSON()), result: tr.doc.toJSON() }))
  n--
}
