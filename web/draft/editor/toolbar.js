// The bar over the text: buttons and keys for the same commands.
import { baseKeymap, chainCommands, exitCode, lift, setBlockType, toggleMark, wrapIn } from 'prosemirror-commands'
import { redo, undo } from 'prosemirror-history'
import { InputRule, inputRules, textblockTypeInputRule, wrappingInputRule } from 'prosemirror-inputrules'
import { keymap } from 'prosemirror-keymap'
import { TextSelection } from 'prosemirror-state'
import { liftListItem, sinkListItem, splitListItem, wrapInList } from 'prosemirror-schema-list'
import {
  addColumnAfter,
  addRowAfter,
  deleteColumn,
  deleteRow,
  deleteTable,
  goToNextCell,
  isInTable
} from 'prosemirror-tables'
import { schema } from './schema.js'

const { nodes, marks } = schema

const inNode = (state, type) => {
  for (let d = state.selection.$from.depth; d > 0; d--) if (state.selection.$from.node(d).type === type) return true
  return false
}
const list = type => (state, dispatch) =>
  inNode(state, type) ? liftListItem(nodes.list_item)(state, dispatch) : wrapInList(type)(state, dispatch)
const quote = (state, dispatch) =>
  inNode(state, nodes.blockquote) ? lift(state, dispatch) : wrapIn(nodes.blockquote)(state, dispatch)
// A block that holds no text of a paragraph: behind it there is always one to go on in.
const putBlock = (state, node, inside) => {
  const tr = state.tr.replaceSelectionWith(node)
  const at = tr.mapping.map(state.selection.from, -1)
  let pos = -1
  tr.doc.nodesBetween(Math.max(0, at - 2), Math.min(tr.doc.content.size, at + node.nodeSize + 2), (n, p) => {
    if (pos < 0 && n.type === node.type && n.eq(node)) pos = p
    return pos < 0
  })
  if (pos < 0) return tr.scrollIntoView()
  const after = pos + node.nodeSize
  if (!tr.doc.resolve(after).nodeAfter?.isTextblock) tr.insert(after, nodes.paragraph.create())
  return tr.setSelection(TextSelection.near(tr.doc.resolve(inside ? pos + 1 : after + 1))).scrollIntoView()
}
const table = (state, dispatch) => {
  const cell = type => type.createAndFill()
  const row = type => nodes.table_row.create(null, [cell(type), cell(type), cell(type)])
  dispatch?.(
    putBlock(
      state,
      nodes.table.create(null, [row(nodes.table_header), row(nodes.table_cell), row(nodes.table_cell)]),
      true
    )
  )
  return true
}

export const markActive = (state, type) => {
  const { from, $from, to, empty } = state.selection
  return empty ? !!type.isInSet(state.storedMarks || $from.marks()) : state.doc.rangeHasMark(from, to, type)
}

// The stretch around the cursor that has one link.
export const linkAround = state => {
  const { $from } = state.selection
  const mark = marks.link.isInSet($from.marks()) ?? $from.nodeAfter?.marks.find(m => m.type === marks.link)
  if (!mark) return null
  let from = $from.pos,
    to = $from.pos
  const start = $from.start()
  $from.parent.forEach((node, offset) => {
    const a = start + offset,
      b = a + node.nodeSize
    if (mark.isInSet(node.marks) && a <= $from.pos && b >= $from.pos) {
      from = Math.min(from, a)
      to = Math.max(to, b)
    }
  })
  return { mark, from, to }
}

// Small forms that ask for an address.
const form = (id, fill, done) => view => {
  const dialog = document.getElementById(id)
  const fields = dialog.querySelector('form').elements
  fill(view.state, fields)
  dialog.onclose = () => {
    if (dialog.returnValue === 'yes') done(view, fields)
    dialog.returnValue = ''
    view.focus()
  }
  dialog.showModal()
}
const whole = href => (/^[\w.-]+\.[a-z]{2,}(\/|$)/i.test(href) ? `https://${href}` : href)

export const askLink = form(
  'ask-link',
  (state, f) => {
    f.href.value = linkAround(state)?.mark.attrs.href ?? ''
  },
  (view, f) => {
    const { state } = view
    const around = linkAround(state)
    const href = whole(f.href.value.trim())
    let { from, to } = around ?? state.selection
    let tr = state.tr
    if (!href) {
      view.dispatch(tr.removeMark(from, to, marks.link))
      return
    }
    if (from === to) {
      tr = tr.insertText(href, from)
      to = from + href.length
    }
    view.dispatch(tr.removeMark(from, to, marks.link).addMark(from, to, marks.link.create({ href })))
  }
)
export const askImage = form(
  'ask-image',
  (state, f) => {
    const n = state.selection.node
    f.src.value = n?.attrs.src ?? ''
    f.alt.value = n?.attrs.alt ?? ''
  },
  (view, f) => {
    const src = whole(f.src.value.trim())
    if (src) view.dispatch(putBlock(view.state, nodes.image.create({ src, alt: f.alt.value.trim() })))
  }
)

// The outline of the brief: all of it into an empty text, else what of it is not there yet.
export const putOutline = outline => (state, dispatch) => {
  const have = new Set()
  state.doc.descendants(n => {
    if (n.type === nodes.heading) have.add(n.textContent.trim().toLowerCase())
    return !n.isTextblock
  })
  const blocks = []
  outline.forEach(n => {
    if (n.type === nodes.heading && have.has(n.textContent.trim().toLowerCase())) {
      blocks.skip = true
      return
    }
    if (n.type === nodes.heading) blocks.skip = false
    if (!blocks.skip) blocks.push(n)
  })
  if (!blocks.length) return false
  if (dispatch) {
    const empty = state.doc.childCount === 1 && state.doc.firstChild.content.size === 0
    const tr = state.tr
    empty ? tr.replaceWith(0, state.doc.content.size, blocks) : tr.insert(state.doc.content.size, blocks)
    if (empty) {
      // the cursor goes to the first place to write
      let at = 0
      tr.doc.forEach((n, pos) => {
        if (!at && n.type === nodes.paragraph) at = pos + 1
      })
      tr.setSelection(TextSelection.create(tr.doc, at || 1))
    }
    dispatch(tr.scrollIntoView())
  }
  return true
}

const heading = level => (state, dispatch) => setBlockType(nodes.heading, { level })(state, dispatch)
const hardBreak = chainCommands(exitCode, (state, dispatch) => {
  dispatch?.(state.tr.replaceSelectionWith(nodes.hard_break.create()).scrollIntoView())
  return true
})

export const commands = outline => ({
  strong: toggleMark(marks.strong),
  em: toggleMark(marks.em),
  bullets: list(nodes.bullet_list),
  numbers: list(nodes.ordered_list),
  quote,
  table,
  undo,
  redo,
  rule: (state, dispatch) => {
    dispatch?.(putBlock(state, nodes.horizontal_rule.create()))
    return true
  },
  outline: putOutline(outline),
  paragraph: setBlockType(nodes.paragraph),
  code: setBlockType(nodes.code_block),
  h1: heading(1),
  h2: heading(2),
  h3: heading(3),
  h4: heading(4),
  'row-after': addRowAfter,
  'row-gone': deleteRow,
  'column-after': addColumnAfter,
  'column-gone': deleteColumn,
  'table-gone': deleteTable
})

export const keys = (outline, asks) => {
  const c = commands(outline)
  const own = {
    'Mod-b': c.strong,
    'Mod-i': c.em,
    'Mod-z': undo,
    'Mod-y': redo,
    'Mod-Shift-z': redo,
    'Mod-Alt-o': c.outline,
    'Mod-Alt-0': c.paragraph,
    'Mod-Alt-1': c.h1,
    'Mod-Alt-2': c.h2,
    'Mod-Alt-3': c.h3,
    'Mod-Alt-4': c.h4,
    'Mod-Shift-8': c.bullets,
    'Mod-Shift-7': c.numbers,
    'Mod-Shift-9': c.quote,
    'Mod-k': (s, d, view) => {
      asks.link(view)
      return true
    },
    'Mod-s': () => {
      asks.keep()
      return true
    },
    Enter: splitListItem(nodes.list_item),
    'Shift-Enter': hardBreak,
    Tab: chainCommands(goToNextCell(1), sinkListItem(nodes.list_item)),
    'Shift-Tab': chainCommands(goToNextCell(-1), liftListItem(nodes.list_item))
  }
  return [keymap(own), keymap(baseKeymap)]
}

// What one types at the beginning of a line: "## ", "- ", "1. ", "> ".
export const rules = inputRules({
  rules: [
    textblockTypeInputRule(/^(#{1,4})\s$/, nodes.heading, m => ({ level: m[1].length })),
    wrappingInputRule(/^\s*[-*]\s$/, nodes.bullet_list),
    wrappingInputRule(
      /^(\d+)\.\s$/,
      nodes.ordered_list,
      m => ({ order: Number(m[1]) }),
      (m, n) => n.childCount + n.attrs.order === Number(m[1])
    ),
    wrappingInputRule(/^\s*>\s$/, nodes.blockquote),
    new InputRule(/^---$/, (state, m, start, end) =>
      state.tr.replaceRangeWith(start - 1, end, nodes.horizontal_rule.create())
    )
  ]
})

export const styleOf = state => {
  const n = state.selection.$from.parent
  return n.type === nodes.heading ? `h${n.attrs.level}` : n.type === nodes.code_block ? 'code' : 'paragraph'
}
export { isInTable }
