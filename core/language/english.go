package language

import (
	snowball "github.com/blevesearch/snowballstem/english"
	"github.com/go-playground/locales/en"
)

func english() Rules {
	return Rules{
		Code: "en", Senses: true, Graded: true, PointOfDecimals: true, ease: flesch, stemmer: snowball.Stem, dates: en.New(),
		Abbreviations: `mr mrs ms dr prof st rev hon jr sr vs e.g i.e cf approx fig figs vol pp ed eds
			inc ltd co corp dept est ca al jan feb mar apr jun jul aug sep sept oct nov dec`,
		Definite:         "the",
		Determiners:      "my your his her its our their this that these those each every no any some several many all both another",
		Indefinite:       "a an",
		FirstPerson:      "i my me we us our",
		Numbers:          "one two three four five six seven eight nine ten eleven twelve",
		Qualifiers:       "full back front high low long short first second third last left right hard soft open single double side end dead",
		Prepositions:     "of in on at with without for from by into onto over under between through during against about across around near",
		VerbEndings:      "ed ing",
		BeforeVerbs:      "to i you we they he she don't doesn't didn't can can't cannot will won't would should shouldn't must may might could let's please never",
		BeforeAdjectives: "is are was were be been being very too so more most less stays stay gets get feels feel looks look keep keeps remains remain becomes become quite fairly",
		// Units of a trade (lumens, psi) are not among them: they say something.
		Plurals: "knives=knife lives=life wives=wife midwives=midwife halves=half shelves=shelf leaves=leaf loaves=loaf wolves=wolf calves=calf thieves=thief scarves=scarf hooves=hoof elves=elf feet=foot teeth=tooth geese=goose mice=mouse children=child grandchildren=grandchild stepchildren=stepchild oxen=ox women=woman indices=index vertices=vertex matrices=matrix appendices=appendix criteria=criterion phenomena=phenomenon analyses=analysis crises=crisis diagnoses=diagnosis hypotheses=hypothesis theses=thesis syntheses=synthesis prostheses=prosthesis neuroses=neurosis oases=oasis buses=bus gases=gas lenses=lens viruses=virus bonuses=bonus specimen=specimen abdomen=abdomen regimen=regimen stamen=stamen omen=omen acumen=acumen semen=semen ramen=ramen amen=amen quizzes=quiz menus=menu",
		Before:  "men=man/3",
		Units: `lumen lumens watt watts volt volts gallon gallons pint pints ounce ounces tablespoon tablespoons teaspoon teaspoons millimetre millimetres millimeter millimeters centimetre centimetres centimeter centimeters millilitre millilitres day days week weeks month months year years km kilometre kilometres kilometer kilometers metre metres meter meters mm cm kg kilos kilo grams mile miles inch inches
			percent litre litres pound pounds kph mph ml ft`,
		// American and British, where both are one word; "tired" is none of a tyre's.
		Spellings: `color=colour colored=coloured coloring=colouring flavor=flavour flavored=flavoured favor=favour favorite=favourite honor=honour labor=labour neighbor=neighbour
			neighborhood=neighbourhood harbor=harbour rumor=rumour behavior=behaviour armor=armour odor=odour vapor=vapour humor=humour tumor=tumour vigor=vigour endeavor=endeavour
			center=centre centered=centred liter=litre kilometer=kilometre millimeter=millimetre centimeter=centimetre fiber=fibre theater=theatre somber=sombre luster=lustre maneuver=manoeuvre
			gray=grey tire=tyre plow=plough mold=mould moldy=mouldy aluminum=aluminium jewelry=jewellery catalog=catalogue dialog=dialogue defense=defence offense=offence
			traveled=travelled traveling=travelling traveler=traveller labeled=labelled labeling=labelling canceled=cancelled canceling=cancelling modeled=modelled modeling=modelling
			fueled=fuelled fueling=fuelling pajamas=pyjamas cozy=cosy skeptic=sceptic skeptical=sceptical mustache=moustache artifact=artefact sulfur=sulphur yogurt=yoghurt donut=doughnut
			omelet=omelette airplane=aeroplane orthopedic=orthopaedic pediatric=paediatric anemia=anaemia estrogen=oestrogen esthetic=aesthetic`,
		// American and British, where each has but one meaning in either.
		SameThing: `fender=mudguard flashlight=torch wrench=spanner gasoline=petrol gas_station=petrol_station sidewalk=pavement diaper=nappy faucet=tap
			eggplant=aubergine zucchini=courgette cilantro=coriander sweater=jumper sneaker=trainer parking_lot=car_park license_plate=number_plate
			zip_code=postcode drywall=plasterboard stroller=pushchair pacifier=dummy plastic_wrap=cling_film paper_towel=kitchen_roll countertop=worktop crib=cot
			hex_key=allen_key hex_wrench=allen_key kerosene=paraffin realtor=estate_agent checking_account=current_account elevator=lift garbage_can=dustbin
			trash_can=dustbin cell_phone=mobile_phone math=maths airplane=aeroplane stick_shift=manual_gearbox windshield=windscreen trunk_lid=boot_lid
			vacation_rental=holiday_let powdered_sugar=icing_sugar confectioners_sugar=icing_sugar all-purpose_flour=plain_flour ground_beef=minced_beef
			baking_soda=bicarbonate_of_soda arugula=rocket scallion=spring_onion green_onion=spring_onion band-aid=plaster`,
		Or:      "or",
		Reasons: "because since otherwise therefore hence thus so",
		Times:   `second seconds minute minutes hour hours day days night nights week weeks weekend fortnight month months year years decade decades morning evening season seasons spring summer summers autumn winter winters daily weekly fortnightly monthly yearly annually overnight`,
		Shares:  "half third quarter majority rest remainder beginning middle end start bottom part piece bit",
		Superlative: Superlative{Words: "best worst cheapest fastest slowest strongest weakest warmest coolest coldest hottest lightest " +
			"heaviest safest easiest hardest softest largest biggest smallest highest lowest longest " +
			"shortest oldest newest richest thinnest thickest quickest simplest sharpest finest greatest " +
			"brightest darkest wettest driest quietest loudest deepest widest narrowest cleanest", Raising: "most least", Endings: "", After: "the"},
		You: "you your yours", YouFormal: "", We: "we us our ours",
		Leans: "but otherwise however therefore alternately alternatively also this that these those it they such then so after instead here there sometimes",
		Turns: "but so and then now well or still yet",
		Yes:   "yes yep absolutely definitely", No: "no nope never",
		Asking:  "really actually need necessary must necessarily essential imperative",
		Knowing: "know tell see say",
		Openings: []Opening{{"what if", WhatIf}, {"what happens if", WhatIf}, {"what to do if", WhatIf}, {"what do i do if", WhatIf},
			{"how much", HowMuch}, {"how many", HowMuch}, {"how long", HowMuch}, {"how often", HowMuch}, {"how far", HowMuch},
			{"how cold", HowMuch}, {"how old", HowMuch}, {"how big", HowMuch}, {"how bright", HowMuch}, {"how hot", HowMuch}, {"how warm", HowMuch}, {"how wide", HowMuch}, {"how deep", HowMuch}, {"how tall", HowMuch}, {"how high", HowMuch}, {"how thick", HowMuch}, {"how heavy", HowMuch}, {"how large", HowMuch}, {"how fast", HowMuch}, {"how soon", HowMuch}, {"how late", HowMuch}, {"how", How}, {"what's", What}, {"what", What}, {"why", Why}, {"when", When},
			{"where", Where}, {"which", Which}, {"who", Who}, {"whose", Who},
			{"is", YesNo}, {"are", YesNo}, {"do", YesNo}, {"does", YesNo}, {"did", YesNo}, {"can", YesNo}, {"could", YesNo},
			{"should", YesNo}, {"will", YesNo}, {"would", YesNo}, {"has", YesNo}, {"have", YesNo}, {"am", YesNo}},
		Auxiliaries: "do does did is are can should will would",
		Pronouns:    "i you we they it my your",
		Linking:     "of",
		Joining:     "of de la du van von der di",
		Honorifics:  "mr mrs ms dr prof professor sir",
		Organisations: `council institute university college ltd limited inc gmbh association department ministry agency society foundation committee laboratory
			company corporation group club federation union trust authority board office bank hospital school cycles press service services police`,
		Places:   "city town village district path trail way street road lane bridge park river lake valley hill square station island avenue county mountains canal",
		Laws:     "act regulation regulations directive ordinance law treaty bill standard statute constitution convention code protocol",
		Events:   "festival marathon conference championship championships cup olympics games tour race war summit fair expo symposium week day prize awards",
		Parts:    "section sections chapter chapters figure figures fig table tables appendix part page pages step steps note footnote listing exhibit box equation annex clause paragraph article volume issue lesson unit module",
		Works:    "book novel film movie song album poem painting report study handbook article series magazine newspaper journal",
		Versions: "version versions release releases model series edition plugin app software library server client command program package user users developers api driver",
		Speaking: "says said writes wrote explains explained argues argued told tells adds added recalls believes thinks recommends",
		Within:   "in near at from to through outside around across",
		Generic: []string{"introduction", "intro", "conclusion", "conclusions", "summary", "overview", "final thoughts", "in summary", "in short", "the bottom line", "bottom line",
			"wrapping up", "to sum up", "background", "faq", "faqs", "frequently asked questions", "questions and answers", "common questions", "key takeaways", "takeaways",
			"before you start", "references", "sources", "notes", "footnotes", "see also", "further reading", "external links", "the verdict", "verdict",
			"synopsis", "description", "name", "author", "authors", "note", "tip", "tips", "hint", "warning", "caution", "important", "example", "examples", "comments", "definition", "usage", "details", "remarks", "general", "miscellaneous", "appendix", "what's next", "next steps", "related topics", "related information", "how to use this guide", "about this guide"},
		Furniture: Furniture{
			Headings: []string{
				// what readers write
				"leave|post|write|add a|your comment|reply|response", "join the conversation|discussion", "#|no? comment|comments|replies|responses|thought|thoughts #?",
				"# comment|comments|thought|thoughts|replies|responses on|to *", "one comment|thought|reply|response on|to *", "cancel reply", "reader comments", "reader|customer comments|reviews", "what do you think",
				// sharing, newsletters
				"share this|on? article|post|page|story|guide? :?", "follow us? ", "follow us? on *", "subscribe", "sign up", "subscribe to|for *", "sign up to|for *",
				"get|join our|the * newsletter|email|emails *", "get|join our|the * mailing list *", "our? newsletter", "stay in touch", "stay connected", "stay up to date",
				// further pages
				"related|recommended|popular|latest|recent|more|similar|featured|trending _? article|articles|post|posts|stories|reading|guide|guides|content|page|pages|product|products|video|videos|news|links|topic|topics|thread|threads|questions",
				"related|recommended|trending", "related|recommended|trending for you", "related|recommended|trending reading",
				"you may|might|ll|will also? like|enjoy *", "you'll also? like|enjoy *", "you may|might|ll|will also? be interested in *", "you'll also? be interested in *",
				"read|see more|next|also *3", "more from|in|on|like *", "customers|people|readers also bought|viewed|read|liked|ask|asked", "keep reading", "up next", "most read|popular|viewed",
				"don't|dont miss", "don t miss", "elsewhere on *",
				// tools of the page
				"contents", "table of contents", "on|in this page|article|guide|post", "jump to section?", "main|site? menu", "search", "search this site", "breadcrumb|breadcrumbs",
				"about the author", "written|posted by *", "advertisement", "sponsored content|links?", "cookie|cookies settings|policy|preferences?", "we use|value cookies *", "we use|value your privacy *",
				"your privacy *", "print", "print this page", "login", "log in", "sign in", "was this page|article|guide? helpful", "rate this *", "read it? later", "photo? gallery * # photos|images|pictures *",
				"save this", "save for later", "* powered by *", "* paid partner *", "* paid content *", "_? sponsors", "tools &|and resources", "post navigation", "quick links", "page not found",
			},
			Lines: []string{
				"*8 all rights reserved", "copyright *", "© *",
				"read|see|show|view|learn|load more|less|all|next *3", "find out more|less|all|next *3", "read also|more|next : *", "see also : *", "related : *",
				"advertisement", "tag|tags|topic|topics|category|categories", "filed under", "tag|tags|topic|topics|category|categories : *", "filed under : *",
				"#? comment|comments|replies|responses|shares|views|likes :? #?",
				"click|tap here|to *5", "skip|jump to _ _? _?", "subscribe|login|register now|here|today?", "sign up now|here|today?", "log in now|here|today?",
				"back", "back to|the the? _ _?", "back _ _?",
			},
			Credits:     []string{"photo|photos|photograph|photographs|photography|picture|pictures|image|images|illustration|illustrations credit|credits? :|by|via|©", "photo|photos|photograph|photographs|photography|picture|pictures|image|images|illustration|illustrations credit|credits? courtesy of?", "credit|credits :|by|via|©", "credit|credits courtesy of?"},
			Stamps:      []string{"first|last? published|posted|updated|modified|created|reviewed on|at?"},
			Changes:     "updated modified reviewed",
			DateWords:   "at on am the of st nd rd th pm a.m p.m hrs",
			Press:       "print share save email copy report like tweet reply edit download reload close",
			PressedOn:   "this the a to via on with link article page post story recipe pdf facebook twitter whatsapp linkedin",
			ReadingTime: []string{"# min|mins|minute|minutes read"},
		},
		Title: Title{
			Patterns: []Pattern{{"names", "{K}: {1}, {2} and {3}"}, {"number", "{K}: our {N} picks"}, {"year", "{K} in {Y}"}, {"steps", "{K}, step by step"}, {"guide", "{K}: a practical guide"}}, And: "and",
			Buying:     []string{"buy", "shop", "sale", "price|prices", "order", "deal|deals", "in stock", "free delivery"},
			Comparing:  []string{"best", "top #", "review|reviews|reviewed", "vs|versus", "compared", "comparison", "test"},
			Explaining: []string{"how|what|why|when|which", "guide", "tip|tips", "ideas", "explained", "tutorial", "checklist", "step by step", "rules", "facts", "?"},
			Guiding:    []string{"guide", "handbook", "complete", "everything", "explained", "basics", "beginner|beginners"},
			Stepping:   []string{"how to", "step by step", "in # steps", "tutorial"},
		},
	}
}
