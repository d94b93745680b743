import Joi from 'joi'
import { type ChangeInput, id } from '../../input'
import type { DropAddresses } from './drop-addresses'

export const dropAddresses: ChangeInput<DropAddresses> = {
  fields: {
    addresses: Joi.object()
      .pattern(id, Joi.array().items(Joi.string().max(2000)).max(1000))
      .required(),
  },
}
