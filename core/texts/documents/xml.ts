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

/** Says that what was read is no XML from here on. */
class Broken extends Error {}

/**
 * Reads XML to its end, or to where it is no XML any more: what came before that counts.
 * @throws RangeError for elements too deep in one another
 */
export function readXml(xml: string, { open, close, text }: Heard): void {
  const parser = new SaxesParser()
  let depth = 0
  // The first error is enough: each one after it takes as long as a page of letters, and a damaged archive can be all errors.
  parser.on('error', () => {
    throw new Broken()
  })
  parser.on('opentag', ({ name, attributes }: SaxesTagPlain) => {
    if (++depth > deepest) throw new RangeError('Elements too deep in one another')
    open(name, attributes)
  })
  parser.on('closetag', ({ name }) => {
    depth -= 1
    close?.(name)
  })
  if (text) parser.on('text', text)
  try {
    parser.write(xml).close()
  } catch (error) {
    if (!(error instanceof Broken)) throw error
  }
}
