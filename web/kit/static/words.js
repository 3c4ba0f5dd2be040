// What scripts say, in the language of the page. {1} and {2} stand for what is filled in.
'use strict'
globalThis.tell = (() => {
  const texts = {
    de: {
      'revision {1}': 'Fassung {1}',
      'brought back': 'zurückgeholt',
      '{1} of {2}': '{1} von {2}',
      ': too long': ': zu lang',
      'not saved': 'nicht gespeichert',
      'The server cannot be reached. What you typed is kept in this browser, and saved as soon as it can be.':
        'Der Server ist nicht erreichbar. Was Sie getippt haben, ist in diesem Browser aufbewahrt und wird gespeichert, sobald es geht.',
      'The server cannot be reached. Nothing you typed is lost; try again in a moment.':
        'Der Server ist nicht erreichbar. Nichts Getipptes ist verloren; versuchen Sie es gleich noch einmal.',
      '{1} picked; space keeps them or sets them aside, Esc lets go':
        '{1} ausgewählt; die Leertaste behält sie oder legt sie beiseite, Esc lässt los',
      '{1} picked': '{1} ausgewählt',
      'The dictionary is being loaded …': 'Das Wörterbuch wird geladen …',
      'The language check does not run in this browser.': 'Die Sprachprüfung läuft in diesem Browser nicht.',
      'Nothing was found.': 'Nichts wurde gefunden.',
      'it is right': 'es ist richtig',
      'is not in the dictionary': 'steht nicht im Wörterbuch',
      'stands twice': 'steht zweimal',
      'writing …': 'schreibt …',
      'saving …': 'speichert …',
      'saved {1}': 'gespeichert {1}',
      'No connection. Your text is kept in this browser, and is sent when there is one again.':
        'Keine Verbindung. Ihr Text ist in diesem Browser aufbewahrt und wird gesendet, wenn es wieder eine gibt.',
      'No connection, and this browser keeps nothing: leave this page open, or copy your text.':
        'Keine Verbindung, und dieser Browser bewahrt nichts auf: Lassen Sie diese Seite offen, oder kopieren Sie Ihren Text.',
      'This text cannot be written any more by this link. What you typed last is kept in this browser; copy it from here.':
        'Dieser Text kann über diesen Link nicht mehr geschrieben werden. Was Sie zuletzt getippt haben, ist in diesem Browser aufbewahrt; kopieren Sie es von hier.',
      'The text is too long to be saved: at most 4 MB. It is kept in this browser.':
        'Der Text ist zu lang zum Speichern: höchstens 4 MB. Er ist in diesem Browser aufbewahrt.',
      'The text could not be saved. It is kept in this browser, and is tried again with the next change.':
        'Der Text konnte nicht gespeichert werden. Er ist in diesem Browser aufbewahrt, und mit der nächsten Änderung wird es wieder versucht.',
      '{1} writes here too · saved {2}': '{1} schreibt hier auch · gespeichert {2}',
      'somebody else': 'jemand anderes',
      'The text had moved on too far: what was unsent is kept as a version.':
        'Der Text war schon zu weit: Das Ungesendete ist als Version behalten.',
      'saved {1}, with text that an earlier page had not sent':
        'gespeichert {1}, mit Text, den eine frühere Seite nicht gesendet hatte',
      'Write here. The outline of the brief comes in with the button above, or Ctrl+Alt+O.':
        'Schreiben Sie hier. Die Gliederung des Briefings kommt mit dem Knopf oben herein, oder Strg+Alt+O.',
      'The draft': 'Der Entwurf',
      'Put the cursor into the paragraph that answers it.':
        'Setzen Sie die Schreibmarke in den Absatz, der sie beantwortet.',
      'Kept: {1}': 'Behalten: {1}',
      'Kept as a version.': 'Als Version behalten.',
      'The version could not be kept: {1}': 'Die Version konnte nicht behalten werden: {1}',
      'What stood here before is a version; ': 'Was vorher hier stand, ist eine Version; ',
      'Ctrl+Z takes it back.': 'Strg+Z nimmt es zurück.',
      '{1} was taken in.': '{1} wurde aufgenommen.',
      'The version was brought back.': 'Die Version wurde zurückgeholt.',
      'The page was taken in.': 'Die Seite wurde aufgenommen.',
      'This could not be loaded; try again.': 'Das konnte nicht geladen werden; versuchen Sie es noch einmal.',
      'an image without a text': 'ein Bild ohne Text'
    }
  }
  const own = texts[document.documentElement.lang] ?? {}
  return (text, ...parts) => (own[text] ?? text).replace(/\{(\d)\}/g, (_, n) => parts[n - 1])
})()
