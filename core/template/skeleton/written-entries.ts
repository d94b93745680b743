import { applyEdits, escapeAttribute, indentUnit, leadAt, readHtml } from '#core/markup'
import { lookOf } from '../look'
import { writtenParts, type WrittenPart } from './written-parts'

/** A part with its entries written out, as they come out without. One below the other: what they are nested in is lost. */
function linesOf({ part, attributes }: WrittenPart, unit: string): string[] {
  const look = lookOf(part, attributes)
  const own = part.attributes
    .flatMap(({ name }) =>
      attributes[name] === undefined ? [] : [` ${name}="${escapeAttribute(attributes[name])}"`],
    )
    .join('')
  const says = part.describes?.(attributes) ? '<p>{entry.description}</p>' : ''
  const date = part.dates?.(attributes) ? '<time datetime="{entry.datetime}">{entry.date}</time> ' : ''
  const linkTo = (attributes: string, current = '') =>
    `${date}<a${attributes} href="{entry.address}"${current}>{entry.label}</a>`
  const itself = `${date}<${look.mark}${look.ownAttributes} aria-current="page">{entry.label}</${look.mark}>`
  const isLine = look.between !== null
  const item = (attributes: string, inside: string) =>
    isLine ? inside : `<li${attributes}>${inside}${says}</li>`
  const which = (name: string, html: string) => `<template which="${name}">${html}</template>`
  const listsItself = part.attributes.some(({ name }) => name === 'own') && attributes.own !== 'omit'
  const entries = [
    item(look.itemAttributes, linkTo(look.linkAttributes)),
    ...(listsItself ? [which('own', item(look.ownItemAttributes, itself))] : []),
    ...(part.marksAbove
      ? [which('above', item(look.aboveItemAttributes, linkTo(look.aboveAttributes, ' aria-current="true"')))]
      : []),
  ]
  const opening = `<template part="${part.name}"${own}>`
  const [each, ...others] = entries
  if (isLine) {
    const between = look.between!.trim()
    const parting = between === '' ? '' : which('between', between)
    const lead = /^\s*/.exec(look.between!)![0]
    const inside = `${which('each', lead + each!)}${others.join('')}${parting}`
    return [`${opening}${look.opening}${inside}${look.closing}</template>`]
  }
  const list = [
    `<${part.list}${look.listAttributes}>`,
    ...[which('each', each!), ...others].map((entry) => `${unit}${entry}`),
    `</${part.list}>`,
  ]
  const all = look.opening === '' ? list : [look.opening, ...list.map((line) => unit + line), look.closing]
  return [opening, ...all.map((line) => unit + line), '</template>']
}

/**
 * A source in which a part says how its entries are written, for its author to write them otherwise. All else stays as it
 * is, to the letter.
 * @param nth which of its parts
 */
export function writeEntries(source: string, nth: number): string {
  const written = writtenParts(source)[nth]
  if (!written || written.isPattern) return source
  const lead = leadAt(source, written.start)
  const lines = linesOf(written, indentUnit(source, readHtml(source, true).fixed))
  const { start, end } = written
  return applyEdits(source, [{ start, end, text: lines.join(`\n${lead}`) }])
}
