import { SaxesParser, type SaxesTagPlain } from 'saxes'

export type Attributes = Readonly<Record<string, string>>

/** What is done at each thing that a text in XML has. */
export interface Heard {
  readonly open: (name: string, attributes: Attributes) => void
  readonly close?: (name: string) => void
  readonly text?: (text: string) => void
}

/** Elements in one another, at most: no document has so many. */
const deepest = 500

/**
 * Reads XML to its end, or to where it is no XML any more: what came before that counts.
 * @throws RangeError for elements too deep in one another
 */
export function readXml(xml: string, { open, close, text }: Heard): void {
  const parser = new SaxesParser()
  let depth = 0
  let isBroken = false
  parser.on('error', () => (isBroken = true))
  parser.on('opentag', ({ name, attributes }: SaxesTagPlain) => {
    if (++depth > deepest) throw new RangeError('Elements too deep in one another')
    if (!isBroken) open(name, attributes)
  })
  parser.on('closetag', ({ name }) => {
    depth -= 1
    if (!isBroken) close?.(name)
  })
  if (text)
    parser.on('text', (words) => {
      if (!isBroken) text(words)
    })
  parser.write(xml).close()
}
