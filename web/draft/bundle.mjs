// Bundles the draft's editor and the language check into web/kit/static/dist, and packs the
// dictionaries. Run by `make assets`.
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
  legalComments: 'none',
  logLevel: 'warning',
  absWorkingDir: here('../..')
}
await build({ ...options, entryPoints: [here('editor/main.js')], outfile: here('../kit/static/dist/draft.js') })

// Hunspell's code looks for its binary beside itself; here it is handed over by its address.
await build({
  ...options,
  entryPoints: [here('editor/language.js')],
  outfile: here('../kit/static/dist/language.js'),
  external: ['fs/promises', 'module', 'fs', 'path', 'url'],
  define: { 'import.meta.url': 'self.location.href' }
})
copyFileSync(here('../../node_modules/hunspell-wasm/wasm/hunspell.wasm'), here('../kit/static/dist/hunspell.wasm'))

// The licences of the dictionaries go with them.
mkdirSync(here('../kit/static/dist/dictionaries'), { recursive: true })
for (const name of ['en', 'en-gb', 'de', 'fr', 'es', 'it', 'nl', 'pt', 'pt-pt', 'sv']) {
  for (const part of ['aff', 'dic']) {
    writeFileSync(
      here(`../kit/static/dist/dictionaries/${name}.${part}.gz`),
      gzipSync(readFileSync(here(`../../node_modules/dictionary-${name}/index.${part}`)), { level: 9 })
    )
  }
  copyFileSync(
    here(`../../node_modules/dictionary-${name}/license`),
    here(`../kit/static/dist/dictionaries/${name}.license.txt`)
  )
}
