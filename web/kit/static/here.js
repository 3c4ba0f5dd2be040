// Who else is in a study: asked for while one looks at it oneself, which tells the others that one does.
;(() => {
  const beat = 20_000
  const ask = async () => {
    const here = document.getElementById('here')
    if (!here || document.visibilityState !== 'visible') return
    try {
      const answer = await fetch(here.dataset.here, {
        method: 'POST',
        body: new URLSearchParams({ place: document.body.dataset.place })
      })
      const said = answer.ok ? await answer.text() : ''
      if (here.textContent !== said) here.textContent = said // or it would be read out again
    } catch {
      here.textContent = '' // the server cannot be reached: nobody knows
    }
  }
  document.addEventListener('visibilitychange', ask)
  setInterval(ask, beat)
  ask()
})()
