package reading

import (
	"regexp"
	"strings"
	"unicode"
)

// Lines that sites put among an author's: picture credits, dates and bylines,
// things to press. They are told by their words alone and only where they are
// a whole line, in the languages we read.

// longestFurnitureLine is in bytes; what is longer is somebody's sentence.
const longestFurnitureLine = 140

const (
	months    = `(jan|feb|m[aä]r|apr|ma[iyj]|jun|jul|aug|sep|o[ck]t|nov|de[cz]|janvier|f[ée]vrier|mars|avril|juin|juillet|ao[uû]t|enero|febrero|abril|junio|julio|agosto|septiembre|octubre|noviembre|diciembre|gennaio|febbraio|aprile|maggio|giugno|luglio|settembre|ottobre|novembre|dicembre|janeiro|fevereiro|março|maio|junho|julho|setembro|outubro|dezembro)\p{L}*\.?`
	days      = `(mon|tue|wed|thu|fri|sat|sun|montag|dienstag|mittwoch|donnerstag|freitag|samstag|sonntag|lundi|mardi|mercredi|jeudi|vendredi|samedi|dimanche|lunes|martes|miércoles|jueves|viernes|sábado|domingo|maandag|dinsdag|woensdag|donderdag|vrijdag|zaterdag|zondag)\p{L}*\.?`
	clock     = `(at |um |à |a las |om )?\d{1,2}[:.h]\d{2}(:\d{2})?( ?[ap]\.?m\.?)?( ?(uhr|hrs|[a-z]{2,4}))?`
	date      = `((\d{1,2}[./-]\d{1,2}[./-]\d{2,4}|\d{4}[./-]\d{1,2}[./-]\d{1,2})|(\d{1,2}(st|nd|rd|th|\.)?( de)? )?` + months + `( \d{1,2}(st|nd|rd|th)?,?)?( de)? \d{4})`
	stamped   = `(first |last |zuletzt )?(published|posted|updated|modified|created|reviewed|veröffentlicht|aktualisiert|erstellt|stand|publié|mis à jour|publicado|actualizado|pubblicato|aggiornato|gepubliceerd|bijgewerkt|publicerad|uppdaterad|atualizado)( on| am| at| le| el| il| op| em)?`
	credit    = `(photo(graph|graphy|s)?|pictures?|images?|foto(s|grafie|graf)?|bild(er|nachweis|quelle)?|illustrations?|imagen|imágenes|crédito|credit|immagine|beeld|afbeelding|imagem)( credits?)?( ?: ?| by | von | par | por | di | door | av | via | courtesy( of)? | © ?)`
	agency    = `(getty( images)?|reuters|afp|ap|dpa|pa( media| wire)?|shutterstock|istock|unsplash|pexels|pixabay|adobe stock|alamy)`
	bookmarks = `(read|see|show|view|learn|find out|load) (more|less|all|next)( \S+){0,3}|weiterlesen|mehr (lesen|erfahren|anzeigen)|lire (la suite|plus)|en savoir plus|leer más|seguir leyendo|ver más|leggi (tutto|di più)|lees (verder|meer)|leia mais|saiba mais|läs mer`
	also      = `(lire|voir|à lire)( aussi)?|read (also|more|next)|see also|related|lesen sie (auch|mehr)|siehe auch|mehr dazu|lee también|leggi anche|lees ook|leia também|läs också`
	press     = `(print|share|save|e-?mail|copy|report|like|tweet|reply|edit|download|drucken|teilen|speichern|partager|imprimer|compartir|imprimir|stampa|condividi|delen|afdrukken|dela|skriv ut|recortar|reload|close|schließen|fermer|cerrar|chiudi|sluiten|stäng)( (this|the|a|to|via|on|with|link|article|page|post|story|recipe|pdf|facebook|twitter|whatsapp|linkedin|diese[rns]?|den|artikel|seite|cet|article))*`
	back      = `(back|zurück|retour|volver|indietro|terug|tillbaka)( (to|zur?|zum|au|à|a|al|alla|naar|till)( (the|la|de))?( \S+){1,2})?`
)

// nameAndAgency is a caption that says only who took the picture, and for whom.
var nameAndAgency = regexp.MustCompile(`^\p{Lu}[\p{L}.'’-]*( \p{Lu}[\p{L}.'’-]*){0,3} ?[/|] ?\p{Lu}[\p{L}.'’-]*( \p{Lu}[\p{L}.'’-]*){0,3}$`)

var (
	datedLine = newPhrases(`[ .:]*`, clock, `(`+stamped+`)?:? ?(`+days+`,? )?`+date+`([,|·•–— -]*`+clock+`)?`,
		`\d+ (min(ute)?s?|minuten|minutos|minuti) (read|lesezeit|de lecture|de lectura|di lettura|leestijd)`)
	// changed tells the date of a change from that of the publication.
	changed       = regexp.MustCompile(`(?i)updated|modified|reviewed|zuletzt|aktualisiert|mis à jour|actualizado|aggiornato|bijgewerkt|uppdaterad|atualizado`)
	furnitureLine = newPhrases(`[ .:!…»›→>)]*`,
		stamped+` ?:?`,
		`\(?`+credit+`(?-i:[\p{Lu}©@])[^.!?]{0,60}`, `\(?`+credit+agency, `[^.!?]{0,60}[(/|] ?`+agency+` ?\)?`, agency, `(©|\(c\)|copyright\b).{0,80}`, `.{0,60}\ball rights reserved\.?`, `.{0,20}\balle rechte vorbehalten\.?`,
		bookmarks, `(`+also+`) ?: .+`, press, back, `(advertisement|anzeige|werbung|publicité|publicidad|pubblicità|advertentie|annons|reklama)`,
		`(tags?|topics?|themen|schlagwörter|filed under|categor(y|ies)|kategorien?|mots-clés|étiquettes|etiquetas|temas|argomenti|trefwoorden|ämnen)( ?:.{0,80})?`,
		`(\d+ )?(comments?|replies|responses|shares|views|likes|kommentare?|aufrufe|antworten|commentaires?|comentarios?|commenti|reacties|comentários|kommentarer)( ?:? ?\d*)?`,
		`(click|tap|klicken sie|cliquez|haga clic|clicca) (here|to|hier|ici|aquí|qui)( \S+){0,5}`, `(skip|jump) to \S+( \S+){0,2}`, `(subscribe|sign up|log ?in|register|abonnieren|jetzt registrieren|anmelden|s'abonner|suscríbete|iscriviti)( now| here| jetzt| today| hier)?`,
	)
)

// furnitureLineReason says why a line is the site's and not the author's; empty
// for the author's. Items and cells are never taken for the site's, unless they
// hold a mere number: an author's may be as short.
func furnitureLineReason(line string, kind byte) string {
	if kind != LineCell && kind != LineCode && strings.IndexFunc(line, unicode.IsLetter) < 0 {
		return "a number by itself" // "14", "+10"
	}
	switch {
	case len(line) > longestFurnitureLine, kind == LineItem, kind == LineCell, kind == LineCode, kind == LineDefinition:
		return ""
	case kind == LineCaption && nameAndAgency.MatchString(line):
		return "who took a picture"
	case strings.ContainsAny(line, "0123456789") && datedLine.match(line):
		return "a date or a time by itself"
	case furnitureLine.match(line):
		return "words that sites put there"
	}
	return ""
}
