import Joi from 'joi'
import { mostAsides } from '#core/site'
import type { ChangeInput } from '../../input'
import { findingKey } from './put-aside.input'
import type { TakeUp } from './take-up'

export const takeUp: ChangeInput<TakeUp> = {
  fields: { keys: Joi.array().items(findingKey).min(1).max(mostAsides).required() },
}
