import { Problem } from '#core/problems'
import { isBinary, type Parts, partsOf, textOf } from './packed'
import { mostColumns, mostLetters, Sheet, type Show, showingBy } from './sheet'
import { readXml } from './xml'

/** What is read of Office Open XML (ECMA-376 Part 1, §12.3) and of OpenDocument (ISO/IEC 26300, part 2 §3). */
const wanted =
  /^(xl\/(workbook|sharedStrings|styles)\.xml|xl\/_rels\/workbook\.xml\.rels|xl\/worksheets\/[^/]+\.xml|content\.xml)$/

/** Signs that XML cannot hold are written by their numbers (ECMA-376 Part 1, §22.4.2.4). */
const unescaped = (text: string): string =>
  text.replace(/_x([0-9A-Fa-f]{4})_/g, (_, code: string) => String.fromCharCode(parseInt(code, 16)))

function showing(parts: Parts): Show {
  const codes = new Map<string, string>()
  const formats: string[] = []
  let [isOfCells, isFrom1904] = [false, false]
  readXml(textOf(parts, 'xl/styles.xml'), {
    open(name, { numFmtId = '0', formatCode = '' }) {
      if (name === 'numFmt') codes.set(numFmtId, formatCode)
      if (name === 'cellXfs') isOfCells = true
      if (name === 'xf' && isOfCells) formats.push(numFmtId)
    },
    close(name) {
      if (name === 'cellXfs') isOfCells = false
    },
  })
  readXml(textOf(parts, 'xl/workbook.xml'), {
    open(name, attributes) {
      if (name === 'workbookPr') isFrom1904 = /^(1|true)$/.test(attributes.date1904 ?? '')
    },
  })
  return showingBy({
    codeOf: (style) => codes.get(formats[style] ?? '0') ?? null,
    idOf: (style) => formats[style] ?? '0',
    isFrom1904,
  })
}

/** Where the parts of sheets are, by the workbook, but for hidden ones (§18.2.19). */
function shownSheets(parts: Parts): string[] {
  const ids: string[] = []
  readXml(textOf(parts, 'xl/workbook.xml'), {
    open(name, attributes) {
      if (!/^(\w+:)?sheet$/.test(name) || /hidden/i.test(attributes.state ?? '')) return
      ids.push(Object.entries(attributes).find(([key]) => /^\w+:id$/.test(key))?.[1] ?? '')
    },
  })
  const targets = new Map<string, string>()
  readXml(textOf(parts, 'xl/_rels/workbook.xml.rels'), {
    open(name, attributes) {
      if (/^(\w+:)?Relationship$/.test(name)) targets.set(attributes.Id ?? '', attributes.Target ?? '')
    },
  })
  return ids.map((id) => {
    const target = targets.get(id) ?? ''
    return target.startsWith('/') ? target.slice(1) : `xl/${target}`
  })
}

/** Texts that cells name by their number (§18.4.9), without how they are read aloud. */
function sharedTexts(parts: Parts): string[] {
  const texts: string[] = []
  let [isText, aloud] = [false, 0]
  readXml(textOf(parts, 'xl/sharedStrings.xml'), {
    open(name) {
      if (name === 'si') texts.push('')
      if (name === 'rPh') aloud += 1
      isText = name === 't' && aloud === 0
    },
    close(name) {
      if (name === 'rPh') aloud -= 1
      if (name === 't') isText = false
    },
    text(words) {
      const at = texts.length - 1
      if (isText && at >= 0 && texts[at]!.length < mostLetters) texts[at] += words
    },
  })
  return texts.map(unescaped)
}

/** The column of a cell by its name, from 0: `C12` is in 2 (§18.3.1.4). */
function columnOf(name: string): number {
  let column = 0
  for (const letter of /^[A-Z]{1,3}/.exec(name)?.[0] ?? '') column = column * 26 + letter.charCodeAt(0) - 64
  return column - 1
}

/** A worksheet of Office Open XML (§18.3.1). */
function readWorksheet(xml: string, texts: readonly string[], show: Show): string[][] {
  const sheet = new Sheet()
  let row: string[] = []
  let [column, type, style, value, isValue] = [0, '', 0, '', false]
  readXml(xml, {
    open(name, attributes) {
      if (name === 'row') row = []
      if (name === 'c') {
        column = attributes.r === undefined ? row.length : columnOf(attributes.r)
        ;[type, style, value] = [attributes.t ?? 'n', Number(attributes.s ?? 0), '']
      }
      isValue = name === 'v' || name === 't'
    },
    text(words) {
      if (isValue && value.length < mostLetters) value += words
    },
    close(name) {
      isValue = false
      if (name === 'row') sheet.add(row)
      if (name !== 'c' || column < 0 || column >= mostColumns) return
      while (row.length < column) row.push('')
      row[column] =
        type === 's'
          ? (texts[Number(value)] ?? '')
          : type === 'n'
            ? show(value, style)
            : type === 'e'
              ? ''
              : unescaped(value)
    },
  })
  return sheet.rows
}

/** The first table of an OpenDocument spreadsheet that has something in it (part 3 §9.1). */
function readOpenSheet(parts: Parts): string[][] {
  const sheet = new Sheet()
  let row: string[] = []
  let [value, again, paragraphs, silent, isFound] = ['', 1, 0, 0, false]
  readXml(textOf(parts, 'content.xml'), {
    open(name, attributes) {
      if (name === 'table:table-row') row = []
      if (/^table:(covered-)?table-cell$/.test(name)) {
        ;[value, paragraphs] = ['', 0]
        again = Math.min(mostColumns, Number(attributes['table:number-columns-repeated'] ?? 1) || 1)
      }
      if (name === 'office:annotation') silent += 1
      // Paragraphs of a cell are its lines.
      if (name === 'text:p' && paragraphs++ > 0) value += ' '
      if (name === 'text:s' || name === 'text:tab' || name === 'text:line-break') value += ' '
    },
    text(words) {
      if (paragraphs > 0 && silent === 0 && value.length < mostLetters) value += words
    },
    close(name) {
      if (name === 'office:annotation') silent -= 1
      if (/^table:(covered-)?table-cell$/.test(name)) {
        for (let count = 0; count < again && row.length < mostColumns; count++) row.push(value)
        ;[value, paragraphs] = ['', 0]
      }
      // A row that is there several times over is one page.
      if (name === 'table:table-row' && !isFound) sheet.add(row)
      isFound ||= name === 'table:table' && sheet.rows.length > 0
    },
  })
  return sheet.rows
}

/**
 * The rows of a spreadsheet's first sheet that is shown and not empty, cell by cell as texts; null for any other document.
 * @throws Problem `not-a-document`, `document-locked`, `document-too-large`
 */
export async function rowsOfSpreadsheet(bytes: Uint8Array): Promise<readonly string[][] | null> {
  try {
    if (isBinary(bytes)) return (await import('./binary')).rowsOfWorkbook(bytes)
    const parts = partsOf(bytes, (path) => wanted.test(path))
    if (parts.has('xl/workbook.xml')) {
      const [texts, show] = [sharedTexts(parts), showing(parts)]
      // One that is empty is passed over.
      for (const path of shownSheets(parts)) {
        const rows = readWorksheet(textOf(parts, path), texts, show)
        if (rows.length > 0) return rows
      }
      return []
    }
    return /<office:spreadsheet\b/.test(textOf(parts, 'content.xml')) ? readOpenSheet(parts) : null
  } catch (error) {
    if (error instanceof Problem) throw error
    throw new Problem('not-a-document', null, { cause: error })
  }
}
