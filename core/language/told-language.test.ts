import { expect, test } from '@jest/globals'
import fc from 'fast-check'
import { anySign } from '../testing/signs'
import { canBe, languageOfLabels, languageOfText } from './index'

const paragraphs = {
  ar: 'تقع المنارة على صخرة في البحر، ويزورها الناس في الصيف عندما يكون الطقس جميلا. بنيت قبل مئتي عام ولا تزال تعمل كل ليلة، ويصعد الحارس مئة وعشرين درجة حتى يصل إلى المصباح.',
  cs: 'Maják stojí na skále v moři a lidé na něj jezdí v létě, když je hezky. Byl postaven před dvěma sty lety a svítí každou noc. Strážce vystoupá po schodech, které jsou úzké, a z okna je vidět celé pobřeží i přístav. Pro návštěvníky je otevřeno od května do září.',
  de: 'Der Leuchtturm steht auf einem Felsen im Meer, und die Leute kommen im Sommer, wenn das Wetter schön ist. Er wurde vor zweihundert Jahren gebaut und leuchtet noch jede Nacht. Der Wärter steigt die Stufen hinauf, die nicht breit sind, und sieht von oben bis zu der Küste.',
  en: 'The lighthouse stands on a rock in the sea, and people come to it in the summer when the weather is fine. It was built two hundred years ago and still shines every night. The keeper climbs the steps, which are not wide, and looks from the top as far as the coast.',
  es: 'El faro está en una roca en medio del mar, y la gente viene en verano cuando hace buen tiempo. Fue construido hace doscientos años y todavía luce cada noche. El farero sube por los escalones, que no son anchos, y desde arriba ve la costa y el puerto.',
  fi: 'Majakka on kalliolla meren keskellä, ja ihmiset käyvät siellä kesällä, kun sää on hyvä. Se on rakennettu kaksisataa vuotta sitten, mutta se loistaa yhä joka yö. Vartija kiipeää portaat, jotka eivät ole leveät, ja näkee sieltä koko rannikon sekä sataman. Se on auki, jos ei ole myrsky.',
  fr: 'Le phare est sur un rocher au milieu de la mer, et les gens viennent en été quand il fait beau. Il a été construit il y a deux cents ans et il éclaire encore toutes les nuits. Le gardien monte les marches, qui ne sont pas larges, et voit la côte et le port du haut de la tour.',
  he: 'המגדלור עומד על סלע בים, ואנשים באים אליו בקיץ כאשר מזג האוויר נאה. הוא נבנה לפני מאתיים שנה ועדיין מאיר בכל לילה. השומר עולה במדרגות הצרות ורואה מלמעלה את החוף ואת הנמל כולו.',
  it: 'Il faro sta su uno scoglio in mezzo al mare, e la gente viene in estate quando il tempo è bello. È stato costruito duecento anni fa e fa ancora luce ogni notte. Il guardiano sale i gradini, che non sono larghi, e dalla cima vede la costa e il porto.',
  ja: '灯台は海の中の岩の上にあり、夏の天気の良い日に人々が訪れます。二百年前に建てられ、今でも毎晩光っています。灯台守は狭い階段を上り、上から海岸と港を見ます。',
  nl: 'De vuurtoren staat op een rots in de zee, en de mensen komen in de zomer als het mooi weer is. Hij werd tweehonderd jaar geleden gebouwd en schijnt nog elke nacht. De wachter klimt de treden op, die niet breed zijn, en ziet van boven de kust en de haven.',
  pl: 'Latarnia stoi na skale w morzu i ludzie przyjeżdżają do niej w lecie, gdy jest ładna pogoda. Była zbudowana dwieście lat temu i nadal świeci co noc. Latarnik wchodzi po schodach, które nie są szerokie, i z góry widzi wybrzeże oraz port. Jest to miejsce, które trzeba zobaczyć.',
  pt: 'O farol está numa rocha no meio do mar, e as pessoas vêm no verão quando o tempo está bom. Foi construído há duzentos anos e ainda ilumina todas as noites. O faroleiro sobe os degraus, que não são largos, e do alto vê a costa e o porto.',
  ru: 'Маяк стоит на скале в море, и люди приезжают к нему летом, когда погода хорошая. Он был построен двести лет назад и до сих пор светит каждую ночь. Смотритель поднимается по ступеням, которые не так широки, и сверху видит берег и порт.',
  sv: 'Fyren står på en klippa i havet, och folk kommer till den på sommaren när vädret är fint. Den byggdes för två hundra år sedan och lyser än varje natt. Vaktaren går upp för trappan, som inte är bred, och ser från toppen både kusten och hamnen.',
  uk: 'Маяк стоїть на скелі в морі, і люди приїжджають до нього влітку, коли погода гарна. Він був збудований двісті років тому, але й досі світить щоночі. Доглядач піднімається сходами, які не є широкі, та бачить згори берег і порт, а також усе довкола.',
} as const // prettier-ignore

test.each(Object.entries(paragraphs))('a paragraph in %s is told', (language, text) => {
  expect(languageOfText(text)).toBe(language)
  expect(languageOfText(text.toUpperCase())).toBe(language)
  expect(languageOfText(text.normalize('NFD'))).toBe(language)
})

test('what is not clear is not told', () => {
  for (const text of [
    '',
    'Marrow Skerry',
    // A list of names, as a page of members is.
    'Ada Linnet, Bram Holt, Cato Wren, Dora Pike, Edda Marsh, Finn Rook, Greta Sole, Hob Teal, Ida Crane, Jory Dace, Kit Plover, Lena Rudd, Moss Gannet, Nell Brill, Otto Shag',
    // Latin, which is none of those that are known.
    'Pharus in scopulo medio mari stat, quem homines aestate petunt, cum caelum serenum est. Ante ducentos annos aedificata, singulis noctibus adhuc lucet. Custos per gradus angustos ascendit et ex summa turre litora portumque prospicit.',
    // Welsh.
    'Saif y goleudy ar graig yn y môr, a daw pobl iddo yn yr haf pan fydd y tywydd yn braf. Fe’i codwyd ddau gan mlynedd yn ôl ac mae’n dal i oleuo bob nos. Mae’r ceidwad yn dringo’r grisiau cul ac yn gweld yr arfordir o’r brig.',
    `${paragraphs.de} ${paragraphs.en}`,
    `${paragraphs.he} ${paragraphs.en} ${paragraphs.en}`.repeat(2).slice(0, 900),
  ])
    expect([text, languageOfText(text)]).toEqual([text, null])
})

test('Danish and Norwegian are not taken for one another', () => {
  const danish =
    'Fyret står på en klippe i havet, og folk kommer til det om sommeren, når vejret er godt. Det blev bygget for to hundrede år siden, og det lyser også nu hver nat. Vi har åbent fra maj, men ikke efter september.'
  expect(['da', null]).toContain(languageOfText(danish))
  expect(canBe('da', 'nb')).toBe(true)
  expect([canBe('de', 'de-AT'), canBe('de', 'en'), canBe('he', 'iw')]).toEqual([true, false, true])
})

test('who writes in a language that is close to another is not told that it is that one', () => {
  const afrikaans =
    'Die vuurtoring staan op die rots in die see, en mense kom in die somer daarheen as die weer mooi is. Dit was twee honderd jaar gelede gebou en skyn nog elke nag. Die wag klim op met die trappe, wat nie breed is nie, en sien van bo af die kus en die hawe.'
  const slovak =
    'Maják stojí na skale v mori a ľudia naň chodia v lete, keď je pekne. Bol postavený pred dvesto rokmi a svieti každú noc. Strážca vystúpi po schodoch, ktoré sú úzke, a z okna je vidieť celé pobrežie aj prístav. Pre návštevníkov je otvorené od mája do septembra.'
  for (const [tag, text] of [
    ['af', afrikaans],
    ['sk', slovak],
  ] as const) {
    const told = languageOfText(text)
    expect([tag, told === null || canBe(told, tag)]).toEqual([tag, true])
  }
})

test('the labels of a plan tell their language', () => {
  for (const [language, labels] of [
    ['de', ['Startseite', 'Über uns', 'Anfahrt', 'Preise']],
    ['fr', ['Accueil', 'Qui sommes-nous', 'Plan d’accès']],
    ['en', ['Home', 'Visit', 'Opening hours']],
    ['ar', ['الرئيسية', 'زيارة', 'كيف تصل']],
    ['ru', ['Главная', 'О нас', 'Цены', 'Новости и события', 'Мы']],
    ['uk', ['Головна', 'Про нас', 'Події', 'Її історія']],
    ['nb', ['Hjem', 'Om oss', 'Kontakt oss']],
  ] as const)
    expect([labels, languageOfLabels(labels)]).toEqual([labels, language])
})

test('labels that say nothing of a language tell none', () => {
  for (const labels of [[], ['Kontakt'], ['Fotos', 'Kontakt', 'Galeria'], ['Marrow Skerry', 'Log', 'Bell 1']])
    expect([labels, languageOfLabels(labels)]).toEqual([labels, null])
})

test('any text has an answer', () => {
  fc.assert(
    fc.property(fc.string({ unit: anySign, maxLength: 400 }), (text) => {
      expect([null, ...Object.keys(paragraphs), 'ko', 'el', 'th', 'ka', 'hy', 'zh']).toContain(
        languageOfText(text),
      )
    }),
  )
})
