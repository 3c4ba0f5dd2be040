// The paper a person chose, before anything is drawn.
try {
  const chosen = localStorage.getItem('paper')
  const dark = chosen ? chosen === 'dark' : matchMedia('(prefers-color-scheme: dark)').matches
  if (dark) document.documentElement.dataset.bsTheme = 'dark'
} catch {
  /* storage may be forbidden; light paper then */
}
