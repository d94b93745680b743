import { escapeText } from '#core/markup'
import { type GraphLayout } from './graph-layout'

const ink = '#221d17'
const quiet = '#5d5346'
const rule = '#ddd4c3'
const rubric = '#a8271f'
const lapis = '#27498f'

/** The picture as an SVG file of its own: text stays text, dark on white, whatever the screen shows. */
export function graphSvg(
  { dots, rings, labels, sections, links, extent }: GraphLayout,
  title: string,
): string {
  // Room for labels beside the outermost pages.
  const half = extent + 170
  const opacity = linkOpacity(links.length)
  const label = (
    x: number,
    y: number,
    anchor: 'start' | 'middle' | 'end',
    text: string,
    fill = ink,
    size = 11,
  ) =>
    `  <text x="${x.toFixed(1)}" y="${(y + 4).toFixed(1)}" text-anchor="${anchor}" fill="${fill}" font-size="${size}" stroke="#ffffff" stroke-width="3" paint-order="stroke">${escapeText(text)}</text>`
  return [
    `<svg xmlns="http://www.w3.org/2000/svg" viewBox="${-half} ${-half} ${half * 2} ${half * 2}" width="${Math.round(half * 2)}" height="${Math.round(half * 2)}" font-family="Atkinson Hyperlegible Next, Arial, Helvetica, sans-serif">`,
    `  <title>${escapeText(title)}</title>`,
    `  <rect x="${-half}" y="${-half}" width="${half * 2}" height="${half * 2}" fill="#ffffff"/>`,
    ...rings.map(
      ({ radius, isOutside }) =>
        `  <circle r="${radius.toFixed(1)}" fill="none" stroke="${isOutside ? rubric : rule}"${isOutside ? ' stroke-dasharray="3 5"' : ''}/>`,
    ),
    ...linkLayers(links).map(
      (d) => `  <path d="${d}" fill="none" stroke="${lapis}" stroke-opacity="${opacity}"/>`,
    ),
    ...dots.map(
      ({ x, y, radius, steps }) =>
        `  <circle cx="${x.toFixed(1)}" cy="${y.toFixed(1)}" r="${radius.toFixed(1)}" fill="${steps === null ? rubric : ink}"/>`,
    ),
    ...labels.map(({ x, y, isLeft, words }) => label(x, y, isLeft ? 'end' : 'start', words)),
    ...sections.map(({ x, y, isLeft, words }) => label(x, y, isLeft ? 'end' : 'start', words, ink, 14)),
    ...rings.map(({ x, y, words, isOutside }) =>
      label(x, y, 'middle', words, isOutside ? rubric : quiet, 10),
    ),
    '</svg>',
    '',
  ].join('\n')
}

/** How strongly links are drawn: of very many, all together should not be more than a few. */
export const linkOpacity = (count: number): number => (count < 60 ? 0.5 : count < 1_000 ? 0.3 : 0.13)

/** Shapes that all links are drawn as: where they run together they are darker, and they are not one each. */
const mostLayers = 40

export function linkLayers(links: GraphLayout['links']): string[] {
  const layers: string[][] = []
  links.forEach(({ path }, index) => (layers[index % mostLayers] ??= []).push(path))
  return layers.map((paths) => paths.join(''))
}
