import Joi from 'joi'
import { mostAsides } from '#core/site'
import type { ChangeInput } from '../../input'
import type { PutAside } from './put-aside'

export const findingKey = Joi.string().max(4_000).required()

export const putAside: ChangeInput<PutAside> = {
  fields: {
    findings: Joi.array()
      .items(Joi.object({ key: findingKey, what: Joi.string().max(8_000).required() }))
      .min(1)
      .max(mostAsides)
      .required(),
    reason: Joi.string().trim().min(1).max(500).required(),
  },
}
