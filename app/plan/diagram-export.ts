import { saveFile } from '../parts/files'
import { boxHeight, boxLabel, type Diagram, linePath } from './diagram-layout'

const escape = (text: string) =>
  text.replace(/&/g, '&amp;').replace(/</g, '&lt;').replace(/>/g, '&gt;').replace(/"/g, '&quot;')
const font = 'font-family="Atkinson Hyperlegible Next, Verdana, sans-serif" font-size="13"'

/** The diagram as an SVG file of its own: text stays text, dark on white, whatever the screen shows. */
export function diagramSvg(diagram: Diagram, title: string, view = diagram.bounds): string {
  const { x, y, width, height } = view
  const lines = diagram.lines.map((line) => `  <path d="${linePath(line)}" fill="none" stroke="#857a6a"/>`)
  const boxes = diagram.boxes.map((box) => {
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

/** The part of the diagram one printed page shows at a readable size (A4 landscape in its proportions). */
const sheet = { width: 1040, height: 720 }

/** Prints the diagram: on one page, made to fit, or at its own size across as many as it takes. */
export function printDiagram(diagram: Diagram, title: string, across: boolean): void {
  const { x, y, width, height } = diagram.bounds
  const views = across
    ? Array.from({ length: Math.ceil(height / sheet.height) }, (_, row) =>
        Array.from({ length: Math.ceil(width / sheet.width) }, (_, column) => ({
          x: x + column * sheet.width,
          y: y + row * sheet.height,
          ...sheet,
        })),
      ).flat()
    : [diagram.bounds]
  const frame = document.createElement('iframe')
  frame.hidden = true
  document.body.append(frame)
  const page = frame.contentDocument!
  page.title = title
  for (const view of views) {
    const holder = page.createElement('div')
    holder.style.cssText = 'break-after: page; display: grid; place-items: center; height: 98vh'
    holder.innerHTML = diagramSvg(diagram, title, view)
    const svg = holder.querySelector('svg')!
    svg.style.cssText = 'width: 100%; height: 98vh'
    page.body.append(holder)
  }
  const done = () => frame.remove()
  frame.contentWindow!.addEventListener('afterprint', done)
  frame.contentWindow!.print()
}
