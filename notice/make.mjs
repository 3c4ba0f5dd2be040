// Writes notice/NOTICE.txt: every Go module that is linked into the program, every npm package
// whose code or fonts are shipped with it, and the data, each with its licence. Run by `make notice`.
import { execFileSync } from 'node:child_process'
import { existsSync, readFileSync, readdirSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { fileURLToPath } from 'node:url'

const root = fileURLToPath(new URL('..', import.meta.url))
const go = (...args) => execFileSync('go', args, { cwd: root, encoding: 'utf8', maxBuffer: 1 << 28 })

// What a folder says of its licence: the files that are called so.
const licence = folder =>
  readdirSync(folder)
    .filter(n => /^((un)?licen[cs]e|copying|notice|ofl|patents)([._-].*)?$/i.test(n) && !/\.(go|js|ts)$/.test(n))
    .sort()
    .map(n => readFileSync(join(folder, n), 'utf8').trim())
    .join('\n\n')

const parts = [{ name: 'Go', version: '', text: licence(go('env', 'GOROOT').trim()) }]
const modules = go('list', '-deps', '-f', '{{with .Module}}{{.Path}}\t{{.Version}}\t{{.Dir}}{{end}}', './cmd/corpulan')
for (const line of [...new Set(modules.split('\n'))].filter(Boolean).sort()) {
  const [name, version, folder] = line.split('\t')
  if (version) parts.push({ name, version, text: licence(folder) })
}
for (const name of shipped()) {
  const folder = join(root, 'node_modules', name)
  const about = JSON.parse(readFileSync(join(folder, 'package.json'), 'utf8'))
  parts.push({ name, version: about.version, says: about.license, text: licence(folder) })
}

// The npm packages whose files are shipped, as the two scripts note them that copy and bundle.
function shipped() {
  const dist = join(root, 'web/kit/static/dist')
  return [
    ...new Set(['copied.json', 'bundled.json'].flatMap(n => JSON.parse(readFileSync(join(dist, n), 'utf8'))))
  ].sort()
}

const without = parts.filter(p => !p.text && !p.says)
if (without.length) throw new Error('no licence is known of ' + without.map(p => p.name).join(', '))

const line = '='.repeat(78)
const out = [
  'Corpulan is made of its own code, whose licence is its owner’s to choose, and of what is named here.',
  'Each part is under its own licence, which follows it; what is under one text stands above it together.',
  ''
]
const byText = new Map()
for (const p of parts) {
  const text = p.text || `Its package names its licence and has no text of it: ${p.says}.`
  byText.set(text, [...(byText.get(text) ?? []), p])
}
for (const [text, list] of byText) {
  out.push(
    line,
    ...list.map(p => [p.name, p.version, p.says && `(${p.says})`].filter(Boolean).join(' ')),
    line,
    '',
    text,
    ''
  )
}
for (const [title, file] of [
  ['Word lists in the program', 'core/lexicon/data/ATTRIBUTION.md'],
  ['Word lists and dictionaries beside the program', 'lists/SOURCES.md']
]) {
  out.push(
    line,
    title,
    line,
    '',
    readFileSync(join(root, file), 'utf8')
      .replace(/^#.*\n/, '')
      .trim(),
    ''
  )
}
writeFileSync(join(root, 'notice/NOTICE.txt'), out.join('\n').replace(/[ \t]+$/gm, '') + '\n')
