package language

import (
	snowball "github.com/blevesearch/snowballstem/spanish"
	"github.com/go-playground/locales/es"
)

func spanish() Rules {
	return Rules{
		Code: "es", ease: fernandezHuerta, Nuclei: "ai ei oi au eu ou ia ie io iu ua ue ui uo ái éi ói áu éu iá ié ió uá ué uó uái uéi iái iéi ay ey oy uy üe üi", stemmer: snowball.Stem, dates: es.New(),
		Function: `si cada casi cómo cuál cuáles cuánto cuántos cuánta cuántas cuándo dónde quién quiénes aunque así aún ahora además allí aquí bajo bien cualquier debe deben después
			entonces hacer hace hacia luego mientras misma mismas mismo mismos nunca para pero poder puede pueden pues según ser siempre sino solo sólo tal tan también tampoco
			través usted ustedes varias varios vez veces ver e u
			mediante véase véanse salvo excepto incluso acerca alrededor dentro fuera encima debajo delante detrás lejos arriba abajo adelante atrás todavía apenas quizá
			quizás asimismo obstante embargo podemos podría podrían podrá podrán pueda puedan debería deberían deberá deberán debemos tener tenga tengan tendrá tendrán haber
			habrá haya hayan hay sería serían será serán sea sean estén vamos va van vaya ir hemos quiere quieren queremos deseamos desea desean cuyo cuya cuyos cuyas cual
			cuales quien quienes ambos ambas demás ningún ninguna ninguno algún alguien nadie etc etcétera`,
		Abbreviations:    "sr sra srta dr dra ej p.ej etc pág art núm av avda ud uds ene feb abr jun jul ago sept oct nov dic",
		Definite:         "el la los las lo",
		Indefinite:       "un una unos unas",
		Determiners:      "mi tu su mis tus sus nuestro nuestra nuestros nuestras este esta estos estas ese esa esos esas al del cada algunos algunas varios varias",
		FirstPerson:      "yo mi mis me nosotros nuestro nuestra",
		Numbers:          "uno dos tres cuatro cinco seis siete ocho nueve diez once doce",
		Prepositions:     "con en sobre entre bajo contra desde hacia",
		BeforeVerbs:      "se no yo tú nosotros usted ustedes puede pueden debe deben hay quiere te nos que",
		AdjectivesFollow: true,
		NounEndings:      "cion sion miento dad dor dora aje ura",
		VerbEndings:      "ado ada ados adas ido ida idos idas ando iendo ar er ir",
		BeforeAdjectives: "es son está están era eran ser estar muy más menos tan demasiado queda quedan",
		Plurals:          "jerseis=jersey pies=pie tes=te enlaces=enlace avances=avance indices=indice dulces=dulce alcances=alcance lances=lance cauces=cauce romances=romance vertices=vertice apendices=apendice helices=helice complices=complice bronces=bronce balances=balance cruces=cruce roces=roce goces=goce entonces=entonces codices=codice cortices=cortice envases=envase",
		Before:           "enes=en/6 ces=z/5 is=i/4 us=u/4 bs=b/4 ps=p/4 ts=t/4 ms=m/4 ks=k/4",
		Units:            "milímetro milímetros centímetro centímetros mililitro mililitros lumen lúmenes vatio vatios voltio voltios cucharada cucharadas cucharadita cucharaditas km kilómetro kilómetros metro metros mm cm kg kilo kilos gramo gramos litro litros euro euros hora horas minuto minutos grado grados segundo segundos día días semana semanas mes meses año años",
		Or:               "o u",
		Reasons:          "porque pues así",
		Times:            `segundo segundos minuto minutos hora horas día días noche noches semana semanas quincena mes meses año años década mañana tarde temporada temporadas primavera verano veranos otoño invierno inviernos diario diaria diarias semanal mensual anual madrugada`,
		Shares:           "mitad tercio cuarto mayoría resto principio principios mediados final finales fin parte trozo",
		Superlative:      Superlative{Words: "mejor mejores peor peores", Raising: "más menos", Endings: "", After: "el la los las lo"},
		You:              "tú te tu tus ti", YouFormal: "usted ustedes", We: "nosotros nuestro nuestra nuestros nuestras",
		Leans: "pero sino entonces este esta esto estos estas ese esa eso así también luego aquí además después",
		Turns: "pero y entonces o",
		Yes:   "sí", No: "no",
		Asking:  "realmente necesario imprescindible necesito necesita hace falta hay hacer puede debe siempre también",
		Knowing: "saber sé sabe",
		Openings: []Opening{{"y si", WhatIf}, {"qué pasa si", WhatIf}, {"qué hacer si", WhatIf}, {"qué hago si", WhatIf},
			{"cuánto", HowMuch}, {"cuánta", HowMuch}, {"cuántos", HowMuch}, {"cuántas", HowMuch}, {"cómo", How}, {"qué", What}, {"por qué", Why}, {"para qué", Why}, {"cuándo", When},
			{"dónde", Where}, {"cuál", Which}, {"cuáles", Which}, {"quién", Who}, {"quiénes", Who}, {"es", YesNo}, {"son", YesNo}, {"se puede", YesNo}, {"se pueden", YesNo}, {"puedo", YesNo},
			{"puede", YesNo}, {"debo", YesNo}, {"hay", YesNo}, {"necesito", YesNo}, {"vale la pena", YesNo}, {"tengo", YesNo}, {"está", YesNo}},
		Linking:       "de del",
		Joining:       "de del la las los el y",
		Honorifics:    "sr sra dr dra don doña",
		Organisations: "asociación ministerio universidad instituto ayuntamiento federación fundación banco agencia sociedad",
		Places:        "ciudad pueblo barrio calle avenida plaza puente parque lago valle isla",
		Laws:          "ley reglamento directiva código norma tratado decreto convenio protocolo",
		Events:        "festival maratón conferencia campeonato copa olimpiada juegos vuelta carrera guerra feria día semana premio",
		Parts:         "sección secciones capítulo capítulos figura figuras fig tabla tablas apéndice anexo parte página páginas paso pasos nota ejemplo ecuación párrafo artículo volumen lección módulo",
		Works:         "libro novela película canción álbum poema cuadro informe estudio manual artículo revista periódico",
		Versions:      "versión edición modelo serie programa aplicación biblioteca servidor cliente paquete",
		Speaking:      "dice dijo escribe explica afirma cuenta opina añade recomienda señala",
		Within:        "en a desde hacia por cerca",
		Generic:       []string{"introducción", "conclusión", "conclusiones", "resumen", "en resumen", "preguntas frecuentes", "fuentes", "referencias", "notas", "nota", "consejo", "advertencia", "atención", "importante", "ejemplo", "ejemplos", "véase también", "ver también", "comentarios", "definición", "generalidades", "apéndice", "bibliografía", "enlaces externos", "visión general", "faq"},
		Furniture: Furniture{
			Headings: []string{"#? comentario|comentarios #?", "deja un comentario", "opiniones de clientes", "comentarios de los lectores", "notas|entradas relacionadas", "quienes vieron|compraron esto *", "deja una respuesta", "artículos relacionados", "compartir", "índice", "índice de contenido|contenidos", "también? te puede interesar",
				"lee|lea también", "lo? más leído|leídos|visto|vistos"},
			Lines: []string{"*8 todos los derechos reservados", "leer|ver más", "seguir leyendo", "lee también : *", "publicidad", "etiquetas|temas", "etiquetas|temas : *", "#? comentario|comentarios :? #?",
				"haga|haz clic aquí *5", "suscríbete", "volver", "volver a _ _?", "volver a la _ _?", "volver al _ _?"},
			Credits:     []string{"foto|fotos|imagen|imágenes|crédito|créditos :|por|via|©"},
			Stamps:      []string{"publicado|actualizado el?"},
			Changes:     "actualizado",
			DateWords:   "a las de del el h horas",
			Press:       "compartir imprimir recortar cerrar",
			ReadingTime: []string{"# min|minuto|minutos de lectura"},
		},
		Title: Title{
			Patterns: []Pattern{{"names", "{K}: {1}, {2} y {3}"}, {"number", "{K}: nuestras {N} recomendaciones"}, {"year", "{K} en {Y}"}, {"steps", "{K} paso a paso"}, {"guide", "{K}: guía práctica"}}, And: "y",
			Buying: []string{"comprar"}, Comparing: []string{"mejor|mejores", "comparativa", "opiniones", "top #", "vs"}, Explaining: []string{"guía", "cómo"}, Guiding: []string{"guía"}, Stepping: []string{"cómo"},
		},
	}
}
