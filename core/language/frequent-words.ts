import { tableOf } from '#core/site'

/**
 * Words that make up a third of what is written in a language, whatever it is about; those that say as much in a language beside
 * it are what tells the two apart. By primary language subtag (BCP 47).
 */
export const frequentWords = tableOf<string>({
  bg: 'и на за се от да не по са като което един след този беше има но при които до със',
  ca: 'el els la les de i que a en un una per amb és no es del dels al als com més però també aquest aquesta som hi ha',
  cs: 'a se v na je že s z do o k i ve pro za by jako po ale od který jsou jsem jeho která není bylo podle už také byl nebo může',
  da: 'og i at det en den til er som på de med han af for ikke der var mig sig men et har om vi min havde fra efter også blev skulle eller nogle meget',
  de: 'der die und den das von zu mit sich des auf für ist im dem nicht ein eine als auch es an werden aus er hat dass sie nach wird bei einer um am sind noch wie wir über',
  en: 'the and of to in is was that for it with as his on be at by this had not are but from have they you which were we our or one all can',
  es: 'de la que el en y a los se del las un por con no una su para es al lo como más pero sus le ya fue este sí porque esta son entre está desde',
  fi: 'ja on ei se että oli kun hän mutta ovat niin myös joka tai kuin sen mukaan hänen ole jo vain sekä kanssa jos olla sitä mitä ennen',
  fr: 'de la le et les des en un du une que est pour qui dans par plus pas au sur ne se ce il sont avec aux nous mais cette ou vous ont son',
  hr: 'i je u na se da su za od koji s kao ne o iz to ili bio ali što kako može nakon već samo prema koja',
  hu: 'a az és hogy nem is egy volt meg ez de csak már mint el még vagy van ki ha azt lehet között majd minden után',
  it: 'di e il la che in un per è una del non le si da con i sono dei al come più ma della nel alla questo anche lo ha o gli delle',
  nb: 'og i det er på en til som av for at med de ikke den har jeg om et men var seg fra han vi også ble etter eller da være noe mye hva',
  nl: 'de van het een en in is dat op te zijn met voor niet aan er die om als ook bij maar door hij naar uit dan wordt was ze nog of heeft onze',
  pl: 'i w na z się do nie że jest to o jak za od po przez dla są ale przy tym już było być co oraz jego który także może',
  pt: 'de a o que e do da em um para com não uma os no se na por mais as dos como mas ao ele das à seu sua ou foi são é também pelo pela',
  ro: 'și de la în a cu pe care o nu din mai pentru este un că sunt au fi dar sau s prin după acest ce fost această lui',
  ru: 'и в не на что он с как это по но из к у за от так его же для был она они мы все или было быть мне то о при также',
  sv: 'och i att det en som är på av för med den till inte om ett de har var från vi han men jag sig kan eller också när efter så ska vid nu',
  tr: 've bir bu da de için ile çok olarak daha gibi ne en kadar sonra olan var ama ise her o değil veya olduğu',
  uk: 'і в не на що з як це та до за у є від але він по для так було ми його вона й або про також який бути після які при',
}) // prettier-ignore

/**
 * What pages are called in most sites, by primary language subtag: a plan has few words else that tell its language. One that
 * several languages have stands with each of them.
 */
export const usualLabels = tableOf<readonly string[]>({
  cs: ['úvod', 'domů', 'kontakt', 'o nás', 'novinky', 'aktuality', 'ceník', 'fotogalerie', 'otevírací doba', 'odkazy', 'akce', 'služby', 'historie'],
  da: ['forside', 'forsiden', 'hjem', 'kontakt', 'om os', 'nyheder', 'priser', 'billeder', 'åbningstider', 'galleri', 'arrangementer', 'find vej', 'historie', 'kalender'],
  de: ['startseite', 'willkommen', 'kontakt', 'über uns', 'über mich', 'aktuelles', 'neuigkeiten', 'anfahrt', 'impressum', 'datenschutz', 'öffnungszeiten', 'preise', 'bilder', 'galerie', 'termine', 'veranstaltungen', 'geschichte', 'leistungen', 'verein', 'mitglieder', 'lebenslauf'],
  en: ['home', 'welcome', 'contact', 'contact us', 'about', 'about us', 'about me', 'news', 'directions', 'getting here', 'opening hours', 'prices', 'pictures', 'photos', 'gallery', 'events', 'history', 'visit', 'services', 'links', 'privacy', 'members'],
  es: ['inicio', 'bienvenidos', 'contacto', 'quiénes somos', 'sobre nosotros', 'sobre mí', 'noticias', 'cómo llegar', 'horarios', 'precios', 'fotos', 'galería', 'eventos', 'historia', 'servicios', 'enlaces', 'aviso legal'],
  fi: ['etusivu', 'yhteystiedot', 'ota yhteyttä', 'meistä', 'uutiset', 'ajankohtaista', 'hinnasto', 'kuvia', 'kuvat', 'galleria', 'aukioloajat', 'tapahtumat', 'historia', 'palvelut', 'linkit'],
  fr: ['accueil', 'bienvenue', 'contact', 'nous contacter', 'qui sommes-nous', 'à propos', 'actualités', 'venir', 'accès', "plan d'accès", 'horaires', 'tarifs', 'photos', 'galerie', 'événements', 'histoire', 'services', 'liens', 'mentions légales', 'adhérents'],
  it: ['inizio', 'benvenuti', 'contatti', 'chi siamo', 'chi sono', 'notizie', 'novità', 'come arrivare', 'dove siamo', 'orari', 'prezzi', 'foto', 'galleria', 'eventi', 'storia', 'servizi', 'collegamenti'],
  nb: ['hjem', 'forside', 'kontakt', 'kontakt oss', 'om oss', 'nyheter', 'aktuelt', 'priser', 'bilder', 'åpningstider', 'galleri', 'arrangementer', 'slik finner du oss', 'historie', 'medlemmer'],
  nl: ['startpagina', 'welkom', 'contact', 'over ons', 'over mij', 'nieuws', 'route', 'openingstijden', 'prijzen', "foto's", 'galerij', 'agenda', 'evenementen', 'geschiedenis', 'diensten', 'leden'],
  pl: ['strona główna', 'kontakt', 'o nas', 'o mnie', 'aktualności', 'dojazd', 'godziny otwarcia', 'cennik', 'zdjęcia', 'galeria', 'wydarzenia', 'historia', 'usługi', 'oferta'],
  pt: ['início', 'bem-vindos', 'contacto', 'contactos', 'contato', 'quem somos', 'sobre nós', 'notícias', 'como chegar', 'horários', 'preços', 'fotos', 'galeria', 'eventos', 'história', 'serviços'],
  sv: ['hem', 'startsida', 'välkommen', 'kontakt', 'kontakta oss', 'om oss', 'nyheter', 'hitta hit', 'öppettider', 'priser', 'bilder', 'galleri', 'evenemang', 'historia', 'medlemmar', 'tjänster'],
}) // prettier-ignore
