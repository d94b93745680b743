import { tableOf } from '#core/site'

/** What languages call themselves, in lower case, and their tags (BCP 47). Not every browser knows those of all. */
export const ownNames = tableOf<string>({
  afrikaans: 'af', akan: 'ak', አማርኛ: 'am', العربية: 'ar', 'অসমীয়া': 'as', azərbaycan: 'az',
  башҡорт: 'ba', беларуская: 'be', български: 'bg', bamanakan: 'bm', 'বাংলা': 'bn',
  'བོད་སྐད་': 'bo', brezhoneg: 'br', bosanski: 'bs', català: 'ca', нохчийн: 'ce', čeština: 'cs',
  'чӑваш чӗлхи': 'cv', cymraeg: 'cy', dansk: 'da', deutsch: 'de', 'རྫོང་ཁ': 'dz', eʋegbe: 'ee',
  ελληνικά: 'el', english: 'en', esperanto: 'eo', español: 'es', eesti: 'et', euskara: 'eu',
  فارسی: 'fa', pulaar: 'ff', suomi: 'fi', føroyskt: 'fo', français: 'fr', frysk: 'fy',
  gaeilge: 'ga', gàidhlig: 'gd', galego: 'gl', 'ગુજરાતી': 'gu', gaelg: 'gv', hausa: 'ha',
  עברית: 'he', 'हिन्दी': 'hi', hrvatski: 'hr', magyar: 'hu', հայերեն: 'hy', igbo: 'ig',
  íslenska: 'is', italiano: 'it', 日本語: 'ja', ქართული: 'ka', gikuyu: 'ki', 'қазақ тілі': 'kk',
  kalaallisut: 'kl', 'ខ្មែរ': 'km', 'ಕನ್ನಡ': 'kn', 한국어: 'ko', 'کٲشُر': 'ks', kernewek: 'kw',
  кыргызча: 'ky', lëtzebuergesch: 'lb', luganda: 'lg', lingála: 'ln', ລາວ: 'lo', lietuvių: 'lt',
  tshiluba: 'lu', latviešu: 'lv', malagasy: 'mg', māori: 'mi', македонски: 'mk', 'മലയാളം': 'ml',
  монгол: 'mn', 'मराठी': 'mr', malti: 'mt', 'မြန်မာ': 'my', 'norsk bokmål': 'nb', isindebele: 'nd',
  'नेपाली': 'ne', nederlands: 'nl', 'norsk nynorsk': 'nn', occitan: 'oc', oromoo: 'om',
  'ଓଡ଼ିଆ': 'or', ирон: 'os', 'ਪੰਜਾਬੀ': 'pa', polski: 'pl', پښتو: 'ps', português: 'pt',
  runasimi: 'qu', rumantsch: 'rm', ikirundi: 'rn', română: 'ro', русский: 'ru', ikinyarwanda: 'rw',
  'संस्कृत भाषा': 'sa', sardu: 'sc', سنڌي: 'sd', davvisámegiella: 'se', sängö: 'sg', 'සිංහල': 'si',
  slovenčina: 'sk', slovenščina: 'sl', chishona: 'sn', soomaali: 'so', shqip: 'sq', српски: 'sr',
  sesotho: 'st', 'basa sunda': 'su', svenska: 'sv', kiswahili: 'sw', 'தமிழ்': 'ta', 'తెలుగు': 'te',
  тоҷикӣ: 'tg', ไทย: 'th', ትግርኛ: 'ti', 'türkmen dili': 'tk', setswana: 'tn', 'lea fakatonga': 'to',
  türkçe: 'tr', татар: 'tt', ئۇيغۇرچە: 'ug', українська: 'uk', اردو: 'ur', 'o‘zbek': 'uz',
  'tiếng việt': 'vi', wolof: 'wo', isixhosa: 'xh', 'ייִדיש': 'yi', 'èdè yorùbá': 'yo', 中文: 'zh',
  isizulu: 'zu', 'bahasa indonesia': 'id', 'basa jawa': 'jv', 'bahasa melayu': 'ms', kurdî: 'ku',
  norsk: 'nb', bokmål: 'nb', nynorsk: 'nn', castellano: 'es', 简体中文: 'zh-Hans', 繁體中文: 'zh-Hant',
  'português do brasil': 'pt-BR', euskera: 'eu', romontsch: 'rm', plattdüütsch: 'nds',
  schwyzerdütsch: 'gsw', asturianu: 'ast', hornjoserbsce: 'hsb', sicilianu: 'scn', furlan: 'fur',
}) // prettier-ignore

/** How languages write their own names where they do not begin with one capital letter. */
const written = tableOf<string>({
  id: 'Bahasa Indonesia', jv: 'Basa Jawa', ms: 'Bahasa Melayu', nd: 'isiNdebele', 'pt-br': 'Português do Brasil', sn: 'chiShona',
  su: 'Basa Sunda', vi: 'Tiếng Việt', xh: 'isiXhosa', yo: 'Èdè Yorùbá', zu: 'isiZulu',
}) // prettier-ignore

/** By tags in lower case; of two names of one language the first is what it is called. */
const byTag = new Map<string, string>()
for (const [name, tag] of Object.entries(ownNames)) {
  const key = tag!.toLowerCase()
  if (!byTag.has(key)) byTag.set(key, written[key] ?? name.charAt(0).toUpperCase() + name.slice(1))
}

/**
 * What a language calls itself, as it stands in a list of languages, by its tag (BCP 47); of one that is told apart by where
 * it is spoken, that of the language. Its tag where that is not known.
 */
export function ownNameOf(tag: string): string {
  for (let key = tag.toLowerCase(); key !== ''; key = key.slice(0, Math.max(0, key.lastIndexOf('-')))) {
    const name = byTag.get(key)
    if (name !== undefined) return name
  }
  return tag
}
