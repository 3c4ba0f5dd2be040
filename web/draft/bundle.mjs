// Bundles the draft's editor and the language check into web/kit/static/dist, and packs the
// dictionaries into lists. Run by `make assets`.
import { build } from 'esbuild'
import { copyFileSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs'
import { gzipSync } from 'node:zlib'
import { fileURLToPath } from 'node:url'

const here = p => fileURLToPath(new URL(p, import.meta.url))
const options = {
  bundle: true,
  minify: true,
  format: 'iife',
  target: 'es2022',
  legalComments: 'eof',
  metafile: true,
  logLevel: 'warning',
  absWorkingDir: here('../..')
}
const editor = await build({
  ...options,
  entryPoints: [here('editor/main.js')],
  outfile: here('../kit/static/dist/draft.js')
})

// Hunspell's code looks for its binary beside itself; here it is handed over by its address.
const language = await build({
  ...options,
  entryPoints: [here('editor/language.js')],
  outfile: here('../kit/static/dist/language.js'),
  external: ['fs/promises', 'module', 'fs', 'path', 'url'],
  define: { 'import.meta.url': 'self.location.href' }
})
copyFileSync(here('../../node_modules/hunspell-wasm/wasm/hunspell.wasm'), here('../kit/static/dist/hunspell.wasm'))

// The licences of the dictionaries go with them.
const lists = n => here(`../../lists/dictionaries/${n}`)
mkdirSync(lists(''), { recursive: true })
for (const name of ['en', 'en-gb', 'de', 'fr', 'es', 'it', 'nl', 'pt', 'pt-pt', 'sv']) {
  for (const part of ['aff', 'dic']) {
    writeFileSync(
      lists(`${name}.${part}.gz`),
      gzipSync(readFileSync(here(`../../node_modules/dictionary-${name}/index.${part}`)), { level: 9 })
    )
  }
  copyFileSync(here(`../../node_modules/dictionary-${name}/license`), lists(`${name}.license.txt`))
}

// Whose code that is, for the notice of licences.
const packages = [editor, language]
  .flatMap(b => Object.keys(b.metafile.inputs))
  .map(f => /^node_modules\/((?:@[^/]+\/)?[^/]+)/.exec(f)?.[1])
writeFileSync(
  here('../kit/static/dist/bundled.json'),
  JSON.stringify([...new Set([...packages, 'hunspell-wasm'])].filter(Boolean).sort(), null, 1) + '\n'
)
