// Marks in the text, and what they say where one clicks.
import { Plugin, PluginKey } from 'prosemirror-state'
import { Decoration, DecorationSet } from 'prosemirror-view'
import { textblocks } from './schema.js'

export const marksKey = new PluginKey('marks')

const decorations = (doc, marks) => {
  const blocks = textblocks(doc)
  const list = []
  for (const m of marks) {
    const b = blocks[m.block]
    if (!b || m.to > b.node.content.size) continue
    const spec = { ...m }
    if (m.kind === 'long-paragraph')
      list.push(
        Decoration.node(b.pos, b.pos + b.node.nodeSize, { class: 'mk-long-paragraph', title: tell(m.says) }, spec)
      )
    else
      list.push(
        Decoration.inline(b.from + m.from, b.from + m.to, { class: `mk mk-${m.kind}`, title: tell(m.says) }, spec)
      )
  }
  return DecorationSet.create(doc, list)
}

// Two layers: what the server measures, and what the language check finds.
export const marks = onSays =>
  new Plugin({
    key: marksKey,
    state: {
      init: () => ({ fit: DecorationSet.empty, language: DecorationSet.empty }),
      apply(tr, old) {
        const meta = tr.getMeta(marksKey)
        const next = { fit: old.fit.map(tr.mapping, tr.doc), language: old.language.map(tr.mapping, tr.doc) }
        if (meta) next[meta.layer] = decorations(tr.doc, meta.marks)
        return next
      }
    },
    props: {
      decorations(state) {
        const { fit, language } = marksKey.getState(state)
        return fit.add(state.doc, language.find())
      },
      handleClick(view, pos) {
        onSays(at(view.state, pos))
        return false
      }
    }
  })

export const at = (state, pos) => {
  const { fit, language } = marksKey.getState(state)
  return [...language.find(pos, pos), ...fit.find(pos, pos)].map(d => ({ ...d.spec, start: d.from, end: d.to }))
}

export const all = (state, is) => {
  const { fit, language } = marksKey.getState(state)
  return [...fit.find(), ...language.find()].filter(d => is(d.spec)).sort((a, b) => a.from - b.from)
}

export const setMarks = (view, layer, list) =>
  view.dispatch(view.state.tr.setMeta(marksKey, { layer, marks: list }).setMeta('addToHistory', false))
