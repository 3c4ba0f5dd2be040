// Advance widths of a TrueType font, in thousandths of its size: how wide a title is.
// generate.mjs writes those of Liberation Sans, whose widths are Arial's, to widths.tsv.
import { readFileSync } from 'node:fs'

export function widths(file) {
  const font = readFileSync(file)
  const table = {}
  for (let i = 0; i < font.readUInt16BE(4); i++) {
    const at = 12 + 16 * i
    table[font.toString('latin1', at, at + 4)] = font.readUInt32BE(at + 8)
  }
  const unitsPerEm = font.readUInt16BE(table.head + 18)
  const metrics = font.readUInt16BE(table.hhea + 34) // glyphs with a width of their own
  let cmap = 0
  for (let i = 0; i < font.readUInt16BE(table.cmap + 2); i++) {
    const at = table.cmap + 4 + 8 * i
    const sub = table.cmap + font.readUInt32BE(at + 4)
    if (font.readUInt16BE(at) === 3 && font.readUInt16BE(at + 2) === 1 && font.readUInt16BE(sub) === 4) cmap = sub
  }
  const segments = font.readUInt16BE(cmap + 6) / 2
  const glyph = code => {
    for (let i = 0; i < segments; i++) {
      const end = font.readUInt16BE(cmap + 14 + 2 * i)
      if (code > end) continue
      const startAt = cmap + 16 + 2 * (segments + i)
      const start = font.readUInt16BE(startAt)
      if (code < start) return 0
      const delta = font.readInt16BE(startAt + 2 * segments)
      const offsetAt = startAt + 4 * segments
      const offset = font.readUInt16BE(offsetAt)
      if (offset === 0) return (code + delta) & 0xffff
      const g = font.readUInt16BE(offsetAt + offset + 2 * (code - start))
      return g === 0 ? 0 : (g + delta) & 0xffff
    }
    return 0
  }
  const rows = []
  for (let code = 0x20; code <= 0x2122; code++) {
    if ((code > 0x17f && code < 0x2010) || (code >= 0x7f && code < 0xa0)) continue
    const g = glyph(code)
    if (g === 0) continue
    const width = font.readUInt16BE(table.hmtx + 4 * Math.min(g, metrics - 1))
    rows.push([String.fromCodePoint(code), Math.round((1000 * width) / unitsPerEm)].join('\t'))
  }
  return rows
}
