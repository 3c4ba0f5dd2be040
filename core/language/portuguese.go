package language

import (
	snowball "github.com/blevesearch/snowballstem/portuguese"
	"github.com/go-playground/locales/pt"
)

func portuguese() Rules {
	return Rules{
		Code: "pt", ease: martins, Nuclei: "ai ei oi au eu ou iu ui ão õe ãe ái éi ói áu éu êi ia ie io ua ue uo iá ié ió uá ué qua que qui gua gue gui", stemmer: snowball.Stem, dates: pt.New(),
		Function: `d é são ser estar ter há onde porque porquê cada todo toda todos todas outro outra outros outras mesma mesmos mesmas ainda assim antes após apenas aqui ali lá bem cerca
			como contra deve devem desde durante enquanto então entanto fazer faz pode podem poder pois porém qualquer quais quando quanto quantos sempre sobre tal tanto tão também
			vai vão vez vezes sob dessa desse desta deste nesta neste nessa nesse nisso disso disto algum alguma alguns algumas nenhum nada tudo muita muitos muitas pouco poucos
			abaixo acima adiante além aliás apesar através atrás diante dentro fora embora exceto excepto salvo conforme consoante mediante perante portanto todavia contudo
			afinal inclusive talvez quase demasiado hoje ontem amanhã poderá poderão poderia poderiam possa possam podemos deverá deverão deveria deveriam devemos terá terão
			teria tenha tenham havia houver haver será serão seria seriam seja sejam esteja estejam vamos irá irão ir faça façam fará quer querem queira cujo cuja cujos
			cujas ambos ambas demais vários várias quem alguém ninguém algo aonde etc`,
		Abbreviations:    "sr sra dr dra prof ex etc pág art n av jan fev abr jun jul ago set out nov dez",
		Elisions:         "d",
		Definite:         "o a os as",
		Indefinite:       "um uma uns umas",
		Determiners:      "meu minha seu sua nosso nossa meus minhas seus suas este esta estes estas esse essa esses essas do da dos das no na nos nas ao à aos às pelo pela pelos pelas num numa cada alguns algumas vários várias",
		FirstPerson:      "eu meu minha nós nosso nossa",
		Numbers:          "um dois três quatro cinco seis sete oito nove dez onze doze",
		Prepositions:     "com em sobre entre sob contra",
		BeforeVerbs:      "se não eu você vocês ele ela nós eles elas pode podem deve devem quer que",
		AdjectivesFollow: true,
		NounEndings:      "cao sao mento dade agem dor ura",
		VerbEndings:      "ado ada ados adas ido ida idos idas ando endo indo ar er ir",
		BeforeAdjectives: "é são está estão era eram ser estar muito mais menos tão demasiado fica ficam",
		Plurals:          "maes=mae faceis=facil dificeis=dificil uteis=util inuteis=inutil ageis=agil frageis=fragil ferteis=fertil doceis=docil repteis=reptil projeteis=projetil herois=heroi onibus=onibus virus=virus campus=campus bonus=bonus corpus=corpus status=status caos=caos",
		Before:           "oes=ao/4 aes=ao/4 aos=ao/4 ais=al/5 eis=el/5 ois=ol/5 uis=ul/5 ns=m/4 us=u/4",
		Units:            "milímetro milímetros centímetro centímetros mililitro mililitros lúmen lúmenes watt watts volt volts colher colheres km quilómetro quilómetros quilômetro quilômetros metro metros mm cm kg quilo quilos grama gramas litro litros euro euros hora horas minuto minutos grau graus segundo segundos dia dias semana semanas mês meses ano anos",
		Or:               "ou",
		Reasons:          "porque pois portanto assim senão",
		Times:            `segundo segundos minuto minutos hora horas dia dias noite noites semana semanas quinzena mês meses ano anos década manhã tarde estação estações primavera verão verões outono inverno invernos diário diária semanal mensal anual`,
		Shares:           "metade terço quarto maioria resto início começo meados final fim parte pedaço",
		Superlative:      Superlative{Words: "melhor melhores pior piores", Raising: "mais menos", Endings: "", After: "o a os as"},
		You:              "tu te teu tua teus tuas", YouFormal: "você vocês", We: "nós nosso nossa nossos nossas",
		Leans: "mas senão porém portanto este esta isto estes estas esse essa isso assim também então depois aqui além",
		Turns: "mas e então ou",
		Yes:   "sim", No: "não",
		Asking:  "realmente mesmo necessário imprescindível preciso precisa fazer pode deve sempre também",
		Knowing: "saber sei sabe",
		Openings: []Opening{{"e se", WhatIf}, {"o que acontece se", WhatIf}, {"o que fazer se", WhatIf},
			{"quanto", HowMuch}, {"quanta", HowMuch}, {"quantos", HowMuch}, {"quantas", HowMuch}, {"como", How}, {"o que", What}, {"que", What}, {"por que", Why}, {"porque", Why}, {"porquê", Why}, {"para que", Why}, {"quando", When},
			{"onde", Where}, {"qual", Which}, {"quais", Which}, {"quem", Who}, {"é", YesNo}, {"são", YesNo}, {"posso", YesNo}, {"pode", YesNo}, {"preciso", YesNo}, {"devo", YesNo}, {"vale a pena", YesNo}, {"há", YesNo}, {"existe", YesNo}},
		Linking:       "de do da dos das d",
		Joining:       "de do da dos das e",
		Honorifics:    "sr sra dr dra dom dona",
		Organisations: "associação ministério universidade instituto câmara prefeitura federação fundação banco agência sociedade",
		Places:        "cidade vila bairro rua avenida praça ponte parque lago vale ilha",
		Laws:          "lei regulamento diretiva código norma tratado decreto convenção protocolo",
		Events:        "festival maratona conferência campeonato taça copa olimpíada jogos volta corrida guerra feira dia semana prémio prêmio",
		Parts:         "secção seção capítulo capítulos figura figuras fig tabela tabelas apêndice anexo parte página páginas passo passos etapa nota exemplo equação parágrafo artigo volume lição módulo",
		Works:         "livro romance filme canção álbum poema quadro relatório estudo manual artigo revista jornal",
		Versions:      "versão edição modelo série programa aplicação aplicativo biblioteca servidor cliente pacote",
		Speaking:      "diz disse escreve explica afirma conta acrescenta recomenda",
		Within:        "em no na para desde perto",
		Generic:       []string{"introdução", "conclusão", "conclusões", "resumo", "em resumo", "perguntas frequentes", "fontes", "referências", "notas", "nota", "dica", "sugestão", "aviso", "atenção", "importante", "exemplo", "exemplos", "ver também", "veja também", "comentários", "definição", "geral", "apêndice", "bibliografia", "ligações externas", "visão geral", "faq"},
		Furniture: Furniture{
			Headings:    []string{"deixe um comentário", "opiniões de clientes", "comentários dos leitores", "quem viu|comprou isto *", "artigos relacionados", "leia também", "mais lidas", "compartilhar", "partilhar", "#? comentário|comentários #?"},
			Lines:       []string{"*8 todos os direitos reservados", "leia|saiba mais", "leia também : *", "publicidade", "#? comentário|comentários :? #?"},
			Credits:     []string{"foto|fotos|imagem|imagens|crédito|créditos :|por|via|©"},
			Stamps:      []string{"publicado|atualizado em?"},
			Changes:     "atualizado",
			DateWords:   "às de em h",
			ReadingTime: []string{"# min|minuto|minutos de leitura"},
		},
		Title: Title{
			Patterns: []Pattern{{"names", "{K}: {1}, {2} e {3}"}, {"number", "{K}: as nossas {N} sugestões"}, {"year", "{K} em {Y}"}, {"steps", "{K} passo a passo"}, {"guide", "{K}: guia prático"}}, And: "e",
			Comparing: []string{"melhor|melhores", "comparação|comparativo", "top #", "vs"},
		},
	}
}
