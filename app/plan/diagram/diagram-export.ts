import { saveFile } from '../../parts/picks/files'
import { boxHeight, boxLabel, type Diagram, linePath, seenIn } from './diagram-layout'
import { sheetsOf } from './diagram-sheets'

const escape = (text: string) =>
  text.replace(/&/g, '&amp;').replace(/</g, '&lt;').replace(/>/g, '&gt;').replace(/"/g, '&quot;')
// Where the interface's font is not there another, perhaps wider, has to fit the same boxes.
const font = 'font-family="Atkinson Hyperlegible Next, Arial, Helvetica, sans-serif" font-size="12"'

/** The diagram as an SVG file of its own: text stays text, dark on white, whatever the screen shows. */
export function diagramSvg(diagram: Diagram, title: string, view = diagram.bounds): string {
  const { x, y, width, height } = view
  const seen = seenIn(diagram, view)
  const lines = seen.lines.map((line) => `  <path d="${linePath(line)}" fill="none" stroke="#857a6a"/>`)
  const boxes = seen.boxes.map((box) => {
    const more = box.hidden > 0 ? ` <tspan fill="#5d5346">+${box.hidden}</tspan>` : ''
    return [
      `  <rect x="${box.x}" y="${box.y - boxHeight / 2}" width="${box.width}" height="${boxHeight}" fill="#ffffff" stroke="#221d17"${box.trial ? ' stroke-dasharray="4 3"' : ''}/>`,
      `  <text x="${box.x + 9}" y="${box.y + 4.5}" fill="#221d17"${box.isHome ? ' font-weight="bold"' : ''}${box.trial ? ' font-style="italic"' : ''}>${escape(boxLabel(box.page))}${more}</text>`,
    ].join('\n')
  })
  return [
    `<svg xmlns="http://www.w3.org/2000/svg" viewBox="${x} ${y} ${width} ${height}" width="${width}" height="${height}" ${font}>`,
    `  <title>${escape(title)}</title>`,
    `  <rect x="${x}" y="${y}" width="${width}" height="${height}" fill="#ffffff"/>`,
    ...lines,
    ...boxes,
    '</svg>',
    '',
  ].join('\n')
}

export function saveSvg(diagram: Diagram, title: string): void {
  saveFile(diagramSvg(diagram, title), 'plan.svg', 'image/svg+xml')
}

/** Browsers refuse a canvas of more pixels than this on a side. */
const largestCanvas = 16_000

/** Saves the diagram as PNG at twice its size, or smaller where no browser could draw that. */
export async function savePng(diagram: Diagram, title: string): Promise<void> {
  const { width, height } = diagram.bounds
  const scale = Math.min(2, largestCanvas / Math.max(width, height))
  const image = new Image()
  image.src = `data:image/svg+xml;charset=utf-8,${encodeURIComponent(diagramSvg(diagram, title))}`
  await image.decode()
  const canvas = document.createElement('canvas')
  canvas.width = Math.ceil(width * scale)
  canvas.height = Math.ceil(height * scale)
  canvas.getContext('2d')!.drawImage(image, 0, 0, canvas.width, canvas.height)
  const blob = await new Promise<Blob | null>((resolve) => canvas.toBlob(resolve, 'image/png'))
  if (blob) saveFile(blob, 'plan.png')
}

const printRules = `
@page { size: landscape; margin: 12mm }
html, body { margin: 0 }
figure { margin: 0; height: 100vh; display: grid; grid-template-rows: minmax(0, 1fr) auto; break-inside: avoid }
figure + figure { break-before: page }
svg { width: 100%; height: 100%; min-height: 0 }
figcaption { font: 11px sans-serif; text-align: right }
`

/** Prints the diagram: on one page, made to fit, or at its own size across as many as it takes. */
export function printDiagram(diagram: Diagram, title: string, across: boolean): void {
  const views = across ? sheetsOf(diagram) : [diagram.bounds]
  const frame = document.createElement('iframe')
  frame.title = title
  // Not `hidden`: some browsers print nothing of a frame that has no box.
  frame.style.cssText = 'position: fixed; width: 1px; height: 1px; inset: auto 100% 100% auto; border: 0'
  document.body.append(frame)
  const window = frame.contentWindow as Window & typeof globalThis
  const page = window.document
  page.title = title
  // As an object, since the policy of the page allows no style element.
  const rules = new window.CSSStyleSheet()
  rules.replaceSync(printRules)
  page.adoptedStyleSheets = [rules]
  page.body.innerHTML = views
    .map((view, index) => {
      const place = views.length > 1 ? `, ${index + 1} of ${views.length}` : ''
      return `<figure>${diagramSvg(diagram, title, view)}<figcaption>${escape(title + place)}</figcaption></figure>`
    })
    .join('')
  window.addEventListener('afterprint', () => frame.remove())
  window.print()
}
