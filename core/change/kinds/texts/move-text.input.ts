import Joi from 'joi'
import { longestLabel } from '../../edited'
import { type ChangeInput, hash, id, language, newlines, slot, text } from '../../input'
import type { MoveText, WriteMovedText } from './move-text'

/** Parts that one page is split into at once. */
const mostParts = 200
const ids = Joi.array()
  .items(Joi.string().guid({ version: 'uuidv4' }))
  .max(mostParts)
  .required()
const place = Joi.string().max(1_000)

export const moveText: ChangeInput<MoveText, WriteMovedText> = {
  fields: {
    why: Joi.valid('split', 'join', 'move', 'files').required(),
    texts: Joi.array().items(Joi.object({ pageId: id, slot: slot.required(), was: hash, text })).max(8).required(),
    added: Joi.array().items(Joi.object({ id, label: Joi.string().required().max(longestLabel), language, text })).max(mostParts).required(),
    parentId: id.allow(null),
    after: id.allow(null),
    removed: ids,
    places: Joi.array()
      .items(Joi.object({ from: id, to: id, ids: Joi.array().items(place.allow('')).max(50_000).required(), top: place }))
      .max(mostParts)
      .required(),
  },
  // All of them together, so that what can be read as one has been read before anything waits for it.
  reads: ({ texts, added }) => [{ as: 'html', text: [...texts, ...added].map((one) => newlines(one.text)).join('\n') }],
  make: async ({ texts, added, ...fields }, keep) => ({
    ...fields,
    texts: await Promise.all(
      texts.map(async ({ text: written, ...one }) => ({ ...one, content: (await keep(newlines(written))).hash })),
    ),
    added: await Promise.all(
      added.map(async ({ text: written, ...one }) => ({ ...one, content: (await keep(newlines(written))).hash })),
    ),
  }),
} // prettier-ignore
