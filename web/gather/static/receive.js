// Takes the page that a bookmarklet sends from its window. Nothing is handed in
// before the person presses the button.
;(() => {
  const form = document.querySelector('[data-receive]')
  addEventListener('message', e => {
    const { url, html } = e.data ?? {}
    if (typeof url !== 'string' || typeof html !== 'string' || !/^https?:/.test(url)) return
    form.elements.url.value = url
    form.elements.source.value = html
    form.querySelector('[data-url]').textContent = url
    form.querySelector('[data-size]').textContent = `${Math.ceil(html.length / 1024).toLocaleString('en')} kB`
    document.querySelector('[data-waiting]').hidden = true
    form.hidden = false
    form.querySelector('button').focus()
  })
  window.opener?.postMessage('corpulan ready', '*')
})()
