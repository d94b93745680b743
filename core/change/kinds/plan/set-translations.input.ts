import Joi from 'joi'
import { type ChangeInput, id, mostPages } from '../../input'
import type { SetTranslations } from './set-translations'

export const setTranslations: ChangeInput<SetTranslations> = {
  fields: {
    pairs: Joi.array()
      .items(Joi.object({ pageId: id, ofId: id.allow(null) }))
      .min(1)
      .max(mostPages)
      .required(),
  },
}
