// Copies what the interface needs from node_modules to web/kit/static/dist, and the fonts of
// printed briefs to render/fonts, which the program embeds. Run by `make assets`.
import { copyFileSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs'

const packages = new Set() // whose files are copied, for the notice of licences
const from = p => {
  packages.add(/^(?:@[^/]+\/)?[^/]+/.exec(p)[0])
  return new URL(`../../node_modules/${p}`, import.meta.url)
}
const to = p => new URL(`static/dist/${p}`, import.meta.url)
mkdirSync(to('fonts/'), { recursive: true })

copyFileSync(from('bootstrap/dist/css/bootstrap.min.css'), to('bootstrap.min.css'))
copyFileSync(from('bootstrap/dist/js/bootstrap.bundle.min.js'), to('bootstrap.bundle.min.js'))
copyFileSync(from('htmx.org/dist/htmx.min.js'), to('htmx.min.js'))
copyFileSync(from('sortablejs/Sortable.min.js'), to('sortable.min.js'))
for (const name of ['bootstrap.min.css', 'bootstrap.bundle.min.js']) {
  const text = readFileSync(to(name), 'utf8') // source maps are not shipped
  writeFileSync(to(name), text.replace(/\n\/[/*]# sourceMappingURL=.*$/m, ''))
}

const faces = []
const face = (family, pkg, weight, style) => {
  for (const range of ['latin', 'latin-ext']) {
    const file = `${pkg}-${range}-${weight}-${style}.woff2`
    copyFileSync(from(`@fontsource/${pkg}/files/${file}`), to(`fonts/${file}`))
    const unicode =
      range === 'latin'
        ? 'U+0000-00FF,U+0131,U+0152-0153,U+02BB-02BC,U+02C6,U+02DA,U+02DC,U+2000-206F,U+20AC,U+2122,U+2190-2193,U+2212,U+FEFF,U+FFFD'
        : 'U+0100-02BA,U+1E00-1E9F,U+1EF2-1EFF,U+20A0-20AB,U+20AD-20C0,U+2113'
    faces.push(
      `@font-face{font-family:"${family}";font-style:${style};font-weight:${weight};font-display:swap;src:url(fonts/${file}) format("woff2");unicode-range:${unicode}}`
    )
  }
}
face('Source Serif 4', 'source-serif-4', 400, 'normal')
face('Source Serif 4', 'source-serif-4', 400, 'italic')
face('Source Serif 4', 'source-serif-4', 600, 'normal')
face('Atkinson Hyperlegible Next', 'atkinson-hyperlegible-next', 400, 'normal')
face('Atkinson Hyperlegible Next', 'atkinson-hyperlegible-next', 400, 'italic')
face('Atkinson Hyperlegible Next', 'atkinson-hyperlegible-next', 600, 'normal')
writeFileSync(to('fonts.css'), faces.join('\n') + '\n')

// The brief as PDF needs its fonts as TrueType.
const forPDF = new URL('../../render/fonts/', import.meta.url)
mkdirSync(forPDF, { recursive: true })
for (const [folder, file] of [
  ['400Regular', 'SourceSerif4_400Regular'],
  ['400Regular_Italic', 'SourceSerif4_400Regular_Italic'],
  ['600SemiBold', 'SourceSerif4_600SemiBold']
]) {
  copyFileSync(from(`@expo-google-fonts/source-serif-4/${folder}/${file}.ttf`), new URL(`${file}.ttf`, forPDF))
}
writeFileSync(to('copied.json'), JSON.stringify([...packages].sort(), null, 1) + '\n')
