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
