import { type ChangeRequest } from '#core/change'
import { changeOf, readRequest, textsOfRequest } from '#core/change/inputs'
import { putBlob, readAhead, tryTemplate } from '#server/contents'
import { mostLevels } from '#core/plan'
import { Problem } from '#core/problems'
import { log } from '#server/platform'
import type pg from 'pg'

/** Checks a change from outside. @throws Problem `bad-request` */
export function readChange(input: unknown): ChangeRequest {
  const read = readRequest(input)
  if (!('refused' in read)) return read
  if (read.isTooDeep) throw new Problem('too-deep', { levels: mostLevels })
  // Which field it is says something to whoever wrote the window, and nothing to its author.
  log.warn({ refused: read.refused }, 'a change that cannot be read')
  throw new Problem('bad-request')
}

/** Longest template, in UTF-16 code units, and most tags in it: it is read for every page that is made. */
const longestTemplate = 500_000
const mostTemplateTags = 10_000

/** Refuses a template that takes too much to be read again and again. @throws Problem `template-too-heavy`, `too-heavy` */
export async function readTemplateAhead(text: string): Promise<void> {
  if (text.length > longestTemplate || text.split('<').length > mostTemplateTags)
    throw new Problem('template-too-heavy', { letters: longestTemplate, tags: mostTemplateTags })
  await tryTemplate(text)
}

/**
 * Reads the texts of a change ahead, so that nothing is locked while they are read, and one that cannot be
 * read is never stored.
 */
export async function readChangeTexts(request: ChangeRequest): Promise<void> {
  for (const { as, text } of textsOfRequest(request))
    if (as === 'template') await readTemplateAhead(text)
    else await readAhead(as, text)
}

/** Turns a request into the core's change, storing new texts first. */
export const prepareChange = (client: pg.PoolClient, request: ChangeRequest) =>
  changeOf(request, async (text) => ({
    hash: await putBlob(client, text),
    sizeBytes: Buffer.byteLength(text),
  }))
