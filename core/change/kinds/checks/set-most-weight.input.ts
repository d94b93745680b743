import Joi from 'joi'
import type { ChangeInput } from '../../input'
import type { SetMostWeight } from './set-most-weight'

const bytes = Joi.number().integer().min(10_000).max(1_000_000_000).required()

export const setMostWeight: ChangeInput<SetMostWeight> = { fields: { bytes, was: bytes } }
