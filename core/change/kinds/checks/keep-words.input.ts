import Joi from 'joi'
import { mostOwnWords } from '#core/site'
import { longestTold } from '#core/spelling'
import type { ChangeInput } from '../../input'
import type { KeepWords } from './keep-words'

export const ownWords = Joi.array()
  .items(Joi.string().trim().min(1).max(longestTold))
  .min(1)
  .max(mostOwnWords)
  .required()

export const keepWords: ChangeInput<KeepWords> = { fields: { words: ownWords } }
