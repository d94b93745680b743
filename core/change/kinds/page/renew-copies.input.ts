import Joi from 'joi'
import { type ChangeInput, hash, id, mostPages } from '../../input'
import type { RenewCopies } from './renew-copies'

export const renewCopies: ChangeInput<RenewCopies> = {
  fields: {
    copies: Joi.array()
      .items(Joi.object({ pageId: id, ofId: id, was: hash }))
      .min(1)
      .max(mostPages)
      .unique('pageId')
      .required(),
  },
}
