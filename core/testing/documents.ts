import { strToU8, zipSync } from 'fflate'

/** A picture of one pixel. */
export const png = Uint8Array.from(
  atob('iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg=='),
  (letter) => letter.charCodeAt(0),
)
/** A ZIP of texts and bytes by their paths. */
export const pack = (parts: Record<string, string | Uint8Array>) =>
  zipSync(Object.fromEntries(Object.entries(parts).map(([path, part]) => [path, typeof part === 'string' ? strToU8(part) : part]))) // prettier-ignore

// ── Office Open XML, as a word processor writes it ──
const w = 'xmlns:w="http://schemas.openxmlformats.org/wordprocessingml/2006/main"'
const r = 'xmlns:r="http://schemas.openxmlformats.org/officeDocument/2006/relationships"'
const a = 'xmlns:a="http://schemas.openxmlformats.org/drawingml/2006/main"'
const wp =
  'xmlns:wp="http://schemas.openxmlformats.org/drawingml/2006/wordprocessingDrawing" xmlns:pic="http://schemas.openxmlformats.org/drawingml/2006/picture"'
const relations = (...all: string[]) =>
  `<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships">${all.join('')}</Relationships>`
const relation = (id: string, type: string, target: string, mode = '') =>
  `<Relationship Id="${id}" Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/${type}" Target="${target}" ${mode}/>`
const style = (id: string, name: string, inside = '') =>
  `<w:style w:type="paragraph" w:styleId="${id}"><w:name w:val="${name}"/>${inside}</w:style>`
/** A paragraph of a style, of words and of runs in XML. */
export const p = (styleId: string, ...runs: string[]) =>
  `<w:p><w:pPr>${styleId && `<w:pStyle w:val="${styleId}"/>`}</w:pPr>${runs.map((run) => (run.startsWith('<') ? run : `<w:r><w:t xml:space="preserve">${run}</w:t></w:r>`)).join('')}</w:p>` // prettier-ignore
/** A picture, by the id of its relation: `p1` is one that can be shown, `p2` one that cannot. */
export const drawing = (id: string, says: string) =>
  `<w:r><w:drawing><wp:inline><wp:docPr id="1" name="x" descr="${says}"/><a:graphic><a:graphicData><pic:pic><pic:blipFill><a:blip r:embed="${id}"/></pic:blipFill></pic:pic></a:graphicData></a:graphic></wp:inline></w:drawing></w:r>`
/** A document in Office Open XML (ECMA-376). */
export const wordDocument = (body: string, more: Record<string, string | Uint8Array> = {}) =>
  pack({
    '[Content_Types].xml': '<Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types"><Default Extension="png" ContentType="image/png"/><Default Extension="emf" ContentType="image/x-emf"/></Types>',
    '_rels/.rels': relations(relation('r1', 'officeDocument', 'word/document.xml')),
    'word/_rels/document.xml.rels': relations(
      relation('p1', 'image', 'media/one.png'), relation('p2', 'image', 'media/two.emf'), relation('s', 'styles', 'styles.xml'),
      relation('l', 'hyperlink', 'https://example.org/', 'TargetMode="External"'),
    ),
    'word/media/one.png': png,
    'word/media/two.emf': new Uint8Array(64),
    'word/styles.xml': `<w:styles ${w}>${style('Titel', 'Title')}${style('b1', 'heading 1')}${style('b2', 'heading 2')}${style('mine', "The keeper's head", '<w:basedOn w:val="b2"/>')}${style('lv', 'By outline', '<w:pPr><w:outlineLvl w:val="0"/></w:pPr>')}${style('cap', 'caption')}${style('toc', 'toc 1')}${style('round', 'Round', '<w:basedOn w:val="round"/>')}</w:styles>`,
    'word/document.xml': `<w:document ${w} ${r} ${a} ${wp}><w:body>${body}</w:body></w:document>`,
    ...more,
  }) // prettier-ignore

// ── OpenDocument ──
const spaces = ['office', 'style', 'text', 'table', 'draw'].map((name) => `xmlns:${name}="urn:oasis:names:tc:opendocument:xmlns:${name}:1.0"`).join(' ') + ' xmlns:fo="f" xmlns:xlink="x" xmlns:svg="s"' // prettier-ignore
/** A document in OpenDocument (ISO/IEC 26300). */
export const openDocument = (body: string, styles = '', more: Record<string, string | Uint8Array> = {}) =>
  pack({
    mimetype: 'application/vnd.oasis.opendocument.text',
    'Pictures/one.png': png,
    'Pictures/two.svm': new Uint8Array(64),
    'content.xml': `<office:document-content ${spaces}><office:automatic-styles>${styles}</office:automatic-styles><office:body><office:text>${body}</office:text></office:body></office:document-content>`,
    ...more,
  })

// ── Spreadsheets ──
const column = (at: number) => String.fromCharCode(65 + at)
const words = (text: string) => text.replace(/[&<>]/g, (sign) => `&#${sign.charCodeAt(0)};`)
/** A workbook in Office Open XML (ECMA-376 Part 1, §18): texts shared or in place, numbers as such; empty cells are not written. */
export function workbook(rows: readonly (readonly (string | number)[])[], isShared = true): Uint8Array {
  const texts: string[] = []
  const cell = (value: string | number, at: string) => {
    if (value === '') return ''
    if (typeof value === 'number') return `<c r="${at}"><v>${value}</v></c>`
    if (!isShared) return `<c r="${at}" t="inlineStr"><is><t>${words(value)}</t></is></c>`
    return `<c r="${at}" t="s"><v>${texts.push(value) - 1}</v></c>`
  }
  const sheet = rows.map((row, index) => `<row r="${index + 1}">${row.map((value, at) => cell(value, `${column(at)}${index + 1}`)).join('')}</row>`).join('') // prettier-ignore
  return pack({
    'xl/workbook.xml': `<workbook ${r}><sheets><sheet name="a" state="hidden" r:id="h"/><sheet name="b" r:id="e"/><sheet name="c" r:id="s"/></sheets></workbook>`,
    'xl/_rels/workbook.xml.rels': relations(relation('h', 'worksheet', 'worksheets/sheet1.xml'), relation('e', 'worksheet', '/xl/worksheets/sheet2.xml'), relation('s', 'worksheet', 'worksheets/sheet3.xml')),
    'xl/sharedStrings.xml': `<sst>${texts.map((text) => `<si><r><t>${words(text)}</t></r><rPh><t>aloud</t></rPh></si>`).join('')}</sst>`,
    'xl/worksheets/sheet1.xml': '<worksheet><sheetData><row><c t="str"><v>hidden</v></c></row></sheetData></worksheet>',
    'xl/worksheets/sheet2.xml': '<worksheet><sheetData><row/></sheetData></worksheet>',
    'xl/worksheets/sheet3.xml': `<worksheet><sheetData>${sheet}</sheetData></worksheet>`,
  }) // prettier-ignore
}
/** A spreadsheet in OpenDocument; what is empty to the end of a sheet is written as often as programs do. */
export const openSheet = (rows: readonly (readonly (string | number)[])[]): Uint8Array =>
  pack({
    'content.xml': `<office:document-content ${spaces}><office:body><office:spreadsheet><table:table><table:table-row table:number-rows-repeated="9"><table:table-cell/></table:table-row></table:table><table:table>${rows
      .map((row) => `<table:table-row>${row.map((value) => (value === '' ? '<table:table-cell/>' : `<table:table-cell><office:annotation><text:p>a remark</text:p></office:annotation><text:p>${words(String(value))}</text:p></table:table-cell>`)).join('')}<table:table-cell table:number-columns-repeated="16000"/></table:table-row>`)
      .join('')}<table:table-row table:number-rows-repeated="1048000"><table:table-cell table:number-columns-repeated="16384"/></table:table-row></table:table></office:spreadsheet></office:body></office:document-content>`,
  }) // prettier-ignore
